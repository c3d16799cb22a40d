#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <stdexcept>
#include <string>
#include <tuple>
#include <type_traits>
#include <utility>
#include <vector>

#include "habanera/game/play_out.hpp"
#include "habanera/game/unseen.hpp"
#include "habanera/game/view.hpp"
#include "habanera/game/vocabulary.hpp"
#include "habanera/own/abilities.hpp"
#include "habanera/own/course.hpp"
#include "habanera/own/game.hpp"
#include "habanera/own/requirements.hpp"
#include "habanera/own/view.hpp"

namespace habanera {

// A game of one's own as the protocol has games: it keeps the course of the game, from which come the log, what seats
// have not seen, and deals that fit.
template <class G>
class Own : public OneRound {
  static_assert(OwnRequirements<G>::check());

 public:
  struct Rules {
    std::shared_ptr<const Setting> setting;
  };
  struct Position {
    typename G::Position own{};
    Course course;
    OwnMove last{};  // where moves have amounts
  };
  using View = OwnView<G>;
  static constexpr bool view_forgets = habanera::view_forgets<G>;

  static constexpr std::size_t own_outcomes = G::outcomes.size();
  // What each seat has of the win comes after the game's own outcomes.
  struct Outcome {
    std::array<std::int64_t, own_outcomes> own{};
    std::array<std::int64_t, most_players> score{};
    static constexpr std::size_t column_count = own_outcomes + most_players;
    static const std::vector<Column<Outcome>>& columns() {
      static const std::vector<Column<Outcome>> all = all_columns();
      return all;
    }
  };

  explicit Own(Rules rules)
      : rules_(std::move(rules)), game_(*rules_.setting), seats_(rules_.setting->seats()),
        cards_(rules_.setting->cards()) {
    if (cards_ > most_own_cards)
      throw std::invalid_argument("a game in C++ has at most " + std::to_string(most_own_cards) + " cards, not " +
                                  std::to_string(cards_));
    for (std::size_t pile = 0, zone = 0; pile < G::piles.size(); ++pile) {
      first_zone_[pile] = zone;
      zone += G::piles[pile].sight == OwnPile::own ? seats_ : 1;
    }
    for (std::size_t i = 0; i < own_outcomes; ++i) least_above_[i] = values_of(G::outcomes[i]);
    stand_for_alike();
  }

  const Rules& rules() const { return rules_; }
  const G& game() const { return game_; }
  std::size_t seats() const { return seats_; }
  std::size_t cards_used() const { return cards_; }
  std::uint32_t likeness(Card card) const { return static_cast<std::uint32_t>(game_.likeness(card)); }

  Position start(std::size_t) const {
    Position position;  // braces would set all the room of its lists to zero
    return position;
  }
  NextStep next(const Position& position) const {
    const NextStep next = game_.next(position.own);
    if (next.what == NextStep::decide ? next.seat >= seats_
                                      : next.what != NextStep::deal && next.what != NextStep::over)
      refuse_next(next);
    return next;
  }
  Moves moves(const Position& position) const { return game_.moves(position.own); }
  void move(Position& position, std::size_t move) const {
    if constexpr (tells_amounts<G>) position.last = game_.told(position.own, move);
    position.course.make(move);
    game_.move(position.own, move);
  }
  void give(Position& position, const NextStep& next, Card card) const {
    position.course.deal(card, zone_of_pile(next.place, next.seat));
    game_.give(position.own, next, card);
  }
  View view(const Position& position, std::size_t seat) const {
    return View(game_.view(position.own, seat), seat, position);
  }

  Outcome outcome(const Position& position) const {
    const auto own = game_.outcome(position.own);
    static_assert(std::tuple_size_v<decltype(own)> == own_outcomes, "outcome() must give values() of all outcomes");
    Outcome outcome{own, {}};
    for (std::size_t i = 0; i < own_outcomes; ++i)
      if (least_above_[i] > 0 && (own[i] < 0 || own[i] >= least_above_[i]))
        throw std::domain_error(std::string("the outcome \"") + G::outcomes[i].name + "\" is " +
                                std::to_string(own[i]) + ", not 0 to " + std::to_string(least_above_[i] - 1));
    if constexpr (first_of(OwnOutcome::seat) < own_outcomes) {
      const auto winner = static_cast<std::size_t>(own[first_of(OwnOutcome::seat)]);
      for (std::size_t seat = 0; seat < seats_; ++seat)
        outcome.score[seat] = winner == 0 ? whole_win / static_cast<std::int64_t>(seats_)
                                          : (winner == seat + 1 ? whole_win : 0);
    }
    return outcome;
  }

