#pragma once

#include <cstddef>

#include "habanera/cards/pile.hpp"

namespace habanera {

inline constexpr std::size_t no_seat = static_cast<std::size_t>(-1);

// What a game tells a watcher after each move: who did what (a number of the game's own list of actions) with
// which cards.
struct TableEvent {
  std::size_t seat;
  int action;
  const Card* cards = nullptr;
  std::size_t count = 0;
};

}  // namespace habanera
