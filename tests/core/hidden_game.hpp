#pragma once

// Small games with hidden hands for tests: a card each, one bet; and random trees of moves.

#include <memory>
#include <vector>

#include "habanera/own.hpp"
// The shipped example, under a name of its own.
#define Game Lanterns
#include "../../inst/examples/lanterns.cpp"
#undef Game

using HiddenGame = habanera::Own<Lanterns>;

// So many cards, numbered from 1.
inline HiddenGame::Rules hidden_cards(std::size_t cards, std::int64_t ante = 1, std::int64_t bet = 1) {
  habanera::Setting::Values values;
  values.numbers = {{"seats", 2}, {"ante", static_cast<double>(ante)}, {"bet", static_cast<double>(bet)}, {"bets", 1}};
  for (std::size_t card = 1; card <= cards; ++card) {
    values.copies.push_back(1);
    values.card_numbers["rank"].push_back(static_cast<double>(card));
  }
  return {std::make_shared<const habanera::Setting>(values)};
}
