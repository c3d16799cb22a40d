#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/betting/actions.hpp"
#include "habanera/betting/card_table.hpp"
#include "habanera/betting/chips.hpp"
#include "habanera/betting/openings.hpp"
#include "habanera/betting/outcome.hpp"
#include "habanera/betting/position.hpp"
#include "habanera/betting/public_tree.hpp"
#include "habanera/betting/strength.hpp"
#include "habanera/betting/view.hpp"
#include "habanera/game/moves.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/table_event.hpp"
#include "habanera/game/unseen.hpp"
#include "habanera/game/vocabulary.hpp"

namespace habanera {

// A game in which seats hide their cards and bet.
class Betting : public OneRound {
 public:
  struct Rules {
    BettingRules chips;
    std::size_t own = 1;              // cards of each seat
    std::vector<Card> board;          // cards that all see from the start
    std::shared_ptr<const BettingCards> cards;
    BettingStrength strength;
    bool tells_holdings = false;      // as outcomes
    std::shared_ptr<const Openings> openings;  // where seats are dealt some hands only
    std::shared_ptr<const PublicTree> tree{};  // made where it is not given
  };
  using Position = BettingPosition;
  using View = BettingView;
  using Outcome = BettingOutcome;

  explicit Betting(Rules rules) : rules_(std::move(rules)), chips_(rules_.chips) {
    if (!rules_.tree) rules_.tree = PublicTree::grown(chips_);
    tree_ = rules_.tree.get();
    shared_ = chips_.shared_by(rules_.chips.streets.size() - 1);
    if (rules_.own < 1 || rules_.own > most_held || shared_ + rules_.board.size() > most_shared)
      throw std::invalid_argument("a seat has 1 to 8 cards of its own, and there are at most 8 that all see");
    alike_copies_.assign(table().copies.size(), 0);
    for (std::size_t kind = 0; kind < table().copies.size(); ++kind)
      alike_copies_[table().stands_for[kind]] += table().copies[kind];
  }

  const Rules& rules() const { return rules_; }
  const BettingCards& table() const { return *rules_.cards; }
  const ChipRules& chips() const { return chips_; }
  std::size_t seats() const { return rules_.chips.seats; }
  std::size_t own_cards() const { return rules_.own; }
  std::size_t cards_used() const { return cards_at_first() + shared_; }
  bool turns_cards() const { return shared_ + rules_.board.size() > 0; }
  std::size_t cards_at_first() const { return seats() * rules_.own; }
  std::uint32_t likeness(Card card) const { return table().stands_for[card]; }
  Card stands_for(Card card) const { return table().stands_for[card]; }
  // Hands that seats may be dealt, all at once; none where it may be any.
  const Openings* openings() const { return rules_.openings.get(); }

  Position start(std::size_t = 0) const {
    Position position;
    if (!tree_) position.chips = chips_.start();
    for (const Card card : rules_.board) position.shared[position.open++] = card;
    return position;
  }

  // One of the openings: the seats that have hands in it have them before any card is dealt; calls gave(card) for each.
  template <class Gave>
  void open_with(Position& position, std::size_t opening, Gave&& gave) const {
    const Card* cards = openings()->cards(opening);
    for (const std::size_t seat : openings()->seats()) {
      for (std::size_t i = 0; i < rules_.own; ++i, ++cards) {
        position.own[seat * rules_.own + i] = *cards;
        gave(*cards);
      }
      position.given = static_cast<std::uint8_t>(position.given | 1u << seat);
      position.given_cards = static_cast<std::uint8_t>(position.given_cards + rules_.own);
    }
  }
  // Calls use(place, card) for each card of an opening, with the place from which its seat is dealt it.
  template <class Use>
  void each_place(std::size_t opening, Use&& use) const {
    const Card* cards = openings()->cards(opening);
    for (const std::size_t seat : openings()->seats())
      for (std::size_t i = 0; i < rules_.own; ++i)
        use(i * seats() + (seat + seats() - first_dealt()) % seats(), *cards++);
  }

