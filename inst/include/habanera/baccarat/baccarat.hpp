#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <cstdlib>
#include <string>
#include <utility>
#include <vector>

#include "habanera/baccarat/law.hpp"
#include "habanera/baccarat/rules.hpp"
#include "habanera/baccarat/side_bets.hpp"
#include "habanera/chance/work_bound.hpp"
#include "habanera/count/bettor.hpp"
#include "habanera/game/moves.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/table_event.hpp"
#include "habanera/game/unseen.hpp"
#include "habanera/game/view.hpp"
#include "habanera/game/vocabulary.hpp"

namespace habanera {

// Two hands of two or three cards by fixed rules, and bets on which comes nearer to nine.
class Baccarat : public NobodyDecides {
 public:
  using Rules = BaccaratRules;

  struct Position {
    std::size_t first_place = 0;  // where the round's cards begin
    BaccaratHand player, banker;
    std::uint8_t player_total = 0, banker_total = 0;
    enum Hand : std::uint8_t { players, bankers, nobodys } to = players;  // who gets the next card
    std::int64_t bet = 1;
    std::size_t drawn() const { return player.size() + banker.size(); }
  };
  using View = NothingSeen;

  struct Outcome {
    enum Winner : int { player, banker, tie };
    BaccaratResult result;
    std::int64_t net = 0, net_player = 0, net_banker = 0, net_tie = 0;
    std::array<std::int64_t, most_baccarat_side_bets> side{};
    Winner winner() const {
      return result.player == result.banker ? tie : result.player > result.banker ? player : banker;
    }
    static constexpr std::size_t column_count = 9 + most_baccarat_side_bets;
    static const std::vector<Column<Outcome>>& columns() {
      static const std::vector<Column<Outcome>> all = all_columns();
      return all;
    }

   private:
    template <std::size_t bet>
    static void add_side(std::vector<Column<Outcome>>& all) {
      static const std::string name = "side_" + std::to_string(bet + 1);
      all.push_back({name.c_str(), [](const Outcome& o) { return o.side[bet]; }});
    }
    template <std::size_t... bet>
    static void add_sides(std::vector<Column<Outcome>>& all, std::index_sequence<bet...>) {
      (add_side<bet>(all), ...);
    }
    static std::vector<Column<Outcome>> all_columns() {
      std::vector<Column<Outcome>> all{
          {"net", [](const Outcome& o) { return o.net; }},
          {"net_player", [](const Outcome& o) { return o.net_player; }},
          {"net_banker", [](const Outcome& o) { return o.net_banker; }},
          {"net_tie", [](const Outcome& o) { return o.net_tie; }},
          {"winner", [](const Outcome& o) { return std::int64_t{o.winner()}; },
           {{player, "player"}, {banker, "banker"}, {tie, "tie"}}},
          {"player_total", [](const Outcome& o) { return std::int64_t{o.result.player}; }},
          {"banker_total", [](const Outcome& o) { return std::int64_t{o.result.banker}; }},
          {"margin", [](const Outcome& o) { return std::abs(std::int64_t{o.result.player} - o.result.banker); }},
          {"cards_used", [](const Outcome& o) { return static_cast<std::int64_t>(o.result.cards()); }}};
      add_sides(all, std::make_index_sequence<most_baccarat_side_bets>());
      return all;
    }
  };

  enum Action : int { player_gets, banker_gets, player_wins, banker_wins, nobody_wins };
  static std::vector<Word> actions() {
    return {{player_gets, "player_gets"}, {banker_gets, "banker_gets"}, {player_wins, "player_wins"},
            {banker_wins, "banker_wins"}, {nobody_wins, "nobody_wins"}};
  }
  std::vector<Zone> zones() const { return {{"shoe"}, {"banker"}, {"player", 0}, {"discards"}}; }
  std::vector<std::size_t> collected_zones() const { return {3, 2, 1}; }

  explicit Baccarat(Rules rules) : rules_(std::move(rules)), side_bets_(rules_) { check_baccarat_rules(rules_); }

  std::size_t cards_used() const { return rules_.cards; }
  std::uint32_t likeness(Card card) const { return rules_.alike[card]; }

  bool holds_rounds() const { return rules_.cut_after > 0; }
  std::size_t burned() const { return rules_.burn; }
  bool plays_on(std::size_t gone) const { return gone < rules_.cut_after && gone + 6 <= rules_.cards; }

  Position start(std::size_t gone) const {
    Position position;
    position.first_place = gone;
    return position;
  }
  // With so many stakes on all bets.
  Position start(std::size_t gone, const SeatBet& seat) const {
    Position position = start(gone);
    position.bet = seat.bet;
    return position;
  }
  std::int64_t net_of(const Outcome& outcome, std::size_t) const { return outcome.net; }
  std::size_t cards_at_first() const { return 4; }

