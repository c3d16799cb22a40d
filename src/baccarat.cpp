#include "count.h"
#include "game.h"
#include "question.h"

#include "habanera/baccarat/baccarat.hpp"
#include "habanera/game/seated.hpp"

namespace {

using Rules = habanera::BaccaratRules;
using SideBet = habanera::BaccaratSideBet;

std::int64_t to_units(double money) { return static_cast<std::int64_t>(money); }

std::optional<habanera::Words> to_maybe_words(SEXP spec) {
  return Rf_isNull(spec) ? std::nullopt : std::optional(to_words(Rcpp::List(spec)));
}

SideBet to_side_bet(const Rcpp::List& spec) {
  SideBet bet{to_numbers<std::uint32_t>(spec["by_result"]), to_numbers<std::uint32_t>(spec["player_opening"]),
              to_numbers<std::uint32_t>(spec["banker_opening"]), to_maybe_words(spec["player_cards"]),
              to_maybe_words(spec["banker_cards"]), to_maybe_words(spec["all_cards"]), {}};
  for (const double net : Rcpp::NumericVector(spec["net"])) bet.net.push_back(to_units(net));
  return bet;
}

// What the banker does: a row for each of his totals, a column for each value of the player's third card and one for
// none.
void read_third_cards(const Rcpp::List& spec, Rules& rules) {
  const Rcpp::LogicalVector player = spec["player_draws"];
  const Rcpp::LogicalMatrix banker = spec["banker_draws"];
  for (int total = 0; total < static_cast<int>(habanera::baccarat_totals); ++total) {
    const auto at = static_cast<std::size_t>(total);
    rules.player_draws[at] = player[total] != 0;
    for (int third = 0; third < banker.ncol(); ++third)
      rules.banker_draws[at][static_cast<std::size_t>(third)] = banker(total, third) != 0;
  }
}

}  // namespace

// [[Rcpp::export(rng = false)]]
SEXP core_baccarat(Rcpp::List spec) {
  habanera::Seated<habanera::Baccarat>::Rules seated;
  Rules& rules = seated.game;
  rules.values = to_numbers<std::uint8_t>(spec["values"]);
  rules.alike = to_numbers<std::uint32_t>(spec["alike"]);
  rules.cards = static_cast<std::size_t>(to_count(spec["cards"]));
  rules.cut_after = static_cast<std::size_t>(to_count(spec["cut_after"]));
  rules.burn = static_cast<std::size_t>(to_count(spec["burn"]));
  rules.natural_from = static_cast<std::size_t>(to_count(spec["natural_from"]));
  read_third_cards(spec, rules);
  rules.stake = to_units(spec["stake"]);
  rules.player_wins = to_units(spec["player_wins"]);
  rules.tie_wins = to_units(spec["tie_wins"]);
  const Rcpp::NumericVector banker_wins = spec["banker_wins"];
  for (std::size_t total = 0; total < habanera::baccarat_totals; ++total)
    rules.banker_wins[total] = to_units(banker_wins[static_cast<R_xlen_t>(total)]);
  for (const Rcpp::List bet : Rcpp::List(spec["side_bets"])) rules.side_bets.push_back(to_side_bet(bet));
  rules.bet_on = static_cast<std::size_t>(to_count(spec["bet_on"])) - 1;
  seated.bettor = to_bettor(spec);
  seated.shoes = static_cast<std::size_t>(to_count(spec["shoes"]));
  return game_pointer(std::make_unique<habanera::Playable<habanera::Seated<habanera::Baccarat>>>(seated));
}
