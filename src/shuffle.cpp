#include "shuffle.h"
#include "run_tally.h"

#include <algorithm>
#include <map>
#include <numeric>

#include "habanera/chance/random.hpp"
#include "habanera/shuffle/asking.hpp"
#include "habanera/shuffle/exact_law.hpp"
#include "habanera/watcher/recorder.hpp"
#include "habanera/watcher/silent.hpp"

namespace {

std::vector<habanera::Card> in_order(int cards) {
  std::vector<habanera::Card> places(static_cast<std::size_t>(cards));
  std::iota(places.begin(), places.end(), habanera::Card{0});
  return places;
}

template <class Watcher>
std::vector<habanera::Card> shuffled(const Rcpp::List& steps, int cards, double seed, double trial,
                                     double lane, Watcher& watcher) {
  std::vector<habanera::Card> places = in_order(cards);
  const habanera::Pile pile{places.data(), places.size()};
  const habanera::Procedure procedure = to_procedure(steps, places.size());
  habanera::RandomChance chance(to_count(seed), to_count(trial), to_count(lane));
  habanera::Workspace work;
  watcher.begins(pile);
  procedure(pile, places.size(), work, chance, watcher);
  return places;
}

}  // namespace

// Where the card now at each place came from, places counted from 1.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerVector core_shuffled_places(Rcpp::List steps, int cards, double seed, double trial,
                                         double lane) {
  habanera::Silent silent;
  return from_one(shuffled(steps, cards, seed, trial, lane, silent));
}

// Every move of one shuffle: `step` (from 1), `from` and `to` (places from 1; NA when the whole pile is laid anew), and
// `after`, a matrix with the places after each move in a row.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_recorded_moves(Rcpp::List steps, int cards, double seed, double trial) {
  habanera::Recorder recorder;
  shuffled(steps, cards, seed, trial, habanera::lane::deal, recorder);
  const int moves = static_cast<int>(recorder.steps().size());
  Rcpp::IntegerVector number(moves), from(moves), to(moves);
  Rcpp::IntegerMatrix after(moves, cards);
  for (int row = 0; row < moves; ++row) {
    const habanera::Recorder::Step& step = recorder.steps()[static_cast<std::size_t>(row)];
    const bool swap = step.from != habanera::Recorder::whole_pile;
    number[row] = static_cast<int>(step.step) + 1;
    from[row] = swap ? static_cast<int>(step.from) + 1 : NA_INTEGER;
    to[row] = swap ? static_cast<int>(step.to) + 1 : NA_INTEGER;
    for (int i = 0; i < cards; ++i) after(row, i) = step.after[static_cast<std::size_t>(i)] + 1;
  }
  return Rcpp::List::create(Rcpp::Named("step") = number, Rcpp::Named("from") = from, Rcpp::Named("to") = to,
                            Rcpp::Named("after") = after);
}

// How many ways the choices of each step can go.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_step_paths(Rcpp::List steps, int cards) {
  const habanera::Procedure procedure = to_procedure(steps, static_cast<std::size_t>(cards));
  Rcpp::NumericVector paths;
  for (const habanera::Step& step : procedure.steps())
    paths.push_back(std::visit(
        [&](const auto& one) { return one.paths(static_cast<std::size_t>(cards)); }, step));
  return paths;
}

// The exact law of the arrangement: `places`, a matrix with an arrangement in each row, and
// `probability`, in a fixed order.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_exact_law(Rcpp::List steps, Rcpp::IntegerVector times, int cards, double path_limit,
                          double product_limit) {
  const auto size = static_cast<std::size_t>(cards);
  const habanera::Procedure procedure = to_procedure(steps, size);
  const std::vector<std::size_t> repeats(times.begin(), times.end());
  const habanera::ArrangementLaw law = habanera::exact_law(procedure.steps(), repeats, size,
                                                           to_bound(path_limit), product_limit);
  std::map<std::vector<int>, double> sorted;
  for (const auto& [arrangement, chance] : law) {
    std::vector<int> places;
    for (std::size_t i = 0; i < size; ++i)
      places.push_back(static_cast<int>(habanera::place_in(arrangement, i)) + 1);
    sorted[places] = chance.value();
  }
  Rcpp::IntegerMatrix places(static_cast<int>(sorted.size()), cards);
  Rcpp::NumericVector probability;
  for (const auto& [row, chance] : sorted) {
    const int at = static_cast<int>(probability.size());
    for (int i = 0; i < cards; ++i) places(at, i) = row[static_cast<std::size_t>(i)];
    probability.push_back(chance);
  }
  return Rcpp::List::create(Rcpp::Named("places") = places, Rcpp::Named("probability") = probability);
}

// How many random numbers retry loops asked for, as a tally with cells 0 to cells - 1.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_count_asked(Rcpp::List steps, int cards, int cells, double seed, double first,
                            double count, int threads) {
  const auto size = static_cast<std::size_t>(cards);
  const habanera::Procedure procedure = to_procedure(steps, size);
  const auto counted = habanera::run_blocks(
      to_count(first), to_count(count), to_crew(threads), [&] {
        return habanera::AskCounter(procedure, size, static_cast<std::size_t>(cells), to_count(seed));
      });
  return pack_tally(counted.tally(), Rcpp::NumericVector());
}
