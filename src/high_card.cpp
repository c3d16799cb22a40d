#include "count.h"
#include "game.h"

#include "habanera/game/seated.hpp"
#include "habanera/high_card/high_card.hpp"

namespace {

using Rules = habanera::HighCardRules;

std::vector<std::uint8_t> to_flags(const Rcpp::LogicalVector& flags) { return {flags.begin(), flags.end()}; }

// Stake and pay in the smallest unit of money.
Rules::Bet to_bet(const Rcpp::NumericVector& bet) {
  return {static_cast<std::int64_t>(to_count(bet[0])), static_cast<std::int64_t>(to_count(bet[1]))};
}

}  // namespace

// [[Rcpp::export(rng = false)]]
SEXP core_high_card(Rcpp::List spec) {
  habanera::Seated<habanera::HighCard>::Rules rules;
  rules.game.strength = to_kinds(spec["strength"]);
  rules.game.on_colour = to_flags(spec["on_colour"]);
  rules.game.on_suit = to_flags(spec["on_suit"]);
  rules.game.cards = static_cast<std::size_t>(to_count(spec["cards"]));
  rules.game.cut_after = static_cast<std::size_t>(to_count(spec["cut_after"]));
  rules.game.burn = static_cast<std::size_t>(to_count(spec["burn"]));
  rules.game.ties = to_choice<Rules::Ties>(
      spec, "ties",
      {{"bank", Rules::bank}, {"half_back", Rules::half_back}, {"push", Rules::push}, {"again", Rules::again}});
  rules.game.main = to_bet(spec["main"]);
  rules.game.colour = to_bet(spec["colour"]);
  rules.game.suit = to_bet(spec["suit"]);
  rules.bettor = to_bettor(spec);
  rules.shoes = static_cast<std::size_t>(to_count(spec["shoes"]));
  return game_pointer(std::make_unique<habanera::Playable<habanera::Seated<habanera::HighCard>>>(rules));
}
