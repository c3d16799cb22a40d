#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

struct TableEvent;  // of games

// A watcher is told of every move, after it was made. This one looks away and compiles to nothing.
struct Silent {
  void begins(const Pile&) {}
  void step_begins(std::size_t) {}  // the step of a procedure, from 0
  void swapped(const Pile&, std::size_t, std::size_t) {}
  void rearranged(const Pile&) {}  // the whole pile was laid anew
  void asked() {}                  // one more random number was asked for

  // Of games: the cards were laid out; a round begins; somebody did something. A game within the game tells the
  // same of its own table, between laying it out and clearing it.
  template <class Table>
  void laid_out(const std::vector<Card>&, std::size_t, const Table&) {}
  void round_begins(std::uint64_t) {}
  template <class Table>
  void happened(const Table&, const TableEvent&) {}
  void cleared() {}
};

}  // namespace habanera
