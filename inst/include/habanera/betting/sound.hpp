#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/betting/board_tree.hpp"
#include "habanera/betting/showing.hpp"
#include "habanera/game/proof.hpp"

namespace habanera {

// The chances of all moves of a tree, for each deciding node move by move and in each of these row by row.
using BoardMix = std::vector<double>;

// Every move as likely.
inline BoardMix even_mix(const BoardTree& tree) {
  BoardMix mix(tree.chances());
  for (const BoardTree::Node& node : tree.nodes())
    if (node.what == BoardTree::decides)
      std::fill_n(mix.begin() + static_cast<std::ptrdiff_t>(node.chances), node.size * tree.rows(node, node.seat),
                  1 / static_cast<double>(node.size));
  return mix;
}

// Numbers for as long as they are needed, in the order in which they are taken.
class Scratch {
 public:
  double* take(std::size_t size) {
    if (at_ == blocks_.size()) blocks_.emplace_back();
    std::vector<double>& block = blocks_[at_++];
    if (block.size() < size) block.resize(size);
    return block.data();
  }
  void give_back(std::size_t blocks) { at_ -= blocks; }

 private:
  std::vector<std::vector<double>> blocks_;
  std::size_t at_ = 0;
};

// Goes through all courses of a hand for one seat: what each of its rows brings in all, by the chances of the other
// seat (`others`: of each of its rows, with that of the cards that were turned), from the ends to the beginning.
// `Policy` says how the other moves and what the seat makes of the worth of its own moves.
template <class Policy>
class BoardWalk {
 public:
  BoardWalk(const BoardTree& tree, std::size_t seat, Policy& policy)
      : tree_(tree), seat_(seat), policy_(policy), showing_(tree.boards().hands()) {}

  // What all of it is worth.
  double worth() {
    const BoardTree::Node& first = tree_.nodes()[0];
    std::vector<double> worth(tree_.rows(first, seat_));
    const std::vector<double> others(tree_.rows(first, 1 - seat_), 1 / tree_.deals());
    go(0, others.data(), worth.data());
    double sum = 0;
    for (const double each : worth) sum += each;
    return sum;
  }
  // How often the hands of each row are held while the other lets them come.
  void comes(const BoardTree::Node& node, const double* others, double* chances) {
    showing_.meet(tree_.board(node), seat_, 1, others, chances);
  }

 private:
  void go(std::size_t at, const double* others, double* worth) {
    const BoardTree::Node& node = tree_.nodes()[at];
    if (node.what == BoardTree::decides)
      return node.seat == seat_ ? own(node, others, worth) : other(node, others, worth);
    std::fill_n(worth, tree_.rows(node, seat_), 0.0);
    switch (node.what) {
      case BoardTree::turns: return turn(node, others, worth);
      case BoardTree::shows: return showing_.show(tree_.board(node), seat_, tree_.stakes(node, seat_), others, worth);
      case BoardTree::runs_out: return run_out(node, others, worth);
      default: return showing_.meet(tree_.board(node), seat_, tree_.stakes(node, seat_).better, others, worth);
    }
  }

