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

  // Whether the first `top` places can be settled out of one random word.
  bool settles_in_one_word(std::size_t top) const {
    return top > 0 && !choices_.batches().empty() && top <= choices_.batches().front().end;
  }

  // The same for a `top` known when compiling, when settles_in_one_word(top): the swaps are left in
  // `others`, the place that each place changed with.
  template <std::size_t Top, class Chance>
  void settle(Card* cards, Chance& chance, std::size_t (&others)[Top]) const {
    chance.template below_first<Top>(choices_, [&](std::size_t place, std::uint64_t further) {
      others[place] = place + static_cast<std::size_t>(further);
      std::swap(cards[place], cards[others[place]]);
    });
  }

 private:
  SizeRun choices_;
};

}  // namespace habanera
