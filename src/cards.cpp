#include "habanera_r/convert.hpp"

#include "habanera/chance/random.hpp"

// The kinds of a sampled deck, counted from 1.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerVector core_sampled_kinds(Rcpp::NumericVector weights, Rcpp::NumericVector max_copies,
                                       int size, double seed) {
  habanera::RandomChance chance(to_count(seed), 1);
  const std::vector<std::size_t> kinds =
      habanera::sample_deck(to_sampling(weights, max_copies), static_cast<std::size_t>(size), chance);
  return from_one(kinds);
}
