#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/blackjack/outcome.hpp"
#include "habanera/blackjack/position.hpp"
#include "habanera/blackjack/rules.hpp"
#include "habanera/blackjack/settling.hpp"
#include "habanera/blackjack/view.hpp"
#include "habanera/blackjack/vocabulary.hpp"
#include "habanera/count/bettor.hpp"
#include "habanera/game/moves.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/table_event.hpp"
#include "habanera/game/unseen.hpp"
#include "habanera/game/vocabulary.hpp"

namespace habanera {

// Seats against a dealer, who plays by rule; the position holds what the seats may see. A round goes on stage by stage:
// the deal, early surrender, insurance, the dealer's look, the seats from left to right, the dealer.
class Blackjack : public BlackjackVocabulary {
 public:
  using Rules = BlackjackRules;
  using Outcome = BlackjackOutcome;
  using Hand = BlackjackHand;

  using Position = BlackjackPosition;
  using View = BlackjackView;

  std::vector<Zone> zones() const { return zones_for(rules().seats); }
  std::vector<std::size_t> collected_zones() const { return collected_for(rules().seats); }

  explicit Blackjack(Rules rules) : pieces_(std::move(rules)), naturals_(11) {
    const std::vector<std::uint8_t>& points = this->rules().points;
    if (this->rules().cards < this->rules().burn + fewest_in_round())
      throw std::invalid_argument("a shoe of " + std::to_string(this->rules().cards) + " cards has no round");
    for (int up = 1; up <= 10; ++up)
      for (const std::uint8_t value : points)
        naturals_[static_cast<std::size_t>(up)].push_back(value == pieces_.completes_natural(up));
  }

  const Rules& rules() const { return pieces_.rules(); }
  const BlackjackPieces& pieces() const { return pieces_; }
  std::size_t seats() const { return rules().seats; }
  std::size_t cards_used() const { return rules().cards; }
  // Cards of one value that make the same pairs and that no side bet tells apart.
  std::uint32_t likeness(Card card) const {
    return (rules().points[card] * 256u + rules().pairs_with[card]) * 256u +
           (rules().side_class.empty() ? 0u : rules().side_class[card]);
  }

  bool holds_rounds() const { return rules().cut_after > 0; }
  std::size_t burned() const { return rules().burn; }
  bool plays_on(std::size_t gone) const {
    return gone < rules().cut_after && gone + fewest_in_round() <= rules().cards;
  }

  Position start(std::size_t gone) const {
    Position position;
    position.first_place = gone;
    position.chairs = seats();
    return position;
  }
  // With a seat that bets as it says; nothing: it sits out.
  Position start(std::size_t gone, const SeatBet& seat) const {
    Position position = start(gone);
    if (seat.bet == 0) {
      --position.chairs;
      position.sits_out = seat.seat;
    } else {
      position.bettor = seat.seat;
      position.bet = seat.bet;
    }
    return position;
  }
  std::int64_t net_of(const Outcome& outcome, std::size_t seat) const { return outcome.net_of[seat]; }
  // Two for each seat and for the dealer.
  std::size_t cards_at_first() const { return 2 * rules().seats + 2; }

  [[gnu::always_inline]] NextStep next(const Position& position) const {
    switch (position.stage) {
      case Position::dealing:
        return {hides_hole() && position.used == 2 * position.chairs + 1 ? NextStep::lay_down : NextStep::deal};
      case Position::early:
      case Position::insuring: return {NextStep::decide, position.seat_of(position.at)};
      case Position::looking: return {NextStep::look, 0, position.hole_place};
      case Position::playing:
        if (position.owes) return {NextStep::deal};
        return {NextStep::decide, position.seat_of(position.hand[position.at].chair)};
      case Position::dealers_turn:
        if (position.hole_lies) return {NextStep::turn, 0, position.hole_place};
        return {NextStep::deal};
      default: return {NextStep::over};
    }
  }

