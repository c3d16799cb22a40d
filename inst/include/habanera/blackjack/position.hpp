#pragma once

#include <array>
#include <cstddef>
#include <cstdint>

#include "habanera/blackjack/rules.hpp"
#include "habanera/cards/pile.hpp"
#include "habanera/game/moves.hpp"

namespace habanera {

// A round of blackjack as far as it has come: what the seats may see of it.
struct BlackjackPosition {
  enum Stage : std::uint8_t { dealing, early, insuring, looking, playing, dealers_turn, over };

  static constexpr std::size_t most_hands = most_blackjack_seats * most_split_hands;
  static constexpr std::size_t most_placed = 256;  // cards whose places are kept

  Stage stage = dealing;
  bool owes = false;         // the hand at play gets a card
  bool looked = false, natural_found = false, hole_lies = false;
  std::size_t first_place = 0, used = 0, hole_place = 0;
  std::size_t at = 0;        // the hand, or before the play the seat, whose turn it is
  std::size_t hands = 0;
  BlackjackHand dealer{};
  std::array<BlackjackHand, most_hands> hand;  // those below `hands`, a seat's side by side
  std::array<std::uint8_t, most_blackjack_seats> hands_of{};
  std::array<std::array<Card, 2>, most_blackjack_seats> opening;  // the first two cards of each seat
  Card up = 0;
  std::uint8_t insured = 0;  // a bit for each seat
  std::array<std::uint8_t, most_placed> owner;  // of each card of the round: a seat from 1, 0 the dealer
  // For those who look on: what the last decision was, and what it was one of.
  std::size_t last_move = 0, last_hand = 0;
  std::int64_t last_value = 0;
  Moves last_open;
};

}  // namespace habanera
