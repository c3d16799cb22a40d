#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <numeric>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/random.hpp"
#include "habanera/chance/stop_sign.hpp"
#include "habanera/draw/draw.hpp"
#include "habanera/run/blocks.hpp"
#include "habanera/run/tally.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// Remembers the swaps of a partial shuffle, so that a few of them can be taken back instead of
// laying the whole deck out again. Lives for one trial, on a buffer that outlives it.
class SwapMemory {
 public:
  struct Swap {
    std::uint32_t from, to;
  };

  explicit SwapMemory(std::vector<Swap>& buffer) : swaps_(buffer.data()), end_(swaps_) {}

  void begins(const Pile&) {}
  void step_begins(std::size_t) {}
  void swapped(const Pile&, std::size_t from, std::size_t to) {
    *end_++ = {static_cast<std::uint32_t>(from), static_cast<std::uint32_t>(to)};
  }
  void rearranged(const Pile&) {}
  void asked() {}
  void take_back(Card* table) {
    while (end_ != swaps_) {
      --end_;
      std::swap(table[end_->from], table[end_->to]);
    }
  }

 private:
  Swap* swaps_;
  Swap* end_;
};

// Which cells a drawn card adds to: its kind, or its kind and the position it came in.
enum class Cells { kind, kind_and_position };

// Counts the cards of many draws. With `pairs`, also how many pairs of like cards the trials held,
// kind by kind: with it the variance per trial of a kind's count follows exactly.
template <Cells cells>
class CardSink {
 public:
  CardSink(std::size_t size, std::size_t kinds, bool pairs)
      : kinds_(kinds),
        tally_(cells == Cells::kind ? kinds : kinds * size),
        pairs_(pairs ? kinds : 0, 0),
        held_(pairs ? kinds : 0, 0) {}

  bool has_all_examples() const { return tally_.has_all_examples(); }

  template <bool Examples>
  [[gnu::always_inline]] void add(const Card* cards, std::size_t size, std::uint64_t trial) {
    const std::size_t step = cells == Cells::kind ? 0 : kinds_;  // the cells of one position
#pragma GCC unroll 8
    for (std::size_t i = 0, row = 0; i < size; ++i, row += step) tally_.add<Examples>(row + cards[i], trial);
    if (!pairs_.empty()) count_pairs(cards, size);
  }

  void merge(const CardSink& other) {
    tally_.merge(other.tally_);
    for (std::size_t i = 0; i < pairs_.size(); ++i) pairs_[i] += other.pairs_[i];
  }

  const Tally& tally() const { return tally_; }
  const std::vector<std::uint64_t>& pairs() const { return pairs_; }

 private:
  void count_pairs(const Card* cards, std::size_t size) {
    for (std::size_t i = 0; i < size; ++i) pairs_[cards[i]] += held_[cards[i]]++;
    for (std::size_t i = 0; i < size; ++i) held_[cards[i]] = 0;
  }

  std::size_t kinds_;
  Tally tally_;
  std::vector<std::uint64_t> pairs_;
  std::vector<std::uint32_t> held_;
};

// Plays many draws and hands the cards of each to a sink, which counts what it is after.
template <class Sink>
class DrawCounter {
 public:
  DrawCounter(const Draw& draw, std::uint64_t seed, Sink sink)
      : draw_(draw),
        seed_(seed),
        table_(draw.fresh_table()),
        sink_(std::move(sink)),
        swaps_(draw.spec().size) {}

  void run(std::uint64_t begin, std::uint64_t end) {
    // A choice per block, not per card.
    sink_.has_all_examples() ? run_block<false>(begin, end) : run_block<true>(begin, end);
  }

  void merge(const DrawCounter& other) { sink_.merge(other.sink_); }
  const Sink& sink() const { return sink_; }

 private:
  static constexpr std::size_t most_small = 7;

  template <bool Examples>
  void run_block(std::uint64_t begin, std::uint64_t end) {
    if (!run_small_draws<Examples, most_small>(begin, end)) run_trials<Examples>(begin, end);
  }

  // Draws of a few cards, by far the most common, get a loop for each size.
  template <bool Examples, std::size_t Top>
  bool run_small_draws(std::uint64_t begin, std::uint64_t end) {
    if constexpr (Top == 0) {
      return false;
    } else {
      if (draw_.spec().size != Top) return run_small_draws<Examples, Top - 1>(begin, end);
      const UniformShuffle* shuffle = draw_.by_swaps();
      if (!shuffle || !shuffle->settles_in_one_word(Top)) return false;
      const std::uint64_t seed = seed_;
      for (std::uint64_t trial = begin; trial < end; ++trial) small_draw<Examples, Top>(*shuffle, seed, trial);
      return true;
    }
  }

  template <bool Examples, std::size_t Top>
  [[gnu::always_inline]] void small_draw(const UniformShuffle& shuffle, std::uint64_t seed, std::uint64_t trial) {
    RandomChance chance(seed, trial);
    std::size_t places[Top];
    shuffle.find_top<Top>(chance, places);
    Card cards[Top];
#pragma GCC unroll 8
    for (std::size_t i = 0; i < Top; ++i) cards[i] = table_[places[i]];
    sink_.template add<Examples>(cards, Top, trial);
  }

  template <bool Examples>
  void run_trials(std::uint64_t begin, std::uint64_t end) {
    const DrawSpec& spec = draw_.spec();
    // Laying out a deck is one copy of memory; taking swaps back pays only when they are very few.
    const bool few_swaps = draw_.by_swaps() && 16 * spec.size < spec.deck.size();
    for (std::uint64_t trial = begin; trial < end; ++trial) {
      RandomChance chance(seed_, trial);
      if (few_swaps) {
        SwapMemory memory(swaps_);
        draw_(table_, work_, chance, memory);
        sink_.template add<Examples>(table_.data(), spec.size, trial);
        memory.take_back(table_.data());
      } else {
        Silent silent;
        if (!spec.replace) std::copy(spec.deck.begin(), spec.deck.end(), table_.begin());
        draw_(table_, work_, chance, silent);
        sink_.template add<Examples>(table_.data(), spec.size, trial);
      }
    }
  }

  Draw draw_;
  std::uint64_t seed_;
  std::vector<Card> table_;
  Workspace work_;
  Sink sink_;
  std::vector<SwapMemory::Swap> swaps_;
};

// Plays trials first to first + count - 1 and returns the sink that saw them.
template <class Sink>
Sink count_with(const Draw& draw, const Sink& sink, std::uint64_t seed, std::uint64_t first,
                std::uint64_t count, const Crew& crew) {
  const std::uint64_t entries = std::max<std::uint64_t>(draw.spec().size, 1);
  if (count > Tally::most_entries / entries)
    throw std::invalid_argument("at most " + std::to_string(Tally::most_entries / entries) +
                                " trials of this draw can be run in one lap, not " +
                                std::to_string(count));
  return run_blocks(first, count, crew,
                    [&] { return DrawCounter<Sink>(draw, seed, sink); }).sink();
}

template <Cells cells>
CardSink<cells> count_draws(const Draw& draw, std::size_t kinds, bool pairs, std::uint64_t seed,
                            std::uint64_t first, std::uint64_t count, const Crew& crew) {
  return count_with(draw, CardSink<cells>(draw.spec().size, kinds, pairs), seed, first, count, crew);
}

}  // namespace habanera
