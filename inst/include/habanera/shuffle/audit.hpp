#pragma once

#include <cstddef>
#include <cstdint>
#include <numeric>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/random.hpp"
#include "habanera/chance/stop_sign.hpp"
#include "habanera/run/blocks.hpp"
#include "habanera/shuffle/battery.hpp"
#include "habanera/shuffle/procedure.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// Where the arrangements of an audit come from: made by a procedure, trial after trial from the deck in
// order, or going on from the trial before in chains of `chain` trials (1: every trial starts afresh),
// the first of which starts with trial `origin`.
class ProcedureSource {
 public:
  ProcedureSource(Procedure procedure, std::size_t cards, std::uint64_t seed, std::uint64_t origin,
                  std::uint64_t chain)
      : procedure_(std::move(procedure)), seed_(seed), origin_(origin), chain_(chain), in_order_(cards) {
    std::iota(in_order_.begin(), in_order_.end(), Card{0});
  }

  std::uint64_t origin() const { return origin_; }
  std::uint64_t chain() const { return chain_; }

  const Card* arrangement(std::uint64_t trial) {
    if (chain_ == 1 || (trial - origin_) % chain_ == 0) deck_ = in_order_;
    RandomChance chance(seed_, trial);
    Silent silent;
    procedure_(Pile{deck_.data(), deck_.size()}, deck_.size(), work_, chance, silent);
    return deck_.data();
  }

 private:
  Procedure procedure_;
  std::uint64_t seed_, origin_, chain_;
  std::vector<Card> in_order_, deck_;
  Workspace work_;
};

// Arrangements that were made elsewhere: a matrix of `rows` by `cards` kinds, column after column,
// counted from 1; 0 stands for a place left empty. Row 1 is trial 1.
class RowsSource {
 public:
  RowsSource(const int* kinds, std::size_t rows, std::size_t cards) : kinds_(kinds), rows_(rows), row_(cards) {}

  std::uint64_t origin() const { return 1; }
  std::uint64_t chain() const { return 1; }

  const Card* arrangement(std::uint64_t trial) {
    for (std::size_t i = 0; i < row_.size(); ++i)
      row_[i] = static_cast<Card>(kinds_[static_cast<std::size_t>(trial - 1) + i * rows_] - 1);
    return row_.data();
  }

 private:
  const int* kinds_;
  std::size_t rows_;
  std::vector<Card> row_;
};

template <class Source>
class Auditor {
 public:
  Auditor(const BatterySpec& spec, const Source& source) : source_(source), battery_(spec) {}

  void run(std::uint64_t begin, std::uint64_t end) {
    battery_.forget_previous();
    // The trial before a block belongs to another worker; in a chain, blocks begin with chains.
    if (begin > source_.origin() && source_.chain() == 1) battery_.remember(source_.arrangement(begin - 1));
    for (std::uint64_t trial = begin; trial < end; ++trial) {
      if (source_.chain() > 1 && (trial - source_.origin()) % source_.chain() == 0) battery_.forget_previous();
      battery_.add(source_.arrangement(trial), trial);
    }
  }
  void merge(const Auditor& other) { battery_.merge(other.battery_); }
  const Battery& battery() const { return battery_; }

 private:
  Source source_;
  Battery battery_;
};

// The counts of trials first, ..., first + count - 1. In chains, `first` begins one.
template <class Source>
Battery audit(const BatterySpec& spec, const Source& source, std::uint64_t first, std::uint64_t count,
              const Crew& crew) {
  const std::uint64_t block = source.chain() == 1 ? default_block : 2 * source.chain();
  return run_blocks(first, count, crew, [&] { return Auditor<Source>(spec, source); }, block).battery();
}

}  // namespace habanera
