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

// An outcome that holds that of the game itself, whose columns come first.
template <class Outcome, class = void>
struct OutcomeOfGame {
  using Type = Outcome;
  static const Type& of(const Outcome& outcome) { return outcome; }
};
template <class Outcome>
struct OutcomeOfGame<Outcome, std::void_t<typename Outcome::OfGame>> {
  using Type = typename Outcome::OfGame;
  static const Type& of(const Outcome& outcome) { return outcome.game; }
};

// Reads the recorded columns of an outcome, which are named by their places.
template <class Outcome>
class ColumnReader {
  using Own = OutcomeOfGame<Outcome>;
  struct Read {
    std::int64_t (*own)(const typename Own::Type&) = nullptr;  // of the game itself, else:
    std::int64_t (*any)(const Outcome&) = nullptr;
  };

 public:
  explicit ColumnReader(const std::vector<std::size_t>& columns) {
    const auto& own = Own::Type::columns();
    for (const std::size_t column : columns) {
      Read read;
      if (column < own.size()) read.own = own[column].read;
      else read.any = Outcome::columns()[column].read;
      reads_.push_back(read);
    }
  }
  std::size_t width() const { return reads_.size(); }
  void operator()(const Outcome& outcome, RowTally::Row& row) const {
    row.resize(width());
    (*this)(outcome, row.data());
  }
  // Into as many values as there are columns.
  [[gnu::always_inline]] void operator()(const Outcome& outcome, std::int64_t* values) const {
    for (const Read& read : reads_) *values++ = read.own ? read.own(Own::of(outcome)) : read.any(outcome);
  }

 private:
  std::vector<Read> reads_;
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

// Whether a game takes cards as they come from the deck; not one in which seats are dealt some hands only.
template <class Game, class = void>
inline constexpr bool may_need_hands = false;
template <class Game>
inline constexpr bool may_need_hands<Game, std::void_t<decltype(&Game::needs_hands)>> = true;
template <class Game>
bool plays_as_dealt(const Game& game) {
  if constexpr (may_need_hands<Game>) return !game.needs_hands();
  return true;
}

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

  // Plays trials from `begin` to before `end`, and counts their entries.
  virtual void count(std::uint64_t seed, std::uint64_t begin, std::uint64_t end, RowTally& tally) {
    for (std::uint64_t trial = begin; trial < end; ++trial)
      for (const RowTally::Row& row : play(seed, trial)) tally.add(row, trial);
  }

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
    if (may_play_late<Game> && plays_as_dealt(game_) && LateDeal::fits(draw)) late_.emplace(draw);
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
        entries_.clear();
        play_late(seed, trial, trial + 1, nullptr);
        return entries_;
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

  void count(std::uint64_t seed, std::uint64_t begin, std::uint64_t end, RowTally& tally) override {
    if constexpr (may_play_late<Game>) {
      if (late_ && !plays_sessions()) return play_late(seed, begin, end, &tally);
    }
    TrialRunner::count(seed, begin, end, tally);
  }

  const std::vector<Card>& deck() const override { return late_ ? late_->deck() : deck_; }

 private:
  bool plays_sessions() const {
    if constexpr (collects_shoes<Game>) return game_.shoes() > 1;
    return false;
  }

  // One function for whole trials, from their first word to the place of what is recorded in a tally, or where there is
  // none among the entries: of a short game calls would cost as much as what they do. It is large, and there is but one.
  [[gnu::flatten]] void play_late(std::uint64_t seed, std::uint64_t begin, std::uint64_t end, RowTally* tally) {
    const std::size_t width = read_.width();
    RowTally::Row row(width);
    std::int64_t* const values = row.data();
    std::uint64_t trial = begin;
    try {
      for (; trial < end; ++trial) {
        late_->begin(seed, trial);
        SeatLanes luck(seed, trial, sign_);
        game_.play_late(*late_, luck, silent_, [&](const auto& outcome) {
          read_(outcome, values);
          if (tally) tally->add(values, width, trial);
          else entries_.add(values, width);
        });
      }
    } catch (...) {
      rethrow_of(trial);
    }
  }

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
    } catch (...) {
      rethrow_of(trial);
    }
    return entries_;
  }
  // What is being caught, with the trial in its words.
  [[noreturn, gnu::noinline, gnu::cold]] static void rethrow_of(std::uint64_t trial) {
    try {
      throw;
    } catch (const EndlessGame& endless) {
      throw EndlessGame("trial " + std::to_string(trial) + " " + endless.what());
    } catch (const StockRanOut& out) {
      throw StockRanOut("trial " + std::to_string(trial) + " " + out.what());
    }
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
