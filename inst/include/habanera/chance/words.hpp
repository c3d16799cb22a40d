#pragma once

#include <cstdint>

// Random words by address. SplitMix64 (Steele, Lea & Flood 2014, "Fast splittable pseudorandom
// number generators", figure 17) is a mixing function applied to a counter; so the k-th word of any
// trial can be computed straight from (seed, trial, lane, k) and no generator has to be seeded.

namespace habanera {

inline constexpr std::uint64_t golden_step = 0x9e3779b97f4a7c15ULL;
// Odd multipliers that keep neighbouring trials and lanes far apart before they are mixed.
inline constexpr std::uint64_t trial_step = 0xd1342543de82ef95ULL;
inline constexpr std::uint64_t lane_step = 0xaef17502108ef2d9ULL;

// Lanes keep purposes apart, so that a changed rule or player never shifts the deal.
namespace lane {
inline constexpr std::uint64_t deal = 0;
inline constexpr std::uint64_t game = 1;
inline constexpr std::uint64_t seat(std::uint64_t number) { return 2 + number; }
}  // namespace lane

// Of a short draw, a call would cost as much as what it does.
[[gnu::always_inline]] inline constexpr std::uint64_t mix64(std::uint64_t z) {
  z = (z ^ (z >> 30)) * 0xbf58476d1ce4e5b9ULL;
  z = (z ^ (z >> 27)) * 0x94d049bb133111ebULL;
  return z ^ (z >> 31);
}

[[gnu::always_inline]] inline constexpr std::uint64_t stream_start(std::uint64_t seed, std::uint64_t trial,
                                                                   std::uint64_t lane) {
  return mix64(mix64(mix64(seed) + trial * trial_step) + lane * lane_step);
}
// The same of a seed that was mixed before, once for many trials.
struct MixedSeed {
  std::uint64_t value;
};
[[gnu::always_inline]] inline constexpr std::uint64_t stream_start(MixedSeed seed, std::uint64_t trial,
                                                                   std::uint64_t lane) {
  return mix64(mix64(seed.value + trial * trial_step) + lane * lane_step);
}

// Word k (from 0) of a lane of a trial.
inline constexpr std::uint64_t random_word(std::uint64_t seed, std::uint64_t trial,
                                           std::uint64_t lane, std::uint64_t k) {
  return mix64(stream_start(seed, trial, lane) + (k + 1) * golden_step);
}

}  // namespace habanera
