#pragma once

#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/game/moves.hpp"

namespace habanera {

inline constexpr std::size_t most_blackjack_seats = 7, most_split_hands = 4;

// A hand as it counts: its cards' values added up, an ace as 1.
struct BlackjackHand {
  std::uint64_t held;                 // how many cards of each value: see held_of()
  std::uint8_t points, cards, first;  // `first`: the value of its first card
  std::uint8_t chair;
  bool ace, pair, from_split, of_aces, doubled, surrendered, done, counts_as_natural;

  // A card of a value among those held: five bits for each value, which is enough for hands that are not bust.
  static constexpr std::uint64_t held_of(int value) { return std::uint64_t{1} << (5 * (value - 1)); }
  static constexpr int count_held(std::uint64_t held, int value) {
    return static_cast<int>(held >> (5 * (value - 1)) & 31);
  }

  static BlackjackHand of_card(std::uint8_t points, std::uint8_t chair = 0) {
    return {held_of(points), points, 1,     points, chair, points == 1, false,
            false,           false,  false, false,  false, false};
  }
  [[gnu::always_inline]] void add(std::uint8_t value) {
    held += held_of(value);
    points = static_cast<std::uint8_t>(points + value);
    ++cards;
    ace = ace || value == 1;
  }
  // One of the two hands that come of a pair that is split.
  BlackjackHand half() const {
    BlackjackHand one = of_card(first, chair);
    one.from_split = true;
    one.of_aces = first == 1;
    return one;
  }
};

// The rules of a house. Money is whole, in the unit that makes every payment whole; half a stake is, too.
struct BlackjackRules {
  enum HoleCard { checked, unchecked_all_lost, unchecked_stake_only };
  enum DoubleOn { any_two, nine_to_eleven, ten_eleven, any_cards, no_double };
  enum Surrender { no_surrender, late, early };
  struct SideBet {
    std::vector<std::int64_t> net;  // by class of the seat's first card, of its second, of the dealer's up card
  };

  std::vector<std::uint8_t> points;       // of each kind of card, 1 to 10
  std::vector<std::uint16_t> pairs_with;  // kinds with the same number are a pair
  std::vector<std::uint16_t> side_class;  // kinds that no side bet tells apart
  std::size_t side_classes = 1;
  std::vector<SideBet> side_bets;

  std::size_t cards = 0;      // in the shoe
  std::size_t cut_after = 0;  // rounds begin while fewer cards are gone; 0: one round
  std::size_t burn = 0;
  std::size_t seats = 1;

  int bust_over = 21;
  int dealer_stands_on = 17;
  bool hits_soft = false;  // the dealer hits a soft total that is just enough
  bool ties_to_dealer = false;
  HoleCard hole_card = checked;
  DoubleOn double_on = any_two;
  bool double_after_split = true;
  std::size_t most_hands = most_split_hands;
  bool split_aces_one_card = true;
  bool resplit_aces = false;
  Surrender surrender = no_surrender;
  bool insurance = true;
  std::size_t cards_that_win = 0;  // 0: none
  bool told_by_cards = false;      // some player looks at the single cards of a hand

  // In the smallest unit: what is staked, what a natural brings, what giving up costs, what insurance costs and brings.
  std::int64_t stake = 2, natural_pays = 3, surrender_costs = 1, insurance_stake = 1, insurance_wins = 2;
};

// The pieces of the rules, each once: for the table, and for whoever works a game out.
class BlackjackPieces {
 public:
  enum Move : std::size_t { hit, stand, double_down, split, surrender, insure, decline };

  explicit BlackjackPieces(BlackjackRules rules) : rules_(std::move(rules)) {
    if (rules_.seats < 1 || rules_.seats > most_blackjack_seats)
      throw std::invalid_argument("there are 1 to 7 seats, not " + std::to_string(rules_.seats));
    if (rules_.most_hands < 1 || rules_.most_hands > most_split_hands)
      throw std::invalid_argument("a seat has at most 1 to 4 hands, not " + std::to_string(rules_.most_hands));
  }
  const BlackjackRules& rules() const { return rules_; }

  // Totals.
  bool is_soft(const BlackjackHand& hand) const { return hand.ace && hand.points + 10 <= rules_.bust_over; }
  int total(const BlackjackHand& hand) const { return hand.points + (is_soft(hand) ? 10 : 0); }
  bool is_bust(const BlackjackHand& hand) const { return hand.points > rules_.bust_over; }
  bool is_natural(const BlackjackHand& hand) const {
    return hand.cards == 2 && !hand.from_split && hand.ace && hand.points + 10 == rules_.bust_over;
  }
  [[gnu::always_inline]] bool wins_at_once(const BlackjackHand& hand) const {
    return rules_.cards_that_win > 0 && hand.cards >= rules_.cards_that_win && !is_bust(hand);
  }