  void own(const BoardTree::Node& node, const double* others, double* worth) {
    const std::size_t rows = tree_.rows(node, seat_);
    if ((looked_at_ += rows) > looked_at_once) {
      looked_at_ = 0;
      tree_.pause();
    }
    double* moves = scratch_.take(rows * node.size);
    for (std::size_t move = 0; move < node.size; ++move) go(node.first + move, others, moves + move * rows);
    policy_.own(*this, node, rows, others, moves, worth);
    scratch_.give_back(1);
  }
  void other(const BoardTree::Node& node, const double* others, double* worth) {
    const std::size_t own_rows = tree_.rows(node, seat_), rows = tree_.rows(node, 1 - seat_);
    double* chances = scratch_.take(rows);
    double* after = scratch_.take(own_rows);
    std::fill_n(worth, own_rows, 0.0);
    for (std::size_t move = 0; move < node.size; ++move) {
      if (!policy_.other(node, rows, move, others, chances)) continue;
      go(node.first + move, chances, after);
      for (std::size_t row = 0; row < own_rows; ++row) worth[row] += after[row];
    }
    scratch_.give_back(2);
  }
  void turn(const BoardTree::Node& node, const double* others, double* worth) {
    const std::vector<BoardHoldings::Next>& next = tree_.board(node).next;
    for (std::size_t i = 0; i < node.size; ++i) {
      const BoardHoldings& board = tree_.boards().at(next[i].board);
      const std::vector<std::uint32_t>& before = board.sides[1 - seat_]->before;
      const std::vector<std::uint32_t>& own = board.sides[seat_]->before;
      double* chances = scratch_.take(before.size());
      double* after = scratch_.take(own.size());
      for (std::size_t row = 0; row < before.size(); ++row) chances[row] = others[before[row]] * next[i].chance;
      go(node.first + i, chances, after);
      for (std::size_t row = 0; row < own.size(); ++row) worth[own[row]] += after[row];
      scratch_.give_back(2);
    }
  }
  // What is better and worse by the tables of both sides, and all pairs as where hands are not asked.
  void run_out(const BoardTree::Node& node, const double* others, double* worth) {
    const Stakes& stakes = tree_.stakes(node, seat_);
    showing_.meet(tree_.board(node), seat_, stakes.alike, others, worth);
    const Runout& better = tree_.runout(node, seat_);
    const Runout& worse = tree_.runout(node, 1 - seat_);
    const std::size_t own_rows = better.seat_rows, rows = better.other_rows;
    for (std::size_t row = 0; row < own_rows; ++row) {
      double sum = 0;
      for (std::size_t i = 0; i < rows; ++i) sum += better.wins[row * rows + i] * others[i];
      worth[row] += (stakes.better - stakes.alike) * sum;
    }
    for (std::size_t i = 0; i < rows; ++i) {
      const double each = (stakes.worse - stakes.alike) * others[i];
      for (std::size_t row = 0; row < own_rows; ++row) worth[row] += each * worse.wins[i * own_rows + row];
    }
  }

  static constexpr std::size_t looked_at_once = 65536;

  const BoardTree& tree_;
  std::size_t seat_, looked_at_ = 0;
  Policy& policy_;
  Showing showing_;
  Scratch scratch_;
};

// How the other seat moves by a mix: its rows times their chances. Whether any of them is left.
inline bool moved_by(const double* chances, std::size_t rows, const double* others, double* after) {
  double all = 0;
  for (std::size_t row = 0; row < rows; ++row) all += after[row] = others[row] * chances[row];
  return all > 0;
}

// What the best answer of a seat to the mix of the other brings.
class BestOfRows {
 public:
  explicit BestOfRows(const BoardMix& mix) : mix_(mix) {}

  template <class Walk>
  void own(Walk&, const BoardTree::Node& node, std::size_t rows, const double*, const double* moves, double* worth) {
    std::copy_n(moves, rows, worth);
    for (std::size_t move = 1; move < node.size; ++move)
      for (std::size_t row = 0; row < rows; ++row) worth[row] = std::max(worth[row], moves[move * rows + row]);
  }
  bool other(const BoardTree::Node& node, std::size_t rows, std::size_t move, const double* others,
             double* after) const {
    return moved_by(&mix_[node.chances + move * rows], rows, others, after);
  }

 protected:
  const BoardMix& mix_;
};

// What a mix of both brings.
class MixOfRows : public BestOfRows {
 public:
  using BestOfRows::BestOfRows;

  template <class Walk>
  void own(Walk&, const BoardTree::Node& node, std::size_t rows, const double*, const double* moves, double* worth) {
    std::fill_n(worth, rows, 0.0);
    for (std::size_t move = 0; move < node.size; ++move)
      for (std::size_t row = 0; row < rows; ++row)
        worth[row] += mix_[node.chances + move * rows + row] * moves[move * rows + row];
  }
};

// Sound play of two seats that bet, all hands of a seat at once: moves that a hand regrets not to have made are made
// more often (Zinkevich, Johanson, Bowling & Piccione 2007, "Regret minimization in games with incomplete information";
// regrets end at zero, seats go in turn and later rounds weigh more: Tammelin 2014, "Solving large imperfect
// information games using CFR+"), and the last regret is counted once more before moves are chosen, rounds weighing by
// the square of their number (Farina, Kroer & Sandholm 2021, "Faster game solving via predictive Blackwell
// approachability"). Without that the smallest games took a thousand times the rounds, a last street as many.
class BettingRegrets {
 public:
  explicit BettingRegrets(const BoardTree& tree)
      : tree_(tree), regrets_(tree.chances(), 0), sums_(tree.chances(), 0), now_(even_mix(tree)) {}