  // Of a game that is over, what it was worth to a seat.
  double worth(const Position& position, std::size_t seat) const {
    if (next(position).what != NextStep::over) return 0;
    const Outcome all = outcome(position);
    if constexpr (tells_worth<G>) return game_.worth(all.own, seat);
    if constexpr (first_of(OwnOutcome::seat) < own_outcomes)
      return static_cast<double>(all.score[seat]) / static_cast<double>(whole_win);
    if constexpr (first_of(OwnOutcome::money) < own_outcomes) {
      const std::size_t money = money_of(seat);
      return static_cast<double>(all.own[money]) * G::outcomes[money].coin;
    }
    throw std::logic_error("it is not said what outcomes are worth");
  }
  static constexpr bool can_be_weighed() {
    return tells_worth<G> || first_of(OwnOutcome::seat) < own_outcomes || first_of(OwnOutcome::money) < own_outcomes;
  }

  // Cards that a seat has not seen, whoever moves: all are, but those in open piles and in its own.
  UnseenCards unseen(const Position& position, std::size_t seat) const { return unseen_by(position, seat); }
  UnseenCards unseen(const View& view, bool sees_hands = false) const {
    return unseen_by(*view.position_, sees_hands ? no_seat : view.seat_);
  }
  // To who sees all that is dealt.
  UnseenCards unseen(const Position& position) const { return unseen_by(position, no_seat); }
  static constexpr bool hides_cards() {
    for (std::size_t pile = 1; pile < G::piles.size(); ++pile)
      if (G::piles[pile].sight != OwnPile::open) return true;
    return false;
  }

  // What a move is called there.
  std::string move_text(const Position& position, std::size_t move) const {
    if constexpr (tells_amounts<G>) return game_.told(position.own, move).text(G::move_names);
    return OwnMove{move}.text(G::move_names);
  }
  std::string move_text(const View& view, std::size_t move) const { return move_text(*view.position_, move); }

  // The card that stands for all that are alike to it.
  Card stands_for(Card card) const { return stands_for_[card]; }

  // The same moves on another deal, where they could be made there, and the seat would have seen the same; or, of who
  // sees the hands of all, with the hands as they are. `made(position, seat, move)` is called before each move there.
  template <class Made>
  std::optional<Position> redealt(const View& seen, const std::vector<Card>& deck, bool sees_hands, Made&& made) const {
    std::optional<Position> again = replayed(seen, deck, sees_hands, made);
    if (!again) return again;
    const NextStep now = next(*again);
    const bool fits = now.what == NextStep::decide && now.seat == seen.seat_ &&
                      moves(*again).bits() == moves(*seen.position_).bits() && view(*again, seen.seat_) == seen;
    if (!fits) again.reset();
    return again;
  }
  std::optional<Position> redealt(const View& seen, const std::vector<Card>& deck) const {
    return redealt(seen, deck, false, [](const Position&, std::size_t, std::size_t) {});
  }
  // The same whatever the seat would have seen.
  std::optional<Position> replayed(const View& seen, const std::vector<Card>& deck) const {
    return replayed(seen, deck, false, [](const Position&, std::size_t, std::size_t) {});
  }

  // Of what a seat has seen: the same for positions that are one to it.
  std::string key(const View& view) const {
    if constexpr (has_own_key<G>) return view.text() + '/' + counts_key(unseen(view));
    else return course_key(view.position_->course, [&](std::size_t place) {
      return has_seen(view.seat_, *view.position_, place);
    });
  }
  std::string key(const Position& position, const UnseenCards& unseen) const {
    if constexpr (has_own_key<G>) return game_.key(position.own) + '/' + counts_key(unseen);
    return course_key(position.course, [](std::size_t) { return true; });
  }
  std::string full_key(const Position& position, const UnseenCards& unseen) const { return key(position, unseen); }

  // For those who look on: what happens is a card that goes to a pile, a move, or the end.

