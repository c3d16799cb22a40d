#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <vector>

#include "habanera/chance/size_run.hpp"
#include "habanera/chance/weights.hpp"
#include "habanera/chance/words.hpp"

namespace habanera {

// Chance for simulation: every choice is a function of (seed, trial, lane) and of nothing else.
class RandomChance {
 public:
  RandomChance(std::uint64_t seed, std::uint64_t trial, std::uint64_t lane = lane::deal)
      : state_(stream_start(seed, trial, lane)) {}
  [[gnu::always_inline]] RandomChance(MixedSeed seed, std::uint64_t trial, std::uint64_t lane)
      : state_(stream_start(seed, trial, lane)) {}

  std::uint64_t word() {
    state_ += golden_step;
    return mix64(state_);
  }

  // A whole number from 0 to size - 1, each equally likely (Lemire 2019, "Fast random integer
  // generation in an interval").
  std::uint64_t below(std::uint64_t size) {
    if (size < 1) throw std::invalid_argument("a choice among 0 things cannot be made");
    std::uint64_t fresh = word();
    // The bound is below the size, so that its division is seldom needed.
    if (fresh * size < size) {
      const std::uint64_t bound = Split64::refusal_bound(size);
      while (!Split64::is_even(fresh, size, bound)) fresh = word();
    }
    return Split64::take(fresh, size);
  }

  // Calls use(i, number) for the first `count` sizes of the run, in order.
  template <class Use>
  void below_each(const SizeRun& sizes, std::size_t count, Use&& use) {
    for (const SizeRun::Batch& batch : sizes.batches()) {
      if (batch.begin >= count) return;
      below_batch(sizes, batch, std::min(batch.end, count), use);
    }
  }

  // The same for one batch of them, as far as `end`.
  template <class Use>
  void below_batch(const SizeRun& sizes, const SizeRun::Batch& batch, std::size_t end, Use&& use) {
    std::uint64_t fresh = even_word(batch);
    for (std::size_t i = batch.begin; i < end; ++i) use(i, Split64::take(fresh, sizes.size(i)));
  }

  // A word out of which the numbers of a batch can be taken one by one.
  [[gnu::always_inline]] std::uint64_t even_word(const SizeRun::Batch& batch) {
    std::uint64_t fresh = word();
    while (__builtin_expect(!Split64::is_even(fresh, batch.product, batch.bound), 0)) fresh = word();
    return fresh;
  }

  // The same for a number of sizes known when compiling, all of which the first word covers.
  template <std::size_t Count, class Use>
  [[gnu::always_inline]] void below_first(const SizeRun& sizes, Use&& use) {
    const SizeRun::Batch& batch = sizes.batches().front();
    std::uint64_t fresh = word();
    while (!Split64::is_even(fresh, batch.product, batch.bound)) fresh = word();
#pragma GCC unroll 8
    for (std::size_t i = 0; i < Count; ++i) use(i, Split64::take(fresh, sizes.size(i)));
  }

  // n fair bits, n from 0 to 64, as a whole number.
  std::uint64_t bits(unsigned n) {
    if (n > 64) throw std::invalid_argument("at most 64 bits at a time, not " + std::to_string(n));
    return n == 0 ? 0 : word() >> (64 - n);
  }

  // An index, with chances in proportion to the weights.
  std::size_t pick(const std::vector<double>& weights) {
    const double total = total_weight(weights);
    double left = static_cast<double>(word() >> 11) * 0x1p-53 * total;
    for (std::size_t i = 0; i < weights.size(); ++i) {
      if (left < weights[i]) return i;
      left -= weights[i];
    }
    return last_positive(weights);  // reached only when rounding eats the last sliver
  }

 private:
  std::uint64_t state_;
};

}  // namespace habanera
