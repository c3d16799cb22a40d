#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>

#include "habanera/blackjack/outcome.hpp"
#include "habanera/blackjack/position.hpp"
#include "habanera/blackjack/rules.hpp"

namespace habanera {

// Whether some hand is compared with the dealer's.
[[gnu::always_inline]] inline bool any_compared(const BlackjackPieces& pieces, const BlackjackPosition& position) {
  for (std::size_t i = 0; i < position.hands; ++i)
    if (pieces.is_compared(position.hand[i])) return true;
  return false;
}

// Where no hand is compared and nobody looked.
[[gnu::noinline]] inline bool else_hangs_on_second_card(const BlackjackPieces& pieces,
                                                        const BlackjackPosition& position) {
  // After a look there is no natural.
  const BlackjackRules& rules = pieces.rules();
  if (rules.hole_card == BlackjackRules::checked || pieces.completes_natural(rules.points[position.up]) == 0)
    return false;
  if (position.insured) return true;
  const bool only_stake = rules.hole_card == BlackjackRules::unchecked_stake_only;
  return std::any_of(position.hand.begin(), position.hand.begin() + static_cast<std::ptrdiff_t>(position.hands),
                     [&](const BlackjackHand& hand) {
                       const bool staked_more = hand.doubled || hand.from_split || pieces.wins_at_once(hand);
                       return hand.counts_as_natural || (only_stake && !hand.surrendered && staked_more);
                     });
}

// The dealer draws only as far as some hand needs it.
[[gnu::always_inline]] inline bool dealer_needs_card(const BlackjackPieces& pieces, const BlackjackPosition& position) {
  if (position.dealer.cards == 1)
    return position.natural_found || position.compared || else_hangs_on_second_card(pieces, position);
  return position.compared && !pieces.is_natural(position.dealer) && pieces.dealer_draws(position.dealer);
}

// What comes of a round that is over.
class BlackjackSettling {
 public:
  using Hand = BlackjackHand;
  using Outcome = BlackjackOutcome;

  BlackjackSettling(const BlackjackPieces& pieces, const BlackjackPosition& position)
      : pieces_(pieces), rules_(pieces.rules()), position_(position) {}

  // Into an outcome of the same table.
  void settle(Outcome& outcome) const {
    outcome.net = outcome.staked = outcome.insurance_net = outcome.hands = outcome.player_total = 0;
    for (std::size_t side = 0; side < rules_.side_bets.size(); ++side) outcome.side[side] = 0;
    outcome.opened(pieces_, position_.opening[0], position_.up);
    outcome.cards_used = static_cast<std::int64_t>(position_.used);
    outcome.dealer_total =
        position_.dealer.cards < 2 ? Outcome::not_drawn : Outcome::total_of(pieces_, position_.dealer);
    for (std::size_t i = 0, chair = 0; chair < position_.chairs; ++chair) {
      const std::size_t end = i + position_.hands_of[chair];
      settle(chair, i, end, outcome);
      i = end;
    }
    if (position_.sits_out < rules_.seats) {
      outcome.net_of[position_.sits_out] = outcome.staked_of[position_.sits_out] = 0;
      outcome.result_of[position_.sits_out] = Outcome::sits_out;
    }
  }

 private:
  [[gnu::always_inline]] void settle(std::size_t chair, std::size_t begin, std::size_t end, Outcome& outcome) const {
    const Hand& first = position_.hand[begin];
    const bool natural = pieces_.is_natural(position_.dealer);
    // A look would have ended the round before more was staked.
    const bool only_stake = natural && rules_.hole_card == BlackjackRules::unchecked_stake_only && !first.surrendered;
    const std::int64_t bet = position_.bet_of(chair);
    std::int64_t net = 0, staked = 0;
    for (std::size_t i = begin; i < end; ++i) {
      const Hand& hand = position_.hand[i];
      net += natural ? pieces_.paid_to_natural(hand) : pieces_.paid(hand, position_.dealer);
      staked += pieces_.stake_of(hand);
    }
    if (only_stake) {
      net = first.counts_as_natural ? pieces_.paid_to_natural(first) : -rules_.stake;
      staked = rules_.stake;
    }
    if (position_.insured >> chair & 1) {
      const std::int64_t insurance = natural ? rules_.insurance_wins : -rules_.insurance_stake;
      outcome.insurance_net += bet * insurance;
      net += insurance;
      staked += rules_.insurance_stake;
    }
    outcome.add_seat(position_.seat_of(chair), chair == 0, bet * net, bet * staked,
                     static_cast<std::int64_t>(end - begin), Outcome::total_of(pieces_, first),
                     first.surrendered      ? Outcome::surrender
                     : first.counts_as_natural && net > 0 ? Outcome::natural
                     : net > 0              ? Outcome::win
                     : net < 0              ? Outcome::loss
                                            : Outcome::push);
    for (std::size_t side = 0; side < rules_.side_bets.size(); ++side)
      outcome.side[side] += bet * rules_.side_bets[side].net[side_place(chair)];
  }

  std::size_t side_place(std::size_t chair) const {
    const auto& of = rules_.side_class;
    const auto& cards = position_.opening[chair];
    return (of[cards[0]] * rules_.side_classes + of[cards[1]]) * rules_.side_classes + of[position_.up];
  }

  const BlackjackPieces& pieces_;
  const BlackjackRules& rules_;
  const BlackjackPosition& position_;
};

}  // namespace habanera
