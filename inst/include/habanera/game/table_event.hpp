#pragma once

#include <cstddef>
#include <cstdint>

#include "habanera/cards/pile.hpp"
#include "habanera/game/moves.hpp"

namespace habanera {

inline constexpr std::size_t no_seat = static_cast<std::size_t>(-1);

// What a game tells a watcher after each move: who did what (a number of the game's own list of actions) with
// which cards; a number that the game tells of it, such as a total, and what else could have been done.
struct TableEvent {
  std::size_t seat;
  int action;
  const Card* cards = nullptr;
  std::size_t count = 0;
  std::int64_t value = 0;
  Moves open{};
  // Where seats bet: what was to be called, and the pot, before it.
  std::int64_t owed = 0, pot = 0;
  // By which line of its rules a seat decided, from 1; 0 where it has none.
  std::size_t line = 0;
  // Where a seat counts.
  std::int64_t running_count = 0;
  double true_count = 0;
};

}  // namespace habanera
