#include "game.h"

#include "habanera/game/seated.hpp"
#include "habanera/narrows/narrows.hpp"

// [[Rcpp::export(rng = false)]]
SEXP core_narrows(Rcpp::List spec) {
  const auto whole = [&](const char* name) { return static_cast<std::int64_t>(to_count(spec[name])); };
  habanera::NarrowsRules rules;
  for (const double rank : Rcpp::NumericVector(spec["rank"])) rules.rank.push_back(static_cast<std::int64_t>(rank));
  rules.cards = static_cast<std::size_t>(whole("cards"));
  rules.stake = whole("stake");
  rules.given_up = whole("given_up");
  rules.raise = whole("raise");
  rules.wins = whole("wins");
  rules.pair_wins = whole("pair_wins");
  return game_pointer(std::make_unique<habanera::Playable<habanera::Seated<habanera::Narrows>>>(
      habanera::Seated<habanera::Narrows>::Rules{
          rules, {std::make_shared<habanera::NarrowsPlayer>(whole("goes_on_to"))}}));
}
