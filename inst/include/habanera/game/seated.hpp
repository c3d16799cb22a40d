#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

#include "habanera/game/play_out.hpp"
#include "habanera/game/player.hpp"
#include "habanera/game/remembered_walk.hpp"
#include "habanera/game/stock.hpp"
#include "habanera/game/vocabulary.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// A game whose decisions are told with what else was open notes them in its position.
template <class Game, class = void>
inline constexpr bool notes_decisions = false;
template <class Game>
inline constexpr bool notes_decisions<Game, std::void_t<decltype(&Game::decides)>> = true;

// A game with decisions and its players, as a game that is played on a shuffled deck: so that whatever runs games
// runs it.
template <class Game>
class Seated {
 public:
  using View = typename Game::View;
  using SeatPlayer = Player<View>;

  struct Rules {
    typename Game::Rules game;
    std::vector<std::shared_ptr<const SeatPlayer>> players;  // one for each seat
  };
  struct Outcome {
    typename Game::Outcome game;
    Decisions decisions;
    static const std::vector<Column<Outcome>>& columns() {
      static const std::vector<Column<Outcome>> all = all_columns();
      return all;
    }
  };

  explicit Seated(Rules rules) : rules_(std::move(rules)), game_(rules_.game) {
    for (const auto& player : rules_.players) players_.push_back(player->copy());
    if (players_.size() != game_.seats())
      throw std::invalid_argument("there are " + std::to_string(players_.size()) + " players for " +
                                  std::to_string(game_.seats()) + " seats");
  }

  const Rules& rules() const { return rules_; }
  static std::vector<Word> actions() { return Game::actions(); }
  std::vector<Zone> zones() const { return game_.zones(); }
  std::uint32_t likeness(Card card) const { return game_.likeness(card); }

  bool holds_rounds() const { return game_.holds_rounds(); }

  // Calls `ended(outcome)` after each round.
  template <class Chance, class Luck, class Watcher, class Ended>
  void play(const std::vector<Card>& deck, Chance&, Luck& luck, Watcher& watcher, Ended&& ended) {
    play_from(ShuffledStock(deck, game_.burned()), deck, luck, watcher, ended);
  }

  // The same where cards are settled as they are needed.
  static constexpr bool deals_late = true;
  template <class Luck, class Watcher, class Ended>
  void play_late(LateDeal& late, Luck& luck, Watcher& watcher, Ended&& ended) {
    play_from(ShuffledStock(late, game_.burned()), late.deck(), luck, watcher, ended);
  }

  // Whether the law of its outcomes can be had by positions that are remembered, and that law: see RememberedWalk.
  bool walks_by_memory() const {
    return std::all_of(players_.begin(), players_.end(), [](const auto& player) { return player->decides_by_view(); });
  }
  template <class Use>
  void walk_by_memory(const std::vector<double>& counts, const std::vector<std::size_t>& columns,
                      const WorkBound& bound, Use&& use) const {
    const bool by_decisions = std::any_of(columns.begin(), columns.end(), [](std::size_t column) {
      return column >= Game::Outcome::column_count;
    });
    RememberedWalk<Game> walk(game_, players_, by_decisions, bound);
    walk(counts, [&](const auto& position, const Decisions& decisions, double chance) {
      use(Outcome{game_.outcome(position), decisions}, chance);
    });
  }

 private:
  template <class Luck, class Watcher, class Ended>
  void play_from(ShuffledStock stock, const std::vector<Card>& deck, Luck& luck, Watcher& watcher, Ended& ended) {
    typename Game::Position position = game_.start(stock.gone());
    Lanes<Luck> lanes;
    for (const auto& player : players_) player->begins();
    const Table table{game_, position, deck};
    if constexpr (watches<Watcher>) watcher.laid_out(deck, game_.cards_used(), table);
    for (std::uint64_t rounds = 0;;) {
      rounds = play_round(deck, position, stock, luck, lanes, table, rounds, watcher, ended);
      if (!game_.plays_on(stock.gone())) break;
      position = game_.start(stock.gone());
    }
    if constexpr (watches<Watcher>) watcher.cleared();
  }

