#include "question.h"

#include "draw.h"

#include "habanera/question/class_law.hpp"
#include "habanera/question/combination_law.hpp"
#include "habanera/question/enumerating.hpp"

namespace {

Rcpp::List pack_law(const std::map<std::uint64_t, double>& law) {
  Rcpp::NumericVector key, probability;
  for (const auto& [index, chance] : law) {
    key.push_back(static_cast<double>(index));
    probability.push_back(chance);
  }
  return Rcpp::List::create(Rcpp::Named("key") = key, Rcpp::Named("probability") = probability);
}

}  // namespace

// The expected number of times each key is reported, by walking every path.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_walk_question(Rcpp::List spec, double path_limit) {
  const habanera::Draw draw = to_draw(spec["draw"]);
  return with_play(spec, [&](auto play) {
    return pack_law(habanera::walk_plays(draw, play, to_bound(path_limit)));
  });
}

// The law of the words of a plain draw, class by class; or, where they do not add up so, set by set.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_class_law(Rcpp::List words, Rcpp::List classes, double size, bool replace, double most) {
  const habanera::Words read = to_words(words);
  const auto cards = static_cast<std::size_t>(to_count(size));
  if (read.categories.empty())
    return pack_law(habanera::ClassLaw(read, to_classes(classes), replace, to_bound(most))(cards));
  return pack_law(habanera::CombinationLaw(read, to_classes(classes), replace, to_bound(most))(cards));
}