  NextStep next(const Position& position) const {
    if (position.dealt + position.given_cards < cards_at_first()) return {NextStep::deal, next_dealt(position)};
    if (position.open < shared_due(position)) return {NextStep::deal, no_seat};
    const Chips& chips = chips_of(position);
    if (chips.is_over()) return {NextStep::over};
    return {NextStep::decide, chips.turn};
  }
  // As they lie now.
  const Chips& chips_of(const Position& position) const {
    return tree_ ? tree_->node(position.node).chips : position.chips;
  }
  Moves moves(const Position& position) const {
    return tree_ ? tree_->node(position.node).moves : chips_.moves(position.chips);
  }
  void give(Position& position, const NextStep& next, Card card) const {
    if (next.seat == no_seat) position.shared[position.open++] = card;
    else if (position.given == 0) position.own[next.seat * rules_.own + position.dealt++ / seats()] = card;
    else give_beside(position, next.seat, card);
  }
  void move(Position& position, std::size_t move) const {
    ++position.moves;
    if (tree_) {
      position.node = tree_->after(position.node, move);
      return;
    }
    move_chips(position, move);
  }
  const MoveCode& code(const Position& position) const {
    return tree_ ? tree_->node(position.node).code : position.code;
  }
  // The moves so far, the first first.
  [[gnu::noinline]] std::vector<MoveMade> moves_made(const Position& position) const {
    if (!tree_) return {position.made.begin(), position.made.begin() + position.moves};
    std::vector<MoveMade> made(position.moves);
    std::uint32_t at = position.node;
    for (std::size_t i = made.size(); i-- > 0; at = tree_->node(at).before) made[i] = tree_->node(at).made;
    return made;
  }
  // Where it stands in the tree of all courses, if there is one.
  bool has_tree() const { return tree_ != nullptr; }
  std::size_t courses() const { return tree_ ? tree_->size() : 0; }
  View view(const Position& position, std::size_t seat) const { return View(*this, position, seat); }

  Outcome outcome(const Position& position) const {
    Outcome outcome;
    settle(position, outcome);
    return outcome;
  }
  void settle(const Position& position, Outcome& outcome) const {
    const Chips& chips = chips_of(position);
    outcome.winner = settle_pot(position, chips, outcome);
    outcome.ended = chips.folded ? Outcome::fold : Outcome::showdown;
    outcome.street = chips.street + 1;
    const MoveCode& moved = code(position);
    outcome.actions = moved.base == 0 ? Outcome::no_code : static_cast<std::int64_t>(moved.code);
    for (std::size_t seat = 0; seat < seats(); ++seat) {
      outcome.folded[seat] = !chips.is_in(seat);
      outcome.all_in[seat] = chips.is_in(seat) && chips.left[seat] == 0;
      if (rules_.tells_holdings) outcome.holding[seat] = holding_code(position, seat);
    }
  }
  double worth(const Position& position, std::size_t seat) const {
    return static_cast<double>(outcome(position).net[seat]);
  }

  const Card* own_of(const Position& position, std::size_t seat) const { return &position.own[seat * rules_.own]; }

  // What a move is called, such as "raise 1/2 pot".
  std::string move_text(const View& view, std::size_t move) const {
    return chips_.word_of(chips_.made(chips_of(*view.position_), move));
  }
  // All moves so far: "check bet call / check check", a stroke where a street began.
  [[gnu::noinline]] std::string actions_text(const Position& position) const {
    std::string all;
    std::size_t street = 0;
    for (const MoveMade& made : moves_made(position)) {
      for (; street < made.street; ++street) all += all.empty() ? "/" : " /";
      all += (all.empty() ? "" : " ") + chips_.word_of(made);
    }
    return all;
  }
  // The same of the number that an outcome has of them.
  std::string actions_of_code(std::uint64_t code) const {
    Position position = start();
    while (!chips_of(position).is_over()) {
      const Moves open = moves(position);
      const std::size_t which = static_cast<std::size_t>(code % open.count());
      code /= open.count();
      move(position, open.at(which));
    }
    return actions_text(position);
  }
  // The cards that a number in an outcome tells, as they are told alone.
  std::string holding_of_code(std::uint64_t code) const {
    ToldCards told(table());
    told.begin_group();
    for (std::size_t i = 0; i < rules_.own; ++i, code /= kinds()) told.add(static_cast<Card>(code % kinds()));
    return told.text(0, rules_.own);
  }

  // Cards that a seat has not seen: all but its own and those that all see.
  UnseenCards unseen(const Position& position, std::size_t seat) const {
    UnseenCards cards(alike_copies_);
    each_held(position, [&](std::size_t of, Card card) {
      if (seat == no_seat || of == seat) cards.deal(stands_for(card));
      else cards.lay_down();
    });
    for (std::size_t i = rules_.board.size(); i < position.open; ++i) cards.deal(stands_for(position.shared[i]));
    return cards;
  }
  UnseenCards unseen(const View& view, bool sees_hands = false) const {
    return unseen(*view.position_, sees_hands ? no_seat : view.seat_);
  }
  UnseenCards unseen(const Position& position) const { return unseen(position, no_seat); }

