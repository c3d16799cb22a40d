#pragma once

#include <algorithm>
#include <cstdint>
#include <map>
#include <memory>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/chance/work_bound.hpp"
#include "habanera/game/table_recorder.hpp"
#include "habanera/game/trial.hpp"
#include "habanera/game/vocabulary.hpp"

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

// A game that is played, trial after trial: what most is asked of, and what is compiled soonest. It can be neither
// walked nor looked at step by step; Playable can.
template <class Game>
class Played : public PlayableGame {
  static_assert(GameRequirements<Game>::check());

 public:
  using Rules = typename Game::Rules;
  using Outcome = typename Game::Outcome;

  explicit Played(Rules rules) : rules_(std::move(rules)) {}

  Vocabulary words() const override { return vocabulary_of(Game(rules_)); }
  bool holds_rounds() const override {
    if constexpr (plays_rounds<Game>) return Game(rules_).holds_rounds();
    return false;
  }
  std::unique_ptr<TrialRunner> runner(const Draw& draw, const Names& record) const override {
    return std::make_unique<GameRunner<Game>>(draw, rules_, places_of(record));
  }

  bool walks_by_memory(const Draw&) const override { refuse(); }
  std::map<RowTally::Row, double> walk(const Draw&, const Names&, const WorkBound&) const override { refuse(); }
  ReplayedGame replay(const std::vector<Card>&, std::uint64_t, std::uint64_t, std::size_t, StopSign*) const override {
    refuse();
  }

 protected:
  const Rules& rules() const { return rules_; }
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

 private:
  [[noreturn]] static void refuse() { throw std::logic_error("this game is compiled to be played alone"); }

  Rules rules_;
};

}  // namespace habanera
