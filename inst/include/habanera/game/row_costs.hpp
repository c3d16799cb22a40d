#pragma once

#include <algorithm>
#include <cstddef>
#include <vector>

#include "habanera/game/best_answer.hpp"
#include "habanera/game/information.hpp"

namespace habanera {

// What a seat loses where it sees one thing: how often it comes there by its own play, what each move then brings if
// best play follows, and how likely it makes each.
struct RowCost {
  std::size_t set;
  double how_often = 0;
  std::vector<double> worth, chances;
  std::size_t best = 0;

  // Of the best move less what is done, each time.
  double cost() const {
    double own = 0;
    for (std::size_t i = 0; i < worth.size(); ++i) own += chances[i] * worth[i];
    return worth[best] - own;
  }
};

// Of a seat with a player whose chances are known: the costs of all rows, each times how often it comes there, sum to
// what best play gains on the player (Kakade & Langford 2002, "Approximately optimal approximate reinforcement
// learning", lemma 6.1).
inline std::vector<RowCost> row_costs(const InformationTree& tree, std::size_t seat) {
  const Mix none(tree.chances(), 0);
  BestAnswer best(tree, seat, none);
  const std::vector<double> reach = tree.reach(none);
  std::vector<RowCost> rows;
  for (std::size_t i = 0; i < tree.sets().size(); ++i) {
    const InformationSet& set = tree.sets()[i];
    if (set.seat != seat) continue;
    RowCost row{i, 0, best.worth_of_moves(i), {}, best.chosen(i)};
    for (const std::size_t at : set.nodes) row.how_often += reach[at];
    const InformationTree::Node& node = tree.nodes()[set.nodes.front()];
    for (std::size_t move = 0; move < set.moves.size(); ++move)
      row.chances.push_back(tree.branch(node, move).chance);
    rows.push_back(row);
  }
  return rows;
}

}  // namespace habanera
