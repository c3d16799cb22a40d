#pragma once

#include <cstddef>
#include <cstdint>
#include <tuple>

#include "habanera/blackjack/up_card_play.hpp"

namespace habanera {

// A row of a table: a total, a pair, or the very cards of a hand.
struct TableRow {
  enum Kind : int { hard, soft, pair, cards };
  Kind kind;
  std::uint64_t value;  // the total, the value of the pair's cards, or what is held
  std::uint8_t split_value = SeatHands::unsplit;
  bool early = false;

  static TableRow by_total(const BlackjackPieces& pieces, const BlackjackHand& hand, bool may_split, bool early) {
    if (hand.pair && may_split) return {pair, hand.first, SeatHands::unsplit, early};
    return {pieces.is_soft(hand) ? soft : hard, static_cast<std::uint64_t>(pieces.total(hand)), SeatHands::unsplit,
            early};
  }
  bool operator<(const TableRow& other) const {
    return std::tie(kind, value, split_value, early) <
           std::tie(other.kind, other.value, other.split_value, other.early);
  }
};

// Decisions that look at this hand, and what they are worth, on average over what is not told apart.
class DecisionWorth {
 public:
  explicit DecisionWorth(UpCardPlay& play) : play_(play) {}

  // How often a decision comes up, the dealer's natural aside where he looks before.
  double how_often(const BlackjackDecision& decision) const {
    const UpCard& up = play_.up();
    return decision.weight * (up.decides_after_look() && !decision.early ? decision.hands.weight(decision.hand) : 1);
  }
  // As it is told: with all that the dealer's natural costs where nobody knows of it.
  double told(const BlackjackDecision& decision, double net) const {
    if (play_.up().decides_after_look() && !decision.early) return decision.weight * net;
    BlackjackHand hand = decision.hand;
    hand.counts_as_natural = false;
    return decision.weight * (net + apart(decision.hands, hand));
  }

 private:
  double apart(const SeatHands& hands, const BlackjackHand& hand) const {
    const UpCard& up = play_.up();
    if (!up.settles_natural_apart()) return 0;
    return hands.natural(hand) * up.in_stakes(play_.pieces().paid_to_natural(hand));
  }

  UpCardPlay& play_;
};

}  // namespace habanera
