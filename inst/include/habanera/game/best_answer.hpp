#pragma once

#include <algorithm>
#include <cstddef>
#include <limits>
#include <stdexcept>
#include <string>
#include <vector>

#include "habanera/game/information.hpp"

namespace habanera {

// The best that a seat can do against the chances of all others, by what it sees alone: backwards, the set that it
// decides in last first. It needs perfect recall of that seat (Koller & Megiddo 1992, "The complexity of two-person
// zero-sum games in extensive form": without it the best is hard to find).
class BestAnswer {
 public:
  BestAnswer(const InformationTree& tree, std::size_t seat, const Mix& mix)
      : tree_(tree), seat_(seat), mix_(mix), reach_(tree.reach_without(seat, mix)), deals_(tree.reach_by_deals()),
        worth_(tree.nodes().size(), unknown), chosen_(tree.sets().size(), 0) {
    if (tree.forgets(seat)) throw std::logic_error("seat " + std::to_string(seat + 1) + " forgets what it saw or did");
    std::vector<std::size_t> own;
    for (std::size_t i = 0; i < tree.sets().size(); ++i)
      if (tree.sets()[i].seat == seat) own.push_back(i);
    std::stable_sort(own.begin(), own.end(), [&](std::size_t one, std::size_t other) {
      return tree.sets()[one].depth > tree.sets()[other].depth;
    });
    for (const std::size_t set : own) choose(set);
    value_ = worth(0);
  }

  double value() const { return value_; }
  // The place of the move chosen in a set of the seat.
  std::size_t chosen(std::size_t set) const { return chosen_[set]; }

  // How often the others and the deals let a set of the seat come; and what its moves then bring on average, best play
  // following.
  double let_come(std::size_t number) const {
    double sum = 0;
    for (const std::size_t at : tree_.sets()[number].nodes) sum += reach_[at];
    return sum;
  }
  std::vector<double> worth_of_moves(std::size_t number) {
    const InformationSet& set = tree_.sets()[number];
    const double all = let_come(number);
    std::vector<double> worths(set.moves.size(), 0);
    for (std::size_t move = 0; all > 0 && move < set.moves.size(); ++move)
      for (const std::size_t at : set.nodes)
        worths[move] += reach_[at] / all * worth(tree_.branch(tree_.nodes()[at], move).node);
    return worths;
  }

 private:
  static constexpr double unknown = std::numeric_limits<double>::infinity();

  void choose(std::size_t number) {
    const InformationSet& set = tree_.sets()[number];
    // Where the others never let it come, it goes by the deals alone.
    const bool comes = std::any_of(set.nodes.begin(), set.nodes.end(), [&](std::size_t at) { return reach_[at] > 0; });
    const std::vector<double>& weights = comes ? reach_ : deals_;
    double best = -unknown;
    for (std::size_t move = 0; move < set.moves.size(); ++move) {
      double sum = 0;
      for (const std::size_t at : set.nodes) sum += weights[at] * worth(tree_.branch(tree_.nodes()[at], move).node);
      // What differs by rounding alone is as good.
      if (sum <= best + 1e-13) continue;
      best = sum;
      chosen_[number] = move;
    }
  }

  // Of a node all of whose later sets of the seat are decided.
  double worth(std::size_t at) {
    if (worth_[at] != unknown) return worth_[at];
    const InformationTree::Node& node = tree_.nodes()[at];
    double sum = 0;
    if (node.what == InformationTree::ends) {
      sum = tree_.worth(node, seat_);
    } else if (node.what == InformationTree::decides && tree_.sets()[node.set].seat == seat_) {
      sum = worth(tree_.branch(node, chosen_[node.set]).node);
    } else {
      for (std::size_t i = 0; i < node.size; ++i) {
        const double chance = tree_.chance_of(node, i, mix_);
        if (chance > 0) sum += chance * worth(tree_.branch(node, i).node);
      }
    }
    return worth_[at] = sum;
  }

  const InformationTree& tree_;
  std::size_t seat_;
  const Mix& mix_;
  std::vector<double> reach_, deals_, worth_;
  std::vector<std::size_t> chosen_;
  double value_ = 0;
};

}  // namespace habanera
