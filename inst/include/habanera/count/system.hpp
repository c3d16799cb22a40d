#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace habanera {

// What a card counter adds up, and how the running count is brought to the decks that are left. Counts are whole, in
// units of which `unit` are a tag of one, so that they are exact.
struct CountSystem {
  enum DecksLeft { exact, half_decks, whole_decks, running_alone };
  enum Rounding { floor, truncate, nearest };

  static constexpr std::int64_t parts_of_a_tag = 4;  // tags are whole in quarters

  std::vector<std::int64_t> tags;      // of each kind of card
  std::vector<std::int64_t> bet_tags;  // the same with what is counted apart, for bets
  std::int64_t start = 0;              // the running count of a fresh shoe
  std::int64_t unit = 1;
  std::size_t pack = 52;               // cards in a deck
  DecksLeft decks_left = exact;
  Rounding rounding = floor;

  // A true count before it is rounded, as a fraction.
  struct Fraction {
    std::int64_t above, below;
    double value() const { return static_cast<double>(above) / static_cast<double>(below); }
  };
  Fraction true_count(std::int64_t running, std::size_t cards_left) const {
    const auto left = static_cast<std::int64_t>(std::max<std::size_t>(cards_left, 1));
    const auto cards = static_cast<std::int64_t>(pack);
    switch (decks_left) {
      case exact: return {running * cards, unit * left};
      case half_decks: return {2 * running, unit * std::max<std::int64_t>(1, (4 * left + cards) / (2 * cards))};
      case whole_decks: return {running, unit * std::max<std::int64_t>(1, (2 * left + cards) / (2 * cards))};
      default: return {running, unit};
    }
  }

  // As the player has it in mind.
  std::int64_t level(std::int64_t running, std::size_t cards_left) const {
    const Fraction exact_count = true_count(running, cards_left);
    switch (rounding) {
      case truncate: return exact_count.above / exact_count.below;
      case nearest: return floor_of(2 * exact_count.above + exact_count.below, 2 * exact_count.below);
      default: return floor_of(exact_count.above, exact_count.below);
    }
  }

  // In doubles, which divide faster: a quotient that is not whole lies further from the next whole number than it is
  // rounded.
  static std::int64_t floor_of(std::int64_t above, std::int64_t below) {
    const double quotient = static_cast<double>(above) / static_cast<double>(below);
    const auto whole = static_cast<std::int64_t>(quotient);
    return whole - (quotient < static_cast<double>(whole));
  }
};

}  // namespace habanera
