#pragma once

#include <cstddef>

#include "habanera/cards/pile.hpp"

namespace habanera {

// Cards that no word and no other trait tells apart. A class stands for its kinds in exact answers.
struct CardClass {
  Card kind;           // the first of its kinds
  std::size_t deck;    // cards of it in the deck
  std::size_t held;    // cards of it in the hand from the start
};

}  // namespace habanera
