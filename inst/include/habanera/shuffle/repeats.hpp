#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "habanera/chance/words.hpp"

namespace habanera {

// How often whole arrangements came again: pairs of like trials, and the first trial that repeats one
// with the one it repeats (0, 0 when none does).
struct Repeats {
  std::uint64_t pairs = 0;
  std::uint64_t again = 0, before = 0;
};

// Arrangements are told apart by 64 bits mixed from all their cards: among a million, two different
// ones look alike with a chance of 3e-8.
template <class Source>
Repeats find_repeats(Source source, std::size_t cards, std::uint64_t trials) {
  std::vector<std::pair<std::uint64_t, std::uint64_t>> seen;
  seen.reserve(trials);
  for (std::uint64_t trial = 1; trial <= trials; ++trial) {
    const auto* arrangement = source.arrangement(trial);
    std::uint64_t mixed = 0;
    for (std::size_t i = 0; i < cards; ++i) mixed = mix64(mixed + golden_step + arrangement[i]);
    seen.emplace_back(mixed, trial);
  }
  std::sort(seen.begin(), seen.end());
  Repeats repeats;
  for (std::size_t begin = 0, end = 0; begin < seen.size(); begin = end) {
    while (end < seen.size() && seen[end].first == seen[begin].first) ++end;
    const std::uint64_t like = end - begin;
    repeats.pairs += like * (like - 1) / 2;
    if (like > 1 && (repeats.again == 0 || seen[begin + 1].second < repeats.again)) {
      repeats.before = seen[begin].second;
      repeats.again = seen[begin + 1].second;
    }
  }
  return repeats;
}

}  // namespace habanera
