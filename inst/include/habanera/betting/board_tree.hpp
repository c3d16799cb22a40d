#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/betting/boards.hpp"
#include "habanera/betting/runout.hpp"
#include "habanera/betting/showing.hpp"
#include "habanera/game/solver.hpp"

namespace habanera {

// All courses of a hand between two by what both see: moves where there is a choice, and cards that are turned. What
// the seats hold is no part of it: at each node a seat has a row for all hands that are told alike, all at once.
class BoardTree {
 public:
  enum What : std::uint8_t { decides, turns, shows, runs_out, folds };
  struct Node {
    What what;
    std::uint8_t seat = 0;
    std::uint32_t board = 0, course = 0;  // course: where moves lead in the public tree
    std::uint32_t first = 0, size = 0;    // what follows: moves in their order, or boards as they are listed
    std::uint64_t chances = 0;            // where a seat decides: where those of its moves lie, move by move
  };

  static constexpr double most_chances = 1e8, most_nodes = 5e6;

  // `known`: of the first board, where it has been worked out before.
  BoardTree(const Betting& game, const Crew& crew, std::shared_ptr<const Runout> known)
      : game_(game), tree_(of_two(game)), boards_(game), crew_(crew) {
    if (known) runouts_[{0, 0}] = runouts_[{0, 1}] = std::move(known);
    refuse_if_large();
    for (std::size_t course = 0; course < tree_.size(); ++course) stakes_.push_back(stakes_of(course));
    nodes_.emplace_back();
    grow(0, 0, 0);
    weigh_deals();
  }

  const Betting& game() const { return game_; }
  const Boards& boards() const { return boards_; }
  const std::vector<Node>& nodes() const { return nodes_; }
  const PublicTree::Node& course(const Node& node) const { return tree_.node(node.course); }
  const BoardHoldings& board(const Node& node) const { return boards_.at(node.board); }
  std::size_t rows(const Node& node, std::size_t seat) const { return board(node).sides[seat]->rows(); }
  std::uint64_t chances() const { return chances_; }
  // Things that seats can see where they decide.
  std::uint64_t rows_in_all() const {
    std::uint64_t all = 0;
    for (const Node& node : nodes_)
      if (node.what == decides) all += rows(node, node.seat);
    return all;
  }
  void pause() const { crew_.pause(); }
  // Of all pairs of hands that can be held together, each by its weight.
  double deals() const { return deals_; }
  const Stakes& stakes(const Node& node, std::size_t seat) const { return stakes_[node.course][seat]; }
  // What both have in the end, together.
  double total() const { return static_cast<double>(game_.rules().chips.pot); }
  const Runout& runout(const Node& node, std::size_t seat) const { return *runouts_.at({node.board, seat}); }
  // Of the first board, if it is asked for.
  std::shared_ptr<const Runout> first_runout() const {
    const auto found = runouts_.find({0, 0});
    return found == runouts_.end() ? nullptr : found->second;
  }

 private:
  using BySeat = std::array<Stakes, 2>;

  static const PublicTree& of_two(const Betting& game) {
    if (game.seats() != 2 || !game.has_tree())
      throw std::invalid_argument("boards are gone through for two seats whose bets take courses that can be listed");
    return *game.rules().tree;
  }

  BySeat stakes_of(std::size_t course) const {
    BySeat stakes;
    const PublicTree::Node& node = tree_.node(course);
    if (!node.chips.is_over()) return stakes;
    if (const PublicTree::Settled* two = tree_.settled(course)) {
      const auto net = [&](std::size_t better, std::size_t seat) {
        return static_cast<double>(two->net[better][seat]);
      };
      for (const std::size_t seat : {0, 1}) stakes[seat] = {net(seat, seat), net(2, seat), net(1 - seat, seat)};
      return stakes;
    }
    Chips::BySeat net{};
    std::int64_t played = 0;
    game_.chips().settle(node.chips, [](std::size_t) { return 0; }, net, played);
    for (const std::size_t seat : {0, 1}) {
      const auto each = static_cast<double>(net[seat]);
      stakes[seat] = {each, each, each};
    }
    return stakes;
  }

  void grow(std::size_t at, std::uint32_t course, std::uint32_t board) {
    while (tree_.node(course).moves.is_one()) course = tree_.node(course).first;
    const PublicTree::Node& here = tree_.node(course);
    nodes_[at].course = course;
    nodes_[at].board = board;
    if (here.chips.folded) {
      nodes_[at].what = folds;
    } else if (boards_.open(board) < due(here.chips)) {
      if (here.chips.is_over() && is_run_out(board)) run_out_from(at, board);
      else turn(at, course, board);
    } else if (here.chips.is_over()) {
      nodes_[at].what = shows;
    } else {
      decide(at, course, board);
    }
  }
  std::size_t due(const Chips& chips) const {
    return game_.rules().board.size() + game_.chips().shared_by(chips.street);
  }

