#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <numeric>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

// Room that a procedure works in, kept from trial to trial so that nothing is allocated again.
struct Workspace {
  std::vector<Card> old_cards;
  std::vector<std::uint16_t> order;  // for each place, the place that its card comes from
  std::vector<std::uint64_t> keys;

  void reset_order(std::size_t cards) {
    order.resize(cards);
    std::iota(order.begin(), order.end(), std::uint16_t{0});
  }
};

// Lays the pile out anew: place i gets the card that was at order[i].
inline void lay_in_order(const Pile& pile, Workspace& work) {
  work.old_cards.assign(pile.cards, pile.cards + pile.size);
  for (std::size_t i = 0; i < pile.size; ++i) pile.cards[i] = work.old_cards[work.order[i]];
}


// Lays the pile out by rising keys; cards with like keys stay in their old order.
inline void lay_by_keys(const Pile& pile, Workspace& work) {
  work.reset_order(pile.size);
  std::stable_sort(work.order.begin(), work.order.end(),
                   [&](std::size_t a, std::size_t b) { return work.keys[a] < work.keys[b]; });
  lay_in_order(pile, work);
}

}  // namespace habanera
