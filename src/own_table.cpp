#include "habanera_r/convert.hpp"

#include <R_ext/Random.h>

#include <optional>
#include <string>
#include <vector>

#include "habanera/own/pile_table.hpp"
#include "habanera/own/seat_eyes.hpp"

// The table of a game of one's own in R. What cannot be done, or goes wrong, gives NULL: R knows the words for it. These
// are called for every move, and look nothing up in R.

namespace {

using habanera::PileTable;
using habanera::SeatEyes;

struct Table {
  PileTable piles;
  double steps = 0, most_steps;
  int asked = 0;  // the seat whose player is asked now
  std::optional<SeatEyes> eyes;
  bool sees_other = false;  // whether the seat that is followed has seen something else

  bool goes_on() { return ++steps <= most_steps; }
  // Whether nobody saw what he should not have.
  bool tell(std::string_view action, std::size_t seat, const PileTable::Cards& cards) {
    if (eyes && !eyes->happened(action, seat, cards, piles)) sees_other = true;
    return !sees_other;
  }
};

Table& to_table(SEXP pointer) { return *static_cast<Table*>(R_ExternalPtrAddr(pointer)); }

std::size_t to_pile(const PileTable& piles, SEXP name) {
  return Rf_isString(name) && Rf_length(name) == 1 ? piles.find(CHAR(STRING_ELT(name, 0))) : PileTable::no_pile;
}

// Places counted from 1; what is no whole number above 0 is none that a pile has.
std::vector<std::size_t> to_places(SEXP at) {
  std::vector<std::size_t> places;
  for (const double place : Rcpp::NumericVector(at))
    places.push_back(place >= 1 && place <= 1e9 && place == std::floor(place) ? static_cast<std::size_t>(place) : 0);
  return places;
}

SEXP pack_cards(const PileTable::Cards& cards) { return Rcpp::IntegerVector(cards.begin(), cards.end()); }

PileTable::Cards to_cards(const Rcpp::IntegerVector& cards) { return {cards.begin(), cards.end()}; }

// Cards that moved, where the eyes of the seats take part.
SEXP moved(Table& table, std::size_t from, std::size_t to, const PileTable::Cards& cards) {
  if (!table.eyes) return pack_cards(cards);
  const std::string action = table.piles.name(from) + " to " + table.piles.name(to);
  return table.tell(action, table.eyes->owner(from), cards) ? pack_cards(cards) : R_NilValue;
}

// A vector of moves whose elements are told apart by their values alone.
bool is_plain(SEXP moves) {
  const int type = TYPEOF(moves);
  return (type == INTSXP || type == REALSXP || type == STRSXP) && ATTRIB(moves) == R_NilValue;
}

SEXP move_at(SEXP moves, R_xlen_t place) {
  switch (TYPEOF(moves)) {
    case INTSXP: return Rf_ScalarInteger(INTEGER(moves)[place]);
    case REALSXP: return Rf_ScalarReal(REAL(moves)[place]);
    default: return Rf_ScalarString(STRING_ELT(moves, place));
  }
}

// The place of an answer among the moves, as far as it is of their type; else -1.
R_xlen_t place_of(SEXP answer, SEXP moves) {
  if (TYPEOF(answer) != TYPEOF(moves) || Rf_xlength(answer) != 1 || ATTRIB(answer) != R_NilValue) return -1;
  for (R_xlen_t place = 0; place < Rf_xlength(moves); ++place) {
    const bool is_it = TYPEOF(moves) == INTSXP    ? INTEGER(moves)[place] == INTEGER(answer)[0]
                       : TYPEOF(moves) == REALSXP ? REAL(moves)[place] == REAL(answer)[0]
                                                  : STRING_ELT(moves, place) == STRING_ELT(answer, 0);
    if (is_it) return place;
  }
  return -1;
}

}  // namespace

// [[Rcpp::export(rng = false)]]
SEXP core_table(std::vector<std::string> names, double most_steps) {
  return Rcpp::XPtr<Table>(new Table{PileTable(std::move(names)), 0, most_steps, 0, {}, false});
}

// From now on the table knows what its seats see: `owner` of each pile (0: nobody's), whether it `is_open`.
// [[Rcpp::export(rng = false)]]
SEXP core_table_eyes(SEXP pointer, Rcpp::IntegerVector owner, Rcpp::LogicalVector is_open, double cards, double seats) {
  SeatEyes::Sights sights;
  sights.owner.assign(owner.begin(), owner.end());
  sights.is_open.assign(is_open.begin(), is_open.end());
  to_table(pointer).eyes.emplace(std::move(sights), to_count(cards), to_count(seats));
  return R_NilValue;
}

