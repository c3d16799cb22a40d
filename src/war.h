#pragma once

#include "convert.h"

#include <string>

#include "habanera/game/war_rules.hpp"

// The rules of War from R: see war_spec() there.

template <class Choice>
Choice to_choice(const Rcpp::List& rules, const char* rule, std::initializer_list<const char*> words) {
  const std::string word = Rcpp::as<std::string>(rules[rule]);
  int place = 0;
  for (const char* known : words) {
    if (word == known) return static_cast<Choice>(place);
    ++place;
  }
  Rcpp::stop("internal error: \"%s\" is no choice of `%s`", word, rule);
}

inline habanera::Dealing to_dealing(const Rcpp::List& spec) {
  habanera::Dealing dealing;
  for (const double size : Rcpp::NumericVector(spec["sizes"]))
    dealing.sizes.push_back(static_cast<std::size_t>(to_count(size)));
  dealing.alternate = Rcpp::as<bool>(spec["alternate"]);
  return dealing;
}

inline habanera::WarRules to_war_rules(const Rcpp::List& spec) {
  habanera::WarRules rules;
  rules.dealing = to_dealing(spec["dealing"]);
  for (const double rank : Rcpp::NumericVector(spec["ranks"]))
    rules.ranks.push_back(static_cast<std::uint32_t>(to_count(rank)));
  rules.from_bottom = Rcpp::as<std::string>(spec["take_from"]) == "bottom";
  rules.by_points = Rcpp::as<std::string>(spec["scoring"]) == "points";
  rules.collect = to_choice<habanera::WarRules::Collect>(spec, "collect",
                                                         {"winner_first", "loser_first", "seat_order", "shuffled"});
  rules.tie = to_choice<habanera::WarRules::Tie>(spec, "tie", {"war", "split", "discard", "seat", "nothing"});
  rules.tie_seat = static_cast<std::size_t>(to_count(spec["tie_seat"])) - 1;
  rules.face_down = static_cast<std::size_t>(to_count(spec["face_down"]));
  rules.short_loses = Rcpp::as<std::string>(spec["if_short"]) == "loses";
  rules.repetition = to_choice<habanera::WarRules::Repetition>(spec, "repetition", {"none", "seat_1", "tied"});
  rules.inner_game = Rcpp::as<bool>(spec["inner_game"]);
  rules.max_rounds = to_count(spec["max_rounds"]);
  rules.most_cards_at_limit = Rcpp::as<std::string>(spec["at_limit"]) == "most_cards";
  return rules;
}
