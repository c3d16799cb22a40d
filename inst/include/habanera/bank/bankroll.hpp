#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <utility>
#include <vector>

#include "habanera/bank/spread.hpp"
#include "habanera/bank/step_law.hpp"
#include "habanera/chance/work_bound.hpp"

namespace habanera {

// The law of a bankroll round by round, exactly but for what is negligible. Who cannot pay the bet that is due bets the
// first of the plan; who cannot pay that is ruined. A goal ends it, too.
class Bankroll {
 public:
  // Money in units, of which a stake has `stake`.
  Bankroll(StepLaw law, BetPlan plan, std::int64_t stake, std::int64_t start, std::optional<std::int64_t> goal)
      : law_(std::move(law)), plan_(std::move(plan)), stake_(stake), goal_(goal), at_(plan_.bets.size()) {
    at_[0] = Spread(start);
    end_round();
  }

  void play() {
    fall_back();
    std::vector<Spread> then(at_.size());
    for (std::size_t to = 0; to < then.size(); ++to) then[to] = room_for(to);
    for (std::size_t now = 0; now < at_.size(); ++now) {
      if (at_[now].empty()) continue;
      for (const StepLaw::Step& step : law_.steps)
        then[plan_.next(now, step.net)].add(at_[now], step.net * plan_.bets[now], step.probability);
    }
    at_ = std::move(then);
    end_round();
  }

  double ruined() const { return ruined_; }
  double reached() const { return reached_; }
  double lost() const { return lost_; }
  // What those had left who are ruined, and what those have who reached the goal, each times its chance; and squared.
  double left_at_end() const { return left_at_end_; }
  double squares_at_end() const { return squares_at_end_; }
  // What lies between ruin and goal.
  template <class Use>
  void each_height(Use&& use) const {
    for (const Spread& spread : at_) spread.each(use);
  }

 private:
  std::int64_t price(std::size_t place) const { return stake_ * plan_.bets[place]; }

  // What is too low for its bet goes back to the first.
  void fall_back() {
    for (std::size_t now = 1; now < at_.size(); ++now) {
      if (at_[now].empty() || at_[now].low() >= price(now)) continue;
      const std::int64_t last = std::min(at_[now].high(), price(now) - 1);
      Spread low(at_[now].low(), last);
      for (std::int64_t height = low.low(); height <= last; ++height) low[height] = at_[now].at(height);
      Spread both(at_[0].empty() ? low.low() : std::min(low.low(), at_[0].low()),
                  at_[0].empty() ? last : std::max(last, at_[0].high()));
      if (!at_[0].empty()) both.add(at_[0], 0, 1);
      both.add(low, 0, 1);
      at_[0] = std::move(both);
      at_[now].take_below(price(now));
    }
  }

  // Wide enough for all that comes to a place of the plan; empty where nothing does.
  Spread room_for(std::size_t to) const {
    std::optional<std::pair<std::int64_t, std::int64_t>> ends;
    for (std::size_t now = 0; now < at_.size(); ++now) {
      if (at_[now].empty()) continue;
      for (const StepLaw::Step& step : law_.steps) {
        if (plan_.next(now, step.net) != to) continue;
        const std::int64_t by = step.net * plan_.bets[now];
        const std::int64_t low = at_[now].low() + by, high = at_[now].high() + by;
        ends = ends ? std::pair(std::min(ends->first, low), std::max(ends->second, high)) : std::pair(low, high);
      }
    }
    return ends ? Spread(ends->first, ends->second) : Spread();
  }

  void end_round() {
    for (Spread& spread : at_) {
      if (spread.empty()) continue;
      spread.each([&](std::int64_t height, double chance) {
        if (height >= price(0) && !(goal_ && height >= *goal_)) return;
        const auto left = static_cast<double>(height);
        left_at_end_ += left * chance;
        squares_at_end_ += left * left * chance;
      });
      ruined_ += spread.take_below(price(0));
      if (goal_) reached_ += spread.take_from(*goal_);
      lost_ += spread.trim();
    }
  }

  StepLaw law_;
  BetPlan plan_;
  std::int64_t stake_;
  std::optional<std::int64_t> goal_;
  std::vector<Spread> at_;  // by the place in the plan
  double ruined_ = 0, reached_ = 0, lost_ = 0, left_at_end_ = 0, squares_at_end_ = 0;
};

// The law of how far one lies below the highest point so far (Lindley 1952, Proc. Camb. Phil. Soc. 48, 277-289); read
// backwards in time it is that of how deep the lowest point lies below the start. Falls as deep as `deepest` are taken
// out: they have happened.
class Fall {
 public:
  explicit Fall(StepLaw law, std::optional<std::int64_t> deepest = {}) : law_(std::move(law)), deepest_(deepest) {}

