#pragma once

// Games simulated from C++ alone: a game, a deck, players, a seed and how many trials, in one call.

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/draw/draw.hpp"
#include "habanera/game/counting.hpp"
#include "habanera/game/playable.hpp"
#include "habanera/game/player.hpp"
#include "habanera/game/seated.hpp"
#include "habanera/own.hpp"
#include "habanera/run/blocks.hpp"

namespace habanera {

// What came of it: each different row of the recorded outcomes, how often, and the first trial that gave it.
struct GameCounts {
  std::vector<std::string> columns;
  std::vector<std::pair<RowTally::Row, RowTally::Entry>> rows;

  std::size_t place_of(const std::string& column) const {
    const auto found = std::find(columns.begin(), columns.end(), column);
    if (found == columns.end()) throw std::invalid_argument("there is no outcome called \"" + column + "\"");
    return static_cast<std::size_t>(found - columns.begin());
  }
  std::uint64_t entries() const {
    std::uint64_t all = 0;
    for (const auto& [row, entry] : rows) all += entry.n;
    return all;
  }
  // Of the entries that have a value.
  double mean(const std::string& column) const {
    const std::size_t place = place_of(column);
    double sum = 0, count = 0;
    for (const auto& [row, entry] : rows) {
      if (row[place] == no_value) continue;
      sum += static_cast<double>(row[place]) * static_cast<double>(entry.n);
      count += static_cast<double>(entry.n);
    }
    return sum / count;
  }
  // How many of the entries have this value.
  double share(const std::string& column, std::int64_t value) const {
    const std::size_t place = place_of(column);
    double count = 0;
    for (const auto& [row, entry] : rows)
      if (row[place] == value) count += static_cast<double>(entry.n);
    return count / static_cast<double>(entries());
  }
};

// Trials 1 to `trials` of a game. `deck` holds kinds of cards by number, in the order in which they lie before they are
// shuffled, fairly; `record` names outcomes. The same seed gives the same counts on any number of threads.
inline GameCounts simulate(const PlayableGame& game, const std::vector<Card>& deck, std::uint64_t seed,
                           std::uint64_t trials, const std::vector<std::string>& record, unsigned threads = 1) {
  const auto runner = game.runner(Draw(DrawSpec{deck, deck.size(), false}), record);
  const Crew crew(threads, [] {});
  const auto counter = count_games(1, trials, crew, [&] { return GameCounter(*runner, seed); });
  return {record, counter.tally().entries()};
}

// How a game of one's own is set up: its rules by name, attributes of its cards, and who sits there, "random" or a
// player of the game's own, one for each seat or one for all.
struct OwnTable {
  Setting::Values setting;
  std::vector<std::string> players{"random"};
};

// The same of a game of one's own, `simulate<Game>(table, deck, seed, trials)`: all of its outcomes are recorded.
template <class G>
GameCounts simulate(OwnTable table, const std::vector<Card>& deck, std::uint64_t seed, std::uint64_t trials,
                    unsigned threads = 1) {
  using Game = Own<G>;
  auto& copies = table.setting.copies;
  if (copies.empty()) {
    copies.resize(deck.empty() ? 0 : *std::max_element(deck.begin(), deck.end()) + std::size_t{1});
    for (const Card card : deck) ++copies[card];
  }
  for (const OwnRule& rule : G::rules)
    if (rule.type != OwnRule::choice) table.setting.numbers.emplace(rule.name, rule.usual);
    else table.setting.words.emplace(rule.name, detail::listed(rule.choices).front());
  const auto setting = std::make_shared<const Setting>(table.setting);
  const auto player = [&](std::size_t seat) -> std::shared_ptr<const Player<typename Game::View>> {
    const std::string& name = table.players[seat % table.players.size()];
    for (std::size_t i = 0; i < G::players.size(); ++i)
      if (name == G::players.begin()[i].name) return std::make_shared<OwnGamePlayer<G>>(G(*setting), i);
    if (name == "random") return std::make_shared<RandomPlayer<typename Game::View>>();
    throw std::invalid_argument("there is no player called \"" + name + "\"");
  };
  typename Seated<Game>::Rules rules{{setting}, {}};
  for (std::size_t seat = 0; seat < setting->seats(); ++seat) rules.players.push_back(player(seat));
  std::vector<std::string> record;
  for (const OwnOutcome& outcome : G::outcomes) record.push_back(outcome.name);
  return simulate(Playable<Seated<Game>>(rules), deck, seed, trials, record, threads);
}

}  // namespace habanera
