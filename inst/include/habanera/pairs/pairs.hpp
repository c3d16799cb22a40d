#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/game/moves.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/table_event.hpp"
#include "habanera/game/unseen.hpp"
#include "habanera/game/vocabulary.hpp"
#include "habanera/pairs/position.hpp"

namespace habanera {

struct PairsRules {
  std::vector<std::uint16_t> mates;  // for each kind of card its class
  std::vector<double> copies;        // how many of each kind lie on the table
  std::size_t pairs = 15;
  std::size_t seats = 2;
  bool again = true;  // who found a pair turns again
};

// Pairs face down on a table: two are turned a turn, and two of a class are won. All that is turned is seen by all.
class Pairs : public OneRound {
 public:
  using Rules = PairsRules;
  using Position = PairsPosition;
  using View = PairsView;
  static constexpr std::uint16_t nobody_knows = Position::nobody_knows;
  static constexpr std::int64_t whole_score = 60;  // can be shared by up to six

  struct Outcome {
    std::int64_t turns, winner;
    std::array<std::int64_t, most_players> won;
    std::int64_t turns_again;
    std::array<std::int64_t, most_players> score;  // a win is whole_score, shared by those who have as many
    static constexpr std::size_t column_count = 15;
    static const std::vector<Column<Outcome>>& columns() {
      static const std::vector<Column<Outcome>> all{
          {"turns", [](const Outcome& o) { return o.turns; }},
          {"winner", [](const Outcome& o) { return o.winner; }, {}, true},
          {"pairs_1", [](const Outcome& o) { return o.won[0]; }},
          {"pairs_2", [](const Outcome& o) { return o.won[1]; }},
          {"pairs_3", [](const Outcome& o) { return o.won[2]; }},
          {"pairs_4", [](const Outcome& o) { return o.won[3]; }},
          {"pairs_5", [](const Outcome& o) { return o.won[4]; }},
          {"pairs_6", [](const Outcome& o) { return o.won[5]; }},
          {"turns_again", [](const Outcome& o) { return o.turns_again; }},
          {"score_1", [](const Outcome& o) { return o.score[0]; }},
          {"score_2", [](const Outcome& o) { return o.score[1]; }},
          {"score_3", [](const Outcome& o) { return o.score[2]; }},
          {"score_4", [](const Outcome& o) { return o.score[3]; }},
          {"score_5", [](const Outcome& o) { return o.score[4]; }},
          {"score_6", [](const Outcome& o) { return o.score[5]; }}};
      return all;
    }
  };

  enum Action : int { turns_first, turns_second, wins_pair, wins, ties };
  static std::vector<Word> actions() {
    return {{turns_first, "turns_first"}, {turns_second, "turns_second"}, {wins_pair, "wins_pair"}, {wins, "wins"},
            {ties, "ties"}};
  }
  std::vector<Zone> zones() const {
    std::vector<Zone> all{{"table"}};
    for (std::size_t seat = 0; seat < rules_.seats; ++seat) all.push_back({"won", seat});
    return all;
  }

  explicit Pairs(Rules rules) : rules_(std::move(rules)) {
    if (rules_.seats < 1 || rules_.seats > 6)
      throw std::invalid_argument("pairs are played by 1 to 6 seats, not " + std::to_string(rules_.seats));
    if (rules_.pairs < 1 || cards_used() > most_places)
      throw std::invalid_argument("there are 1 to 26 pairs, not " + std::to_string(rules_.pairs));
  }

  std::size_t seats() const { return rules_.seats; }
  std::size_t cards_used() const { return 2 * rules_.pairs; }
  // All are turned in the end.
  std::size_t cards_at_first() const { return cards_used(); }
  std::uint32_t likeness(Card card) const { return rules_.mates[card]; }

  Position start(std::size_t = 0) const {
    Position position;
    position.seen.fill(nobody_knows);
    position.lying = Moves::below(cards_used());
    return position;
  }

  NextStep next(const Position& position) const {
    if (position.lying.empty()) return {NextStep::over, 0, 0};
    if (position.chosen != most_places) return {NextStep::turn, position.seat, position.chosen};
    return {NextStep::decide, position.seat};
  }

  Moves moves(const Position& position) const {
    Moves all = position.lying;
    if (position.second_card()) all.remove(position.first);
    return all;
  }

  void move(Position& position, std::size_t place) const { position.chosen = place; }

  // The card that was chosen is turned.
  void give(Position& position, const NextStep& next, Card card) const {
    position.chosen = most_places;
    position.seen[next.place] = rules_.mates[card];
    position.when[next.place] = ++position.sightings;
    position.latest[position.sightings % Position::kept_sightings] = static_cast<std::uint8_t>(next.place);
    if (!position.second_card()) {
      position.first = next.place;
      return;
    }
    end_turn(position, next.place);
  }

  View view(const Position& position, std::size_t) const { return View(position); }
  // Nothing in a position is hidden from a seat, so that it is the same on any deal.
  std::optional<Position> redealt(const View& view, const std::vector<Card>&) const { return *view.table_; }
  UnseenCards unseen(const View& view, bool = false) const { return unseen(*view.table_); }
  Card stands_for(Card card) const { return card; }
  std::string key(const View& view) const { return key(*view.table_, unseen(view)); }

