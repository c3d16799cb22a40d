#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/chance/random.hpp"
#include "habanera/draw/counting.hpp"
#include "habanera/draw/question.hpp"
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
  WordSink(const Question& question)
      : question_(&question), reading_(question.words), tally_(tally_for(question.cells)) {
    reading_.begin();
    for (const Card card : question.held) reading_.hold(card);
    start_ = reading_.index();
  }

  // Which outcomes can come is not known beforehand.
  bool has_all_examples() const { return false; }

  template <bool Examples>
  void add(const Card* cards, std::size_t size, std::uint64_t trial) {
    tally_.add(question_->words.only_added() ? sum(cards, size) : read(cards, size), trial);
  }

  void merge(const WordSink& other) { tally_.merge(other.tally_); }
  const SparseTally& tally() const { return tally_; }

 private:
  std::uint64_t sum(const Card* cards, std::size_t size) const {
    std::uint64_t index = start_;
#pragma GCC unroll 8
    for (std::size_t i = 0; i < size; ++i) index += question_->words.added[cards[i]];
    return index;
  }

  std::uint64_t read(const Card* cards, std::size_t size) {
    reading_.begin();
    for (const Card card : question_->held) reading_.hold(card);
    for (std::size_t i = 0; i < size; ++i) reading_.draw(cards[i]);
    return reading_.index();
  }

  const Question* question_;
  Reading reading_;
  SparseTally tally_;
  std::uint64_t start_;
};

// Plays whole trials of something on a freshly laid deck each, and counts what it reports. `Play` is
// called with (table, shuffle, report); report(outcome) is one entry.
template <class Play>
class PlayCounter {
 public:
  PlayCounter(const Draw& draw, std::uint64_t seed, std::uint64_t cells, Play play)
      : draw_(&draw), seed_(seed), play_(std::move(play)), tally_(tally_for(cells)) {}

  void run(std::uint64_t begin, std::uint64_t end) {
    for (std::uint64_t trial = begin; trial < end; ++trial) {
      table_ = draw_->fresh_table();
      RandomChance chance(seed_, trial);
      Silent silent;
      play_(table_, [&] { (*draw_)(table_, work_, chance, silent); },
            [&](std::uint64_t outcome) { tally_.add(outcome, trial); });
    }
  }
  void merge(const PlayCounter& other) { tally_.merge(other.tally_); }
  const SparseTally& tally() const { return tally_; }

 private:
  const Draw* draw_;
  std::uint64_t seed_;
  Play play_;
  SparseTally tally_;
  std::vector<Card> table_;
  Workspace work_;
};

// A question as a play that reports its index, turn after turn: turn * cells + index.
class QuestionTrial {
 public:
  explicit QuestionTrial(const Question& question) : cells_(question.cells), play_(question) {}

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
  explicit UntilTrial(const Until& until) : until_(&until), reading_(until.condition.words) {}

  template <class Shuffle, class Report>
  void operator()(const std::vector<Card>& table, Shuffle&& shuffle, Report&& report) {
    shuffle();
    const auto [turned, holds] = (*until_)(table, reading_);
    hand_.assign(table.begin(), table.begin() + static_cast<std::ptrdiff_t>(turned));
    report(2 * turned + holds);
  }
  const std::vector<Card>& hand() const { return hand_; }

 private:
  const Until* until_;
  Reading reading_;
  std::vector<Card> hand_;
};

// Trials first to first + count - 1 of a play.
template <class Play>
SparseTally count_plays(const Draw& draw, const Play& play, std::uint64_t cells, std::uint64_t seed,
                        std::uint64_t first, std::uint64_t count, unsigned threads) {
  return run_blocks(first, count, threads,
                    [&] { return PlayCounter<Play>(draw, seed, cells, play); }).tally();
}

inline SparseTally count_question(const Draw& draw, const Question& question, std::uint64_t seed,
                                  std::uint64_t first, std::uint64_t count, unsigned threads) {
  if (question.is_plain())
    return count_with(draw, WordSink(question), seed, first, count, threads).tally();
  return count_plays(draw, QuestionTrial(question), question.cells * (question.turns + 1), seed, first,
                     count, threads);
}

inline SparseTally count_until(const Draw& draw, const Until& until, std::uint64_t seed,
                               std::uint64_t first, std::uint64_t count, unsigned threads) {
  return count_plays(draw, UntilTrial(until), 2 * (until.most + 1), seed, first, count, threads);
}

}  // namespace habanera
