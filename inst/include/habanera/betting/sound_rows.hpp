#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "habanera/betting/board_tree.hpp"
#include "habanera/betting/sound.hpp"
#include "habanera/game/choices.hpp"
#include "habanera/game/player.hpp"

namespace habanera {

// Of all rows of a seat how often the other lets them come, and what each move then brings in all, if the other moves
// by a mix and the best follows.
class WorthOfRows : public BestOfRows {
 public:
  WorthOfRows(const BoardTree& tree, const BoardMix& mix)
      : BestOfRows(mix), worth_(tree.chances(), 0), comes_(tree.chances(), 0) {}

  template <class Walk>
  void own(Walk& walk, const BoardTree::Node& node, std::size_t rows, const double* others, const double* moves,
           double* worth) {
    BestOfRows::own(walk, node, rows, others, moves, worth);
    std::copy_n(moves, rows * node.size, worth_.begin() + static_cast<std::ptrdiff_t>(node.chances));
    walk.comes(node, others, &comes_[node.chances]);
  }

  double comes(const BoardTree::Node& node, std::size_t row) const { return comes_[node.chances + row]; }
  double worth(const BoardTree::Node& node, std::size_t rows, std::size_t move, std::size_t row) const {
    return worth_[node.chances + move * rows + row] / comes(node, row);
  }

 private:
  std::vector<double> worth_, comes_;
};

// What the best answer to a mix chooses. Rows that the other does not let come are left as they are.
class ChoiceOfRows : public BestOfRows {
 public:
  ChoiceOfRows(const BoardMix& mix, BoardMix& chosen) : BestOfRows(mix), chosen_(chosen) {}

  template <class Walk>
  void own(Walk& walk, const BoardTree::Node& node, std::size_t rows, const double* others, const double* moves,
           double* worth) {
    BestOfRows::own(walk, node, rows, others, moves, worth);
    comes_.assign(rows, 0);
    walk.comes(node, others, comes_.data());
    for (std::size_t row = 0; row < rows; ++row) {
      if (comes_[row] <= 0) continue;
      std::size_t best = 0;
      // What differs by rounding alone is as good.
      while (moves[best * rows + row] < worth[row] - 1e-11 * comes_[row]) ++best;
      for (std::size_t move = 0; move < node.size; ++move) chosen_[node.chances + move * rows + row] = move == best;
    }
  }

 private:
  BoardMix& chosen_;
  std::vector<double> comes_;
};

// The chances of a player in all rows of its seat.
inline void put_player(const BoardTree& tree, std::size_t seat, const Player<BettingView>& player, BoardMix& mix) {
  const Betting& game = tree.game();
  // Decisions of the seat before, and its moves there.
  std::vector<std::pair<const BoardTree::Node*, std::size_t>> path;
  const auto go = [&](const auto& again, std::size_t at) -> void {
    const BoardTree::Node& node = tree.nodes()[at];
    const bool decides = node.what == BoardTree::decides && node.seat == seat;
    if (decides) {
      const std::vector<std::uint32_t>& shown_by = tree.board(node).sides[seat]->shown_by;
      for (std::size_t row = 0; row < shown_by.size(); ++row) {
        const auto position = [&](const BoardTree::Node& where) {
          return tree.boards().position(where.board, shown_by[row], seat, where.course);
        };
        std::vector<BettingPosition> before;
        before.reserve(path.size());
        Past<BettingView> past;
        for (const auto& [where, move] : path) {
          before.push_back(position(*where));
          past.push_back({game.view(before.back(), seat), game.moves(before.back()), move});
        }
        const BettingPosition here = position(node);
        const std::vector<double> chances = chances_of(player, game.view(here, seat), game.moves(here), past);
        for (std::size_t move = 0; move < node.size; ++move)
          mix[node.chances + move * shown_by.size() + row] = chances[move];
      }
    }
    for (std::size_t i = 0; i < node.size; ++i) {
      if (decides) path.emplace_back(&node, tree.course(node).moves.at(i));
      again(again, node.first + i);
      if (decides) path.pop_back();
    }
  };
  go(go, 0);
}

// What a seat does best against the mix of the other, put into the mix; what that brings. Where the other never lets it
// come, it goes by an other that makes every move as often; where no hand of the other goes together with its own it
// makes the first move.
inline double put_best_answer(const BoardTree& tree, std::size_t seat, BoardMix& mix) {
  for (const BoardTree::Node& node : tree.nodes())
    if (node.what == BoardTree::decides && node.seat == seat)
      std::fill_n(mix.begin() + static_cast<std::ptrdiff_t>(node.chances), tree.rows(node, seat), 1.0);
  const BoardMix even = even_mix(tree);
  ChoiceOfRows unmet(even, mix);
  BoardWalk<ChoiceOfRows>(tree, seat, unmet).worth();
  const BoardMix others = mix;
  ChoiceOfRows met(others, mix);
  return BoardWalk<ChoiceOfRows>(tree, seat, met).worth();
}

// What a seat does at a node with the hands of one row.
struct SoundRow {
  const BoardTree::Node* node;
  std::size_t seat, row, rows;
  double reached;  // how often it comes to this; 0: never
  double comes;    // how often the other lets it come
};

// Calls use(row, worths) for each row of a seat, node by node.
template <class Use>
void each_sound_row(const BoardTree& tree, std::size_t seat, const BoardMix& mix, Use&& use) {
  WorthOfRows worths(tree, mix);
  BoardWalk<WorthOfRows>(tree, seat, worths).worth();
  const auto go = [&](const auto& again, std::size_t at, const std::vector<double>& own) -> void {
    const BoardTree::Node& node = tree.nodes()[at];
    if (node.what == BoardTree::turns) {
      for (std::size_t i = 0; i < node.size; ++i) {
        const auto& before = tree.boards().at(tree.board(node).next[i].board).sides[seat]->before;
        std::vector<double> after;
        for (const std::uint32_t row : before) after.push_back(own[row]);
        again(again, node.first + i, after);
      }
    } else if (node.what == BoardTree::decides && node.seat != seat) {
      for (std::size_t move = 0; move < node.size; ++move) again(again, node.first + move, own);
    } else if (node.what == BoardTree::decides) {
      for (std::size_t row = 0; row < own.size(); ++row) {
        const double comes = worths.comes(node, row);
        use(SoundRow{&node, seat, row, own.size(), own[row] * comes, comes}, std::as_const(worths));
      }
      for (std::size_t move = 0; move < node.size; ++move) {
        std::vector<double> after(own.size());
        for (std::size_t row = 0; row < own.size(); ++row)
          after[row] = own[row] * mix[node.chances + move * own.size() + row];
        again(again, node.first + move, after);
      }
    }
  };
  go(go, 0, std::vector<double>(tree.rows(tree.nodes()[0], seat), 1));
}

}  // namespace habanera
