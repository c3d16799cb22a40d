#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <limits>
#include <vector>

namespace habanera {

// Counts over a fixed row of outcomes, each with the smallest trial number that gave it.
// Trials must be offered in rising order; so the first one to touch an outcome is its smallest.
class Tally {
 public:
  // 32-bit counts keep the table in the first-level cache; a lap is bounded to suit.
  static constexpr std::uint64_t most_entries = std::numeric_limits<std::uint32_t>::max();
  static constexpr std::uint64_t never = std::numeric_limits<std::uint64_t>::max();

  explicit Tally(std::size_t outcomes)
      : counts_(outcomes, 0), examples_(outcomes, never), unseen_(outcomes) {}

  // Once every outcome has its example, plain counting will do: pass Examples = false.
  template <bool Examples>
  void add(std::size_t outcome, std::uint64_t trial) {
    const std::uint32_t before = counts_[outcome]++;
    if constexpr (Examples) {
      if (before == 0) [[unlikely]] {
        examples_[outcome] = trial;
        --unseen_;
      }
    }
  }

  bool has_all_examples() const { return unseen_ == 0; }

  void merge(const Tally& other) {
    for (std::size_t i = 0; i < counts_.size(); ++i) {
      counts_[i] += other.counts_[i];
      examples_[i] = std::min(examples_[i], other.examples_[i]);
    }
    unseen_ = static_cast<std::size_t>(std::count(counts_.begin(), counts_.end(), 0u));
  }

  std::size_t size() const { return counts_.size(); }
  std::uint32_t count(std::size_t outcome) const { return counts_[outcome]; }
  std::uint64_t example(std::size_t outcome) const { return examples_[outcome]; }

 private:
  std::vector<std::uint32_t> counts_;
  std::vector<std::uint64_t> examples_;
  std::size_t unseen_;
};

}  // namespace habanera
