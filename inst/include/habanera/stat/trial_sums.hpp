#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

namespace habanera {

// Wide enough for sums of squares of money over 1e12 trials.
__extension__ using WideInteger = __int128;

// Columns that belong together: `size` of them from `first` on, which tells whether a trial has anything in them.
struct ColumnClass {
  std::size_t first, size;
};

// What trials add up to: of each column the sum and in how many trials it is not nothing, and of every two the sum of
// products, over trials. Of a class of columns that few trials have anything in, these trials are kept besides, so that
// an estimate can be taken without each of them. Whole numbers, so that merging is adding, in any order.
class TrialSums {
 public:
  // More trials than these say enough of their spread by their squares.
  static constexpr std::uint64_t most_kept = 64;
  struct Kept {
    std::uint64_t trial;
    std::vector<std::int64_t> values;
  };

  TrialSums(std::size_t columns, std::vector<ColumnClass> classes)
      : sums_(columns, 0), products_(columns * (columns + 1) / 2, 0), held_(columns, 0), classes_(std::move(classes)),
        kept_(classes_.size()) {}

  // A trial whose columns came to these totals. Most columns of some trials are nothing.
  void close(const std::vector<std::int64_t>& totals, std::uint64_t trial) {
    come_.clear();
    for (std::size_t i = 0; i < sums_.size(); ++i) {
      if (totals[i] == 0) continue;
      come_.push_back(i);
      ++held_[i];
      sums_[i] += totals[i];
      for (const std::size_t j : come_)
        products_[i * (i + 1) / 2 + j] += static_cast<WideInteger>(totals[i]) * totals[j];
    }
    for (std::size_t i = 0; i < classes_.size(); ++i)
      if (totals[classes_[i].first] != 0 && held_by(i) <= most_kept + 1) keep(i, totals, trial);
  }

  void merge(const TrialSums& other) {
    for (std::size_t i = 0; i < sums_.size(); ++i) {
      sums_[i] += other.sums_[i];
      held_[i] += other.held_[i];
    }
    for (std::size_t i = 0; i < products_.size(); ++i) products_[i] += other.products_[i];
    for (std::size_t i = 0; i < classes_.size(); ++i) {
      if (held_by(i) > most_kept) {
        kept_[i].clear();
      } else {
        kept_[i].insert(kept_[i].end(), other.kept_[i].begin(), other.kept_[i].end());
      }
    }
  }

  std::size_t columns() const { return sums_.size(); }
  const std::vector<WideInteger>& sums() const { return sums_; }
  // Row by row of the lower triangle.
  const std::vector<WideInteger>& products() const { return products_; }
  const std::vector<std::uint64_t>& held() const { return held_; }
  const std::vector<ColumnClass>& classes() const { return classes_; }
  // By trial.
  std::vector<Kept> kept(std::size_t of_class) const {
    std::vector<Kept> all = kept_[of_class];
    std::sort(all.begin(), all.end(), [](const Kept& a, const Kept& b) { return a.trial < b.trial; });
    return all;
  }

 private:
  std::uint64_t held_by(std::size_t of_class) const { return held_[classes_[of_class].first]; }

  void keep(std::size_t of_class, const std::vector<std::int64_t>& totals, std::uint64_t trial) {
    if (held_by(of_class) > most_kept) return kept_[of_class].clear();
    const auto first = totals.begin() + static_cast<std::ptrdiff_t>(classes_[of_class].first);
    kept_[of_class].push_back({trial, {first, first + static_cast<std::ptrdiff_t>(classes_[of_class].size)}});
  }

  std::vector<WideInteger> sums_, products_;
  std::vector<std::uint64_t> held_;
  std::vector<ColumnClass> classes_;
  std::vector<std::vector<Kept>> kept_;
  std::vector<std::size_t> come_;
};

}  // namespace habanera