  // The value that makes a natural of the up card; 0 where none does.
  int completes_natural(int up_points) const {
    const int with_ace = rules_.bust_over - 11;
    if (with_ace < 1 || with_ace > 10) return 0;
    return up_points == 1 ? with_ace : up_points == with_ace ? 1 : 0;
  }

  [[gnu::always_inline]] bool dealer_draws(const BlackjackHand& dealer) const {
    const int now = total(dealer);
    return now < rules_.dealer_stands_on || (now == rules_.dealer_stands_on && rules_.hits_soft && is_soft(dealer));
  }

  // What a hand may do, when its seat has so many hands.
  [[gnu::always_inline]] bool may_double(const BlackjackHand& hand) const {
    if (rules_.double_on == BlackjackRules::no_double || (hand.from_split && !rules_.double_after_split)) return false;
    if (rules_.double_on == BlackjackRules::any_cards) return true;
    if (hand.cards != 2) return false;
    if (rules_.double_on == BlackjackRules::any_two) return true;
    const int from = rules_.double_on == BlackjackRules::nine_to_eleven ? 9 : 10;
    return !is_soft(hand) && hand.points >= from && hand.points <= 11;
  }
  [[gnu::always_inline]] bool may_split(const BlackjackHand& hand, std::size_t hands) const {
    return hand.cards == 2 && hand.pair && hands < rules_.most_hands && !(hand.of_aces && !rules_.resplit_aces);
  }
  bool may_surrender_late(const BlackjackHand& hand) const {
    return rules_.surrender == BlackjackRules::late && hand.cards == 2 && !hand.from_split;
  }
  // An ace that was split gets one card, and may at most be split again.
  bool has_its_one_card(const BlackjackHand& hand) const {
    return hand.of_aces && rules_.split_aces_one_card && hand.cards == 2;
  }
  [[gnu::always_inline]] Moves moves(const BlackjackHand& hand, std::size_t hands) const {
    Moves open;
    open.add(stand);
    if (may_split(hand, hands)) open.add(split);
    if (has_its_one_card(hand)) return open;
    open.add(hit);
    if (may_double(hand)) open.add(double_down);
    if (may_surrender_late(hand)) open.add(surrender);
    return open;
  }
  // Whether nothing is left to decide for a hand that got a card.
  [[gnu::always_inline]] bool is_finished(const BlackjackHand& hand, std::size_t hands) const {
    return hand.doubled || is_bust(hand) || wins_at_once(hand) || (has_its_one_card(hand) && !may_split(hand, hands));
  }

  // Whether it is compared with the dealer's.
  [[gnu::always_inline]] bool is_compared(const BlackjackHand& hand) const {
    return !hand.surrendered && !hand.counts_as_natural && !is_bust(hand) && !wins_at_once(hand);
  }

  // What a result pays.
  std::int64_t stake_of(const BlackjackHand& hand) const { return rules_.stake * (hand.doubled ? 2 : 1); }
  // Of a hand that is compared with the dealer's, which is no natural.
  [[gnu::always_inline]] std::int64_t compared(const BlackjackHand& hand, const BlackjackHand& dealer) const {
    const int mine = total(hand), theirs = total(dealer);
    if (is_bust(dealer) || mine > theirs) return stake_of(hand);
    return mine < theirs || rules_.ties_to_dealer ? -stake_of(hand) : 0;
  }
  // Of a hand when the dealer has no natural (`dealer` need not have drawn where the hand needs no comparison).
  [[gnu::always_inline]] std::int64_t paid(const BlackjackHand& hand, const BlackjackHand& dealer) const {
    if (hand.surrendered) return -rules_.surrender_costs;
    if (is_bust(hand)) return -stake_of(hand);
    if (hand.counts_as_natural) return rules_.natural_pays;
    return wins_at_once(hand) ? stake_of(hand) : compared(hand, dealer);
  }
  // When the dealer has one and nobody looked for it; where only the stake is lost, that is settled for the whole seat.
  std::int64_t paid_to_natural(const BlackjackHand& hand) const {
    if (hand.surrendered) return -rules_.surrender_costs;
    if (hand.counts_as_natural) return rules_.ties_to_dealer ? -rules_.stake : 0;
    return wins_at_once(hand) ? stake_of(hand) : -stake_of(hand);
  }

 private:
  BlackjackRules rules_;
};

}  // namespace habanera