  template <class Watcher>
  static constexpr bool watches = !std::is_same_v<Watcher, Silent>;

  // The luck of each seat that has decided something.
  template <class Luck>
  using Lanes = std::array<std::optional<decltype(std::declval<Luck&>().of(0))>, most_players>;

  // Rounds count on from those `before`; returns how many there are after it.
  template <class Luck, class Seen, class Watcher, class Ended>
  std::uint64_t play_round(const std::vector<Card>& deck, typename Game::Position& position, ShuffledStock& stock,
                           Luck& luck, Lanes<Luck>& lanes, const Seen& table, std::uint64_t before, Watcher& watcher,
                           Ended& ended) {
    std::uint64_t rounds = before;
    const auto choose = [&](std::size_t seat, const auto& now, Moves moves) {
      if (!lanes[seat]) lanes[seat].emplace(luck.of(seat));
      const std::size_t move = players_[seat]->choose(game_.view(now, seat), moves, *lanes[seat]);
      if constexpr (watches<Watcher> && notes_decisions<Game>) game_.decides(position, move, moves);
      return move;
    };
    const Decisions decisions = play_out(game_, position, stock, choose, [&](const Next& next, const auto& now) {
      if constexpr (watches<Watcher>) game_.tell(next, now, deck, [&](std::uint64_t round, const TableEvent& event) {
        watcher.round_begins(rounds = before + round);
        watcher.happened(table, event);
      });
    });
    const Outcome outcome{game_.outcome(position), decisions};
    if constexpr (watches<Watcher>) watcher.happened(table, game_.ending(outcome.game));
    ended(outcome);
    return rounds;
  }

  // Where the cards lie, for those who look on.
  struct Table {
    const Game& game;
    const typename Game::Position& position;
    const std::vector<Card>& deck;
    std::size_t zones() const { return game.zones().size(); }
    template <class Use>
    void each_card(std::size_t zone, Use&& use) const {
      for (std::size_t place = 0; place < game.cards_used(); ++place)
        if (game.zone_of(position, place) == zone) use(deck[place]);
    }
  };

  template <std::size_t seat>
  static void add_decisions(std::vector<Column<Outcome>>& all) {
    static const std::string made = "decisions_" + std::to_string(seat + 1);
    static const std::string forced = "forced_" + std::to_string(seat + 1);
    all.push_back({made.c_str(), [](const Outcome& o) { return o.decisions.made[seat]; }});
    all.push_back({forced.c_str(), [](const Outcome& o) { return o.decisions.forced[seat]; }});
  }
  template <std::size_t... seat>
  static void add_all_decisions(std::vector<Column<Outcome>>& all, std::index_sequence<seat...>) {
    (add_decisions<seat>(all), ...);
  }
  // How the game reads a column, found once when the program starts.
  template <std::size_t column>
  static inline const auto own_read = Game::Outcome::columns()[column].read;
  template <std::size_t... column>
  static void add_own(std::vector<Column<Outcome>>& all, std::index_sequence<column...>) {
    (all.push_back({Game::Outcome::columns()[column].name,
                    [](const Outcome& o) { return own_read<column>(o.game); },
                    Game::Outcome::columns()[column].words, Game::Outcome::columns()[column].is_seat}),
     ...);
  }
  static std::vector<Column<Outcome>> all_columns() {
    std::vector<Column<Outcome>> all;
    add_own(all, std::make_index_sequence<Game::Outcome::column_count>());
    add_all_decisions(all, std::make_index_sequence<most_players>());
    return all;
  }

  Rules rules_;
  Game game_;
  std::vector<std::unique_ptr<SeatPlayer>> players_;
};

}  // namespace habanera