// A seat is held to what it has seen at another table.
// [[Rcpp::export(rng = false)]]
SEXP core_table_follow(SEXP pointer, SEXP other, double seat) {
  to_table(pointer).eyes->follow(*to_table(other).eyes, to_count(seat));
  return R_NilValue;
}

// Whether a seat has seen the same at two tables.
// [[Rcpp::export(rng = false)]]
bool core_table_saw_the_same(SEXP pointer, SEXP other, double seat) {
  return to_table(pointer).eyes->saw_the_same(*to_table(other).eyes, to_count(seat));
}

// All that a seat has seen, in a number in words.
// [[Rcpp::export(rng = false)]]
std::string core_table_seen(SEXP pointer, double seat) {
  return std::to_string(to_table(pointer).eyes->all_seen(to_count(seat)));
}

// The cards that a seat has not seen: since the deal, and since each shuffle.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_table_unseen(SEXP pointer, double seat) {
  const SeatEyes& eyes = *to_table(pointer).eyes;
  Rcpp::List all;
  for (std::size_t shuffle = 0; shuffle <= eyes.shuffles(); ++shuffle)
    all.push_back(pack_cards(eyes.unseen(to_count(seat), shuffle)));
  return all;
}

// Begins a trial: lists of cards lie on the piles of these places, nothing on others.
// [[Rcpp::export(rng = false)]]
SEXP core_table_begin(SEXP pointer, Rcpp::IntegerVector at, Rcpp::List cards) {
  Table& table = to_table(pointer);
  for (std::size_t pile = 0; pile < table.piles.piles(); ++pile) table.piles.lay(pile, {});
  for (R_xlen_t i = 0; i < at.size(); ++i)
    table.piles.lay(static_cast<std::size_t>(at[i]) - 1, to_cards(cards[i]));
  table.steps = 0;
  table.asked = 0;
  table.sees_other = false;
  if (table.eyes) table.eyes->begin();
  return R_NilValue;
}

// Something has happened; FALSE where a seat saw what it should not have.
// [[Rcpp::export(rng = false)]]
bool core_table_told(SEXP pointer, std::string action, Rcpp::IntegerVector cards) {
  return to_table(pointer).tell(action, SeatEyes::nobody, to_cards(cards));
}

// [[Rcpp::export(rng = false)]]
bool core_table_sees_other(SEXP pointer) { return to_table(pointer).sees_other; }

// Counts a step; FALSE where there are too many.
// [[Rcpp::export(rng = false)]]
bool core_table_step(SEXP pointer) { return to_table(pointer).goes_on(); }

// [[Rcpp::export(rng = false)]]
double core_table_steps(SEXP pointer) { return to_table(pointer).steps; }

// The seat whose player is being asked, 0: none is.
// [[Rcpp::export(rng = false)]]
double core_table_asked(SEXP pointer) { return to_table(pointer).asked; }

// [[Rcpp::export(rng = false)]]
SEXP core_table_ask_for(SEXP pointer, double seat) {
  to_table(pointer).asked = static_cast<int>(seat);
  return R_NilValue;
}

// [[Rcpp::export(rng = false)]]
SEXP core_table_move(SEXP pointer, SEXP from, SEXP to, SEXP n, SEXP at, SEXP beneath) {
  Table& table = to_table(pointer);
  PileTable& piles = table.piles;
  if (!table.goes_on()) return R_NilValue;
  const std::size_t source = to_pile(piles, from), target = to_pile(piles, to);
  if (source == PileTable::no_pile || target == PileTable::no_pile) return R_NilValue;
  const bool under = Rf_asLogical(beneath) == 1;
  std::vector<std::size_t> places;
  if (Rf_isNull(at)) {
    const double count = Rf_asReal(n);
    if (!(count >= 0 && count <= static_cast<double>(piles.size(source))) || count != std::floor(count))
      return R_NilValue;
    if (count == 1 && !under && !table.eyes) return Rf_ScalarInteger(piles.move_top(source, target));
    for (std::size_t place = 1; static_cast<double>(place) <= count; ++place) places.push_back(place);
  } else {
    places = to_places(at);
    if (!piles.holds(source, places)) return R_NilValue;
  }
  return moved(table, source, target, piles.move(source, target, places, under));
}

