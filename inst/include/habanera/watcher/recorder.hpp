#pragma once

#include <cstddef>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

// Writes the trace for a replay: how the cards lay, and each move with the cards after it.
class Recorder {
 public:
  struct Step {
    std::size_t from, to;
    std::vector<Card> after;
  };

  void begins(const Pile& pile) {
    start_.assign(pile.cards, pile.cards + pile.size);
    steps_.clear();
  }
  void swapped(const Pile& pile, std::size_t from, std::size_t to) {
    steps_.push_back({from, to, std::vector<Card>(pile.cards, pile.cards + pile.size)});
  }

  const std::vector<Card>& start() const { return start_; }
  const std::vector<Step>& steps() const { return steps_; }

 private:
  std::vector<Card> start_;
  std::vector<Step> steps_;
};

}  // namespace habanera
