#include "question.h"

#include "draw.h"

#include "habanera/draw/hand_law.hpp"

// A law of hands in R: a list of `rows` (integer matrix, a hand each: cards by class, cards out of play by
// class, marks) and `chances`. `maker` holds `classes`, `replace` and `limit`.

namespace {

habanera::HandLaws to_laws(const Rcpp::List& maker) {
  return habanera::HandLaws(to_classes(maker["classes"]), Rcpp::as<bool>(maker["replace"]),
                            static_cast<std::size_t>(to_count(maker["limit"])));
}

std::vector<std::vector<std::uint16_t>> to_rows(const Rcpp::IntegerMatrix& matrix) {
  std::vector<std::vector<std::uint16_t>> rows(static_cast<std::size_t>(matrix.nrow()));
  for (int row = 0; row < matrix.nrow(); ++row)
    for (int column = 0; column < matrix.ncol(); ++column)
      rows[static_cast<std::size_t>(row)].push_back(static_cast<std::uint16_t>(matrix(row, column)));
  return rows;
}

Rcpp::IntegerMatrix from_rows(const std::vector<std::vector<std::uint16_t>>& rows, std::size_t width) {
  Rcpp::IntegerMatrix matrix(static_cast<int>(rows.size()), static_cast<int>(width));
  for (std::size_t row = 0; row < rows.size(); ++row)
    for (std::size_t column = 0; column < width; ++column)
      matrix(static_cast<int>(row), static_cast<int>(column)) = rows[row][column];
  return matrix;
}

habanera::HandLaw to_law(const habanera::HandLaws& laws, const Rcpp::List& law) {
  const Rcpp::IntegerMatrix rows = law["rows"];
  return {laws.size(), static_cast<std::size_t>(rows.ncol()) - 2 * laws.size(), to_rows(rows),
          Rcpp::as<std::vector<double>>(law["chances"])};
}

Rcpp::List from_law(const habanera::HandLaw& law) {
  return Rcpp::List::create(Rcpp::Named("rows") = from_rows(law.rows, 2 * law.classes + law.marks),
                            Rcpp::Named("chances") = Rcpp::wrap(law.chances));
}

}  // namespace

// [[Rcpp::export]]
Rcpp::List core_hands_start(Rcpp::List maker, int marks) {
  return from_law(to_laws(maker).start(static_cast<std::size_t>(marks)));
}

// `words` are those whose places the first marks tell.
// [[Rcpp::export]]
Rcpp::List core_hands_draw(Rcpp::List maker, Rcpp::List law, int count, Rcpp::List words) {
  const habanera::HandLaws laws = to_laws(maker);
  const habanera::HandLaw before = to_law(laws, law);
  const std::vector<std::size_t> owed(before.rows.size(), static_cast<std::size_t>(count));
  return from_law(laws.draw(before, owed, to_words(words).places));
}

// [[Rcpp::export]]
Rcpp::List core_hands_put_under(Rcpp::List maker, Rcpp::List law, Rcpp::NumericVector under_first) {
  const habanera::HandLaws laws = to_laws(maker);
  return from_law(laws.put_under(to_law(laws, law), to_numbers<std::uint8_t>(under_first)));
}

// [[Rcpp::export]]
Rcpp::IntegerMatrix core_hands_kept(Rcpp::List maker, Rcpp::List law, Rcpp::List ways) {
  const habanera::HandLaws laws = to_laws(maker);
  return from_rows(laws.kept(to_law(laws, law), to_ways(ways)), laws.size());
}

// [[Rcpp::export]]
Rcpp::List core_hands_exchange(Rcpp::List maker, Rcpp::List law, Rcpp::IntegerMatrix kept) {
  const habanera::HandLaws laws = to_laws(maker);
  return from_law(laws.exchange(to_law(laws, law), to_rows(kept)));
}

// [[Rcpp::export]]
Rcpp::NumericVector core_hands_indices(Rcpp::List maker, Rcpp::List law, Rcpp::List words) {
  const habanera::HandLaws laws = to_laws(maker);
  const std::vector<std::uint64_t> found = laws.indices(to_law(laws, law), to_words(words));
  return Rcpp::NumericVector(found.begin(), found.end());
}
