#include "convert.h"

#include "habanera/cards/sampled_deck.hpp"
#include "habanera/chance/random.hpp"

// The kinds of a sampled deck, counted from 1.
// [[Rcpp::export]]
Rcpp::IntegerVector core_sampled_kinds(Rcpp::NumericVector weights, Rcpp::NumericVector max_copies,
                                       int size, double seed) {
  habanera::RandomChance chance(to_count(seed), 1);
  std::vector<std::size_t> most;
  for (const double copies : max_copies) most.push_back(static_cast<std::size_t>(to_count(copies)));
  const std::vector<std::size_t> kinds = habanera::sample_deck(
      Rcpp::as<std::vector<double>>(weights), most, static_cast<std::size_t>(size), chance);
  Rcpp::IntegerVector from(kinds.begin(), kinds.end());
  return from + 1;
}