  std::vector<Zone> zones() const {
    std::vector<Zone> all;
    for (const OwnPile& pile : G::piles)
      for (std::size_t seat = 0; seat < (pile.sight == OwnPile::own ? seats_ : 1); ++seat)
        all.push_back({pile.name, pile.sight == OwnPile::own ? seat : no_seat});
    return all;
  }
  std::size_t zone_of(const Position& position, std::size_t place) const {
    if (place >= position.course.dealt.size()) return 0;
    if constexpr (moves_cards_on<G>) {
      const CardPlace now = game_.lies(position.own, place);
      return zone_of_pile(now.pile, now.seat);
    }
    return position.course.dealt[place].zone;
  }
  static constexpr int first_move = 100, ends = 200;
  static std::vector<Word> actions() {
    std::vector<Word> all{{ends, "ends"}};
    for (std::size_t pile = 0; pile < G::piles.size(); ++pile)
      all.push_back({static_cast<int>(pile), std::string(G::piles[0].name) + " to " + G::piles[pile].name});
    for (int move = 0; move < 64; ++move) {
      const auto at = static_cast<std::size_t>(move);
      const bool named = at < G::move_names.size();
      all.push_back({first_move + move, "chooses " + (named ? move_name(at) : std::to_string(move))});
    }
    return all;
  }
  template <class Happened>
  void tell(const NextStep& next, const Position& position, const std::vector<Card>& deck, Happened&& happened) const {
    const Course& course = position.course;
    if (next.what == NextStep::deal)
      happened(1, TableEvent{next.seat, static_cast<int>(next.place), &deck[course.dealt.size() - 1], 1});
    else if (next.what == NextStep::decide && course.whole)
      happened(1, move_event(next.seat, position));
  }
  TableEvent ending(const Outcome&) const { return {no_seat, ends}; }

 private:
  static TableEvent move_event(std::size_t seat, const Position& position) {
    const Course& course = position.course;
    TableEvent event{seat, first_move + course.moves[course.moves.size() - 1]};
    if constexpr (tells_amounts<G>) {
      event.action = first_move + static_cast<int>(position.last.what);
      event.value = position.last.amount.value_or(0);
    }
    return event;
  }
  static std::string move_name(std::size_t move) {
    if constexpr (G::move_names.size() > 0) return G::move_names[move];
    else return std::to_string(move);
  }
  static constexpr std::size_t first_of(OwnOutcome::Type type) {
    for (std::size_t i = 0; i < own_outcomes; ++i)
      if (G::outcomes[i].type == type) return i;
    return own_outcomes;
  }

  // The money of a seat: there is one such outcome, or one for each seat in their order.
  static std::size_t money_of(std::size_t seat) {
    std::size_t place = first_of(OwnOutcome::money);
    for (std::size_t i = place + 1; i < own_outcomes && seat > 0; ++i) {
      if (G::outcomes[i].type != OwnOutcome::money) continue;
      place = i;
      --seat;
    }
    return place;
  }

  // How many values an outcome has, counted from 0; 0 where it can be any number.
  std::int64_t values_of(const OwnOutcome& outcome) const {
    if (outcome.type == OwnOutcome::seat) return static_cast<std::int64_t>(seats_) + 1;
    return static_cast<std::int64_t>(detail::listed(outcome.choices).size());
  }

  std::size_t zone_of_pile(std::size_t pile, std::size_t seat) const {
    if (pile >= G::piles.size()) refuse_pile(pile);
    if (!belongs_to_seats(pile)) return first_zone_[pile];
    if (seat >= seats_) refuse_seat(pile);
    return first_zone_[pile] + seat;
  }
  static constexpr bool belongs_to_seats(std::size_t pile) { return G::piles[pile].sight == OwnPile::own; }
  // Apart, so that what is done for every card stays short.
  [[noreturn]] static void refuse_pile(std::size_t pile) {
    throw std::domain_error("there is no pile " + std::to_string(pile));
  }
  [[noreturn]] static void refuse_next(const NextStep& next) {
    throw std::domain_error(next.what == NextStep::decide
                                ? "there is no seat " + std::to_string(next.seat) + ", counted from 0, to decide"
                                : "next() gives deal_to(), decision() or game_over(), and nothing else");
  }
  [[noreturn]] static void refuse_seat(std::size_t pile) {
    throw std::domain_error(std::string("a card on the pile \"") + G::piles[pile].name + "\" must say of which seat");
  }

  // One of each kinds that are alike stands for all: an exact walk deals that one only.
  void stand_for_alike() {
    const std::vector<double>& copies = rules_.setting->copies();
    alike_copies_.assign(copies.size(), 0);
    for (std::size_t kind = 0; kind < copies.size(); ++kind) {
      std::size_t first = 0;
      while (likeness(static_cast<Card>(first)) != likeness(static_cast<Card>(kind))) ++first;
      stands_for_.push_back(static_cast<Card>(first));
      alike_copies_[first] += copies[kind];
    }
  }

