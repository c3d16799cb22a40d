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

  void add(const Row& row, std::uint64_t trial) { add(row.data(), row.size(), trial); }
  [[gnu::always_inline]] void add(const std::int64_t* row, std::size_t width, std::uint64_t trial) {
    Entry& entry = entry_of(row, width);
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
  // The upper bits of a product are mixed well.
  std::size_t slot_of(const std::int64_t* values, std::size_t width) const {
    std::uint64_t all = 0;
    for (std::size_t i = 0; i < width; ++i) all = (all + static_cast<std::uint64_t>(values[i])) * golden_step;
    return static_cast<std::size_t>((all ^ all >> 29) * golden_step >> shift_);
  }
  static bool are_equal(const std::int64_t* one, const std::int64_t* two, std::size_t width) {
    for (std::size_t i = 0; i < width; ++i)
      if (one[i] != two[i]) return false;
    return true;
  }

  const std::int64_t* row(std::size_t at) const { return values_.data() + at * width_; }

  // All rows are of one width. A slot holds the place of a row among those found, from 1; a few steps on from where its
  // hash points to, and at most half of them are taken.
  Entry& entry_of(const std::int64_t* values, std::size_t width) {
    if (__builtin_expect(width == width_, 1)) {
      std::size_t slot = slot_of(values, width);
      for (; slots_[slot] != 0; slot = (slot + 1) & last_slot_)
        if (are_equal(values, row(slots_[slot] - 1), width)) return entries_[slots_[slot] - 1];
    }
    return new_entry(values, width);
  }
  [[gnu::noinline]] Entry& new_entry(const std::int64_t* values, std::size_t width) {
    if (entries_.empty()) width_ = width;
    if (width != width_) throw std::logic_error("rows of different widths are counted apart");
    if (entries_.size() == most_outcomes)
      throw std::length_error("more than " + std::to_string(most_outcomes) + " different outcomes");
    values_.insert(values_.end(), values, values + width);
    entries_.emplace_back();
    if (2 * entries_.size() >= slots_.size()) widen();
    else take_slot(entries_.size() - 1);
    return entries_.back();
  }

  void take_slot(std::size_t at) {
    std::size_t slot = slot_of(row(at), width_);
    while (slots_[slot] != 0) slot = (slot + 1) & last_slot_;
    slots_[slot] = static_cast<std::uint32_t>(at + 1);
  }
  void widen() {
    slots_.assign(std::max<std::size_t>(64, 2 * slots_.size()), 0);
    last_slot_ = slots_.size() - 1;
    shift_ = 64 - static_cast<unsigned>(__builtin_ctzll(slots_.size()));
    for (std::size_t at = 0; at < entries_.size(); ++at) take_slot(at);
  }

  std::size_t width_ = std::numeric_limits<std::size_t>::max();  // until there is a row
  std::vector<std::int64_t> values_;
  std::vector<Entry> entries_;
  std::vector<std::uint32_t> slots_;
  std::size_t last_slot_ = 0;
  unsigned shift_ = 63;
};

}  // namespace habanera
