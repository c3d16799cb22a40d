#pragma once

#include "habanera_r/convert.hpp"

#include <memory>
#include <utility>

#include "habanera/game/dealing.hpp"
#include "habanera/game/playable.hpp"

// A game goes to R as a pointer, made by the game's own unit from its rules, and lives as long as R holds it.

inline SEXP game_pointer(std::unique_ptr<habanera::PlayableGame> game) {
  return Rcpp::XPtr<habanera::PlayableGame>(game.release());
}

inline const habanera::PlayableGame& to_game(SEXP pointer) {
  return *Rcpp::XPtr<habanera::PlayableGame>(pointer).checked_get();
}

inline habanera::Dealing to_dealing(const Rcpp::List& spec) {
  habanera::Dealing dealing;
  for (const double size : Rcpp::NumericVector(spec["sizes"]))
    dealing.sizes.push_back(static_cast<std::size_t>(to_count(size)));
  dealing.alternate = Rcpp::as<bool>(spec["alternate"]);
  return dealing;
}

// The choice that a rule's word stands for.
template <class Choice>
Choice to_choice(const Rcpp::List& rules, const char* rule,
                 const std::vector<std::pair<const char*, Choice>>& choices) {
  const std::string word = Rcpp::as<std::string>(rules[rule]);
  for (const auto& [known, choice] : choices)
    if (word == known) return choice;
  Rcpp::stop("internal error: \"%s\" is no choice of `%s`", word, rule);
}