  [[gnu::always_inline]] Moves moves(const Position& position) const {
    Moves open;
    if (position.stage == Position::early || position.stage == Position::insuring) {
      open.add(position.stage == Position::early ? BlackjackPieces::surrender : BlackjackPieces::insure);
      open.add(BlackjackPieces::decline);
      return open;
    }
    const Hand& hand = position.hand[position.at];
    return pieces_.moves(hand, position.hands_of[hand.chair]);
  }

  [[gnu::always_inline]] void move(Position& position, std::size_t move) const {
    if (position.stage == Position::early) {
      Hand& hand = position.hand[position.at++];
      if (move == BlackjackPieces::surrender) hand.surrendered = hand.done = true;
      return advance(position);
    }
    if (position.stage == Position::insuring) {
      if (move == BlackjackPieces::insure)
        position.insured = static_cast<std::uint8_t>(position.insured | 1u << position.at);
      ++position.at;
      return advance(position);
    }
    Hand& hand = position.hand[position.at];
    switch (move) {
      case BlackjackPieces::hit: position.owes = true; return;
      case BlackjackPieces::double_down: hand.doubled = position.owes = true; return;
      case BlackjackPieces::split: return split(position);
      case BlackjackPieces::surrender: hand.surrendered = true; break;
      default: break;
    }
    hand.done = true;
    advance(position);
  }

  [[gnu::always_inline]] void give(Position& position, const NextStep&, Card card) const {
    const std::uint8_t points = rules().points[card];
    switch (position.stage) {
      case Position::dealing: deal_first(position, card, points); return;
      case Position::playing: {
        position.owes = false;
        Hand& hand = position.hand[position.last_hand = position.at];
        take_place(position, hand.chair + 1u);
        if (hand.cards == 1) hand.pair = makes_pair(position, hand, card);
        hand.add(points);
        hand.done = pieces_.is_finished(hand, position.hands_of[hand.chair]);
        if (hand.done) advance(position);
        return;
      }
      default:
        if (position.hole_lies) position.hole_lies = false;
        else take_place(position, 0);
        position.dealer.add(points);
        advance(position);
    }
  }

  [[gnu::always_inline]] void laid(Position& position, const NextStep&, std::size_t place) const {
    position.hole_place = place;
    position.hole_lies = true;
    take_place(position, 0);
    position.stage = Position::early;
    advance(position);
  }
  const CardSet& looked_for(const Position& position) const { return naturals_[rules().points[position.up]]; }
  [[gnu::always_inline]] void looked(Position& position, const NextStep&, bool found) const {
    position.looked = true;
    position.natural_found = found;
    position.at = 0;
    if (found) begin_dealers_turn(position);
    else position.stage = Position::playing;
    advance(position);
  }

  View view(const Position& position, std::size_t) const { return View(position); }

  Outcome outcome(const Position& position) const {
    Outcome outcome;
    settle(position, outcome);
    return outcome;
  }
  void settle(const Position& position, Outcome& outcome) const {
    BlackjackSettling(pieces_, position).settle(outcome);
  }

  // All that the rest of a round and its outcome depend on.
  std::string full_key(const Position& position, const UnseenCards& unseen) const {
    std::string all = std::to_string(unseen.next_place()) + "," + std::to_string(position.first_place) + ",";
    const auto tell = [&all](std::size_t value) { all += static_cast<char>('0' + value); };
    for (const std::size_t value : {std::size_t{position.stage}, std::size_t{position.owes}, position.at,
                                    std::size_t{position.looked}, std::size_t{position.natural_found},
                                    std::size_t{position.hole_lies}, std::size_t{position.insured}})
      tell(value);
    tell_hand(position.dealer, tell);
    for (std::size_t i = 0; i < position.hands; ++i) {
      tell_hand(position.hand[i], tell);
      if (rules().told_by_cards && !position.hand[i].done) all += "h" + std::to_string(position.hand[i].held);
    }
    all += "/" + std::to_string(likeness(position.up));
    const std::size_t chairs = position.chairs, opened = std::min(position.used, 2 * chairs + 1);
    for (std::size_t chair = 0; chair < chairs; ++chair) {
      if (opened > chair) all += "," + std::to_string(likeness(position.opening[chair][0]));
      if (opened > chairs + 1 + chair) all += "," + std::to_string(likeness(position.opening[chair][1]));
    }
    if (position.stage == Position::over && !holds_rounds()) return all;
    all += "/";
    for (const double count : unseen.counts()) all += std::to_string(static_cast<int>(count)) + ",";
    return all;
  }