  void follow(std::size_t at, std::size_t size) {
    nodes_[at].first = static_cast<std::uint32_t>(nodes_.size());
    nodes_[at].size = static_cast<std::uint32_t>(size);
    if (static_cast<double>(nodes_.size() + size) > most_nodes)
      refuse_size(static_cast<double>(nodes_.size()), static_cast<double>(chances_));
    nodes_.resize(nodes_.size() + size);
    crew_.pause();
  }
  void decide(std::size_t at, std::uint32_t course, std::uint32_t board) {
    const PublicTree::Node& here = tree_.node(course);
    nodes_[at].what = decides;
    nodes_[at].seat = here.chips.turn;
    nodes_[at].chances = chances_;
    const std::size_t moves = here.moves.count();
    chances_ += rows(nodes_[at], here.chips.turn) * moves;
    if (static_cast<double>(chances_) > most_chances)
      refuse_size(static_cast<double>(nodes_.size()), static_cast<double>(chances_));
    follow(at, moves);
    for (std::size_t i = 0; i < moves; ++i)
      grow(nodes_[at].first + i, here.first + static_cast<std::uint32_t>(i), board);
  }
  void turn(std::size_t at, std::uint32_t course, std::uint32_t board) {
    nodes_[at].what = turns;
    const std::size_t size = boards_.next(board).size();
    follow(at, size);
    for (std::size_t i = 0; i < size; ++i) grow(nodes_[at].first + i, course, boards_.at(board).next[i].board);
  }

  // Whether to go through all last cards, hand by hand, costs more than to meet all pairs of rows.
  bool is_run_out(std::uint32_t number) const {
    const BoardHoldings& board = boards_.at(number);
    const double pairs = static_cast<double>(board.sides[0]->rows()) * static_cast<double>(board.sides[1]->rows());
    const double ways = combinations(boards_.cards_left(board), boards_.to_come(board));
    const double hands = static_cast<double>(board.sides[0]->all.size() * boards_.hands().parts_each());
    return ways * hands > 16 * pairs;
  }
  // Minutes of work, where suits are told apart, would not be heard of before.
  void refuse_long_runout(const BoardHoldings& board) const {
    const double ways = combinations(boards_.cards_left(board), boards_.to_come(board)) / game_.table().exchanges();
    const double hands = static_cast<double>(board.sides[0]->all.size() + board.sides[1]->all.size());
    if (ways * hands <= most_shown && ways <= most_boards) return;
    throw OutOfReach("where all are in, the last " + std::to_string(boards_.to_come(board)) +
                     " cards can be turned in " + told(ways) + " ways beside " + told(hands) + " hands of both seats");
  }
  void run_out_from(std::size_t at, std::uint32_t board) {
    nodes_[at].what = runs_out;
    if (runouts_.find({board, 0}) == runouts_.end()) refuse_long_runout(boards_.at(board));
    for (const std::size_t seat : {0, 1}) {
      std::shared_ptr<const Runout>& known = runouts_[{board, seat}];
      if (known) continue;
      const bool alike = boards_.at(board).sides[0] == boards_.at(board).sides[1];
      known = seat == 1 && alike ? runouts_.at({board, 0})
                                 : std::make_shared<Runout>(run_out(boards_, boards_.at(board), seat, crew_));
    }
  }

  void weigh_deals() {
    Showing showing(boards_.hands());
    const std::vector<double> all(rows(nodes_[0], 1), 1);
    std::vector<double> met(rows(nodes_[0], 0), 0);
    showing.meet(boards_.at(0), 0, 1, all.data(), met.data());
    for (const double each : met) deals_ += each;
  }

  // What it comes to at least, before anything is made: what each course has for each board and hand that differ by
  // more than the names of suits.
  void refuse_if_large() const {
    const double alike = game_.table().exchanges();
    const std::vector<double>& left = boards_.at(0).left;
    double positions = 0, chances = 0;
    std::vector<double> boards{1};
    for (const Street& street : game_.rules().chips.streets)
      boards.push_back(boards.back() * (street.shared > 0 ? count_sets(left, street.shared) : 1));
    for (std::size_t course = 0; course < tree_.size(); ++course) {
      const PublicTree::Node& node = tree_.node(course);
      if (node.chips.is_over() || node.moves.is_one()) continue;
      const double here = std::max(1.0, boards[node.chips.street + std::size_t{1}] / alike);
      positions += here;
      chances += std::max(1.0, boards[node.chips.street + std::size_t{1}] *
                                   static_cast<double>(boards_.hands().count()) / alike) *
                 static_cast<double>(node.moves.count());
    }
    if (positions > most_nodes || chances > most_chances) refuse_size(positions, chances);
  }
  [[noreturn]] void refuse_size(double positions, double chances) const {
    throw OutOfReach("it has about " + told(positions) + " public positions and " +
                     told(static_cast<double>(boards_.hands().count())) + " hands of a seat, and needs about " +
                     told(chances * 32 / 1e6) + " megabytes, more than " + told(most_chances * 32 / 1e6));
  }
  static std::string told(double number) { return std::to_string(static_cast<std::uint64_t>(number)); }

  static constexpr double most_shown = 5e8, most_boards = 3e6;

  const Betting& game_;
  const PublicTree& tree_;
  Boards boards_;
  Crew crew_;
  std::vector<Node> nodes_;
  std::vector<BySeat> stakes_;
  std::map<std::pair<std::uint32_t, std::size_t>, std::shared_ptr<const Runout>> runouts_;
  std::uint64_t chances_ = 0;
  double deals_ = 0;
};

}  // namespace habanera
