#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/blackjack/rules.hpp"
#include "habanera/blackjack/value_shoe.hpp"

namespace habanera {

// A seat's first two cards against an up card: values, whether they are a pair, and how many more cards of that pair
// are in the shoe then.
struct BlackjackOpening {
  std::uint8_t one, two;
  bool pair;
  double pairs_left, chance;
};

// The shoe from which a round is dealt, as much of it as the play depends on.
class HouseShoe {
 public:
  // `counts`: of each kind of card of the rules.
  HouseShoe(const BlackjackRules& rules, const std::vector<double>& counts, bool endless) {
    shoe_.wear = endless ? 0 : 1;
    for (std::size_t kind = 0; kind < counts.size(); ++kind) {
      if (counts[kind] == 0) continue;
      shoe_.put(rules.points[kind], counts[kind]);
      add_to_pairs(rules.points[kind], rules.pairs_with[kind], counts[kind]);
    }
  }

  // The same cards drawn afresh each time.
  HouseShoe made_endless() const {
    HouseShoe all = *this;
    all.shoe_.wear = 0;
    return all;
  }

  const ValueShoe& shoe() const { return shoe_; }
  bool endless() const { return shoe_.wear == 0; }
  std::vector<std::uint8_t> values() const {
    std::vector<std::uint8_t> all;
    for (std::uint8_t value = 1; value <= 10; ++value)
      if (shoe_.count[value] > 0) all.push_back(value);
    return all;
  }
  ValueShoe beside(std::uint8_t up) const {
    ValueShoe left = shoe_;
    left.take(up);
    return left;
  }

  // Every opening against an up card, with the chance that they and the up card come.
  std::vector<BlackjackOpening> openings(std::uint8_t up) const {
    std::vector<BlackjackOpening> all;
    const double shown = shoe_.count[up] / shoe_.cards;
    const ValueShoe left = beside(up);
    for (const std::uint8_t one : values()) {
      for (const std::uint8_t two : values()) {
        if (two < one) continue;
        const double chance = left.chance(one, 0, 0) * left.chance(two, one == two, 1);
        if (one < two) add(all, {one, two, false, 0, 2 * shown * chance});
        else add_like(all, up, one, shown * chance);
      }
    }
    return all;
  }

 private:
  struct PairCards {
    std::uint8_t value;
    std::size_t pairs_with;
    double copies;
  };

  void add_to_pairs(std::uint8_t value, std::size_t pairs_with, double copies) {
    for (PairCards& cards : pair_cards_) {
      if (cards.value != value || cards.pairs_with != pairs_with) continue;
      cards.copies += copies;
      return;
    }
    pair_cards_.push_back({value, pairs_with, copies});
  }

  // Two cards of one value, which are a pair or, where other cards have that value, not; `chance` of either.
  void add_like(std::vector<BlackjackOpening>& all, std::uint8_t up, std::uint8_t value, double chance) const {
    double paired = 0;
    for (const PairCards& cards : pair_cards_) {
      if (cards.value != value) continue;
      // Whether the up card is one of them.
      const double shown = value == up ? cards.copies / shoe_.count[up] : 0;
      for (const bool is_up : {true, false}) {
        const double copies = cards.copies - (is_up ? shoe_.wear : 0), with_up = is_up ? shown : 1 - shown;
        const double cards_left = shoe_.cards - shoe_.wear;
        const double both = std::max(0.0, copies) / cards_left * std::max(0.0, copies - shoe_.wear) /
                            (cards_left - shoe_.wear) * with_up * shoe_.count[up] / shoe_.cards;
        paired += both;
        add(all, {value, value, true, copies - 2 * shoe_.wear, both});
      }
    }
    const double other = chance - paired;
    add(all, {value, value, false, 0, other > 1e-15 ? other : 0});
  }

  static void add(std::vector<BlackjackOpening>& all, const BlackjackOpening& opening) {
    if (opening.chance == 0) return;
    for (BlackjackOpening& known : all) {
      if (known.one != opening.one || known.two != opening.two || known.pair != opening.pair ||
          known.pairs_left != opening.pairs_left)
        continue;
      known.chance += opening.chance;
      return;
    }
    all.push_back(opening);
  }

  ValueShoe shoe_;
  std::vector<PairCards> pair_cards_;
};

}  // namespace habanera
