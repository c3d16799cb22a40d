#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/run/row_tally.hpp"

namespace habanera {

// What was recorded of a trial: a row, or one for each of its rounds. The rows are used again for the next trial.
class Entries {
 public:
  void clear() { size_ = 0; }
  RowTally::Row& add() {
    if (size_ == rows_.size()) rows_.emplace_back();
    return rows_[size_++];
  }
  [[gnu::noinline]] void add(const std::int64_t* row, std::size_t width) { add().assign(row, row + width); }
  const RowTally::Row& front() const { return rows_.front(); }
  std::size_t size() const { return size_; }
  auto begin() const { return rows_.begin(); }
  auto end() const { return rows_.begin() + static_cast<std::ptrdiff_t>(size_); }

 private:
  std::vector<RowTally::Row> rows_;
  std::size_t size_ = 0;
};

}  // namespace habanera