  UnseenCards unseen_by(const Position& position, std::size_t seat) const {
    UnseenCards cards(alike_copies_);
    for (std::size_t place = 0; place < position.course.dealt.size(); ++place) {
      if (has_seen(seat, position, place)) cards.deal(stands_for_[position.course.dealt[place].card]);
      else cards.lay_down();
    }
    return cards;
  }
  // A card that was dealt in a seat's sight, or lies there now. Where nobody in particular asks, all are known.
  bool has_seen(std::size_t seat, const Position& position, std::size_t place) const {
    return seat == no_seat || is_in_sight(position.course.dealt[place].zone, seat) ||
           is_in_sight(zone_of(position, place), seat);
  }
  bool is_in_sight(std::size_t zone, std::size_t seat) const {
    std::size_t pile = G::piles.size() - 1;
    while (first_zone_[pile] > zone) --pile;
    if (G::piles[pile].sight == OwnPile::own) return zone == first_zone_[pile] + seat;
    return G::piles[pile].sight == OwnPile::open;
  }

  template <class Made>
  std::optional<Position> replayed(const View& seen, const std::vector<Card>& deck, bool sees_hands,
                                   Made&& made) const {
    std::optional<Position> again{std::in_place};
    const Course& wanted = seen.position_->course;
    const Course& course = again->course;
    while (course.dealt.size() < wanted.dealt.size() || course.moves.size() < wanted.moves.size()) {
      const NextStep now = next(*again);
      const std::size_t dealt = course.dealt.size(), at = course.moves.size();
      if (now.what == NextStep::deal && dealt < wanted.dealt.size() &&
          zone_of_pile(now.place, now.seat) == wanted.dealt[dealt].zone) {
        const bool known = sees_hands || has_seen(seen.seat_, *seen.position_, dealt);
        give(*again, now, known ? wanted.dealt[dealt].card : deck[dealt]);
      } else if (now.what == NextStep::decide && at < wanted.moves.size() && moves(*again).has(wanted.moves[at])) {
        made(*again, now.seat, wanted.moves[at]);
        move(*again, wanted.moves[at]);
      } else {
        return std::nullopt;
      }
    }
    return again;
  }

  static std::string counts_key(const UnseenCards& unseen) {
    std::string all;
    for (const double count : unseen.counts()) all += std::to_string(static_cast<std::size_t>(count)) + ',';
    return all;
  }
  // Which cards came, those of which `known(place)` is false as any, and which moves were made.
  template <class Known>
  std::string course_key(const Course& course, Known&& known) const {
    if (!course.whole) throw std::length_error("more than " + std::to_string(most_own_moves) + " moves to remember");
    std::string all;
    for (std::size_t i = 0; i < course.dealt.size(); ++i)
      all += (known(i) ? std::to_string(likeness(course.dealt[i].card)) : "?") + ',';
    all += '/';
    for (std::size_t i = 0; i < course.moves.size(); ++i) all += std::to_string(course.moves[i]) + ',';
    return all;
  }

  template <std::size_t... column>
  static void add_own(std::vector<Column<Outcome>>& all, std::index_sequence<column...>) {
    const auto words = [](const OwnOutcome& outcome) {
      std::vector<Word> all_words;
      for (const std::string& word : detail::listed(outcome.choices))
        all_words.push_back({static_cast<int>(all_words.size()), word});
      return all_words;
    };
    (all.push_back({G::outcomes[column].name, [](const Outcome& o) { return o.own[column]; },
                    words(G::outcomes[column]), G::outcomes[column].type == OwnOutcome::seat}),
     ...);
  }
  template <std::size_t... seat>
  static void add_scores(std::vector<Column<Outcome>>& all, std::index_sequence<seat...>) {
    static const std::array<std::string, most_players> names{("score_" + std::to_string(seat + 1))...};
    (all.push_back({names[seat].c_str(), [](const Outcome& o) { return o.score[seat]; }}), ...);
  }
  static std::vector<Column<Outcome>> all_columns() {
    std::vector<Column<Outcome>> all;
    add_own(all, std::make_index_sequence<own_outcomes>());
    add_scores(all, std::make_index_sequence<most_players>());
    return all;
  }

  Rules rules_;
  G game_;
  std::size_t seats_, cards_;
  std::array<std::size_t, G::piles.size()> first_zone_{};
  std::array<std::int64_t, own_outcomes> least_above_{};
  std::vector<Card> stands_for_;       // by kind
  std::vector<double> alike_copies_;
};

}  // namespace habanera
