#pragma once

#include <cstddef>
#include <cstdint>
#include <numeric>
#include <stdexcept>
#include <string>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/random.hpp"
#include "habanera/run/blocks.hpp"
#include "habanera/run/tally.hpp"
#include "habanera/shuffle/procedure.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// Counts how often a retry loop asks for a random number.
struct AskCount : Silent {
  std::size_t asked_for = 0;
  void asked() { ++asked_for; }
};

// How many random numbers the shuffles of many trials cost, in a tally with cells 0, 1, ...
class AskCounter {
 public:
  AskCounter(const Procedure& procedure, std::size_t cards, std::size_t cells, std::uint64_t seed)
      : procedure_(procedure), deck_(cards), seed_(seed), tally_(cells) {}

  void run(std::uint64_t begin, std::uint64_t end) {
    for (std::uint64_t trial = begin; trial < end; ++trial) {
      std::iota(deck_.begin(), deck_.end(), Card{0});
      RandomChance chance(seed_, trial);
      AskCount count;
      procedure_(Pile{deck_.data(), deck_.size()}, deck_.size(), work_, chance, count);
      if (count.asked_for >= tally_.size())
        throw std::length_error("trial " + std::to_string(trial) + " asked for " +
                                std::to_string(count.asked_for) + " random numbers");
      tally_.add<true>(count.asked_for, trial);
    }
  }
  void merge(const AskCounter& other) { tally_.merge(other.tally_); }
  const Tally& tally() const { return tally_; }

 private:
  Procedure procedure_;
  std::vector<Card> deck_;
  std::uint64_t seed_;
  Workspace work_;
  Tally tally_;
};

}  // namespace habanera