  void round() {
    ++rounds_;
    for (const std::size_t seat : {0, 1}) {
      Learning learning(*this);
      BoardWalk<Learning>(tree_, seat, learning).worth();
    }
  }
  std::size_t rounds() const { return rounds_; }
  // Of what both seats get.
  double total() const { return tree_.total(); }

  // The mean of all rounds: what sound play comes to.
  BoardMix mean() const {
    BoardMix mix = sums_;
    each_row([&](const BoardTree::Node& node, std::size_t rows, std::size_t row) {
      double all = 0;
      for (std::size_t move = 0; move < node.size; ++move) all += mix[node.chances + move * rows + row];
      for (std::size_t move = 0; move < node.size; ++move) {
        double& chance = mix[node.chances + move * rows + row];
        chance = all > 0 ? chance / all : 1 / static_cast<double>(node.size);
      }
    });
    return mix;
  }

  SoundProof proof(const BoardMix& mix) const {
    MixOfRows both(mix);
    BestOfRows best(mix);
    return {BoardWalk<MixOfRows>(tree_, 0, both).worth(), tree_.total() - BoardWalk<BestOfRows>(tree_, 1, best).worth(),
            BoardWalk<BestOfRows>(tree_, 0, best).worth()};
  }

 private:
  class Learning {
   public:
    explicit Learning(BettingRegrets& regrets) : all_(regrets), weight_(regrets.weight()) {}

    template <class Walk>
    void own(Walk&, const BoardTree::Node& node, std::size_t rows, const double*, const double* moves, double* worth) {
      double* now = &all_.now_[node.chances];
      double* regrets = &all_.regrets_[node.chances];
      std::fill_n(worth, rows, 0.0);
      for (std::size_t i = 0; i < node.size * rows; i += rows)
        for (std::size_t row = 0; row < rows; ++row) worth[row] += now[i + row] * moves[i + row];
      sums_.assign(rows, 0.0);
      for (std::size_t i = 0; i < node.size * rows; i += rows)
        for (std::size_t row = 0; row < rows; ++row) {
          const double gained = moves[i + row] - worth[row];
          const double regret = std::max(regrets[i + row] + gained, 0.0);
          regrets[i + row] = regret;
          now[i + row] = std::max(regret + gained, 0.0);
          sums_[row] += now[i + row];
        }
      const double even = 1 / static_cast<double>(node.size);
      for (std::size_t i = 0; i < node.size * rows; i += rows)
        for (std::size_t row = 0; row < rows; ++row) now[i + row] = sums_[row] > 0 ? now[i + row] / sums_[row] : even;
    }
    bool other(const BoardTree::Node& node, std::size_t rows, std::size_t move, const double* others, double* after) {
      const std::size_t at = node.chances + move * rows;
      if (!moved_by(&all_.now_[at], rows, others, after)) return false;
      for (std::size_t row = 0; row < rows; ++row) all_.sums_[at + row] += weight_ * after[row];
      return true;
    }

   private:
    BettingRegrets& all_;
    double weight_;
    std::vector<double> sums_;
  };

  double weight() const {
    const auto rounds = static_cast<double>(rounds_);
    return rounds * rounds;
  }

  template <class Use>
  void each_row(Use&& use) const {
    for (const BoardTree::Node& node : tree_.nodes()) {
      if (node.what != BoardTree::decides) continue;
      const std::size_t rows = tree_.rows(node, node.seat);
      for (std::size_t row = 0; row < rows; ++row) use(node, rows, row);
    }
  }

  const BoardTree& tree_;
  std::vector<double> regrets_, sums_, now_;
  std::size_t rounds_ = 0;
};

}  // namespace habanera
