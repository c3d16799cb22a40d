#pragma once

#include <Rcpp/Light>

#include <chrono>
#include <cmath>
#include <cstdint>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/cards/sampled_deck.hpp"
#include "habanera/chance/stop_sign.hpp"
#include "habanera/chance/work_bound.hpp"

// Between R's numbers and the core's. R has checked the values; what is asserted here only guards
// against a slip in our own R code.

inline std::uint64_t to_count(double x) {
  if (!(x >= 0 && x <= 0x1p53) || x != std::floor(x))
    Rcpp::stop("internal error: %f is not a whole number below 2^53", x);
  return static_cast<std::uint64_t>(x);
}

// What long work does between two parts of it, in R's own thread: an interrupt ends it by an exception, and R may show
// that it goes on, a few times a second.
inline void pause_for_user() {
  Rcpp::checkUserInterrupt();
  static std::chrono::steady_clock::time_point shown;
  const auto now = std::chrono::steady_clock::now();
  if (now - shown < std::chrono::milliseconds(200)) return;
  shown = now;
  static const Rcpp::Function show(Rcpp::Environment::namespace_env("habanera").get("show_that_it_goes_on"));
  show();
}

inline habanera::WorkBound to_bound(double most) { return habanera::WorkBound(to_count(most), pause_for_user); }

inline habanera::Crew to_crew(int threads) { return habanera::Crew(static_cast<unsigned>(threads), pause_for_user); }

// Places or kinds as R counts them.
template <class Number>
Rcpp::IntegerVector from_one(const std::vector<Number>& from_zero) {
  Rcpp::IntegerVector numbers(from_zero.begin(), from_zero.end());
  for (int& number : numbers) ++number;
  return numbers;
}

// Kinds counted from 1 in R, from 0 in the core.
inline std::vector<habanera::Card> to_kinds(const Rcpp::IntegerVector& kinds) {
  std::vector<habanera::Card> cards;
  cards.reserve(static_cast<std::size_t>(kinds.size()));
  for (const int kind : kinds) {
    if (kind < 1 || kind > static_cast<int>(habanera::most_cards))
      Rcpp::stop("internal error: %d is not a kind of card", kind);
    cards.push_back(static_cast<habanera::Card>(kind - 1));
  }
  return cards;
}

inline habanera::DeckSampling to_sampling(const Rcpp::NumericVector& weights, const Rcpp::NumericVector& max_copies) {
  habanera::DeckSampling sampling{{weights.begin(), weights.end()}, {}};
  for (const double copies : max_copies) sampling.max_copies.push_back(static_cast<std::size_t>(to_count(copies)));
  return sampling;
}
