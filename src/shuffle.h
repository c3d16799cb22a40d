#pragma once

#include "habanera_r/convert.hpp"

#include "habanera/shuffle/by_name.hpp"

// A procedure from R: a list of steps, each a list of `name` and `values`, already repeated.
inline habanera::Procedure to_procedure(const Rcpp::List& steps, std::size_t cards) {
  std::vector<habanera::Step> made;
  for (const Rcpp::List step : steps)
    made.push_back(habanera::make_step(Rcpp::as<std::string>(step["name"]),
                                       Rcpp::as<std::vector<double>>(step["values"]), cards));
  return habanera::Procedure(std::move(made));
}
