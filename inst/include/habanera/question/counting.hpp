#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/chance/random.hpp"
#include "habanera/chance/stop_sign.hpp"
#include "habanera/draw/counting.hpp"
#include "habanera/question/question.hpp"
#include "habanera/run/blocks.hpp"
#include "habanera/run/sparse_tally.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// Indices below this are counted in a table that stays in the cache.
inline constexpr std::uint64_t dense_cells = 1 << 16;

inline SparseTally tally_for(std::uint64_t cells) { return SparseTally(std::min(cells, dense_cells)); }

// Counts the words of plain draws.
class WordSink {
 public:
  explicit WordSink(const Question& question)
      : added_(question.words.added),
        held_(question.held),
        reading_(question.words),
        tally_(tally_for(question.cells)),
        only_added_(question.words.only_added()) {
    begin_hand();
    start_ = reading_.index();
  }

  // Which outcomes can come is not known beforehand.
  bool has_all_examples() const { return false; }

  template <bool Examples>
  [[gnu::always_inline]] void add(const Card* cards, std::size_t size, std::uint64_t trial) {
    tally_.add(only_added_ ? sum(cards, size) : read(cards, size), trial);
  }

  void merge(const WordSink& other) { tally_.merge(other.tally_); }
  const SparseTally& tally() const { return tally_; }

 private:
  [[gnu::always_inline]] std::uint64_t sum(const Card* cards, std::size_t size) const {
    std::uint64_t index = start_;
#pragma GCC unroll 8
    for (std::size_t i = 0; i < size; ++i) index += added_[cards[i]];
    return index;
  }

  std::uint64_t read(const Card* cards, std::size_t size) {
    begin_hand();
    for (std::size_t i = 0; i < size; ++i) reading_.draw(cards[i]);
    return reading_.index();
  }

  void begin_hand() {
    reading_.begin();
    for (const Card card : held_) reading_.hold(card);
  }

  std::vector<std::uint64_t> added_;
  std::vector<Card> held_;
  Reading reading_;
  SparseTally tally_;
  std::uint64_t start_ = 0;
  bool only_added_;
};

// Plays whole trials of something on a freshly laid deck each, and counts what it reports. `Play` is
// called with (table, shuffle, report); report(outcome) is one entry.
template <class Play>
class PlayCounter {
 public:
  PlayCounter(const Draw& draw, std::uint64_t seed, std::uint64_t cells, Play play)
      : draw_(draw), seed_(seed), play_(std::move(play)), tally_(tally_for(cells)) {}

  void run(std::uint64_t begin, std::uint64_t end) {
    for (std::uint64_t trial = begin; trial < end; ++trial) {
      RandomChance chance(seed_, trial);
      draw_.lay(table_, chance);
      Silent silent;
      play_(table_, [&] { draw_(table_, work_, chance, silent); },
            [&](std::uint64_t outcome) { tally_.add(outcome, trial); });
    }
  }
  void merge(const PlayCounter& other) { tally_.merge(other.tally_); }
  const SparseTally& tally() const { return tally_; }

 private:
  Draw draw_;
  std::uint64_t seed_;
  Play play_;
  SparseTally tally_;
  std::vector<Card> table_;
  Workspace work_;
};

// A question as a play that reports its index, turn after turn: turn * cells + index.
class QuestionTrial {
 public:
  explicit QuestionTrial(Question question) : cells_(question.cells), play_(std::move(question)) {}

  template <class Shuffle, class Report>
  void operator()(const std::vector<Card>& table, Shuffle&& shuffle, Report&& report) {
    play_(table, shuffle, [&](std::size_t turn, std::uint64_t index) { report(turn * cells_ + index); });
  }
  const std::vector<Card>& hand() const { return play_.hand(); }

 private:
  std::uint64_t cells_;
  QuestionPlay play_;
};

// Turning cards until: reports twice the number turned, and one more when the condition holds.
class UntilTrial {
 public:
  explicit UntilTrial(Until until) : until_(std::move(until)), reading_(until_.condition.words) {}

  template <class Shuffle, class Report>
  void operator()(const std::vector<Card>& table, Shuffle&& shuffle, Report&& report) {
    shuffle();
    const auto [turned, holds] = until_(table, reading_);
    hand_.assign(table.begin(), table.begin() + static_cast<std::ptrdiff_t>(turned));
    report(2 * turned + holds);
  }
  const std::vector<Card>& hand() const { return hand_; }

 private:
  Until until_;
  Reading reading_;
  std::vector<Card> hand_;
};

// Trials first to first + count - 1 of a play.
template <class Play>
SparseTally count_plays(const Draw& draw, const Play& play, std::uint64_t cells, std::uint64_t seed,
                        std::uint64_t first, std::uint64_t count, const Crew& crew) {
  return run_blocks(first, count, crew,
                    [&] { return PlayCounter<Play>(draw, seed, cells, play); }).tally();
}

inline SparseTally count_question(const Draw& draw, const Question& question, std::uint64_t seed,
                                  std::uint64_t first, std::uint64_t count, const Crew& crew) {
  if (question.is_plain() && !draw.spec().sampling)
    return count_with(draw, WordSink(question), seed, first, count, crew).tally();
  return count_plays(draw, QuestionTrial(question), question.cells * (question.turns + 1), seed, first,
                     count, crew);
}

inline SparseTally count_until(const Draw& draw, const Until& until, std::uint64_t seed,
                               std::uint64_t first, std::uint64_t count, const Crew& crew) {
  return count_plays(draw, UntilTrial(until), 2 * (until.most + 1), seed, first, count, crew);
}

}  // namespace habanera
