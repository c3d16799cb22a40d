#pragma once

#include <array>
#include <cstddef>
#include <cstdint>

#include "habanera/blackjack/rules.hpp"
#include "habanera/cards/pile.hpp"
#include "habanera/game/moves.hpp"

namespace habanera {

// A round of blackjack as far as it has come: what the seats may see of it. Seats that play have chairs, counted from
// the left; so long as nobody sits out the one is the other.
struct BlackjackPosition {
  enum Stage : std::uint8_t { dealing, early, insuring, looking, playing, dealers_turn, over };

  static constexpr std::size_t most_hands = most_blackjack_seats * most_split_hands;
  static constexpr std::size_t nobody = most_blackjack_seats;
  static constexpr std::size_t most_placed = 256;  // cards whose places are kept

  Stage stage = dealing;
  bool owes = false;         // the hand at play gets a card
  bool looked = false, natural_found = false, hole_lies = false;
  bool compared = false;     // at the dealer's turn: some hand is compared with his
  std::size_t first_place = 0, used = 0, hole_place = 0;
  std::size_t at = 0;        // the hand, or before the play the chair, whose turn it is
  std::size_t hands = 0;
  std::size_t chairs = 0;
  std::size_t sits_out = nobody;  // the seat that does
  std::size_t bettor = nobody;    // the chair that does not bet one
  std::int64_t bet = 1;           // and what it bets
  BlackjackHand dealer{};
  std::array<BlackjackHand, most_hands> hand;  // those below `hands`, a chair's side by side
  std::array<std::uint8_t, most_blackjack_seats> hands_of{};
  std::array<std::array<Card, 2>, most_blackjack_seats> opening;  // the first two cards of each chair
  Card up = 0;
  std::uint8_t insured = 0;  // a bit for each chair
  std::array<std::uint8_t, most_placed> owner;  // of each card of the round: a chair from 1, 0 the dealer
  // For those who look on: what the last decision was, and what it was one of.
  std::size_t last_move = 0, last_hand = 0;
  std::int64_t last_value = 0;
  Moves last_open;

  std::size_t seat_of(std::size_t chair) const { return chair + (chair >= sits_out); }
  std::int64_t bet_of(std::size_t chair) const { return chair == bettor ? bet : 1; }
};

}  // namespace habanera
