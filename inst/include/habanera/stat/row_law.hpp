#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <vector>

#include "habanera/chance/work_bound.hpp"
#include "habanera/stat/exact_sum.hpp"

namespace habanera {

// A law over rows of small numbers, all of one width: chances of like rows add up. Rows stay in the order they
// first came in. One block of memory holds them all, for there may be millions.
class RowLaw {
 public:
  using Value = std::uint16_t;

  RowLaw(std::size_t width, const WorkBound& bound)
      : width_(width), limit_(bound.most), clock_(bound.pause), buckets_(64, empty) {}

  std::size_t width() const { return width_; }
  std::size_t size() const { return sums_.size(); }
  const Value* row(std::size_t i) const { return values_.data() + i * width_; }
  double chance(std::size_t i) const { return sums_[i].value(); }

  void add(const Value* row, double chance) {
    clock_.tick();
    if (2 * size() >= buckets_.size()) grow();
    std::size_t bucket = hash(row) & (buckets_.size() - 1);
    while (buckets_[bucket] != empty && !std::equal(row, row + width_, this->row(buckets_[bucket])))
      bucket = (bucket + 1) & (buckets_.size() - 1);
    if (buckets_[bucket] == empty) {
      if (size() == limit_)
        throw std::length_error("more than " + std::to_string(limit_) + " cases to tell apart");
      buckets_[bucket] = static_cast<std::uint32_t>(size());
      values_.insert(values_.end(), row, row + width_);
      sums_.emplace_back();
    }
    sums_[buckets_[bucket]].add(chance);
  }

 private:
  static constexpr std::uint32_t empty = 0xffffffff;

  std::size_t hash(const Value* row) const {
    std::uint64_t hash = 0xcbf29ce484222325ULL;
    for (std::size_t i = 0; i < width_; ++i) hash = (hash ^ row[i]) * 0x100000001b3ULL;
    return static_cast<std::size_t>(hash ^ (hash >> 32));
  }

  void grow() {
    buckets_.assign(2 * buckets_.size(), empty);
    for (std::size_t i = 0; i < size(); ++i) {
      std::size_t bucket = hash(row(i)) & (buckets_.size() - 1);
      while (buckets_[bucket] != empty) bucket = (bucket + 1) & (buckets_.size() - 1);
      buckets_[bucket] = static_cast<std::uint32_t>(i);
    }
  }

  std::size_t width_;
  std::uint64_t limit_;
  WorkClock clock_;
  std::vector<Value> values_;
  std::vector<ExactSum> sums_;
  std::vector<std::uint32_t> buckets_;
};

}  // namespace habanera
