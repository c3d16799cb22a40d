#pragma once

#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace habanera {

inline constexpr std::size_t most_betting_seats = 6, most_streets = 8;

// How much a bet is, or a raise on top of the call: so many chips, a share of the pot, or all that the seat has left.
struct BetSize {
  enum How { chips, share_of_pot, all_in };
  How how = chips;
  std::int64_t amount = 0;              // of chips
  std::int64_t over = 1, under = 1;     // of a share of the pot
  std::string name;                     // as it is told, such as "1/2 pot"
};

// A street: what is turned for all before it, and how it is bet on.
struct Street {
  std::size_t shared = 0;
  std::vector<BetSize> bets, raises;  // of the first bet, on top of a blind, too; and of those on top of that
  std::size_t most_bets = 0;          // bets and raises in all; blinds are none
  bool only_all_in = false;           // a blind may not merely be called
  std::optional<std::size_t> first;   // who speaks first, where that is not as usual
};

// Who plays for how much, and how. Chips are whole.
struct BettingRules {
  std::size_t seats = 2;
  std::int64_t ante = 0;
  std::vector<std::int64_t> blinds;  // of the first seats
  std::vector<std::int64_t> stacks;  // of each seat
  std::vector<Street> streets;
  std::int64_t pot = 0;              // that is there already, and belongs to nobody

  bool has_blinds() const { return !blinds.empty(); }
  // The last seat deals; of two with blinds the first, who posts the smaller.
  std::size_t dealer() const { return seats == 2 && has_blinds() ? 0 : seats - 1; }
  std::size_t after(std::size_t seat) const { return seat + 1 == seats ? 0 : seat + 1; }
  std::size_t first_to_speak(std::size_t street) const {
    if (streets[street].first) return *streets[street].first;
    if (street == 0 && has_blinds()) return after(blinds.size() - 1);
    return after(dealer());
  }
};

}  // namespace habanera
