#pragma once

#include <array>
#include <cstddef>
#include <cstdint>

#include "habanera/betting/chips.hpp"
#include "habanera/cards/pile.hpp"

namespace habanera {

inline constexpr std::size_t most_held = 8, most_shared = 8, most_betting_moves = 160;

// A move that was made, with what is needed to tell it.
struct MoveMade {
  std::uint8_t move, street;
  std::uint8_t first_bet;  // no bet was made on this street before
  std::uint8_t on_top;     // something was bet, if only a blind
  std::uint8_t all_in;     // it is a bet or raise of all that was left
};

// How a hand stands: its chips, the cards as they were dealt, and the moves so far.
struct BettingPosition {
  Chips chips;
  std::array<Card, most_betting_seats * most_held> own;  // seat by seat
  std::array<Card, most_shared> shared;
  std::uint8_t dealt = 0, open = 0;  // cards that seats have been dealt; that all see
  std::uint8_t moves = 0;
  std::array<MoveMade, most_betting_moves> made;
  // The moves as a number, a digit for each: which of the open ones it was; `base` is what the next digit counts. Of
  // more moves than a number holds, base is 0.
  std::uint64_t code = 0, base = 1;
};

}  // namespace habanera
