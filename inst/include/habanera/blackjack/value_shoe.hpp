#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>

#include "habanera/blackjack/rules.hpp"

namespace habanera {

// How many cards of each value nobody has seen. From an endless shoe cards are taken and nothing is missing.
struct ValueShoe {
  std::array<double, 11> count{};  // by value
  double cards = 0;
  double wear = 1;  // how much a card that is taken is missed: 1, or 0 of an endless shoe

  void put(int value, double copies) {
    count[static_cast<std::size_t>(value)] += copies;
    cards += copies;
  }
  void take(int value, double copies = 1) {
    count[static_cast<std::size_t>(value)] -= wear * copies;
    cards -= wear * copies;
  }

  // Once so many cards of which these are of the value are gone, the chance that the next is of it.
  double chance(int value, int of_value, int gone) const {
    const double left = count[static_cast<std::size_t>(value)] - wear * of_value;
    return left > 0 ? left / (cards - wear * gone) : 0;
  }
  // The same without the cards that a hand holds.
  double chance_beside(const BlackjackHand& hand, int value) const {
    return chance(value, BlackjackHand::count_held(hand.held, value), hand.cards);
  }
};

}  // namespace habanera
