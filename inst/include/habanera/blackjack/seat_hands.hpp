#pragma once

#include <algorithm>
#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <type_traits>
#include <utility>
#include <vector>

#include "habanera/blackjack/dealer_law.hpp"
#include "habanera/blackjack/hand_tree.hpp"
#include "habanera/blackjack/law_book.hpp"
#include "habanera/blackjack/rules.hpp"
#include "habanera/blackjack/value_shoe.hpp"
#include "habanera/game/stock.hpp"

namespace habanera {

// What comes of a bet on average, in stakes.
struct BlackjackWorth {
  double net = 0, staked = 0, square = 0, won = 0;  // `square`: of the net; `won`: the chance of a net above 0

  void add(double chance, const BlackjackWorth& other) {
    net += chance * other.net;
    staked += chance * other.staked;
    square += chance * other.square;
    won += chance * other.won;
  }
  static BlackjackWorth certain(double net, double staked) { return {net, staked, net * net, net > 0 ? 1.0 : 0.0}; }
};

// An up card, and what can come of it: shared by all hands that are played against it.
struct UpCard {
  const BlackjackPieces& pieces;
  const HandTree& tree;
  std::uint8_t value;
  std::shared_ptr<const DealerLaw> law_of_dealer;
  const DealerLaw& law;

  UpCard(const BlackjackPieces& by, const HandTree& hands, std::uint8_t up, std::shared_ptr<const DealerLaw> dealer)
      : pieces(by), tree(hands), value(up), law_of_dealer(std::move(dealer)), law(*law_of_dealer) {
    for (int total = 0; total <= pieces.rules().bust_over; ++total) add_signs(total);
  }

  // Of a hand that is compared, by the dealer's outcome: 1 where it wins its stake, 0 where that comes back, or -1.
  const double* signs(int total) const { return signs_.data() + static_cast<std::size_t>(total) * law.outcomes(); }

  // A natural is settled beside all else where nothing that a seat does changes what it costs.
  bool settles_natural_apart() const { return pieces.rules().hole_card != BlackjackRules::unchecked_all_lost; }
  bool decides_after_look() const { return pieces.rules().hole_card == BlackjackRules::checked; }
  double in_stakes(std::int64_t money) const {
    return static_cast<double>(money) / static_cast<double>(pieces.rules().stake);
  }

 private:
  void add_signs(int total) {
    BlackjackHand hand{};
    hand.points = static_cast<decltype(hand.points)>(total);
    for (std::size_t outcome = 0; outcome < law.outcomes(); ++outcome)
      signs_.push_back(outcome == DealerLaw::natural ? -1 : in_stakes(pieces.compared(hand, law.example(outcome))));
  }

  std::vector<double> signs_;
};

// The hands that a seat can come to hold, its cards being the first from a shoe: on their own, or each alone of those
// that a pair was split to. Everything is weighed with the chance that the dealer has no natural, where that is settled
// apart: so the chance of a card is that of the shoe, whether the dealer looked or not.
class SeatHands {
 public:
  static constexpr std::uint8_t unsplit = 0;

  SeatHands(const UpCard& up, const ValueShoe& shoe, std::uint8_t split_value, DealerLaws& laws)
      : up_(&up), shoe_(shoe), split_value_(split_value), members_(up.tree.holding(split_value)), laws_(laws) {
    laws_.make_room(shoe.wear == 0 ? 1 : members_.hands.size(), up.law.outcomes());
  }

  const UpCard& up() const { return *up_; }
  const BlackjackPieces& pieces() const { return up_->pieces; }
  const HandTree& tree() const { return up_->tree; }
  std::uint8_t split_value() const { return split_value_; }

  BlackjackHand hand(std::size_t at) const { return seen_as(tree().hand(at), split_value_); }
  // A hand alone, or of a pair that was split.
  static BlackjackHand seen_as(BlackjackHand hand, std::uint8_t split_value) {
    if (split_value == unsplit) return hand;
    hand.first = split_value;
    hand.from_split = true;
    hand.of_aces = split_value == 1;
    return hand;
  }
  // Whether the shoe has all its cards.
  bool holds(std::size_t at) const {
    const BlackjackHand& hand = tree().hand(at);
    for (const std::uint8_t value : tree().values()) {
      const int held = BlackjackHand::count_held(hand.held, value);
      if (held > 0 && shoe_.count[value] < (shoe_.wear > 0 ? held : 1)) return false;
    }
    return true;
  }
  // Of the next card's value.
  double chance(std::size_t at, int value) const { return shoe_.chance_beside(tree().hand(at), value); }

  // That the dealer has a natural.
  double natural(const BlackjackHand& hand) const {
    const int missing = pieces().completes_natural(up_->value);
    return missing == 0 ? 0 : shoe_.chance_beside(hand, missing);
  }
  // What all is weighed with.
  double weight(const BlackjackHand& hand) const { return up_->settles_natural_apart() ? 1 - natural(hand) : 1; }

  // Of a hand that takes no more cards.
  BlackjackWorth ended(const BlackjackHand& hand, std::size_t at) {
    const double staked = up_->in_stakes(pieces().stake_of(hand));
    if (pieces().is_compared(hand)) return compared(staked, pieces().total(hand), at);
    BlackjackWorth worth;
    each_result(hand, at, [&](double net, double chance) { worth.add(chance, BlackjackWorth::certain(net, staked)); });
    return worth;
  }
  // The same result by result: calls use(net, chance).
  template <class Use>
  void each_result(const BlackjackHand& hand, std::size_t at, Use&& use) {
    const auto in_stakes = [&](std::int64_t net) { return up_->in_stakes(net); };
    const bool apart = up_->settles_natural_apart();
    if (!pieces().is_compared(hand)) {
      const double found = natural(hand);
      use(in_stakes(pieces().paid(hand, BlackjackHand{})), 1 - found);
      if (!apart && found > 0) use(in_stakes(pieces().paid_to_natural(hand)), found);
      return;
    }
    law(at, [&](std::size_t outcome, double chance) {
      if (outcome != DealerLaw::natural) use(in_stakes(pieces().paid(hand, up_->law.example(outcome))), chance);
      else if (!apart) use(in_stakes(pieces().paid_to_natural(hand)), chance);
    });
  }

