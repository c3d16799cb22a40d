#pragma once

#include "habanera_r/convert.hpp"

#include "habanera/run/tally.hpp"

// A tally for R: `n`, `example_trial` (Inf where none) and `pairs`.
inline Rcpp::List pack_tally(const habanera::Tally& tally, const Rcpp::NumericVector& pairs) {
  Rcpp::NumericVector n(tally.size()), example(tally.size());
  for (std::size_t i = 0; i < tally.size(); ++i) {
    n[i] = tally.count(i);
    example[i] = n[i] > 0 ? static_cast<double>(tally.example(i)) : R_PosInf;
  }
  return Rcpp::List::create(Rcpp::Named("n") = n, Rcpp::Named("example_trial") = example,
                            Rcpp::Named("pairs") = pairs);
}
