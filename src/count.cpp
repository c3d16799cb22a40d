#include "count.h"

#include "game.h"

namespace {

using System = habanera::CountSystem;

std::int64_t to_integer(double value) { return static_cast<std::int64_t>(std::llround(value)); }

std::vector<std::int64_t> to_integers(const Rcpp::NumericVector& values) {
  std::vector<std::int64_t> all;
  for (const double value : values) all.push_back(to_integer(value));
  return all;
}

}  // namespace

std::optional<std::int64_t> to_optional(SEXP value) {
  if (Rf_isNull(value)) return {};
  return to_integer(Rcpp::as<double>(value));
}

habanera::CountSystem to_count_system(const Rcpp::List& spec) {
  System system;
  system.tags = to_integers(spec["tags"]);
  system.bet_tags = to_integers(spec["bet_tags"]);
  system.start = to_integer(Rcpp::as<double>(spec["start"]));
  system.unit = to_integer(Rcpp::as<double>(spec["unit"]));
  system.pack = static_cast<std::size_t>(to_count(spec["pack"]));
  system.decks_left = to_choice<System::DecksLeft>(
      spec, "true_by", {{"exact", System::exact}, {"half_decks", System::half_decks},
                        {"whole_decks", System::whole_decks}, {"none", System::running_alone}});
  // A count that is not rounded is told by whole ones from which on something is done.
  system.rounding = to_choice<System::Rounding>(
      spec, "rounded", {{"floor", System::floor}, {"truncate", System::truncate}, {"nearest", System::nearest},
                        {"none", System::floor}});
  return system;
}

std::optional<habanera::Bettor> to_bettor(const Rcpp::List& rules) {
  if (!rules.containsElementNamed("bettor") || Rf_isNull(rules["bettor"])) return {};
  const Rcpp::List spec = rules["bettor"];
  habanera::Bettor bettor;
  bettor.system = to_count_system(spec["system"]);
  bettor.seat = static_cast<std::size_t>(to_count(spec["seat"])) - 1;
  bettor.first_level = to_integer(Rcpp::as<double>(spec["first_level"]));
  bettor.bets = to_integers(spec["bets"]);
  bettor.leaves_below = to_optional(spec["leaves_below"]);
  bettor.enters_at = to_optional(spec["enters_at"]);
  return bettor;
}

// True counts, not rounded and as the player has them in mind, of running counts in units with so many cards left.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_true_counts(Rcpp::List system, Rcpp::NumericVector running, Rcpp::NumericVector left) {
  const System counts = to_count_system(system);
  Rcpp::NumericVector exact(running.size()), level(running.size());
  for (R_xlen_t i = 0; i < running.size(); ++i) {
    const auto cards = static_cast<std::size_t>(to_count(left[i]));
    exact[i] = counts.true_count(to_integer(running[i]), cards).value();
    level[i] = static_cast<double>(counts.level(to_integer(running[i]), cards));
  }
  return Rcpp::List::create(Rcpp::Named("exact") = exact, Rcpp::Named("level") = level);
}
