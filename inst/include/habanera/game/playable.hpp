#pragma once

#include <cstdint>
#include <map>
#include <memory>
#include <vector>

#include "habanera/game/enumerating.hpp"
#include "habanera/game/played.hpp"
#include "habanera/game/table_recorder.hpp"

namespace habanera {

// A game of which all can be asked that is asked of games.
template <class Game>
class Playable : public Played<Game> {
 public:
  using typename Played<Game>::Rules;
  using typename Played<Game>::Outcome;
  using Names = PlayableGame::Names;

  using Played<Game>::Played;

  bool walks_by_memory(const Draw& draw) const override {
    return habanera::walks_by_memory(Game(this->rules()), draw);
  }

  std::map<RowTally::Row, double> walk(const Draw& draw, const Names& record,
                                       const WorkBound& path_limit) const override {
    return walk_games<Game>(draw, this->rules(), this->places_of(record), path_limit);
  }

  ReplayedGame replay(const std::vector<Card>& deck, std::uint64_t seed, std::uint64_t trial, std::size_t kept_step,
                      StopSign* sign) const override {
    Game game(this->rules());
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
};

}  // namespace habanera
