#pragma once

#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "habanera/stat/trial_sums.hpp"

namespace habanera {

// What trials add up to in each of so many groups, told by the trial's number: of each column the sum, and of each
// family of sets of columns the sum of the squares of what its sets come to. From these an estimate that is made of
// such squares can be taken without each group.
class GroupedSums {
 public:
  static constexpr std::size_t groups = 32;
  using Family = std::vector<std::vector<std::size_t>>;

  // Without families nothing is added up.
  GroupedSums(std::size_t columns, std::vector<Family> families)
      : columns_(families.empty() ? 0 : columns), families_(std::move(families)),
        trials_(families_.empty() ? 0 : groups, 0), sums_(trials_.size() * columns_, 0),
        squares_(trials_.size() * families_.size(), 0) {}

  void close(const std::vector<std::int64_t>& totals, std::uint64_t trial) {
    if (families_.empty()) return;
    const std::size_t group = static_cast<std::size_t>(trial % groups);
    ++trials_[group];
    for (std::size_t i = 0; i < columns_; ++i) sums_[group * columns_ + i] += totals[i];
    for (std::size_t i = 0; i < families_.size(); ++i)
      for (const std::vector<std::size_t>& set : families_[i]) {
        WideInteger total = 0;
        for (const std::size_t column : set) total += totals[column];
        squares_[group * families_.size() + i] += total * total;
      }
  }

  void merge(const GroupedSums& other) {
    for (std::size_t i = 0; i < trials_.size(); ++i) trials_[i] += other.trials_[i];
    for (std::size_t i = 0; i < sums_.size(); ++i) sums_[i] += other.sums_[i];
    for (std::size_t i = 0; i < squares_.size(); ++i) squares_[i] += other.squares_[i];
  }

  const std::vector<std::uint64_t>& trials() const { return trials_; }
  // Group by group.
  const std::vector<WideInteger>& sums() const { return sums_; }
  const std::vector<WideInteger>& squares() const { return squares_; }

 private:
  std::size_t columns_;
  std::vector<Family> families_;
  std::vector<std::uint64_t> trials_;
  std::vector<WideInteger> sums_, squares_;
};

}  // namespace habanera
