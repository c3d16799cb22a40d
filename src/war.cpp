#include "game.h"

#include "habanera/war/war.hpp"

namespace {

// The rules as war_spec() in R gives them.
habanera::WarRules to_war_rules(const Rcpp::List& spec) {
  using Collect = habanera::WarRules::Collect;
  using Tie = habanera::WarRules::Tie;
  using Repetition = habanera::WarRules::Repetition;
  habanera::WarRules rules;
  rules.dealing = to_dealing(spec["dealing"]);
  for (const double rank : Rcpp::NumericVector(spec["ranks"]))
    rules.ranks.push_back(static_cast<std::uint32_t>(to_count(rank)));
  rules.from_bottom = Rcpp::as<std::string>(spec["take_from"]) == "bottom";
  rules.by_points = Rcpp::as<std::string>(spec["scoring"]) == "points";
  rules.collect = to_choice<Collect>(spec, "collect", {{"winner_first", Collect::winner_first},
                                                       {"loser_first", Collect::loser_first},
                                                       {"seat_order", Collect::seat_order},
                                                       {"shuffled", Collect::shuffled}});
  rules.tie = to_choice<Tie>(spec, "tie", {{"war", Tie::war}, {"split", Tie::split}, {"discard", Tie::discard},
                                           {"seat", Tie::seat}, {"nothing", Tie::nothing}});
  rules.tie_seat = static_cast<std::size_t>(to_count(spec["tie_seat"])) - 1;
  rules.face_down = static_cast<std::size_t>(to_count(spec["face_down"]));
  rules.short_loses = Rcpp::as<std::string>(spec["if_short"]) == "loses";
  rules.repetition = to_choice<Repetition>(spec, "repetition", {{"none", Repetition::none},
                                                                {"seat_1", Repetition::seat_1},
                                                                {"tied", Repetition::tied}});
  rules.inner_game = Rcpp::as<bool>(spec["inner_game"]);
  rules.max_rounds = to_count(spec["max_rounds"]);
  rules.most_cards_at_limit = Rcpp::as<std::string>(spec["at_limit"]) == "most_cards";
  return rules;
}

}  // namespace

// [[Rcpp::export(rng = false)]]
SEXP core_war(Rcpp::List spec) {
  const habanera::WarRules rules = to_war_rules(spec);
  if (rules.seats() == 2) return game_pointer(std::make_unique<habanera::Playable<habanera::War<2>>>(rules));
  return game_pointer(std::make_unique<habanera::Playable<habanera::War<0>>>(rules));
}
