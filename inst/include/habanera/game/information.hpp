#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <memory>
#include <stdexcept>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "habanera/chance/weights.hpp"
#include "habanera/game/choices.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/solver.hpp"
#include "habanera/game/stock.hpp"
#include "habanera/game/unseen.hpp"

namespace habanera {

// All that a seat cannot tell apart: the positions in which it sees the same and may do the same.
struct InformationSet {
  std::size_t seat = 0;
  std::string sees;                 // the text of the view
  std::vector<std::size_t> moves;   // by number
  std::vector<std::string> words;   // as the game tells them
  std::size_t first = 0;            // where the chances of its moves lie in a Mix
  std::size_t before = none;        // the set that the seat decided in before
  std::size_t made = 0;             // and the place of its move there
  std::size_t depth = 0;            // how often it decided before
  std::vector<std::size_t> nodes;
  static constexpr std::size_t none = static_cast<std::size_t>(-1);
};

// For each information set the chance of each move, one after the other.
using Mix = std::vector<double>;

// The tree of a game by what seats see: every course once, with what it is worth to each seat, and the decisions of one
// information set held together. Kuhn (1953), "Extensive games and the problem of information". Seats with a player of
// their own decide by its chances; the others are open.
class InformationTree {
 public:
  enum What : std::uint8_t { ends, deals, decides };
  struct Node {
    What what = ends;
    std::size_t set = InformationSet::none;  // of a decision
    std::size_t first = 0, size = 0;         // of its branches; where it is over, `first` is where its worth lies
  };
  // A branch's chance: of a deal, or of the move of a seat with a player of its own.
  struct Branch {
    std::size_t node = 0;
    double chance = 1;
  };

  std::size_t seats() const { return seats_; }
  const std::vector<Node>& nodes() const { return nodes_; }
  const Branch& branch(const Node& node, std::size_t place) const { return branches_[node.first + place]; }
  const std::vector<InformationSet>& sets() const { return sets_; }
  double worth(const Node& node, std::size_t seat) const { return worth_[node.first + seat]; }
  std::size_t chances() const { return chances_; }  // how many a Mix holds
  bool is_open(std::size_t seat) const { return open_[seat]; }
  // Whether some set of a seat holds positions that it came to by other sets and moves of its own.
  bool forgets(std::size_t seat) const { return forgets_[seat]; }

  // Every move as likely.
  Mix even() const {
    Mix mix(chances_);
    for (const InformationSet& set : sets_)
      std::fill_n(mix.begin() + static_cast<std::ptrdiff_t>(set.first), set.moves.size(),
                  1 / static_cast<double>(set.moves.size()));
    return mix;
  }

  // The chance of a branch; of an open seat's move by the mix.
  double chance_of(const Node& node, std::size_t place, const Mix& mix) const {
    if (node.what == decides && open_[sets_[node.set].seat]) return mix[sets_[node.set].first + place];
    return branch(node, place).chance;
  }

  // What the game is worth to each seat.
  std::vector<double> values(const Mix& mix) const {
    std::vector<double> all(seats_);
    const std::vector<double> chances = reach(mix);
    for (std::size_t at = 0; at < nodes_.size(); ++at)
      if (nodes_[at].what == ends)
        for (std::size_t seat = 0; seat < seats_; ++seat) all[seat] += chances[at] * worth(nodes_[at], seat);
    return all;
  }

  // The chance of each node; the same but for what a seat itself does; and by the deals alone.
  std::vector<double> reach(const Mix& mix) const {
    return reach_by([&](const Node& node, std::size_t place) { return chance_of(node, place, mix); });
  }
  std::vector<double> reach_without(std::size_t seat, const Mix& mix) const {
    return reach_by([&](const Node& node, std::size_t place) {
      return node.what == decides && sets_[node.set].seat == seat ? 1 : chance_of(node, place, mix);
    });
  }
  std::vector<double> reach_by_deals() const {
    return reach_by([&](const Node& node, std::size_t place) {
      return node.what == decides ? 1 : branch(node, place).chance;
    });
  }

 private:
  template <class Chance>
  std::vector<double> reach_by(Chance&& chance) const {
    std::vector<double> reach(nodes_.size(), 0);
    reach[0] = 1;
    for (std::size_t at = 0; at < nodes_.size(); ++at) {
      const Node& node = nodes_[at];
      if (node.what == ends) continue;
      for (std::size_t i = 0; i < node.size; ++i) reach[branch(node, i).node] = reach[at] * chance(node, i);
    }
    return reach;
  }


