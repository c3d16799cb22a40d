#pragma once

#include <cstddef>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

// Writes the trace for a replay: how the cards lay, and each move with the cards after it.
class Recorder {
 public:
  static constexpr std::size_t whole_pile = static_cast<std::size_t>(-1);

  // A swap of two places, or, with both of them `whole_pile`, the pile laid anew.
  struct Step {
    std::size_t step, from, to;
    std::vector<Card> after;
  };

  void begins(const Pile& pile) {
    start_.assign(pile.cards, pile.cards + pile.size);
    steps_.clear();
    step_ = 0;
  }
  void step_begins(std::size_t step) { step_ = step; }
  void swapped(const Pile& pile, std::size_t from, std::size_t to) {
    steps_.push_back({step_, from, to, std::vector<Card>(pile.cards, pile.cards + pile.size)});
  }

  void rearranged(const Pile& pile) { swapped(pile, whole_pile, whole_pile); }
  void asked() {}

  const std::vector<Card>& start() const { return start_; }
  const std::vector<Step>& steps() const { return steps_; }

 private:
  std::vector<Card> start_;
  std::size_t step_ = 0;
  std::vector<Step> steps_;
};

}  // namespace habanera
