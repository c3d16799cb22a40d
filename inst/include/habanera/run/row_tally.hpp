#pragma once

#include <algorithm>
#include <cstdint>
#include <limits>
#include <stdexcept>
#include <string>
#include <unordered_map>
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
    Entry& entry = found_[row];
    if (entry.n++ == 0) {
      entry.example = trial;
      refuse_too_many();
    }
  }

  void merge(const RowTally& other) {
    for (const auto& [row, entry] : other.found_) {
      Entry& mine = found_[row];
      mine.n += entry.n;
      mine.example = std::min(mine.example, entry.example);
    }
    refuse_too_many();
  }

  // What came, in the order of the rows.
  std::vector<std::pair<Row, Entry>> entries() const {
    std::vector<std::pair<Row, Entry>> all(found_.begin(), found_.end());
    std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    return all;
  }

 private:
  struct Hash {
    std::size_t operator()(const Row& row) const {
      std::uint64_t all = 0;
      for (const std::int64_t value : row) all = mix64(all + static_cast<std::uint64_t>(value) + golden_step);
      return static_cast<std::size_t>(all);
    }
  };

  void refuse_too_many() const {
    if (found_.size() > most_outcomes)
      throw std::length_error("more than " + std::to_string(most_outcomes) + " different outcomes");
  }

  std::unordered_map<Row, Entry, Hash> found_;
};

}  // namespace habanera