  template <class Game>
  friend class TreeBuilder;
  std::size_t seats_ = 0, chances_ = 0;
  std::vector<Node> nodes_;  // each before those that follow from it
  std::vector<Branch> branches_;
  std::vector<double> worth_;
  std::vector<InformationSet> sets_;
  std::vector<bool> open_, forgets_;
};

// Goes through every course of a game.
template <class Game>
class TreeBuilder {
 public:
  using Position = typename Game::Position;
  using View = typename Game::View;
  using Players = std::vector<std::shared_ptr<const Player<View>>>;  // none for seats that are open

  static constexpr std::size_t most_nodes = 5000000;

  TreeBuilder(const Game& game, Players players, std::function<void()> pause)
      : game_(game), players_(std::move(players)), pause_(std::move(pause)) {}

  InformationTree operator()() {
    tree_.seats_ = game_.seats();
    tree_.forgets_.assign(tree_.seats_, false);
    for (const auto& player : players_) {
      tree_.open_.push_back(!player);
      if (player && !has_chances(*player))
        throw std::invalid_argument("the player of seat " + std::to_string(tree_.open_.size()) + " tells no chances");
    }
    past_.resize(tree_.seats_);
    last_.assign(tree_.seats_, {InformationSet::none, 0});
    const Position start = game_.start(0);
    if (opens_with_hands(game_)) open(start);
    else grow(start, game_.unseen(start));
    return std::move(tree_);
  }

 private:
  using Tree = InformationTree;

  std::size_t grow(const Position& position, const UnseenCards& unseen) {
    const std::size_t at = tree_.nodes_.size();
    if (at >= most_nodes)
      throw OutOfReach("there are more than " + std::to_string(most_nodes) + " positions in its tree");
    if ((at & 0xfff) == 0 && pause_) pause_();
    if (++steps_ > most_steps_of_tree)
      throw OutOfReach("some of its courses have more than " + std::to_string(most_steps_of_tree) + " steps");
    tree_.nodes_.emplace_back();
    const NextStep next = game_.next(position);
    switch (next.what) {
      case NextStep::over: end(at, position); break;
      case NextStep::decide: decide(at, position, unseen, next.seat); break;
      case NextStep::deal: deal(at, position, unseen, next, unseen.next_weights()); break;
      case NextStep::turn: turn(at, position, unseen, next); break;
      default: hide(at, position, unseen, next);
    }
    --steps_;
    return at;
  }

  // Seats are dealt some hands only.
  void open(const Position& start) {
    std::vector<std::pair<std::size_t, double>> opened;
    tree_.nodes_.emplace_back();
    each_opening(game_, start, game_.unseen(start),
                 [&](const Position& position, const UnseenCards& unseen, double chance) {
                   const std::size_t node = grow(position, unseen);
                   opened.emplace_back(node, chance);
                 });
    branch_out(0, Tree::deals, opened.size());
    for (std::size_t i = 0; i < opened.size(); ++i) put(0, i, opened[i].first, opened[i].second);
  }

  void end(std::size_t at, const Position& position) {
    tree_.nodes_[at].first = tree_.worth_.size();
    for (std::size_t seat = 0; seat < tree_.seats_; ++seat) tree_.worth_.push_back(game_.worth(position, seat));
  }

  void branch_out(std::size_t at, Tree::What what, std::size_t size) {
    Tree::Node& node = tree_.nodes_[at];
    node.what = what;
    node.first = tree_.branches_.size();
    node.size = size;
    tree_.branches_.resize(tree_.branches_.size() + size);
  }
  void put(std::size_t at, std::size_t place, std::size_t node, double chance) {
    tree_.branches_[tree_.nodes_[at].first + place] = {node, chance};
  }

  void decide(std::size_t at, const Position& position, const UnseenCards& unseen, std::size_t seat) {
    const Moves moves = game_.moves(position);
    if (moves.empty()) refuse_no_move(seat);
    const View view = game_.view(position, seat);
    const std::size_t set = set_of(seat, view, moves, at);
    branch_out(at, Tree::decides, moves.count());
    tree_.nodes_[at].set = set;
    std::vector<double> chances(moves.count(), 1);
    if (players_[seat]) chances = chances_of(*players_[seat], view, moves, past_[seat]);
    const auto before = last_[seat];
    for (std::size_t i = 0; i < moves.count(); ++i) {
      last_[seat] = {set, i};
      past_[seat].push_back({view, moves, moves.at(i)});
      Position after = position;
      game_.move(after, moves.at(i));
      const std::size_t node = grow(after, unseen);
      put(at, i, node, chances[i]);
      past_[seat].pop_back();
    }
    last_[seat] = before;
  }

