#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

namespace habanera {

// Wide enough for sums of squares of money over 1e12 trials.
__extension__ using WideInteger = __int128;

// What trials add up to: of each column the sum, and of every two the sum of products, over trials. Whole numbers, so
// that merging is adding, in any order.
class TrialSums {
 public:
  explicit TrialSums(std::size_t columns) : sums_(columns, 0), products_(columns * (columns + 1) / 2, 0) {}

  // A trial whose columns came to these totals. Most columns of some trials are nothing.
  void close(const std::vector<std::int64_t>& totals) {
    come_.clear();
    for (std::size_t i = 0; i < sums_.size(); ++i) {
      if (totals[i] == 0) continue;
      come_.push_back(i);
      sums_[i] += totals[i];
      for (const std::size_t j : come_)
        products_[i * (i + 1) / 2 + j] += static_cast<WideInteger>(totals[i]) * totals[j];
    }
  }

  void merge(const TrialSums& other) {
    for (std::size_t i = 0; i < sums_.size(); ++i) sums_[i] += other.sums_[i];
    for (std::size_t i = 0; i < products_.size(); ++i) products_[i] += other.products_[i];
  }

  std::size_t columns() const { return sums_.size(); }
  const std::vector<WideInteger>& sums() const { return sums_; }
  // Row by row of the lower triangle.
  const std::vector<WideInteger>& products() const { return products_; }

 private:
  std::vector<WideInteger> sums_, products_;
  std::vector<std::size_t> come_;
};

}  // namespace habanera
