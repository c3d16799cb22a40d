#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <stdexcept>
#include <vector>

#include "habanera/game/best_answer.hpp"
#include "habanera/game/information.hpp"
#include "habanera/game/proof.hpp"

namespace habanera {

// A game whose sound play is not found so.
struct NotPlayedSo : std::runtime_error {
  using std::runtime_error::runtime_error;
};

// Sound play of two seats, of whom one wins what the other loses, by what each sees: the moves that it regrets not to
// have made are made more often, until nobody gains much by another play. Zinkevich, Johanson, Bowling & Piccione
// (2007), "Regret minimization in games with incomplete information"; sums of regrets end at zero, seats go in turn,
// and later rounds weigh more, by their number (Tammelin 2014, "Solving large imperfect information games using CFR+").
class RegretIteration {
 public:
  explicit RegretIteration(const InformationTree& tree)
      : tree_(tree), regrets_(tree.chances(), 0), sums_(tree.chances(), 0), now_(tree.even()) {
    if (tree.seats() != 2 || !tree.is_open(0) || !tree.is_open(1))
      throw NotPlayedSo("sound play is found of two seats");
    if (tree.forgets(0) || tree.forgets(1)) throw std::logic_error("a seat forgets what it saw or did");
    find_total();
  }

  void round() {
    ++rounds_;
    for (const std::size_t seat : {0, 1}) {
      learn(seat);
      mix_anew(seat);
    }
  }
  std::size_t rounds() const { return rounds_; }
  // Of what both seats get.
  double total() const { return total_; }

  // The mean of all rounds: what sound play comes to.
  Mix mean() const {
    Mix mix = tree_.even();
    for (const InformationSet& set : tree_.sets()) {
      double all = 0;
      for (std::size_t i = 0; i < set.moves.size(); ++i) all += sums_[set.first + i];
      if (all <= 0) continue;
      for (std::size_t i = 0; i < set.moves.size(); ++i) mix[set.first + i] = sums_[set.first + i] / all;
    }
    return mix;
  }

  SoundProof proof(const Mix& mix) const {
    return {tree_.values(mix)[0], total_ - BestAnswer(tree_, 1, mix).value(), BestAnswer(tree_, 0, mix).value()};
  }

 private:
  void find_total() {
    bool first = true;
    for (const auto& node : tree_.nodes()) {
      if (node.what != InformationTree::ends) continue;
      const double total = tree_.worth(node, 0) + tree_.worth(node, 1);
      if (!first && std::abs(total - total_) > 1e-9)
        throw NotPlayedSo("sound play is found where what one seat wins the other loses");
      total_ = first ? total : total_;
      first = false;
    }
  }

  void learn(std::size_t seat) {
    const std::vector<InformationTree::Node>& nodes = tree_.nodes();
    const std::vector<double> others = tree_.reach_without(seat, now_);
    worth_.resize(nodes.size());
    // Nodes come before those that follow from them.
    for (std::size_t at = nodes.size(); at-- > 0;) {
      const auto& node = nodes[at];
      if (node.what == InformationTree::ends) {
        worth_[at] = tree_.worth(node, seat);
        continue;
      }
      double sum = 0;
      for (std::size_t i = 0; i < node.size; ++i)
        sum += tree_.chance_of(node, i, now_) * worth_[tree_.branch(node, i).node];
      worth_[at] = sum;
    }
    for (const InformationSet& set : tree_.sets()) {
      if (set.seat != seat) continue;
      for (std::size_t i = 0; i < set.moves.size(); ++i) {
        double gained = 0;
        for (const std::size_t at : set.nodes)
          gained += others[at] * (worth_[tree_.branch(nodes[at], i).node] - worth_[at]);
        regrets_[set.first + i] = std::max(regrets_[set.first + i] + gained, 0.0);
      }
    }
    add_to_mean(seat);
  }

  // What was played in this round, weighted by how often the seat itself comes there.
  void add_to_mean(std::size_t seat) {
    own_reach_.assign(tree_.sets().size(), 1);
    for (std::size_t number = 0; number < tree_.sets().size(); ++number) {
      const InformationSet& set = tree_.sets()[number];
      if (set.seat != seat) continue;
      // A set comes after the one before it.
      if (set.before != InformationSet::none)
        own_reach_[number] = own_reach_[set.before] * now_[tree_.sets()[set.before].first + set.made];
      for (std::size_t i = 0; i < set.moves.size(); ++i)
        sums_[set.first + i] += static_cast<double>(rounds_) * own_reach_[number] * now_[set.first + i];
    }
  }

  void mix_anew(std::size_t seat) {
    for (const InformationSet& set : tree_.sets()) {
      if (set.seat != seat) continue;
      double all = 0;
      for (std::size_t i = 0; i < set.moves.size(); ++i) all += regrets_[set.first + i];
      for (std::size_t i = 0; i < set.moves.size(); ++i)
        now_[set.first + i] = all > 0 ? regrets_[set.first + i] / all : 1 / static_cast<double>(set.moves.size());
    }
  }

  const InformationTree& tree_;
  std::vector<double> regrets_, sums_, worth_, own_reach_;
  Mix now_;
  double total_ = 0;
  std::size_t rounds_ = 0;
};

}  // namespace habanera