  // The same moves on another deal. `made(position, seat, move)` is called before each move there; what it is handed
  // stays until all are made.
  template <class Made>
  std::optional<Position> redealt(const View& seen, const std::vector<Card>& deck, bool sees_hands, Made&& made) const {
    const Position& wanted = *seen.position_;
    const std::vector<MoveMade> moves = moves_made(wanted);
    std::vector<Position> course;
    course.reserve(moves.size() + 1);
    course.push_back(start());
    for (std::size_t at = 0;;) {
      Position& position = course.back();
      const NextStep now = next(position);
      if (now.what == NextStep::deal) {
        const std::size_t place = position.dealt;
        const bool known = sees_hands || now.seat == no_seat || now.seat == seen.seat_;
        give(position, now,
             now.seat == no_seat ? wanted.shared[position.open] : known ? card_at(wanted, place) : deck[place]);
      } else if (at < moves.size()) {
        made(std::as_const(position), now.seat, std::size_t{moves[at].move});
        course.push_back(position);
        move(course.back(), moves[at++].move);
      } else {
        return position;
      }
    }
  }
  std::optional<Position> redealt(const View& seen, const std::vector<Card>& deck) const {
    return redealt(seen, deck, false, [](const Position&, std::size_t, std::size_t) {});
  }

  std::string key(const View& view) const { return view.text(); }
  std::string key(const Position& position, const UnseenCards& unseen) const { return full_key(position, unseen); }
  std::string full_key(const Position& position, const UnseenCards&) const {
    std::string all;
    const auto add = [&](Card card) {
      all += static_cast<char>(stands_for(card) & 0xff);
      all += static_cast<char>(stands_for(card) >> 8);
    };
    each_held(position, [&](std::size_t, Card card) { add(card); });
    for (std::size_t i = rules_.board.size(); i < position.open; ++i) add(position.shared[i]);
    all += '/';
    for (const MoveMade& made : moves_made(position)) all += static_cast<char>(made.move + 1);
    return all;
  }

  // For those who look on.

  static std::vector<Word> actions() { return BettingAction::words(); }
  std::vector<Zone> zones() const {
    std::vector<Zone> all{{"stock"}, {"shared"}};
    for (std::size_t seat = 0; seat < seats(); ++seat) all.push_back({"own", seat});
    return all;
  }
  std::size_t zone_of(const Position& position, std::size_t place) const {
    if (place < cards_at_first()) return place < position.dealt ? 2 + owner(place) : 0;
    return place - cards_at_first() + rules_.board.size() < position.open ? 1 : 0;
  }
  template <class Happened>
  void tell(const NextStep& next, const Position& position, const std::vector<Card>&, Happened&& happened) const {
    if (next.what == NextStep::decide) return happened(1, told_move(next.seat, position));
    if (next.what != NextStep::deal) return;
    if (next.seat == no_seat) return tell_street(position, happened);
    if (position.dealt < cards_at_first()) return;
    for (std::size_t i = 0, seat = first_dealt(); i < seats(); ++i, seat = rules_.chips.after(seat))
      happened(1, TableEvent{seat, BettingAction::gets, own_of(position, seat), rules_.own});
  }
  TableEvent ending(const Outcome& outcome) const {
    TableEvent event{no_seat, BettingAction::shares};
    if (outcome.winner > 0) {
      event.seat = static_cast<std::size_t>(outcome.winner - 1);
      event.action = outcome.ended == Outcome::fold ? BettingAction::takes_it : BettingAction::wins;
    }
    event.pot = outcome.pot;
    return event;
  }

 private:
  friend class BettingView;

