#include "habanera_r/convert.hpp"

#include <string>
#include <vector>

#include "habanera/own/pile_table.hpp"

// The piles of a game of one's own in R. What cannot be done gives NULL: R knows the words for it. These are called for
// every move, and look nothing up in R.

namespace {

using Table = habanera::PileTable;

Table& to_table(SEXP pointer) { return *static_cast<Table*>(R_ExternalPtrAddr(pointer)); }

std::size_t to_pile(const Table& table, SEXP name) {
  return Rf_isString(name) && Rf_length(name) == 1 ? table.find(CHAR(STRING_ELT(name, 0))) : Table::no_pile;
}

// Places counted from 1; what is no whole number above 0 is none that a pile has.
std::vector<std::size_t> to_places(SEXP at) {
  std::vector<std::size_t> places;
  for (const double place : Rcpp::NumericVector(at))
    places.push_back(place >= 1 && place <= 1e9 && place == std::floor(place) ? static_cast<std::size_t>(place) : 0);
  return places;
}

SEXP pack_cards(const Table::Cards& cards) { return Rcpp::IntegerVector(cards.begin(), cards.end()); }

}  // namespace

// [[Rcpp::export(rng = false)]]
SEXP core_table(std::vector<std::string> names) { return Rcpp::XPtr<Table>(new Table(names)); }

// Clears the table and lays a list of cards on its piles, in their order.
// [[Rcpp::export(rng = false)]]
SEXP core_table_lay(SEXP pointer, Rcpp::List piles) {
  Table& table = to_table(pointer);
  for (std::size_t pile = 0; pile < table.piles(); ++pile) {
    const Rcpp::IntegerVector cards = piles[static_cast<R_xlen_t>(pile)];
    table.lay(pile, {cards.begin(), cards.end()});
  }
  return R_NilValue;
}

// [[Rcpp::export(rng = false)]]
SEXP core_table_move(SEXP pointer, SEXP from, SEXP to, SEXP n, SEXP at, SEXP beneath) {
  Table& table = to_table(pointer);
  const std::size_t source = to_pile(table, from), target = to_pile(table, to);
  if (source == Table::no_pile || target == Table::no_pile) return R_NilValue;
  const bool under = Rf_asLogical(beneath) == 1;
  std::vector<std::size_t> places;
  if (Rf_isNull(at)) {
    const double count = Rf_asReal(n);
    if (!(count >= 0 && count <= static_cast<double>(table.size(source))) || count != std::floor(count))
      return R_NilValue;
    if (count == 1 && !under) return Rf_ScalarInteger(table.move_top(source, target));
    for (std::size_t place = 1; static_cast<double>(place) <= count; ++place) places.push_back(place);
  } else {
    places = to_places(at);
    if (!table.holds(source, places)) return R_NilValue;
  }
  return pack_cards(table.move(source, target, places, under));
}

// The cards at these places; NULL: all.
// [[Rcpp::export(rng = false)]]
SEXP core_table_cards(SEXP pointer, SEXP pile, SEXP at) {
  const Table& table = to_table(pointer);
  const std::size_t source = to_pile(table, pile);
  if (source == Table::no_pile) return R_NilValue;
  if (Rf_isNull(at)) return pack_cards(table.cards(source));
  const std::vector<std::size_t> places = to_places(at);
  if (!table.holds(source, places)) return R_NilValue;
  Table::Cards cards;
  for (const std::size_t place : places) cards.push_back(table.card(source, place));
  return pack_cards(cards);
}

// [[Rcpp::export(rng = false)]]
SEXP core_table_size(SEXP pointer, SEXP pile) {
  const Table& table = to_table(pointer);
  const std::size_t source = to_pile(table, pile);
  return source == Table::no_pile ? R_NilValue : Rf_ScalarInteger(static_cast<int>(table.size(source)));
}

// The cards of a pile in another order, or settled.
// [[Rcpp::export(rng = false)]]
SEXP core_table_put(SEXP pointer, SEXP pile, Rcpp::IntegerVector cards) {
  Table& table = to_table(pointer);
  table.lay(to_pile(table, pile), {cards.begin(), cards.end()});
  return R_NilValue;
}