  // Calls use(outcome, chance) for what the dealer can end on when the seat has these cards.
  template <class Use>
  void law(std::size_t at, Use&& use) {
    const double* chances = chances_of(at);
    double sum = 0;
    for (std::size_t outcome = 0; outcome < up_->law.outcomes(); ++outcome) {
      sum += chances[outcome];
      if (chances[outcome] > 0) use(outcome, chances[outcome]);
    }
    refuse_if_dry(sum);
  }
  bool is_endless() const { return shoe_.wear == 0; }

 private:
  static constexpr std::size_t together = DealerLaw::together;

  static void refuse_if_dry(double sum) {
    if (sum < 1 - 1e-6) throw StockRanOut("the dealer needs more cards than there are");
  }
  // By outcome.
  const double* chances_of(std::size_t at) {
    const std::size_t place = is_endless() ? 0 : members_.place[at], block = place / together;
    double* chances = laws_.block(block, up_->law.outcomes());
    if (!laws_.known[block]) find(block, chances);
    return chances + place % together * up_->law.outcomes();
  }
  // A hand of this total against what the dealer ends on.
  BlackjackWorth compared(double stake, int total, std::size_t at) {
    const double* const chances = chances_of(at);
    const double* const signs = up_->signs(total);
    double net = 0, decided = 0, won = 0, all = 0;
    for (std::size_t outcome = 0; outcome < up_->law.outcomes(); ++outcome) {
      const double chance = chances[outcome], signed_chance = signs[outcome] * chance;
      all += chance;
      net += signed_chance;
      decided += std::abs(signed_chance);
      won += std::max(0.0, signed_chance);
    }
    refuse_if_dry(all);
    const double apart = up_->settles_natural_apart() ? chances[DealerLaw::natural] : 0;
    return {stake * (net + apart), stake * (all - apart), stake * stake * (decided - apart), won};
  }

  void find(std::size_t block, double* chances) {
    std::array<BlackjackHand, together> hands{};
    for (std::size_t i = 0; i < together && shoe_.wear > 0; ++i)
      hands[i] = tree().hand(members_.hands[std::min(block * together + i, members_.hands.size() - 1)]);
    up_->law.find(shoe_, hands.data(), chances);
    laws_.known[block] = true;
  }

  const UpCard* up_;
  ValueShoe shoe_;
  std::uint8_t split_value_;
  const HandTree::Holding& members_;
  DealerLaws& laws_;
};

// A policy that plays hands of more than two cards by their totals alone says so. In an endless shoe hands that are
// alike are then one.
template <class Policy, class = void>
inline constexpr bool plays_alike = false;
template <class Policy>
inline constexpr bool plays_alike<Policy, std::void_t<decltype(Policy::plays_alike)>> = Policy::plays_alike;

// What hands are worth when a policy plays them, which says so of each: `policy.worth(played, hand, at, moves)`. What
// was worked out is kept.
template <class Policy>
class PlayedHands {
 public:
  PlayedHands(SeatHands& hands, const Policy& policy)
      : hands_(hands), policy_(policy), known_(hands.tree().size()), worth_(hands.tree().size()) {}

  SeatHands& hands() { return hands_; }

  // Of a hand that has got a card.
  BlackjackWorth got(const BlackjackHand& hand, std::size_t at) {
    if (hands_.pieces().is_finished(hand, most_hands())) return hands_.ended(hand, at);
    return worth(at);
  }

  BlackjackWorth worth(std::size_t at) {
    if (plays_alike<Policy> && hands_.is_endless()) at = hands_.tree().alike(at);
    if (!known_[at]) {
      const BlackjackHand hand = hands_.hand(at);
      const BlackjackWorth found = policy_.worth(*this, hand, at, moves(hand));
      worth_[at] = found;
      known_[at] = true;
    }
    return worth_[at];
  }

  // Of a hand that is no pair, or may not be split.
  Moves moves(const BlackjackHand& hand) const { return hands_.pieces().moves(hand, most_hands()); }

  BlackjackWorth after(std::size_t move, BlackjackHand hand, std::size_t at) {
    switch (move) {
      case BlackjackPieces::surrender: hand.surrendered = true; return hands_.ended(hand, at);
      case BlackjackPieces::double_down: hand.doubled = true; return over_cards(hand, at);
      case BlackjackPieces::hit: return over_cards(hand, at);
      default: return hands_.ended(hand, at);
    }
  }

 private:
  std::size_t most_hands() const { return hands_.pieces().rules().most_hands; }

  BlackjackWorth over_cards(const BlackjackHand& hand, std::size_t at) {
    BlackjackWorth sum;
    for (const std::uint8_t value : hands_.tree().values()) {
      const double chance = hands_.chance(at, value);
      if (chance == 0) continue;
      BlackjackHand longer = hand;
      longer.add(value);
      sum.add(chance, got(longer, hands_.tree().with(at, value)));
    }
    return sum;
  }

  SeatHands& hands_;
  const Policy& policy_;
  std::vector<char> known_;
  std::vector<BlackjackWorth> worth_;
};

}  // namespace habanera
