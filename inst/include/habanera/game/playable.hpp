#pragma once

#include <algorithm>
#include <cstdint>
#include <map>
#include <memory>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/game/enumerating.hpp"
#include "habanera/game/table_recorder.hpp"
#include "habanera/game/trial.hpp"

namespace habanera {

// One game step by step, with all of its outcome, and where the cards lay after the step asked for.
struct ReplayedGame {
  std::vector<TableRecorder::Step> steps;
  std::vector<RowTally::Row> outcomes;  // of each round, in the order of the columns
  std::vector<std::vector<Card>> zones;
};

// A game with its rules, as all that runs games knows it: which game it is shows in its words alone.
class PlayableGame {
 public:
  using Names = std::vector<std::string>;  // of recorded columns

  virtual ~PlayableGame() = default;
  virtual Vocabulary words() const = 0;
  // Whether a trial may hold several rounds.
  virtual bool holds_rounds() const = 0;
  virtual std::unique_ptr<TrialRunner> runner(const Draw& draw, const Names& record) const = 0;
  // Whether the walk goes by positions that are remembered, and not deal by deal.
  virtual bool walks_by_memory(const Draw& draw) const = 0;
  virtual std::map<RowTally::Row, double> walk(const Draw& draw, const Names& record,
                                               const WorkBound& path_limit) const = 0;
  // Players who take long look at the sign, where there is one.
  virtual ReplayedGame replay(const std::vector<Card>& deck, std::uint64_t seed, std::uint64_t trial,
                              std::size_t kept_step, StopSign* sign) const = 0;
};

template <class Game>
class Playable : public PlayableGame {
  static_assert(GameRequirements<Game>::check());

 public:
  using Rules = typename Game::Rules;
  using Outcome = typename Game::Outcome;

  explicit Playable(Rules rules) : rules_(std::move(rules)) {}

  Vocabulary words() const override { return vocabulary_of(Game(rules_)); }
  bool holds_rounds() const override {
    if constexpr (plays_rounds<Game>) return Game(rules_).holds_rounds();
    return false;
  }

  std::unique_ptr<TrialRunner> runner(const Draw& draw, const Names& record) const override {
    return std::make_unique<GameRunner<Game>>(draw, rules_, places_of(record));
  }

  bool walks_by_memory(const Draw& draw) const override { return habanera::walks_by_memory(Game(rules_), draw); }

  std::map<RowTally::Row, double> walk(const Draw& draw, const Names& record,
                                       const WorkBound& path_limit) const override {
    return walk_games<Game>(draw, rules_, places_of(record), path_limit);
  }

  ReplayedGame replay(const std::vector<Card>& deck, std::uint64_t seed, std::uint64_t trial, std::size_t kept_step,
                      StopSign* sign) const override {
    Game game(rules_);
    RandomChance chance(seed, trial, lane::game);
    SeatLanes luck(seed, trial, sign);
    TableRecorder recorder(kept_step);
    std::vector<RowTally::Row> outcomes;
    play_trial(game, deck, chance, luck, recorder, [&](const Outcome& outcome) {
      RowTally::Row row;
      for (const auto& column : Outcome::columns()) row.push_back(column.read(outcome));
      outcomes.push_back(row);
    });
    return {recorder.steps(), outcomes, recorder.zones()};
  }

 private:
  static std::vector<std::size_t> places_of(const Names& record) {
    std::vector<std::size_t> places;
    const auto& known = Outcome::columns();
    for (const std::string& name : record) {
      const auto found =
          std::find_if(known.begin(), known.end(), [&](const auto& column) { return column.name == name; });
      if (found == known.end()) throw std::invalid_argument("there is no outcome called \"" + name + "\"");
      places.push_back(static_cast<std::size_t>(found - known.begin()));
    }
    return places;
  }

  Rules rules_;
};

}  // namespace habanera
