#pragma once

#include "habanera_r/convert.hpp"

#include <algorithm>
#include <string>
#include <vector>

#include "habanera/stat/grouped_sums.hpp"
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

template <class Numbers>
Rcpp::NumericVector pack_numbers(const Numbers& numbers) {
  Rcpp::NumericVector packed(static_cast<R_xlen_t>(numbers.size()));
  std::transform(numbers.begin(), numbers.end(), packed.begin(), [](auto number) { return static_cast<double>(number); });
  return packed;
}

// The trials kept of each class of columns: the class, the trial, and one after the other the values of its columns.
inline void pack_kept(Rcpp::List& into, const habanera::TrialSums& sums) {
  std::vector<double> first, size, of_class, trial, value;
  for (std::size_t i = 0; i < sums.classes().size(); ++i) {
    first.push_back(static_cast<double>(sums.classes()[i].first + 1));
    size.push_back(static_cast<double>(sums.classes()[i].size));
    for (const habanera::TrialSums::Kept& kept : sums.kept(i)) {
      of_class.push_back(static_cast<double>(i + 1));
      trial.push_back(static_cast<double>(kept.trial));
      for (const std::int64_t one : kept.values) value.push_back(static_cast<double>(one));
    }
  }
  into["class_first"] = pack_numbers(first);
  into["class_size"] = pack_numbers(size);
  into["kept_class"] = pack_numbers(of_class);
  into["kept_trial"] = pack_numbers(trial);
  into["kept_value"] = pack_numbers(value);
}

inline Rcpp::List pack_sums(const habanera::TrialSums& sums) {
  Rcpp::List packed;
  pack_wide(packed, "sum", sums.sums());
  pack_wide(packed, "product", sums.products());
  packed["held"] = pack_numbers(sums.held());
  pack_kept(packed, sums);
  return packed;
}

inline void pack_grouped(Rcpp::List& into, const habanera::GroupedSums& sums) {
  into["group_trials"] = pack_numbers(sums.trials());
  pack_wide(into, "group_sum", sums.sums());
  pack_wide(into, "group_square", sums.squares());
}