  Outcome outcome(const Position& position) const {
    Outcome outcome{position.turns, 0, position.won, position.turns_again, {}};
    const std::size_t best = leaders(position);
    for (std::size_t seat = 0; seat < rules_.seats; ++seat) {
      if (!leads(position, seat)) continue;
      outcome.score[seat] = whole_score / static_cast<std::int64_t>(best);
      if (best == 1) outcome.winner = static_cast<std::int64_t>(seat) + 1;
    }
    return outcome;
  }

  // For those who play it through: alone, each turn costs one; of several seats it is the share of a win.
  double worth(const Position& position, std::size_t seat) const {
    if (rules_.seats == 1) return -static_cast<double>(position.turns);
    if (!position.lying.empty() || !leads(position, seat)) return 0;
    return 1 / static_cast<double>(leaders(position));
  }

  UnseenCards unseen(const Position& position) const {
    std::vector<double> counts(rules_.copies.size(), 0);
    std::vector<Card> kind_of(rules_.copies.size(), 0);  // one of each class stands for all
    for (std::size_t kind = rules_.copies.size(); kind-- > 0;) kind_of[rules_.mates[kind]] = static_cast<Card>(kind);
    for (std::size_t kind = 0; kind < counts.size(); ++kind) counts[kind_of[rules_.mates[kind]]] += rules_.copies[kind];
    UnseenCards cards(counts);
    for (std::size_t place = 0; place < cards_used(); ++place)
      if (position.seen[place] != nobody_knows) cards.turn(place, kind_of[position.seen[place]]);
    return cards;
  }

  // Places that were never turned lead on alike, and so do classes of which no card was: the first stands for all.
  std::size_t like_move(const Position& position, std::size_t place) const {
    if (position.seen[place] != nobody_knows) return place;
    std::size_t like = 0;
    while (!position.lies(like) || position.seen[like] != nobody_knows) ++like;
    return like;
  }
  Card like_kind(const Position& position, const UnseenCards& unseen, Card kind) const {
    const auto was_turned = [&](Card of) {
      return std::find(position.seen.begin(), position.seen.end(), rules_.mates[of]) != position.seen.end();
    };
    if (was_turned(kind)) return kind;
    for (Card other = 0; other < kind; ++other)
      if (unseen.counts()[other] == unseen.counts()[kind] && !was_turned(other)) return other;
    return kind;
  }

  // What is still to come depends on whose turn it is, on what lies turned and on how many pairs each seat has, but not
  // on which classes of cards these are, nor where they lie.
  std::string key(const Position& position, const UnseenCards&) const {
    std::string all{static_cast<char>(position.seat)};
    for (std::size_t seat = 0; seat < rules_.seats; ++seat) all += static_cast<char>(position.won[seat]);
    if (position.chosen != most_places) all += position.seen[position.chosen] == nobody_knows ? '?' : '!';
    std::vector<std::array<std::uint8_t, 4>> classes(rules_.copies.size());
    for (std::size_t place = 0; place < cards_used(); ++place) {
      if (position.seen[place] == nobody_knows) continue;
      auto& found = classes[position.seen[place]];
      ++found[position.lies(place) ? 0 : 1];
      found[2] = static_cast<std::uint8_t>(found[2] | (place == position.first) | (place == position.chosen) << 1);
    }
    for (std::size_t kind = 0; kind < rules_.copies.size(); ++kind)
      classes[rules_.mates[kind]][3] += static_cast<std::uint8_t>(rules_.copies[kind]);
    std::sort(classes.begin(), classes.end());
    for (const auto& found : classes)
      if (found[0] + found[1] > 0) all.append(found.begin(), found.end());
    return all;
  }
  // The same with the outcome so far.
  std::string full_key(const Position& position, const UnseenCards& unseen) const {
    return key(position, unseen) + "/" + std::to_string(position.turns) + "/" + std::to_string(position.turns_again);
  }

  // For those who look on.

  std::size_t zone_of(const Position& position, std::size_t place) const { return position.won_by[place]; }

  template <class Happened>
  void tell(const NextStep& next, const Position& position, const std::vector<Card>& deck, Happened&& happened) const {
    if (next.what != NextStep::turn) return;
    const bool first = position.second_card();
    const auto round = static_cast<std::uint64_t>(position.turns + first);
    happened(round, TableEvent{next.seat, first ? turns_first : turns_second, &deck[next.place], 1});
    if (!first && position.won_by[next.place] != 0) happened(round, TableEvent{next.seat, wins_pair});
  }
  TableEvent ending(const Outcome& outcome) const {
    if (outcome.winner == 0) return {no_seat, ties};
    return {static_cast<std::size_t>(outcome.winner - 1), wins};
  }

 private:
  bool leads(const Position& position, std::size_t seat) const {
    return position.won[seat] == *std::max_element(position.won.begin(), position.won.end());
  }
  std::size_t leaders(const Position& position) const {
    std::size_t best = 0;
    for (std::size_t seat = 0; seat < rules_.seats; ++seat) best += leads(position, seat);
    return best;
  }

  void end_turn(Position& position, std::size_t place) const {
    const bool alike = position.seen[place] == position.seen[position.first];
    ++position.turns;
    if (alike) {
      for (const std::size_t won : {position.first, place}) {
        position.won_by[won] = static_cast<std::uint8_t>(position.seat + 1);
        position.lying.remove(won);
      }
      ++position.won[position.seat];
    }
    position.first = most_places;
    position.turns_again += alike && rules_.again && !position.lying.empty();
    if (!alike || !rules_.again) position.seat = position.seat + 1 == rules_.seats ? 0 : position.seat + 1;
  }

  Rules rules_;
};

}  // namespace habanera
