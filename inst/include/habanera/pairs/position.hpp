#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/game/moves.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/view.hpp"

namespace habanera {

inline constexpr std::size_t most_places = 52;

// What lies on the table, as far as it was turned. All that is turned is seen by all.
struct PairsPosition {
  static constexpr std::uint16_t nobody_knows = 0xffff;
  static constexpr std::uint32_t kept_sightings = 16;

  std::array<std::uint16_t, most_places> seen;     // the class of what lies at each place, or nobody_knows
  std::array<std::uint32_t, most_places> when{};   // at which sighting it was last seen, from 1
  std::array<std::uint8_t, most_places> won_by{};  // a seat from 1, or 0 while it lies on the table
  Moves lying;                                     // places where cards lie
  std::size_t seat = 0;                            // whose turn it is
  std::size_t first = most_places, chosen = most_places;  // turned first, and to be turned now
  std::uint32_t sightings = 0;
  std::array<std::uint8_t, kept_sightings> latest;  // where they were, by their number; of the last few
  std::int64_t turns = 0, turns_again = 0;
  std::array<std::int64_t, most_players> won{};

  bool lies(std::size_t place) const { return lying.has(place); }
  bool second_card() const { return first != most_places; }
};

// What a seat sees of it: where which cards were turned, when, and how many pairs are won.
class PairsView : public Sight<PairsView> {
 public:
  std::uint16_t seen(std::size_t place) const { return table_->seen[place]; }
  std::uint32_t when(std::size_t place) const { return table_->when[place]; }
  std::uint32_t sightings() const { return table_->sightings; }
  // Where the sighting of this number was, of the last few.
  std::size_t place_of(std::uint32_t sighting) const {
    return table_->latest[sighting % PairsPosition::kept_sightings];
  }
  bool lies(std::size_t place) const { return table_->lies(place); }
  bool second_card() const { return table_->second_card(); }
  std::size_t first() const { return table_->first; }
  std::size_t seat() const { return table_->seat; }
  const std::array<std::int64_t, most_players>& won() const { return table_->won; }

  Shown shown() const {
    std::vector<int> lying, first;
    table_->lying.each([&](std::size_t place) { lying.push_back(static_cast<int>(place)); });
    if (second_card()) first.push_back(static_cast<int>(table_->first));
    std::vector<int> turned;
    for (const std::uint16_t found : table_->seen)
      turned.push_back(found == PairsPosition::nobody_knows ? -1 : static_cast<int>(found));
    return {shows("seen", turned), shows("when", table_->when), shows("lies", lying), shows("first", first),
            shows("seat", table_->seat + 1), shows("pairs", table_->won)};
  }

 private:
  friend class Pairs;
  explicit PairsView(const PairsPosition& table) : table_(&table) {}
  const PairsPosition* table_;
};

}  // namespace habanera
