#pragma once

#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

namespace habanera {

// The law of what a round brings for each stake that is bet, in whole units.
struct StepLaw {
  struct Step {
    std::int64_t net;
    double probability;
  };
  std::vector<Step> steps;  // rising, those that can come

  std::int64_t least() const { return steps.front().net; }
  std::int64_t most() const { return steps.back().net; }
};

// What is bet round by round, in stakes: a row of bets, and to which of them a loss and a win lead. A tie leads nowhere.
struct BetPlan {
  std::vector<std::int64_t> bets{1};
  std::vector<std::size_t> after_loss{0}, after_win{0};

  std::size_t next(std::size_t now, std::int64_t net) const {
    return net < 0 ? after_loss[now] : net > 0 ? after_win[now] : now;
  }
};

}  // namespace habanera
