#pragma once

#include <cstddef>
#include <utility>
#include <variant>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/shuffle/hands.hpp"
#include "habanera/shuffle/loops.hpp"
#include "habanera/shuffle/uniform.hpp"
#include "habanera/shuffle/workspace.hpp"

namespace habanera {

// The uniform shuffle as a step among others.
class UniformStep {
 public:
  explicit UniformStep(std::size_t cards) : shuffle_(cards) {}
  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace&, Chance& chance, Watcher& watcher) const {
    shuffle_(pile, pile.size, chance, watcher);
  }
  const UniformShuffle& shuffle() const { return shuffle_; }
  double paths(std::size_t n) const { return CoinInsertion().paths(n); }

 private:
  UniformShuffle shuffle_;
};

using Step = std::variant<UniformStep, NoShuffle, NaiveSwap, OneCycle, Transposition, RandomKeys,
                          CoinInsertion, CoinMerge, ModuloLoop, SmallSeed, RetryLoop, Overwriting,
                          FairRiffle, HandRiffle, Faro, Overhand, Strip, Piles, TopToRandom, Cut, Wash,
                          Shelves>;

// A shuffling procedure: steps, one after another.
class Procedure {
 public:
  explicit Procedure(std::vector<Step> steps) : steps_(std::move(steps)) {}

  // Shuffles the pile so that at least its first `top` places are as the whole procedure leaves them.
  template <class Chance, class Watcher>
  void operator()(const Pile& pile, std::size_t top, Workspace& work, Chance& chance,
                  Watcher& watcher) const {
    if (const UniformStep* fair = only_uniform()) return fair->shuffle()(pile, top, chance, watcher);
    for (std::size_t i = 0; i < steps_.size(); ++i) {
      watcher.step_begins(i);
      std::visit([&](const auto& one) { one(pile, work, chance, watcher); }, steps_[i]);
    }
  }

  // The uniform shuffle, when the procedure is that and nothing else; otherwise nullptr.
  const UniformShuffle* uniform() const {
    const UniformStep* fair = only_uniform();
    return fair ? &fair->shuffle() : nullptr;
  }

  const std::vector<Step>& steps() const { return steps_; }

 private:
  const UniformStep* only_uniform() const {
    return steps_.size() == 1 ? std::get_if<UniformStep>(&steps_.front()) : nullptr;
  }

  std::vector<Step> steps_;
};

}  // namespace habanera