  // For those who look on.

  std::size_t zone_of(const Position& position, std::size_t place) const {
    if (place < position.first_place) return seats() + 2;
    const std::size_t used = place - position.first_place;
    if (used >= position.used) return 0;
    if (used >= Position::most_placed) return seats() + 2;
    const std::size_t owner = position.owner[used];
    return owner == 0 ? 1 : position.seat_of(owner - 1) + 2;
  }

  template <class Happened>
  void tell(const NextStep& next, const Position& position, const std::vector<Card>& deck, Happened&& happened) const {
    if (next.what == NextStep::over) return;
    const Card* last = position.used > 0 ? &deck[position.first_place + position.used - 1] : nullptr;
    TableEvent event{no_seat, dealer_looks};
    switch (next.what) {
      case NextStep::decide:
        event.seat = next.seat;
        event.action = told_as(position.last_move);
        event.open = position.last_open;
        event.value = position.last_value;
        break;
      case NextStep::lay_down: event.action = dealer_hides; break;
      case NextStep::look: event.action = position.natural_found ? dealer_has_natural : dealer_looks; break;
      case NextStep::turn:
        event = {no_seat, dealer_turns, &deck[next.place], 1, value_of(position.dealer)};
        break;
      default: {
        const std::uint8_t owner = position.owner[position.used - 1];
        if (owner > 0) {
          const Hand& hand = position.hand[position.used <= 2 * position.chairs + 1 ? owner - 1u : position.last_hand];
          event = {position.seat_of(owner - 1u), seat_gets, last, 1, value_of(hand)};
        } else {
          event = {no_seat, position.used == position.chairs + 1 ? dealer_shows : dealer_draws, last, 1,
                   value_of(position.dealer)};
        }
      }
    }
    happened(1, event);
  }
  TableEvent ending(const Outcome& outcome) const {
    return {no_seat, outcome.net > 0 ? seats_win : outcome.net < 0 ? seats_lose : nobody_wins, nullptr, 0, outcome.net};
  }

  // Before a move is made: for those who look on.
  void decides(Position& position, std::size_t move, Moves open) const {
    position.last_move = move;
    position.last_open = open;
    position.last_hand = position.at;
    position.last_value = value_of(position.hand[position.at]);
  }

 private:
  bool hides_hole() const { return rules().hole_card == Rules::checked; }
  std::size_t fewest_in_round() const { return 2 * seats() + 2; }

  static Action told_as(std::size_t move) {
    switch (move) {
      case BlackjackPieces::hit: return hits;
      case BlackjackPieces::stand: return stands;
      case BlackjackPieces::double_down: return doubles;
      case BlackjackPieces::split: return splits;
      case BlackjackPieces::surrender: return surrenders;
      case BlackjackPieces::insure: return insures;
      default: return declines;
    }
  }

  // Total, and whether it is soft, of a hand as one number.
  std::int64_t value_of(const Hand& hand) const { return pieces_.total(hand) * 2 + pieces_.is_soft(hand); }

  [[gnu::always_inline]] void take_place(Position& position, std::size_t owner) const {
    if (position.used < Position::most_placed) position.owner[position.used] = static_cast<std::uint8_t>(owner);
    ++position.used;
  }

