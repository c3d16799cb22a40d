#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

#include "habanera/game/play_out.hpp"
#include "habanera/game/player.hpp"
#include "habanera/game/stock.hpp"
#include "habanera/game/vocabulary.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

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

  template <class Chance, class Luck, class Watcher>
  Outcome play(const std::vector<Card>& deck, Chance&, Luck& luck, Watcher& watcher) {
    typename Game::Position position = game_.start();
    ShuffledStock stock(deck);
    auto lanes = lanes_of(luck, std::make_index_sequence<most_players>());
    for (const auto& player : players_) player->begins();
    const auto choose = [&](std::size_t seat, const auto& now, Moves moves) {
      return players_[seat]->choose(game_.view(now, seat), moves, lanes[seat]);
    };
    const Table table{game_, position, deck};
    if constexpr (watches<Watcher>) watcher.laid_out(deck, game_.cards_used(), table);
    const Decisions decisions = play_out(game_, position, stock, choose, [&](const Next& next, const auto& now) {
      if constexpr (watches<Watcher>) game_.tell(next, now, deck, [&](std::uint64_t round, const TableEvent& event) {
        watcher.round_begins(round);
        watcher.happened(table, event);
      });
    });
    const typename Game::Outcome outcome = game_.outcome(position);
    if constexpr (watches<Watcher>) {
      watcher.happened(table, game_.ending(outcome));
      watcher.cleared();
    }
    return {outcome, decisions};
  }

 private:
  template <class Watcher>
  static constexpr bool watches = !std::is_same_v<Watcher, Silent>;

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

  template <class Luck, std::size_t... seat>
  static auto lanes_of(Luck& luck, std::index_sequence<seat...>) {
    return std::array<decltype(luck.of(0)), sizeof...(seat)>{luck.of(seat)...};
  }

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
  template <std::size_t... column>
  static void add_own(std::vector<Column<Outcome>>& all, std::index_sequence<column...>) {
    (all.push_back({Game::Outcome::columns()[column].name,
                    [](const Outcome& o) { return Game::Outcome::columns()[column].read(o.game); },
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
