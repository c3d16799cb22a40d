#pragma once

#include <array>
#include <cstddef>
#include <cstdint>

#include "habanera/betting/chips.hpp"
#include "habanera/cards/pile.hpp"
#include "habanera/game/moves.hpp"

namespace habanera {

inline constexpr std::size_t most_held = 8, most_shared = 8, most_betting_moves = 160;

// Moves in a row as one number, a digit for each: which of the open ones it was. `base` is what the next digit counts;
// 0 where there are more moves than R holds exactly in a number.
struct MoveCode {
  static constexpr std::uint64_t most = std::uint64_t{1} << 53;
  std::uint64_t code = 0, base = 1;

  [[gnu::noinline]] void add(Moves open, std::size_t move) {
    code += base * open.place_of(move);
    base = base < most / open.count() ? base * open.count() : 0;
  }
};

// How a hand stands: its cards as they were dealt, and the moves so far: where these lead in the tree of all courses,
// or where that is too large the chips and the moves themselves.
struct BettingPosition {
  std::uint32_t node = 0;
  std::uint8_t dealt = 0, open = 0;  // cards that seats have been dealt; that all see
  std::uint8_t moves = 0;
  std::uint8_t given = 0, given_cards = 0;  // seats whose hands were there before any card was dealt; their cards
  std::array<Card, most_shared> shared;
  std::array<Card, most_betting_seats * most_held> own;  // seat by seat
  Chips chips;
  MoveCode code;
  std::array<MoveMade, most_betting_moves> made;
};

}  // namespace habanera