  // The set that this position is of. That it was come to otherwise is noted.
  std::size_t set_of(std::size_t seat, const View& view, Moves moves, std::size_t at) {
    std::string sees = view.text();
    const std::string key = std::to_string(seat) + '/' + std::to_string(moves.bits()) + '/' + sees;
    const auto [found, is_new] = numbers_.emplace(key, tree_.sets_.size());
    const auto& [before, made] = last_[seat];
    if (is_new) {
      InformationSet set;
      set.seat = seat;
      set.sees = std::move(sees);
      moves.each([&](std::size_t move) {
        set.moves.push_back(move);
        set.words.push_back(game_.move_text(view, move));
      });
      set.first = tree_.chances_;
      set.before = before;
      set.made = made;
      set.depth = before == InformationSet::none ? 0 : tree_.sets_[before].depth + 1;
      tree_.chances_ += set.moves.size();
      tree_.sets_.push_back(std::move(set));
    }
    InformationSet& set = tree_.sets_[found->second];
    if (set.before != before || set.made != made) tree_.forgets_[seat] = true;
    set.nodes.push_back(at);
    return found->second;
  }

  void deal(std::size_t at, const Position& position, const UnseenCards& unseen, const NextStep& next,
            const std::vector<double>& weights) {
    const auto open = std::count_if(weights.begin(), weights.end(), [](double weight) { return weight > 0; });
    if (open == 0) throw StockRanOut("needs more cards than there are");
    const double total = total_weight(weights);
    branch_out(at, Tree::deals, static_cast<std::size_t>(open));
    std::size_t place = 0;
    for (std::size_t kind = 0; kind < weights.size(); ++kind) {
      if (weights[kind] == 0) continue;
      const auto card = static_cast<Card>(kind);
      UnseenCards left = unseen;
      next.what == NextStep::deal ? left.deal(card) : left.turn(next.place, card);
      Position after = position;
      game_.give(after, next, card);
      const std::size_t node = grow(after, left);
      put(at, place++, node, weights[kind] / total);
    }
  }

  void turn(std::size_t at, const Position& position, const UnseenCards& unseen, const NextStep& next) {
    if (!unseen.is_known(next.place)) return deal(at, position, unseen, next, unseen.weights_at(next.place));
    branch_out(at, Tree::deals, 1);
    Position after = position;
    game_.give(after, next, unseen.known(next.place));
    const std::size_t node = grow(after, unseen);
    put(at, 0, node, 1);
  }

  void hide(std::size_t at, const Position& position, const UnseenCards& unseen, const NextStep& next) {
    if constexpr (lays_face_down<Game>) {
      if (next.what == NextStep::lay_down) {
        branch_out(at, Tree::deals, 1);
        Position after = position;
        UnseenCards left = unseen;
        game_.laid(after, next, left.lay_down());
        const std::size_t node = grow(after, left);
        return put(at, 0, node, 1);
      }
      const CardSet set = game_.looked_for(position);
      const std::vector<double> split = unseen.weights_of(next.place, set);
      branch_out(at, Tree::deals, static_cast<std::size_t>((split[0] > 0) + (split[1] > 0)));
      std::size_t place = 0;
      for (const bool is_in : {true, false}) {
        const double weight = split[is_in ? 0 : 1];
        if (weight == 0) continue;
        Position after = position;
        UnseenCards left = unseen;
        left.narrow(next.place, set, is_in);
        game_.looked(after, next, is_in);
        const std::size_t node = grow(after, left);
        put(at, place++, node, weight / (split[0] + split[1]));
      }
    }
  }

  // In one course: positions on the way are held on the stack.
  static constexpr std::size_t most_steps_of_tree = 300;

  const Game& game_;
  Players players_;
  std::function<void()> pause_;
  Tree tree_;
  std::unordered_map<std::string, std::size_t> numbers_;
  std::vector<Past<View>> past_;
  std::vector<std::pair<std::size_t, std::size_t>> last_;  // of each seat its last set, and the place of its move
  std::size_t steps_ = 0;
};

}  // namespace habanera
