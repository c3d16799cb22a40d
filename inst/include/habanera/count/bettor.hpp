#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <vector>

#include "habanera/count/system.hpp"

namespace habanera {

// What a seat bets that does not bet one: so many stakes, or nothing and sits out.
struct SeatBet {
  std::size_t seat = 0;
  std::int64_t bet = 1;
};

// A seat that bets by the count, and may leave a shoe and come back to it.
struct Bettor {
  CountSystem system;
  std::size_t seat = 0;
  std::int64_t first_level = 0;     // at which the first of `bets` is laid, and below it
  std::vector<std::int64_t> bets;   // the last also above
  std::optional<std::int64_t> leaves_below, enters_at;

  std::int64_t bet_at(std::int64_t level) const {
    const auto last = static_cast<std::int64_t>(bets.size()) - 1;
    return bets[static_cast<std::size_t>(std::clamp(level - first_level, std::int64_t{0}, last))];
  }
  // Whether it plays the next round. A fresh shoe finds a seat away that waits to enter.
  bool begins_seated() const { return !enters_at; }
  bool plays(std::int64_t level, bool played) const {
    if (leaves_below && level < *leaves_below) return false;
    return played || (enters_at && level >= *enters_at);
  }
};

}  // namespace habanera
