#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

struct TableEvent;  // of games

// A watcher that counts how far a game has come.
class StepCounter {
 public:
  template <class Table>
  void laid_out(const std::vector<Card>&, std::size_t, const Table&) {}
  void round_begins(std::uint64_t) {}
  template <class Table>
  void happened(const Table&, const TableEvent&) { ++steps_; }
  void cleared() {}
  std::size_t steps() const { return steps_; }

 private:
  std::size_t steps_ = 0;
};

}  // namespace habanera
