#pragma once

#include <cstddef>
#include <utility>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/size_run.hpp"

namespace habanera {

// The fair shuffle (Fisher & Yates 1938; Durstenfeld 1964, algorithm 235): each place from the top
// takes one of the cards not yet placed. Run from the top, so that the first k places are final
// after k steps, and a draw of k cards is the start of a whole shuffle.
class UniformShuffle {
 public:
  explicit UniformShuffle(std::size_t cards) : choices_(SizeRun::falling(cards)) {}

  // Makes the first `top` places final; the whole deck when `top` is its size.
  template <class Chance, class Watcher>
  void operator()(const Pile& pile, std::size_t top, Chance& chance, Watcher& watcher) const {
    chance.below_each(choices_, top, [&](std::size_t place, std::uint64_t further) {
      const std::size_t other = place + static_cast<std::size_t>(further);
      std::swap(pile.cards[place], pile.cards[other]);
      watcher.swapped(pile, place, other);
    });
  }

 private:
  SizeRun choices_;
};

}  // namespace habanera
