#pragma once

#include "shuffle.h"

#include "habanera/draw/classes.hpp"
#include "habanera/draw/draw.hpp"

inline habanera::Draw to_draw(const Rcpp::List& spec) {
  habanera::DrawSpec draw{to_kinds(spec["places"]), static_cast<std::size_t>(to_count(spec["size"])),
                          Rcpp::as<bool>(spec["replace"])};
  if (spec.containsElementNamed("sampled")) {
    const Rcpp::List sampled = spec["sampled"];
    draw.sampling = to_sampling(sampled["weights"], sampled["max_copies"]);
  }
  habanera::Procedure procedure = to_procedure(spec["steps"], draw.deck.size());
  return habanera::Draw(std::move(draw), std::move(procedure));
}

// Classes of cards: a list of `kind` (from 1), `deck` and `held`, each with an entry per class.
inline std::vector<habanera::CardClass> to_classes(const Rcpp::List& classes) {
  const std::vector<habanera::Card> kinds = to_kinds(classes["kind"]);
  const Rcpp::NumericVector deck = classes["deck"], held = classes["held"];
  std::vector<habanera::CardClass> made;
  for (std::size_t i = 0; i < kinds.size(); ++i) {
    const auto at = static_cast<R_xlen_t>(i);
    made.push_back({kinds[i], static_cast<std::size_t>(to_count(deck[at])),
                    static_cast<std::size_t>(to_count(held[at]))});
  }
  return made;
}
