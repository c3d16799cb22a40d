#pragma once

#include "habanera_r/convert.hpp"

#include <string>

#include "habanera/stat/trial_sums.hpp"

// Whole numbers too wide for a double, as value = high * 2^48 + low.
inline void pack_wide(Rcpp::List& into, const std::string& name, const std::vector<habanera::WideInteger>& values) {
  const auto size = static_cast<R_xlen_t>(values.size());
  Rcpp::NumericVector high(size), low(size);
  for (R_xlen_t i = 0; i < size; ++i) {
    const habanera::WideInteger value = values[static_cast<std::size_t>(i)], upper = value >> 48;
    high[i] = static_cast<double>(upper);
    low[i] = static_cast<double>(value - upper * (habanera::WideInteger{1} << 48));
  }
  into[name + "_high"] = high;
  into[name + "_low"] = low;
}

inline Rcpp::List pack_sums(const habanera::TrialSums& sums) {
  Rcpp::List packed;
  pack_wide(packed, "sum", sums.sums());
  pack_wide(packed, "product", sums.products());
  return packed;
}
