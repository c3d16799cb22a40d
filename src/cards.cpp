#include <cmath>
#include <cstring>
#include <vector>

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

namespace {

// Cards are whole numbers with a catalogue and a class and nothing else: no names, no class of the user's own.
bool are_plain_cards(SEXP x) {
  const SEXP classes = Rf_getAttrib(x, R_ClassSymbol);
  return TYPEOF(x) == INTSXP && Rf_length(ATTRIB(x)) == 2 && Rf_length(classes) == 2 &&
         std::strcmp(CHAR(STRING_ELT(classes, 0)), "cards") == 0 &&
         std::strcmp(CHAR(STRING_ELT(classes, 1)), "vctrs_vctr") == 0;
}

bool same_catalogue(SEXP x, SEXP y) {
  const SEXP name = Rf_install("catalogue");
  return R_compute_identical(Rf_getAttrib(x, name), Rf_getAttrib(y, name), 16) != 0;
}

// Places counted from 1 as R has them, or none where one of them is no whole number between 1 and n.
bool read_places(SEXP i, R_xlen_t n, std::vector<R_xlen_t>& places) {
  if ((TYPEOF(i) != INTSXP && TYPEOF(i) != REALSXP) || ATTRIB(i) != R_NilValue) return false;
  places.resize(static_cast<std::size_t>(Rf_xlength(i)));
  for (std::size_t k = 0; k < places.size(); ++k) {
    const auto at = static_cast<R_xlen_t>(k);
    const double place = TYPEOF(i) == INTSXP ? INTEGER(i)[at] : REAL(i)[at];
    if (!(place >= 1 && place <= static_cast<double>(n)) || place != std::floor(place)) return false;
    places[k] = static_cast<R_xlen_t>(place) - 1;
  }
  return true;
}

}  // namespace

// Cards at places; NULL where cards or places are not plain, which vctrs then decides.
// [[Rcpp::export(rng = false)]]
SEXP core_cards_at(SEXP x, SEXP i) {
  std::vector<R_xlen_t> places;
  if (!are_plain_cards(x) || !read_places(i, Rf_xlength(x), places)) return R_NilValue;
  Rcpp::Shield<SEXP> found(Rf_allocVector(INTSXP, Rf_xlength(i)));
  for (std::size_t k = 0; k < places.size(); ++k) INTEGER(found)[k] = INTEGER(x)[places[k]];
  SHALLOW_DUPLICATE_ATTRIB(found, x);
  return found;
}

// The cards with others of the same catalogue put at places; NULL as above.
// [[Rcpp::export(rng = false)]]
SEXP core_cards_put(SEXP x, SEXP i, SEXP value) {
  std::vector<R_xlen_t> places;
  if (!are_plain_cards(x) || !are_plain_cards(value) || !read_places(i, Rf_xlength(x), places)) return R_NilValue;
  const auto given = static_cast<std::size_t>(Rf_xlength(value));
  if ((given != places.size() && given != 1) || !same_catalogue(x, value)) return R_NilValue;
  Rcpp::Shield<SEXP> put(Rf_shallow_duplicate(x));
  for (std::size_t k = 0; k < places.size(); ++k) INTEGER(put)[places[k]] = INTEGER(value)[given == 1 ? 0 : k];
  return put;
}
