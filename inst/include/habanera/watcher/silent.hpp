#pragma once

#include <cstddef>

#include "habanera/cards/pile.hpp"

namespace habanera {

// A watcher is told of every move, after it was made. This one looks away and compiles to nothing.
struct Silent {
  void begins(const Pile&) {}
  void step_begins(std::size_t) {}  // the step of a procedure, from 0
  void swapped(const Pile&, std::size_t, std::size_t) {}
  void rearranged(const Pile&) {}  // the whole pile was laid anew
  void asked() {}                  // one more random number was asked for
};

}  // namespace habanera
