#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <stdexcept>
#include <utility>
#include <vector>

#include "habanera/chance/stop_sign.hpp"
#include "habanera/game/dealing.hpp"
#include "habanera/game/trial.hpp"
#include "habanera/run/blocks.hpp"
#include "habanera/run/row_tally.hpp"
#include "habanera/stat/grouped_sums.hpp"
#include "habanera/stat/trial_sums.hpp"

namespace habanera {

// Games are long beside a draw: fewer of them make a block.
inline constexpr std::uint64_t games_in_block = 64;

// Counts what is recorded of each game.
class GameCounter {
 public:
  GameCounter(const TrialRunner& runner, std::uint64_t seed) : runner_(runner.copy()), seed_(seed) {}

  void heed(StopSign& sign) { runner_->heed(sign); }
  void run(std::uint64_t begin, std::uint64_t end) {
    runner_->count(seed_, begin, end, tally_);
  }
  void merge(const GameCounter& other) { tally_.merge(other.tally_); }
  const RowTally& tally() const { return tally_; }

 private:
  std::unique_ptr<TrialRunner> runner_;
  std::uint64_t seed_;
  RowTally tally_;
};

// Entries divided into classes by a number of theirs: below the second of the rising numbers `from`, from each of them
// to the next, and from the last on. Columns in `numbers` are added up in each class.
struct EntryClasses {
  std::size_t column = 0;
  std::vector<std::int64_t> from;
  std::vector<std::size_t> numbers;

  std::size_t columns() const { return from.size() * (1 + numbers.size()); }
  std::size_t class_of(std::int64_t value) const {
    const auto last = static_cast<std::int64_t>(from.size()) - 1;
    // Mostly they rise by one.
    if (from.back() - from.front() == last)
      return static_cast<std::size_t>(std::clamp(value - from.front(), std::int64_t{0}, last));
    const auto above = std::upper_bound(from.begin(), from.end(), value);
    return above == from.begin() ? 0 : static_cast<std::size_t>(above - from.begin()) - 1;
  }
};

// The columns of entries as totals over a trial: how many entries there were; then of a number its sum, of a category
// how often each of its values came; then, class by class, how many entries it has and the sums of its numbers.
class EntryTotals {
 public:
  // For each column how many values it has, 0 for a number.
  explicit EntryTotals(std::vector<std::size_t> values, EntryClasses classes = {})
      : values_(std::move(values)), classes_(std::move(classes)) {
    std::size_t size = 1;
    for (const std::size_t count : values_) size += std::max<std::size_t>(count, 1);
    first_class_ = size;
    totals_.resize(size + classes_.columns());
  }

  std::size_t columns() const { return totals_.size(); }
  // The columns of each class, where those of all games begin at `offset`.
  std::vector<ColumnClass> column_classes(std::size_t offset) const {
    const std::size_t size = 1 + classes_.numbers.size();
    std::vector<ColumnClass> found;
    for (std::size_t i = 0; i < classes_.from.size(); ++i) found.push_back({offset + first_class_ + i * size, size});
    return found;
  }
  const std::vector<std::int64_t>& of(const Entries& entries) {
    std::fill(totals_.begin(), totals_.end(), 0);
    for (const RowTally::Row& row : entries) add(row);
    return totals_;
  }

 private:
  void add(const RowTally::Row& row) {
    std::size_t at = 0;
    ++totals_[at++];
    for (std::size_t column = 0; column < values_.size(); ++column) {
      if (values_[column] == 0) {
        if (row[column] == no_value) throw std::logic_error("a round without a value cannot be added up");
        totals_[at++] += row[column];
      } else {
        ++totals_[at + static_cast<std::size_t>(row[column])];
        at += values_[column];
      }
    }
    if (!classes_.from.empty()) add_to_class(row);
  }
  void add_to_class(const RowTally::Row& row) {
    std::size_t at = first_class_ + classes_.class_of(row[classes_.column]) * (1 + classes_.numbers.size());
    ++totals_[at++];
    for (const std::size_t number : classes_.numbers) totals_[at++] += row[number];
  }

  std::vector<std::size_t> values_;
  EntryClasses classes_;
  std::size_t first_class_ = 0;
  std::vector<std::int64_t> totals_;
};

// Counts what is recorded of each round, and what every trial adds up to; of two games or more, played on the same
// deals, what all of them add up to together, and of families of columns in groups of trials.
class RoundCounter {
 public:
  struct Game {
    const TrialRunner* runner;
    EntryTotals totals;
  };

  RoundCounter(std::vector<Game> games, std::uint64_t seed, std::vector<GroupedSums::Family> families = {})
      : seed_(seed), sums_(all_columns(games), column_classes(games)),
        grouped_(all_columns(games), std::move(families)) {
    for (Game& game : games) {
      runners_.push_back(game.runner->copy());
      totals_.push_back(std::move(game.totals));
    }
  }

  void heed(StopSign& sign) {
    for (const auto& runner : runners_) runner->heed(sign);
  }
  void run(std::uint64_t begin, std::uint64_t end) {
    for (std::uint64_t trial = begin; trial < end; ++trial) {
      all_.clear();
      for (std::size_t i = 0; i < runners_.size(); ++i) {
        const Entries& entries = runners_[i]->play(seed_, trial);
        const std::vector<std::int64_t>& totals = totals_[i].of(entries);
        all_.insert(all_.end(), totals.begin(), totals.end());
        if (runners_.size() == 1)
          for (const RowTally::Row& row : entries) tally_.add(row, trial);
      }
      sums_.close(all_, trial);
      grouped_.close(all_, trial);
    }
  }
  void merge(const RoundCounter& other) {
    tally_.merge(other.tally_);
    sums_.merge(other.sums_);
    grouped_.merge(other.grouped_);
  }
  const RowTally& tally() const { return tally_; }
  const TrialSums& sums() const { return sums_; }
  const GroupedSums& grouped() const { return grouped_; }