// A seat's move out of `moves`, by its player: an R function of the view and the moves; TRUE, who takes any by luck; or
// whom only R knows. NULL where R must ask; an answer that is not found among the moves comes back in a list.
// [[Rcpp::export(rng = false)]]
SEXP core_table_ask(SEXP pointer, SEXP players, SEXP seat, SEXP view, SEXP moves) {
  Table& table = to_table(pointer);
  const double number = Rf_isNumeric(seat) && Rf_length(seat) == 1 ? Rf_asReal(seat) : 0;
  const R_xlen_t open = is_plain(moves) ? Rf_xlength(moves) : 0;
  if (!(number >= 1 && number <= Rf_length(players)) || open == 0 || TYPEOF(view) == LANGSXP || TYPEOF(view) == SYMSXP)
    return R_NilValue;
  SEXP player = VECTOR_ELT(players, static_cast<R_xlen_t>(number) - 1);
  if (Rf_isNull(player) || table.steps >= table.most_steps) return R_NilValue;
  ++table.steps;
  if (open == 1) return move_at(moves, 0);
  if (!Rf_isFunction(player)) {
    GetRNGstate();
    const double place = R_unif_index(static_cast<double>(open));
    PutRNGstate();
    return move_at(moves, static_cast<R_xlen_t>(place));
  }
  // A player finds nothing in the frame that calls it, and no way from there to the table.
  const Rcpp::Shield<SEXP> call(Rf_lang3(player, view, moves));
  table.asked = static_cast<int>(number);
  const Rcpp::Shield<SEXP> answer(Rcpp::Rcpp_fast_eval(call, R_BaseEnv));
  table.asked = 0;
  const R_xlen_t place = place_of(answer, moves);
  return place < 0 ? SEXP(Rcpp::List::create(SEXP(answer))) : move_at(moves, place);
}

// The cards at these places; NULL: all.
// [[Rcpp::export(rng = false)]]
SEXP core_table_cards(SEXP pointer, SEXP pile, SEXP at) {
  const PileTable& piles = to_table(pointer).piles;
  const std::size_t source = to_pile(piles, pile);
  if (source == PileTable::no_pile) return R_NilValue;
  if (Rf_isNull(at)) return pack_cards(piles.cards(source));
  const std::vector<std::size_t> places = to_places(at);
  if (!piles.holds(source, places)) return R_NilValue;
  PileTable::Cards cards;
  for (const std::size_t place : places) cards.push_back(piles.card(source, place));
  return pack_cards(cards);
}

// [[Rcpp::export(rng = false)]]
SEXP core_table_size(SEXP pointer, SEXP pile) {
  const PileTable& piles = to_table(pointer).piles;
  const std::size_t source = to_pile(piles, pile);
  return source == PileTable::no_pile ? R_NilValue : Rf_ScalarInteger(static_cast<int>(piles.size(source)));
}

// The cards of a pile in another order, or settled.
// [[Rcpp::export(rng = false)]]
SEXP core_table_put(SEXP pointer, SEXP pile, Rcpp::IntegerVector cards) {
  PileTable& piles = to_table(pointer).piles;
  piles.lay(to_pile(piles, pile), to_cards(cards));
  return R_NilValue;
}

// The outcomes that a game returned, by these names in their order, as numbers: whole ones from `least` to `most` as they
// are, NA where only R can tell; NULL where the names are others.
// [[Rcpp::export(rng = false)]]
SEXP core_table_outcomes(SEXP values, Rcpp::CharacterVector names, Rcpp::NumericVector least, Rcpp::NumericVector most) {
  SEXP given = Rf_getAttrib(values, R_NamesSymbol);
  if (TYPEOF(values) != VECSXP || TYPEOF(given) != STRSXP || Rf_xlength(given) != names.size()) return R_NilValue;
  Rcpp::NumericVector numbers(names.size());
  numbers.names() = names;
  for (R_xlen_t i = 0; i < names.size(); ++i) {
    if (STRING_ELT(given, i) != STRING_ELT(names, i)) return R_NilValue;
    SEXP value = VECTOR_ELT(values, i);
    const bool is_number = (TYPEOF(value) == REALSXP || TYPEOF(value) == INTSXP) && Rf_xlength(value) == 1 &&
                           !Rf_isObject(value);
    const double number = is_number ? Rf_asReal(value) : NA_REAL;
    const bool fits = number >= least[i] && number <= most[i] && number == std::floor(number);
    numbers[i] = fits ? number : NA_REAL;
  }
  return numbers;
}
