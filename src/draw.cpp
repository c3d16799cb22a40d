#include "draw.h"
#include "run_tally.h"

#include "habanera/draw/counting.hpp"
#include "habanera/draw/enumerating.hpp"

using habanera::Cells;

namespace {

template <Cells cells>
Rcpp::List run_counts(const Rcpp::List& spec, double seed, double first, double count,
                      int threads) {
  const habanera::Draw draw = to_draw(spec);
  const auto counted = habanera::count_draws<cells>(
      draw, static_cast<std::size_t>(to_count(spec["kinds"])), Rcpp::as<bool>(spec["pairs"]),
      to_count(seed), to_count(first), to_count(count), to_crew(threads));
  return pack_tally(counted.tally(), Rcpp::NumericVector(counted.pairs().begin(), counted.pairs().end()));
}

}  // namespace

// [[Rcpp::export(rng = false)]]
Rcpp::List core_count_draws(Rcpp::List spec, double seed, double first, double count,
                            int threads) {
  return run_counts<Cells::kind>(spec, seed, first, count, threads);
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_count_positions(Rcpp::List spec, double seed, double first, double count,
                                int threads) {
  return run_counts<Cells::kind_and_position>(spec, seed, first, count, threads);
}

// The kinds drawn in single trials: one row per trial, in the order drawn.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerMatrix core_trial_draws(Rcpp::List spec, double seed, Rcpp::NumericVector trials) {
  const habanera::Draw draw = to_draw(spec);
  const int size = static_cast<int>(draw.spec().size);
  Rcpp::IntegerMatrix drawn(static_cast<int>(trials.size()), size);
  habanera::Silent silent;
  habanera::Workspace work;
  std::vector<habanera::Card> table;
  for (int row = 0; row < drawn.nrow(); ++row) {
    habanera::RandomChance chance(to_count(seed), to_count(trials[row]));
    draw.lay(table, chance);
    draw(table, work, chance, silent);
    for (int i = 0; i < size; ++i) drawn(row, i) = table[static_cast<std::size_t>(i)] + 1;
  }
  return drawn;
}

// The expected number of each kind at each position, by walking every path: kinds in rows.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericMatrix core_walk_draws(Rcpp::List spec, double path_limit) {
  const habanera::Draw draw = to_draw(spec);
  const auto kinds = static_cast<std::size_t>(to_count(spec["kinds"]));
  const std::vector<double> expected = habanera::walk_draws(draw, kinds, to_bound(path_limit));
  return Rcpp::NumericMatrix(static_cast<int>(kinds), static_cast<int>(draw.spec().size),
                             expected.begin());
}