 private:
  static std::size_t all_columns(const std::vector<Game>& games) {
    std::size_t all = 0;
    for (const Game& game : games) all += game.totals.columns();
    return all;
  }
  // All columns together, and the classes of each game's rounds.
  static std::vector<ColumnClass> column_classes(const std::vector<Game>& games) {
    std::vector<ColumnClass> found{{0, all_columns(games)}};
    std::size_t offset = 0;
    for (const Game& game : games) {
      for (const ColumnClass& one : game.totals.column_classes(offset)) found.push_back(one);
      offset += game.totals.columns();
    }
    return found;
  }

  std::vector<std::unique_ptr<TrialRunner>> runners_;
  std::vector<EntryTotals> totals_;
  std::uint64_t seed_;
  std::vector<std::int64_t> all_;
  RowTally tally_;
  TrialSums sums_;
  GroupedSums grouped_;
};

// Plays two games on the same deals and counts, column by column, how they differ. Rows are (column, part, value,
// value of the other game): of a category `both`; of a number its `difference` (the second game's less the first's)
// and the values in the `first` and in the `second` game alone, the last number being 0; or, where a game has no
// value, that it is `unpaired`, and whether the first has one and the second. Both record the same columns.
class PairCounter {
 public:
  enum Part : std::int64_t { both, difference, first, second, unpaired };
  // What a column is; numbers of each game are taken so many times, so that both are in one unit.
  struct PairColumn {
    bool is_category;
    std::int64_t times_one = 1, times_two = 1;
  };

  PairCounter(const TrialRunner& one, const TrialRunner& two, std::vector<PairColumn> columns, std::uint64_t seed)
      : one_(one.copy()), two_(two.copy()), columns_(std::move(columns)), seed_(seed) {}

  void heed(StopSign& sign) {
    one_->heed(sign);
    two_->heed(sign);
  }
  void run(std::uint64_t begin, std::uint64_t end) {
    for (std::uint64_t trial = begin; trial < end; ++trial) {
      const RowTally::Row& a = one_->play(seed_, trial).front();
      const RowTally::Row& b = two_->play(seed_, trial).front();
      for (std::size_t i = 0; i < columns_.size(); ++i) add(static_cast<std::int64_t>(i), a[i], b[i], trial);
    }
  }
  void merge(const PairCounter& other) { tally_.merge(other.tally_); }
  const RowTally& tally() const { return tally_; }

 private:
  void add(std::int64_t column, std::int64_t a, std::int64_t b, std::uint64_t trial) {
    const PairColumn& about = columns_[static_cast<std::size_t>(column)];
    if (about.is_category) {
      tally_.add({column, both, a, b}, trial);
    } else if (a == no_value || b == no_value) {
      tally_.add({column, unpaired, a != no_value, b != no_value}, trial);
    } else {
      const std::int64_t one = a * about.times_one, two = b * about.times_two;
      tally_.add({column, difference, two - one, 0}, trial);
      tally_.add({column, first, one, 0}, trial);
      tally_.add({column, second, two, 0}, trial);
    }
  }

  std::unique_ptr<TrialRunner> one_, two_;
  std::vector<PairColumn> columns_;
  std::uint64_t seed_;
  RowTally tally_;
};

// Counts what came of a game by what one seat was dealt: rows of (class of cards, how many of it the seat was
// dealt, the recorded value). Only one column may be recorded; a game that has no value in it is left out.
class HoldingCounter {
 public:
  struct Holding {
    std::vector<std::uint16_t> classes;  // the class of each kind of card
    std::size_t size;                    // how many classes there are
    std::size_t seat;
    Dealing dealing;
  };

  HoldingCounter(const TrialRunner& runner, const Holding& holding, std::uint64_t seed)
      : runner_(runner.copy()), holding_(holding), held_(holding.size), seed_(seed) {}

  void heed(StopSign& sign) { runner_->heed(sign); }
  void run(std::uint64_t begin, std::uint64_t end) {
    for (std::uint64_t trial = begin; trial < end; ++trial) {
      const std::int64_t value = runner_->play(seed_, trial).front().front();
      if (value == no_value) continue;
      std::fill(held_.begin(), held_.end(), 0);
      holding_.dealing(runner_->deck(), [&](std::size_t seat, Card card) {
        held_[holding_.classes[card]] += seat == holding_.seat;
      });
      for (std::size_t i = 0; i < held_.size(); ++i) tally_.add({static_cast<std::int64_t>(i), held_[i], value}, trial);
    }
  }
  void merge(const HoldingCounter& other) { tally_.merge(other.tally_); }
  const RowTally& tally() const { return tally_; }

 private:
  std::unique_ptr<TrialRunner> runner_;
  Holding holding_;
  std::vector<std::int64_t> held_;
  std::uint64_t seed_;
  RowTally tally_;
};

// Trials first to first + count - 1, each thread with a counter made by make_counter().
template <class MakeCounter>
auto count_games(std::uint64_t first, std::uint64_t count, const Crew& crew, MakeCounter&& make_counter) {
  return run_blocks(first, count, crew, make_counter, games_in_block);
}

}  // namespace habanera
