#include "question.h"

#include "draw.h"

#include "habanera/question/hand_law.hpp"

// A law of hands in R: a list of `rows` (integer matrix, a hand each: cards by class, cards out of play by
// class, marks) and `chances`. `maker` holds `classes`, `replace` and `limit`.

namespace {

habanera::HandLaws to_laws(const Rcpp::List& maker) {
  return habanera::HandLaws(to_classes(maker["classes"]), Rcpp::as<bool>(maker["replace"]),
                            to_bound(Rcpp::as<double>(maker["limit"])));
}

using Row = habanera::HandLaws::Row;

Row to_row(const Rcpp::IntegerMatrix& matrix, int row) {
  Row values;
  for (int column = 0; column < matrix.ncol(); ++column)
    values.push_back(static_cast<habanera::RowLaw::Value>(matrix(row, column)));
  return values;
}

// Like rows, of laws that were joined, become one.
habanera::RowLaw to_law(const Rcpp::List& maker, const Rcpp::List& law) {
  const Rcpp::IntegerMatrix rows = law["rows"];
  const Rcpp::NumericVector chances = law["chances"];
  habanera::RowLaw found(static_cast<std::size_t>(rows.ncol()), to_bound(Rcpp::as<double>(maker["limit"])));
  for (int row = 0; row < rows.nrow(); ++row) found.add(to_row(rows, row).data(), chances[row]);
  return found;
}

// A law of which R wants an answer row by row: no two of its rows may be alike.
habanera::RowLaw to_distinct_law(const Rcpp::List& maker, const Rcpp::List& law) {
  habanera::RowLaw found = to_law(maker, law);
  const Rcpp::IntegerMatrix rows = law["rows"];
  if (found.size() != static_cast<std::size_t>(rows.nrow())) Rcpp::stop("internal error: like hands were not merged");
  return found;
}

Rcpp::List from_law(const habanera::RowLaw& law) {
  const auto size = static_cast<int>(law.size()), width = static_cast<int>(law.width());
  Rcpp::IntegerMatrix rows(size, width);
  Rcpp::NumericVector chances(size);
  for (int row = 0; row < size; ++row) {
    const habanera::RowLaw::Value* values = law.row(static_cast<std::size_t>(row));
    for (int column = 0; column < width; ++column) rows(row, column) = values[column];
    chances[row] = law.chance(static_cast<std::size_t>(row));
  }
  return Rcpp::List::create(Rcpp::Named("rows") = rows, Rcpp::Named("chances") = chances);
}

}  // namespace

// [[Rcpp::export(rng = false)]]
Rcpp::List core_hands_start(Rcpp::List maker, int marks) {
  return from_law(to_laws(maker).start(static_cast<std::size_t>(marks)));
}

// `words` are those whose places the first marks tell.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_hands_draw(Rcpp::List maker, Rcpp::List law, int count, Rcpp::List words) {
  return from_law(to_laws(maker).draw(to_law(maker, law), static_cast<std::size_t>(count), to_words(words).places));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_hands_put_under(Rcpp::List maker, Rcpp::List law, Rcpp::NumericVector under_first) {
  return from_law(to_laws(maker).put_under(to_law(maker, law), to_numbers<std::uint8_t>(under_first)));
}

// [[Rcpp::export(rng = false)]]
Rcpp::IntegerMatrix core_hands_kept(Rcpp::List maker, Rcpp::List law, Rcpp::List ways) {
  const habanera::HandLaws laws = to_laws(maker);
  const std::vector<Row> kept = laws.kept(to_distinct_law(maker, law), to_ways(ways));
  Rcpp::IntegerMatrix found(static_cast<int>(kept.size()), static_cast<int>(laws.size()));
  for (int row = 0; row < found.nrow(); ++row)
    for (int c = 0; c < found.ncol(); ++c) found(row, c) = kept[static_cast<std::size_t>(row)][static_cast<std::size_t>(c)];
  return found;
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_hands_exchange(Rcpp::List maker, Rcpp::List law, Rcpp::IntegerMatrix kept) {
  std::vector<Row> rows;
  for (int row = 0; row < kept.nrow(); ++row) rows.push_back(to_row(kept, row));
  return from_law(to_laws(maker).exchange(to_distinct_law(maker, law), rows));
}

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_hands_indices(Rcpp::List maker, Rcpp::List law, Rcpp::List words) {
  const std::vector<std::uint64_t> found = to_laws(maker).indices(to_distinct_law(maker, law), to_words(words));
  return Rcpp::NumericVector(found.begin(), found.end());
}