  [[gnu::always_inline]] NextStep next(const Position& position) const {
    return {position.to == Position::nobodys ? NextStep::over : NextStep::deal};
  }
  [[gnu::always_inline]] void give(Position& position, const NextStep&, Card card) const {
    if (position.to == Position::players) {
      position.player.add(card);
      position.player_total = rules_.with(position.player_total, card);
    } else {
      position.banker.add(card);
      position.banker_total = rules_.with(position.banker_total, card);
    }
    position.to = goes_to(position);
  }
  View view(const Position&, std::size_t) const { return {}; }

  Outcome outcome(const Position& position) const {
    Outcome outcome = money(result(position), [&](std::size_t bet, const BaccaratResult& came) {
      return side_bets_.net(bet, came, position.player, position.banker);
    });
    for (auto* net : {&outcome.net, &outcome.net_player, &outcome.net_banker, &outcome.net_tie})
      *net *= position.bet;
    for (std::size_t bet = 0; bet < side_bets_.size(); ++bet) outcome.side[bet] *= position.bet;
    return outcome;
  }

  // The law of a round: see BaccaratLaw.
  static constexpr bool round_law_is_quick = true;
  template <class Players, class Use>
  void round_law(const std::vector<double>& counts, const Players&, const WorkBound&, Use&& use) const {
    BaccaratLaw(rules_, side_bets_)(counts, [&](const BaccaratResult& result, std::size_t player_pair,
                                                std::size_t banker_pair, double chance) {
      use(money(result, [&](std::size_t bet, const BaccaratResult& came) {
            return rules_.side_bets[bet].asks_all_cards() ? 0 : side_bets_.net(bet, came, player_pair, banker_pair);
          }), chance);
    });
  }

  std::string full_key(const Position& position, const UnseenCards& unseen) const {
    std::string all = std::to_string(unseen.next_place()) + "," + std::to_string(position.first_place);
    for (const auto* hand : {&position.player, &position.banker}) {
      all += "/";
      for (const Card card : *hand) all += std::to_string(card) + ",";
    }
    if (holds_rounds())
      for (const double count : unseen.counts()) all += std::to_string(static_cast<int>(count)) + ",";
    return all;
  }

  // For those who look on.

  std::size_t zone_of(const Position& position, std::size_t place) const {
    if (place < position.first_place) return 3;
    const std::size_t drawn = place - position.first_place;
    if (drawn >= position.drawn()) return 0;
    const bool players = drawn < 4 ? drawn % 2 == 0 : drawn == 4 && position.player.size() == 3;
    return players ? 2 : 1;
  }

  template <class Happened>
  void tell(const NextStep& next, const Position& position, const std::vector<Card>& deck, Happened&& happened) const {
    if (next.what != NextStep::deal) return;
    const std::size_t place = position.first_place + position.drawn() - 1;
    const bool players = zone_of(position, place) == 2;
    happened(1, TableEvent{players ? 0 : no_seat, players ? player_gets : banker_gets, &deck[place], 1,
                           players ? position.player_total : position.banker_total});
  }
  TableEvent ending(const Outcome& outcome) const {
    const int action = outcome.winner() == Outcome::tie ? nobody_wins :
                       outcome.winner() == Outcome::player ? player_wins : banker_wins;
    return {no_seat, action, nullptr, 0, outcome.net};
  }

 private:
  // Who gets the next card.
  [[gnu::always_inline]] typename Position::Hand goes_to(const Position& position) const {
    const std::size_t drawn = position.drawn(), banker_total = position.banker_total;
    if (drawn < 4) return drawn % 2 == 0 ? Position::players : Position::bankers;
    if (drawn == 4) {
      if (rules_.is_natural(position.player_total, banker_total)) return Position::nobodys;
      if (rules_.player_draws[position.player_total]) return Position::players;
    }
    if (position.banker.size() == 3) return Position::nobodys;
    const std::size_t third = position.player.size() == 3 ? rules_.values[position.player[2]] : baccarat_totals;
    return rules_.banker_draws[banker_total][third] ? Position::bankers : Position::nobodys;
  }

  BaccaratResult result(const Position& position) const {
    return {position.player_total, position.banker_total, position.player.size() == 3,
            position.banker.size() == 3};
  }

  template <class SideNet>
  Outcome money(const BaccaratResult& result, SideNet&& side_net) const {
    Outcome outcome;
    outcome.result = result;
    outcome.net_player = rules_.net_player(result);
    outcome.net_banker = rules_.net_banker(result);
    outcome.net_tie = rules_.net_tie(result);
    for (std::size_t bet = 0; bet < side_bets_.size(); ++bet) outcome.side[bet] = side_net(bet, result);
    switch (rules_.bet_on) {
      case Rules::on_player: outcome.net = outcome.net_player; break;
      case Rules::on_banker: outcome.net = outcome.net_banker; break;
      case Rules::on_tie: outcome.net = outcome.net_tie; break;
      default: outcome.net = outcome.side[rules_.bet_on - Rules::on_side];
    }
    return outcome;
  }

  Rules rules_;
  BaccaratSideBets side_bets_;
};

}  // namespace habanera
