#pragma once

#include "habanera_r/convert.hpp"

#include <optional>

#include "habanera/count/bettor.hpp"

habanera::CountSystem to_count_system(const Rcpp::List& spec);

// The seat that bets by the count, where there is one.
std::optional<habanera::Bettor> to_bettor(const Rcpp::List& rules);

// A whole number that may be missing (NULL).
std::optional<std::int64_t> to_optional(SEXP value);
