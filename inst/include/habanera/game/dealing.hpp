#pragma once

#include <cstddef>
#include <numeric>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

// How a deck is dealt out: so many cards to each seat, one at a time in turn or a block to each. What is left
// stays out of the game.
struct Dealing {
  std::vector<std::size_t> sizes;
  bool alternate = true;

  std::size_t cards() const { return std::accumulate(sizes.begin(), sizes.end(), std::size_t{0}); }

  // Calls give(seat, card) for each card dealt, from the top of the deck.
  template <class Give>
  void operator()(const std::vector<Card>& deck, Give&& give) const {
    std::size_t next = 0;
    if (!alternate) {
      for (std::size_t seat = 0; seat < sizes.size(); ++seat)
        for (std::size_t i = 0; i < sizes[seat]; ++i) give(seat, deck[next++]);
      return;
    }
    const std::size_t all = cards();
    for (std::size_t turn = 0; next < all; ++turn)
      for (std::size_t seat = 0; seat < sizes.size(); ++seat)
        if (turn < sizes[seat]) give(seat, deck[next++]);
  }
};

}  // namespace habanera