  // Chairs first, then the dealer, twice.
  [[gnu::always_inline]] void deal_first(Position& position, Card card, std::uint8_t points) const {
    const std::size_t turn = position.used;
    if (turn == position.chairs) {
      take_place(position, 0);
      position.up = card;
      position.dealer.add(points);
      return;
    }
    const std::size_t chair = turn < position.chairs ? turn : turn - position.chairs - 1;
    take_place(position, chair + 1);
    if (turn < position.chairs) {
      position.hand[chair] = Hand::of_card(points, static_cast<std::uint8_t>(chair));
      position.hands = chair + 1;
      position.hands_of[chair] = 1;
      position.opening[chair][0] = card;
      return;
    }
    Hand& hand = position.hand[chair];
    position.opening[chair][1] = card;
    hand.pair = rules().pairs_with[position.opening[chair][0]] == rules().pairs_with[card];
    hand.add(points);
    hand.counts_as_natural = hand.done = pieces_.is_natural(hand);
    if (pieces_.is_bust(hand)) hand.done = true;
    if (turn == 2 * position.chairs && !hides_hole()) {
      position.stage = Position::early;
      advance(position);
    }
  }

  // All cards of a hand that was split are of the opening's pair or of one that pairs with it.
  bool makes_pair(const Position& position, const Hand& hand, Card card) const {
    return rules().pairs_with[position.opening[hand.chair][0]] == rules().pairs_with[card];
  }

  // One hand becomes two of a card each, the first of them played first.
  void split(Position& position) const {
    const Hand whole = position.hand[position.at];
    for (std::size_t i = position.hands; i > position.at + 1; --i) position.hand[i] = position.hand[i - 1];
    position.hand[position.at] = position.hand[position.at + 1] = whole.half();
    ++position.hands;
    ++position.hands_of[whole.chair];
    position.owes = true;
  }

  // Goes on to the next stage in which something happens.
  [[gnu::always_inline]] void advance(Position& position) const {
    if (position.stage == Position::early) {
      if (rules().surrender == Rules::early && next_open_chair(position)) return;
      position.stage = Position::insuring;
      position.at = 0;
    }
    if (position.stage == Position::insuring) {
      if (rules().insurance && rules().points[position.up] == 1 && next_insurable(position)) return;
      position.stage = Position::looking;
      position.at = 0;
    }
    if (position.stage == Position::looking) {
      if (position.hole_lies && pieces_.completes_natural(rules().points[position.up]) > 0) return;
      position.stage = Position::playing;
    }
    if (position.stage == Position::playing) {
      while (position.at < position.hands && position.hand[position.at].done) ++position.at;
      if (position.at < position.hands) {
        position.owes = position.hand[position.at].cards == 1;
        return;
      }
      begin_dealers_turn(position);
    }
    if (position.stage == Position::dealers_turn && !dealer_needs_card(pieces_, position))
      position.stage = Position::over;
  }

  [[gnu::always_inline]] void begin_dealers_turn(Position& position) const {
    position.stage = Position::dealers_turn;
    position.compared = any_compared(pieces_, position);
  }

  // From the chair at turn on, one that has not got a natural.
  bool next_open_chair(Position& position) const {
    while (position.at < position.chairs && position.hand[position.at].done) ++position.at;
    return position.at < position.chairs;
  }
  // One that has not surrendered.
  bool next_insurable(Position& position) const {
    while (position.at < position.chairs && position.hand[position.at].surrendered) ++position.at;
    return position.at < position.chairs;
  }

  template <class Tell>
  static void tell_hand(const Hand& hand, Tell& tell) {
    for (const std::size_t value :
         {std::size_t{hand.points}, std::size_t{hand.cards}, std::size_t{hand.first}, std::size_t{hand.chair},
          std::size_t{hand.ace} + 2u * hand.pair + 4u * hand.from_split + 8u * hand.of_aces,
          std::size_t{hand.doubled} + 2u * hand.surrendered + 4u * hand.done + 8u * hand.counts_as_natural})
      tell(value);
  }

  BlackjackPieces pieces_;
  std::vector<CardSet> naturals_;  // by the up card's value: what completes a natural
};

}  // namespace habanera
