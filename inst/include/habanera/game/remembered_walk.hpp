#pragma once

#include <algorithm>
#include <cstddef>
#include <map>
#include <stdexcept>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "habanera/chance/weights.hpp"
#include "habanera/chance/work_bound.hpp"
#include "habanera/game/choices.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/stock.hpp"
#include "habanera/game/unseen.hpp"
#include "habanera/stat/exact_sum.hpp"

namespace habanera {

// The law of what comes of a game by all its courses at once, step by step: courses that lead to positions from which
// the same can come with the same outcome (by the game's `full_key`) go on as one. All players decide by what they see.
template <class Game>
class RememberedWalk {
 public:
  using Position = typename Game::Position;
  using Players = std::vector<std::unique_ptr<Player<typename Game::View>>>;

  // Steps that all courses together reach with a smaller chance than this are left out: it is far below what rounding
  // does to the sums.
  static constexpr double negligible = 1e-18;

  // Courses that differ only in how often seats decided are told apart on request.
  RememberedWalk(const Game& game, const Players& players, bool by_decisions, const WorkBound& bound)
      : game_(game), players_(players), by_decisions_(by_decisions), work_(bound.pause), most_(bound.most) {}

  // Calls `ended(position, decisions, chance)` for each way in which a round ends.
  template <class Ended>
  void operator()(const std::vector<double>& counts, Ended&& ended) {
    UnseenCards unseen(counts);
    // Hands that are dealt by name are taken from the kinds by which the game itself counts.
    if constexpr (may_open_with_hands<Game>) unseen = game_.unseen(game_.start());
    for (std::size_t burned = 0; burned < game_.burned(); ++burned) unseen.lay_down();
    each_opening(game_, game_.start(unseen.next_place()), unseen,
                 [&](const Position& position, const UnseenCards& left, double chance) {
                   reach({position, left, {}}, chance);
                 });
    for (std::uint64_t steps = 0; !reached_.empty(); ++steps) {
      if (steps > most_steps) throw EndlessGame("does not end in " + std::to_string(most_steps) + " steps");
      const auto now = std::exchange(reached_, {});
      double all = 0;
      for (const auto& [key, found] : now) all += found.second.value();
      if (all < negligible) return;
      for (const auto& [key, found] : now) step(found.first, found.second.value(), ended);
    }
  }

 private:
  struct Course {
    Position position;
    UnseenCards unseen;
    Decisions decisions;
  };

  void reach(Course course, double chance) {
    std::string key = game_.full_key(course.position, course.unseen);
    if (by_decisions_) key += course.decisions.key();
    const auto [found, is_new] = reached_.try_emplace(key, std::move(course), ExactSum());
    found->second.second.add(chance);
    work_.tick();
    if (is_new && ++positions_ > most_)
      throw std::length_error("more than " + std::to_string(most_) + " positions to walk");
  }

  template <class Ended>
  void step(const Course& course, double chance, Ended& ended) {
    const NextStep next = game_.next(course.position);
    switch (next.what) {
      case NextStep::over: return round_over(course, chance, ended);
      case NextStep::decide: return decide(course, next.seat, chance);
      case NextStep::deal: return over_kinds(course, next, course.unseen.next_weights(), chance);
      case NextStep::turn: return turn(course, next, chance);
      case NextStep::lay_down: return lay_down(course, next, chance);
      case NextStep::look: return look(course, next, chance);
    }
  }

  template <class Ended>
  void round_over(const Course& course, double chance, Ended& ended) {
    ended(course.position, course.decisions, chance);
    const std::size_t gone = course.unseen.next_place();
    if (game_.plays_on(gone)) reach({game_.start(gone), course.unseen, {}}, chance);
  }

  void decide(const Course& course, std::size_t seat, double chance) {
    const Moves moves = game_.moves(course.position);
    for (const auto& [move, share] : chances_of_moves(*players_[seat], game_.view(course.position, seat), moves)) {
      Course after = course;
      after.decisions.count(seat, moves);
      game_.move(after.position, move);
      reach(std::move(after), chance * share);
    }
  }

  void turn(const Course& course, const NextStep& next, double chance) {
    if (!course.unseen.is_known(next.place))
      return over_kinds(course, next, course.unseen.weights_at(next.place), chance);
    Course after = course;
    game_.give(after.position, next, course.unseen.known(next.place));
    reach(std::move(after), chance);
  }

  void lay_down(const Course& course, const NextStep& next, double chance) {
    if constexpr (lays_face_down<Game>) {
      Course after = course;
      const std::size_t place = after.unseen.lay_down();
      game_.laid(after.position, next, place);
      reach(std::move(after), chance);
    }
  }

  void look(const Course& course, const NextStep& next, double chance) {
    if constexpr (lays_face_down<Game>) {
      const CardSet& set = game_.looked_for(course.position);
      const std::vector<double> ways = course.unseen.weights_of(next.place, set);
      for (const bool is_in : {true, false}) {
        if (ways[is_in ? 0 : 1] == 0) continue;
        Course after = course;
        after.unseen.narrow(next.place, set, is_in);
        game_.looked(after.position, next, is_in);
        reach(std::move(after), chance * ways[is_in ? 0 : 1] / (ways[0] + ways[1]));
      }
    }
  }

  void over_kinds(const Course& course, const NextStep& next, const std::vector<double>& weights, double chance) {
    if (std::all_of(weights.begin(), weights.end(), [](double weight) { return weight == 0; }))
      throw StockRanOut("needs more cards than there are");
    const double total = total_weight(weights);
    for (std::size_t kind = 0; kind < weights.size(); ++kind) {
      if (weights[kind] == 0) continue;
      const auto card = static_cast<Card>(kind);
      Course after = course;
      next.what == NextStep::deal ? after.unseen.deal(card) : after.unseen.turn(next.place, card);
      game_.give(after.position, next, card);
      reach(std::move(after), chance * weights[kind] / total);
    }
  }

  const Game& game_;
  const Players& players_;
  bool by_decisions_;
  WorkClock work_;
  std::uint64_t most_, positions_ = 0;
  std::unordered_map<std::string, std::pair<Course, ExactSum>> reached_;
};

}  // namespace habanera
