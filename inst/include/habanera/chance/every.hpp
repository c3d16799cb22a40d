#pragma once

#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <vector>

#include "habanera/chance/size_run.hpp"
#include "habanera/chance/weights.hpp"
#include "habanera/chance/work_bound.hpp"

namespace habanera {

// Chance for exact answers: walks every path of choices, depth first, each with its probability.
// Drive it with walk_every_path() below.
class EveryChance {
 public:
  explicit EveryChance(const WorkBound& bound) : path_limit_(bound.most), choices_(bound.pause) {}

  std::uint64_t below(std::uint64_t size) {
    if (size < 1) throw std::invalid_argument("a choice among 0 things cannot be made");
    const std::uint64_t taken = next_branch(size);
    probability_ /= static_cast<double>(size);
    return taken;
  }

  template <class Use>
  void below_each(const SizeRun& sizes, std::size_t count, Use&& use) {
    for (std::size_t i = 0; i < sizes.count() && i < count; ++i) use(i, below(sizes.size(i)));
  }

  std::uint64_t bits(unsigned n) {
    if (n > 32) throw std::invalid_argument("at most 32 bits can be walked, not " + std::to_string(n));
    return below(std::uint64_t{1} << n);
  }

  // Branches of weight 0 are never walked.
  std::size_t pick(const std::vector<double>& weights) {
    const double total = total_weight(weights);
    std::vector<std::size_t> open;
    for (std::size_t i = 0; i < weights.size(); ++i)
      if (weights[i] > 0) open.push_back(i);
    const std::size_t taken = open[next_branch(open.size())];
    probability_ *= weights[taken] / total;
    return taken;
  }

  // Of the path walked so far.
  double probability() const { return probability_; }
  std::uint64_t paths() const { return paths_; }

  void begin_path() {
    if (++paths_ > path_limit_)
      throw std::length_error("more than " + std::to_string(path_limit_) + " paths to walk");
    depth_ = 0;
    probability_ = 1;
  }

  // Turns to the next path; false when all have been walked.
  bool advance() {
    branches_.resize(depth_);
    while (!branches_.empty() && branches_.back().taken + 1 == branches_.back().size)
      branches_.pop_back();
    if (branches_.empty()) return false;
    ++branches_.back().taken;
    return true;
  }

 private:
  struct Branch {
    std::uint64_t taken, size;
  };

  // Long paths make few of them much work.
  static constexpr std::uint64_t choice_limit = 1000000000;

  std::uint64_t next_branch(std::uint64_t size) {
    choices_.tick();
    if (choices_.steps() > choice_limit)
      throw std::length_error("more than " + std::to_string(choice_limit) + " choices to walk");
    if (depth_ == branches_.size()) branches_.push_back({0, size});
    if (branches_[depth_].size != size)
      throw std::logic_error("the same choices led to a different question");
    return branches_[depth_++].taken;
  }

  std::uint64_t path_limit_;
  std::uint64_t paths_ = 0;
  WorkClock choices_;
  std::vector<Branch> branches_;
  std::size_t depth_ = 0;
  double probability_ = 1;
};

// Calls trial(chance) once for every path of choices there is. The probability of a path is
// chance.probability() at the trial's end. Throws std::length_error beyond so many paths, or a billion choices.
template <class Trial>
std::uint64_t walk_every_path(const WorkBound& bound, Trial&& trial) {
  EveryChance chance(bound);
  do {
    chance.begin_path();
    trial(chance);
  } while (chance.advance());
  return chance.paths();
}

}  // namespace habanera
