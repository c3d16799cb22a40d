#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <type_traits>
#include <utility>
#include <vector>

#include "habanera/chance/random.hpp"
#include "habanera/draw/draw.hpp"
#include "habanera/game/entries.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/requirements.hpp"
#include "habanera/game/stock.hpp"
#include "habanera/run/row_tally.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// Reads the recorded columns of an outcome, which are named by their places.
template <class Outcome>
class ColumnReader {
 public:
  explicit ColumnReader(const std::vector<std::size_t>& columns) {
    for (const std::size_t column : columns) reads_.push_back(Outcome::columns()[column].read);
  }
  void operator()(const Outcome& outcome, RowTally::Row& row) const {
    row.resize(reads_.size());
    for (std::size_t i = 0; i < reads_.size(); ++i) row[i] = reads_[i](outcome);
  }

 private:
  std::vector<std::int64_t (*)(const Outcome&)> reads_;
};

// A game of which a trial may hold several rounds plays them itself, and tells the outcome of each.
template <class Game, class = void>
inline constexpr bool plays_rounds = false;
template <class Game>
inline constexpr bool plays_rounds<Game, std::void_t<decltype(&Game::holds_rounds)>> = true;

// A game that needs its cards one by one is dealt as they are needed.
template <class Game, class = void>
inline constexpr bool may_play_late = false;
template <class Game>
inline constexpr bool may_play_late<Game, std::void_t<decltype(&Game::deals_late)>> = true;

// A game that may be played on from one shoe to the next, whose order it tells.
template <class Game, class = void>
inline constexpr bool collects_shoes = false;
template <class Game>
inline constexpr bool collects_shoes<Game, std::void_t<decltype(&Game::collected)>> = true;

template <class Game, class Chance, class Luck, class Watcher, class Ended>
void play_trial(Game& game, const std::vector<Card>& deck, Chance& chance, Luck& luck, Watcher& watcher,
                Ended&& ended) {
  if constexpr (plays_rounds<Game>) {
    game.play(deck, chance, luck, watcher, ended);
  } else {
    ended(game.play(deck, chance, luck, watcher));
  }
}

// Runs single trials of some game and tells what was recorded of them. Each thread has its own.
class TrialRunner {
 public:
  virtual ~TrialRunner() = default;
  virtual std::unique_ptr<TrialRunner> copy() const = 0;
  // From now on players who take long look at this sign.
  virtual void heed(StopSign& sign) = 0;

  // Shuffles and plays; until the next call the entries and the deck stay as they are.
  virtual const Entries& play(std::uint64_t seed, std::uint64_t trial) = 0;
  // The same on a deck that was shuffled elsewhere.
  virtual const Entries& play_on(const std::vector<Card>& deck, std::uint64_t seed, std::uint64_t trial) = 0;

  // As it was dealt, its top first, as far as it was needed.
  virtual const std::vector<Card>& deck() const = 0;
};

template <class Game>
class GameRunner : public TrialRunner {
  static_assert(GameRequirements<Game>::check());

 public:
  // What is recorded is named by its place among the outcome's columns.
  GameRunner(const Draw& draw, const typename Game::Rules& rules, std::vector<std::size_t> columns)
      : draw_(draw), game_(rules), columns_(std::move(columns)), read_(columns_), deck_(draw.fresh_table()) {
    if (may_play_late<Game> && LateDeal::fits(draw)) late_.emplace(draw);
  }

  std::unique_ptr<TrialRunner> copy() const override {
    return std::make_unique<GameRunner>(draw_, game_.rules(), columns_);
  }

  void heed(StopSign& sign) override { sign_ = &sign; }

  const Entries& play(std::uint64_t seed, std::uint64_t trial) override {
    if constexpr (collects_shoes<Game>) {
      if (game_.shoes() > 1) return told(trial, [&](auto&& ended) { play_session(seed, trial, ended); });
    }
    if constexpr (may_play_late<Game>) {
      if (late_) {
        late_->begin(seed, trial);
        return told(trial, [&](auto&& ended) {
          SeatLanes luck(seed, trial, sign_);
          game_.play_late(*late_, luck, silent_, ended);
        });
      }
    }
    deck_ = draw_.fresh_table();
    RandomChance chance(seed, trial, lane::deal);
    draw_(deck_, work_, chance, silent_);
    return play_on(deck_, seed, trial);
  }

  const Entries& play_on(const std::vector<Card>& deck, std::uint64_t seed, std::uint64_t trial) override {
    return told(trial, [&](auto&& ended) {
      RandomChance chance(seed, trial, lane::game);
      SeatLanes luck(seed, trial, sign_);
      play_trial(game_, deck, chance, luck, silent_, ended);
    });
  }

  const std::vector<Card>& deck() const override { return late_ ? late_->deck() : deck_; }

 private:
  // Shoe after shoe: the first a new one, each other as the last was collected, all shuffled alike.
  template <class Ended>
  void play_session(std::uint64_t seed, std::uint64_t trial, Ended& ended) {
    RandomChance chance(seed, trial, lane::deal), game_chance(seed, trial, lane::game);
    SeatLanes luck(seed, trial, sign_);
    for (std::size_t shoe = 0; shoe < game_.shoes(); ++shoe) {
      deck_ = shoe == 0 ? draw_.fresh_table() : game_.collected();
      draw_(deck_, work_, chance, silent_);
      luck.begin_shoe(shoe);
      play_trial(game_, deck_, game_chance, luck, silent_, ended);
    }
  }

  // What is recorded of a trial that `play(ended)` plays.
  template <class Play>
  const Entries& told(std::uint64_t trial, Play&& play) {
    try {
      entries_.clear();
      play([&](const auto& outcome) { read_(outcome, entries_.add()); });
    } catch (const EndlessGame& endless) {
      throw EndlessGame("trial " + std::to_string(trial) + " " + endless.what());
    } catch (const StockRanOut& out) {
      throw StockRanOut("trial " + std::to_string(trial) + " " + out.what());
    }
    return entries_;
  }

  Draw draw_;
  Game game_;
  std::vector<std::size_t> columns_;
  ColumnReader<typename Game::Outcome> read_;
  std::optional<LateDeal> late_;
  std::vector<Card> deck_;
  Workspace work_;
  Silent silent_;
  Entries entries_;
  StopSign* sign_ = nullptr;
};

}  // namespace habanera
