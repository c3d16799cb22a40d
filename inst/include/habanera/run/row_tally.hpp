#pragma once

#include <algorithm>
#include <cstdint>
#include <limits>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/chance/words.hpp"
#include "habanera/run/sparse_tally.hpp"

namespace habanera {

// What stands in a row where a column has no value, as the length of a game that never ends.
inline constexpr std::int64_t no_value = std::numeric_limits<std::int64_t>::min();

// Counts over rows of whole numbers that are not known beforehand, each with the smallest trial number that gave
// it. Trials must be offered in rising order.
class RowTally {
 public:
  using Row = std::vector<std::int64_t>;

  struct Entry {
    std::uint64_t n = 0;
    std::uint64_t example = std::numeric_limits<std::uint64_t>::max();
  };

  void add(const Row& row, std::uint64_t trial) {
    Entry& entry = entry_of(row.data(), row.size());
    if (entry.n++ == 0) entry.example = trial;
  }

  void merge(const RowTally& other) {
    for (std::size_t i = 0; i < other.entries_.size(); ++i) {
      Entry& mine = entry_of(other.row(i), other.width_);
      mine.n += other.entries_[i].n;
      mine.example = std::min(mine.example, other.entries_[i].example);
    }
  }

  // What came, in the order of the rows.
  std::vector<std::pair<Row, Entry>> entries() const {
    std::vector<std::pair<Row, Entry>> all;
    for (std::size_t i = 0; i < entries_.size(); ++i) all.emplace_back(Row(row(i), row(i) + width_), entries_[i]);
    std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    return all;
  }

 private:
  static std::size_t hash(const std::int64_t* values, std::size_t width) {
    std::uint64_t all = 0;
    for (std::size_t i = 0; i < width; ++i) all = (all + static_cast<std::uint64_t>(values[i])) * golden_step;
    return static_cast<std::size_t>(mix64(all));
  }

  const std::int64_t* row(std::size_t at) const { return values_.data() + at * width_; }

  // All rows are of one width. A slot holds the place of a row among those found, from 1; a few steps on from where its
  // hash points to, and at most half of them are taken.
  Entry& entry_of(const std::int64_t* values, std::size_t width) {
    if (entries_.empty()) width_ = width;
    if (width != width_) throw std::logic_error("rows of different widths are counted apart");
    if (2 * entries_.size() >= slots_.size()) widen();
    std::size_t slot = hash(values, width) & (slots_.size() - 1);
    for (; slots_[slot] != 0; slot = (slot + 1) & (slots_.size() - 1))
      if (std::equal(values, values + width, row(slots_[slot] - 1))) return entries_[slots_[slot] - 1];
    if (entries_.size() == most_outcomes)
      throw std::length_error("more than " + std::to_string(most_outcomes) + " different outcomes");
    values_.insert(values_.end(), values, values + width);
    entries_.emplace_back();
    slots_[slot] = static_cast<std::uint32_t>(entries_.size());
    return entries_.back();
  }

  void widen() {
    slots_.assign(std::max<std::size_t>(64, 2 * slots_.size()), 0);
    for (std::size_t i = 0; i < entries_.size(); ++i) {
      std::size_t slot = hash(row(i), width_) & (slots_.size() - 1);
      while (slots_[slot] != 0) slot = (slot + 1) & (slots_.size() - 1);
      slots_[slot] = static_cast<std::uint32_t>(i + 1);
    }
  }

  std::size_t width_ = 0;
  std::vector<std::int64_t> values_;
  std::vector<Entry> entries_;
  std::vector<std::uint32_t> slots_;
};

}  // namespace habanera
