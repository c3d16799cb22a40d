#pragma once

#include <cstddef>
#include <cstdint>

namespace habanera {

// A card, to the core, is the number of its kind in a catalogue, counted from 0.
using Card = std::uint16_t;
inline constexpr std::size_t most_cards = 65535;

// Cards in order, the top first; a view that owns nothing.
struct Pile {
  Card* cards;
  std::size_t size;
};

}  // namespace habanera