  void play() {
    if (depth_.empty()) return;
    const std::int64_t low = depth_.low() - law_.most(), high = depth_.high() - law_.least();
    Spread then(std::min<std::int64_t>(low, 0), std::max<std::int64_t>(high, 0));
    for (const StepLaw::Step& step : law_.steps) then.add(depth_, -step.net, step.probability);
    const double up = then.take_below(0);
    if (then.low() > 0) {
      Spread wider(0, then.high());
      wider.add(then, 0, 1);
      then = std::move(wider);
    }
    then[0] += up;
    if (deepest_) happened_ += then.take_from(*deepest_);
    lost_ += then.trim();
    depth_ = std::move(then);
  }

  double happened() const { return happened_; }
  double lost() const { return lost_; }
  const Spread& depth() const { return depth_; }

 private:
  StepLaw law_;
  std::optional<std::int64_t> deepest_;
  Spread depth_{0};
  double happened_ = 0, lost_ = 0;
};

// The depth that the deepest fall within so many rounds exceeds with at most this chance.
inline std::int64_t worst_fall(const StepLaw& law, std::uint64_t rounds, double chance,
                               WorkBound::Pause pause = [] {}) {
  const auto deeper = [&](std::int64_t depth) {
    Fall fall(law, depth + 1);
    for (std::uint64_t round = 0; round < rounds; ++round) {
      if (round % 64 == 0) pause();
      fall.play();
    }
    return fall.happened();
  };
  std::int64_t shallow = -1, deep = std::max<std::int64_t>(1, -law.least());
  while (deeper(deep) > chance) {
    shallow = deep;
    deep *= 2;
  }
  while (deep - shallow > 1) {
    const std::int64_t middle = shallow + (deep - shallow) / 2;
    (deeper(middle) > chance ? shallow : deep) = middle;
  }
  return deep;
}

// The chance of no `length` losses one after the other in so many rounds: of those before, a run is completed in the
// last round by as many losses after something else.
inline double no_losing_run(double loss, std::uint64_t length, std::uint64_t rounds) {
  double of_run = 1;
  for (std::uint64_t i = 0; i < length; ++i) of_run *= loss;
  std::vector<double> none(static_cast<std::size_t>(rounds + 1), 1);
  for (std::uint64_t round = length; round <= rounds; ++round)
    none[round] = round == length ? 1 - of_run : none[round - 1] - (1 - loss) * of_run * none[round - length - 1];
  return none[rounds];
}

// The chances to be ruined before a goal, however long it takes, for every height below the goal: the linear equations
// of a step, solved from the top of the band down. `stake` is what a round costs, in units.
inline std::vector<double> ruin_before_goal(const StepLaw& law, std::int64_t stake, std::int64_t goal) {
  const std::int64_t down = std::max<std::int64_t>(0, -law.least()), up = std::max<std::int64_t>(0, law.most());
  const auto width = static_cast<std::size_t>(down + up + 1), states = static_cast<std::size_t>(goal - stake);
  std::vector<double> band(states * width, 0), right(states, 0);
  const auto entry = [&](std::size_t row, std::size_t column) -> double& {
    return band[row * width + (column + static_cast<std::size_t>(down) - row)];
  };
  for (std::size_t row = 0; row < states; ++row) {
    entry(row, row) += 1;
    for (const StepLaw::Step& step : law.steps) {
      const std::int64_t to = static_cast<std::int64_t>(row) + step.net;
      if (to < 0) right[row] += step.probability;
      else if (to < static_cast<std::int64_t>(states)) entry(row, static_cast<std::size_t>(to)) -= step.probability;
    }
  }
  for (std::size_t row = 0; row < states; ++row)
    for (std::size_t below = row + 1; below < states && below <= row + static_cast<std::size_t>(down); ++below) {
      const double times = entry(below, row) / entry(row, row);
      if (times == 0) continue;
      for (std::size_t column = row; column < states && column <= row + static_cast<std::size_t>(up); ++column)
        entry(below, column) -= times * entry(row, column);
      right[below] -= times * right[row];
    }
  for (std::size_t row = states; row-- > 0;) {
    for (std::size_t column = row + 1; column < states && column <= row + static_cast<std::size_t>(up); ++column)
      right[row] -= entry(row, column) * right[column];
    right[row] /= entry(row, row);
  }
  return right;
}

}  // namespace habanera