  // Cards are dealt one at a time, to the first seat after the dealer first.
  std::size_t first_dealt() const { return rules_.chips.after(rules_.chips.dealer()); }
  std::size_t owner(std::size_t place) const { return (place + first_dealt()) % seats(); }
  // Calls use(seat, card) for each card that a seat holds, in the order dealt; those that were given last.
  template <class Use>
  void each_held(const Position& position, Use&& use) const {
    if (position.given == 0) {
      for (std::size_t place = 0; place < position.dealt; ++place) use(owner(place), card_at(position, place));
      return;
    }
    std::size_t left = position.dealt;
    for (std::size_t seat = 0; seat < seats(); ++seat)
      for (std::size_t i = 0; i < rules_.own; ++i)
        if (position.given >> seat & 1 || left > 0) {
          if ((position.given >> seat & 1) == 0) --left;
          use(seat, own_of(position, seat)[i]);
        }
  }
  // Where some seats have been given hands, the others are dealt one after the other.
  std::size_t next_dealt(const Position& position) const {
    if (position.given == 0) return owner(position.dealt);
    std::size_t seat = 0;
    for (std::size_t before = position.dealt / rules_.own;; ++seat)
      if ((position.given >> seat & 1) == 0 && before-- == 0) return seat;
  }
  void give_beside(Position& position, std::size_t seat, Card card) const {
    position.own[seat * rules_.own + position.dealt++ % rules_.own] = card;
  }
  Card card_at(const Position& position, std::size_t place) const {
    return own_of(position, owner(place))[place / seats()];
  }
  // Who has made all others fold turns no more.
  std::size_t shared_due(const Position& position) const {
    const Chips& chips = chips_of(position);
    return chips.folded ? position.open : rules_.board.size() + chips_.shared_by(chips.street);
  }
  std::size_t kinds() const { return table().copies.size(); }

  [[gnu::noinline]] void move_chips(Position& position, std::size_t move) const {
    if (position.moves > most_betting_moves) throw std::length_error("more moves in a hand than can be kept");
    position.code.add(chips_.moves(position.chips), move);
    position.made[position.moves - 1] = chips_.made(position.chips, move);
    chips_.move(position.chips, move);
  }

  // The seat that has the main pot alone, from 1; 0: nobody.
  std::int64_t settle_pot(const Position& position, const Chips& chips, Outcome& outcome) const {
    if (const PublicTree::Settled* two = tree_ ? tree_->settled(position.node) : nullptr) {
      const std::uint64_t one = strength(position, two->seats[0]), other = strength(position, two->seats[1]);
      const std::size_t better = one > other ? 0 : one < other ? 1 : 2;
      outcome.net = two->net[better];
      outcome.pot = two->pot;
      return better == 2 ? 0 : two->seats[better] + 1;
    }
    const std::size_t winner = chips_.settle(
        chips, [&](std::size_t seat) { return strength(position, seat); }, outcome.net, outcome.pot);
    return winner == Chips::nobody ? 0 : static_cast<std::int64_t>(winner) + 1;
  }

  std::uint64_t strength(const Position& position, std::size_t seat) const {
    return rules_.strength(own_of(position, seat), rules_.own, position.shared.data(), position.open);
  }
  [[gnu::noinline]] std::int64_t holding_code(const Position& position, std::size_t seat) const {
    ToldCards told(table());
    told.begin_group();
    for (std::size_t i = 0; i < rules_.own; ++i) told.add(own_of(position, seat)[i]);
    told.tell();
    std::uint64_t code = 0;
    for (std::size_t i = rules_.own; i-- > 0;) code = code * kinds() + told.card(i);
    return static_cast<std::int64_t>(code);
  }

  // The move just made: the chips it took, what was to be called before it, and the pot.
  [[gnu::noinline]] TableEvent told_move(std::size_t seat, const Position& position) const {
    const std::vector<MoveMade> moves = moves_made(position);
    Chips before = chips_.start();
    for (std::size_t i = 0; i + 1 < moves.size(); ++i) chips_.move(before, moves[i].move);
    TableEvent event{seat, BettingAction::of(moves.back())};
    event.value = before.left[seat] - chips_of(position).left[seat];
    event.owed = before.to_call(seat);
    event.pot = chips_.pot(before);
    return event;
  }
  // The cards of a street, once they lie there.
  template <class Happened>
  [[gnu::noinline]] void tell_street(const Position& position, Happened& happened) const {
    std::size_t from = rules_.board.size();
    for (const Street& street : rules_.chips.streets) {
      if (street.shared > 0 && from + street.shared == position.open)
        happened(1, TableEvent{no_seat, BettingAction::is_turned, &position.shared[from], street.shared});
      from += street.shared;
    }
  }

  Rules rules_;
  ChipRules chips_;
  std::size_t shared_ = 0;             // cards that come to be seen by all
  std::vector<double> alike_copies_;
  const PublicTree* tree_ = nullptr;   // the rules'
};

}  // namespace habanera

#include "habanera/betting/seen.hpp"
