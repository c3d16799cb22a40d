#include "habanera_r/convert.hpp"

#include <map>
#include <optional>
#include <vector>

#include "habanera/bank/bankroll.hpp"

// Money from R is in whole units; a law is a list of `net` and `probability`, a plan of `bets`, `after_loss` and
// `after_win` (places from 1).

namespace {

std::int64_t to_units(double value) { return static_cast<std::int64_t>(std::llround(value)); }

std::optional<std::int64_t> to_goal(SEXP goal) {
  if (Rf_isNull(goal)) return {};
  return to_units(Rcpp::as<double>(goal));
}

habanera::StepLaw to_law(const Rcpp::List& spec) {
  habanera::StepLaw law;
  const Rcpp::NumericVector net = spec["net"], probability = spec["probability"];
  for (R_xlen_t i = 0; i < net.size(); ++i)
    if (probability[i] > 0) law.steps.push_back({to_units(net[i]), probability[i]});
  return law;
}

habanera::BetPlan to_plan(const Rcpp::List& spec) {
  habanera::BetPlan plan;
  plan.bets.clear();
  for (const double bet : Rcpp::NumericVector(spec["bets"])) plan.bets.push_back(to_units(bet));
  const auto places = [&](const char* name) {
    std::vector<std::size_t> all;
    for (const double place : Rcpp::NumericVector(spec[name])) all.push_back(static_cast<std::size_t>(place) - 1);
    return all;
  };
  plan.after_loss = places("after_loss");
  plan.after_win = places("after_win");
  return plan;
}

// The heights below which these shares of all lie; those who are ruined count as having nothing, those at the goal as
// having it.
std::vector<double> quantiles(const habanera::Bankroll& bankroll, const Rcpp::NumericVector& shares, double goal) {
  std::map<std::int64_t, double> heights;
  bankroll.each_height([&](std::int64_t height, double chance) { heights[height] += chance; });
  std::vector<double> found;
  for (const double share : shares) {
    double below = bankroll.ruined();
    double at = below >= share ? 0 : goal;
    for (auto height = heights.begin(); height != heights.end() && below < share; ++height) {
      below += height->second;
      if (below >= share) at = static_cast<double>(height->first);
    }
    found.push_back(at);
  }
  return found;
}

}  // namespace

// A bankroll over so many rounds: the chances of ruin and goal after each, what is left at the end by height, the mean,
// and quantiles after the rounds in `told`, which rise.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_bankroll(Rcpp::List law, Rcpp::List plan, double stake, double start, SEXP goal, double rounds,
                         Rcpp::NumericVector shares, Rcpp::NumericVector told) {
  const std::optional<std::int64_t> stop = to_goal(goal);
  habanera::Bankroll bankroll(to_law(law), to_plan(plan), to_units(stake), to_units(start), stop);
  const auto count = static_cast<R_xlen_t>(to_count(rounds));
  Rcpp::NumericVector ruined(count), reached(count);
  Rcpp::NumericMatrix bands(static_cast<int>(told.size()), static_cast<int>(shares.size()));
  R_xlen_t next = 0;
  for (R_xlen_t round = 0; round < count; ++round) {
    if (round % 64 == 0) pause_for_user();
    bankroll.play();
    ruined[round] = bankroll.ruined();
    reached[round] = bankroll.reached();
    if (next < told.size() && told[next] == static_cast<double>(round + 1)) {
      const std::vector<double> found = quantiles(bankroll, shares, stop ? static_cast<double>(*stop) : R_PosInf);
      for (std::size_t i = 0; i < found.size(); ++i) bands(static_cast<int>(next), static_cast<int>(i)) = found[i];
      ++next;
    }
  }
  double mean = bankroll.left_at_end(), square = bankroll.squares_at_end();
  Rcpp::NumericVector height, chance;
  bankroll.each_height([&](std::int64_t place, double share) {
    const auto left = static_cast<double>(place);
    mean += left * share;
    square += left * left * share;
    height.push_back(static_cast<double>(place));
    chance.push_back(share);
  });
  return Rcpp::List::create(Rcpp::Named("ruined") = ruined, Rcpp::Named("reached") = reached,
                            Rcpp::Named("bands") = bands, Rcpp::Named("mean") = mean, Rcpp::Named("square") = square,
                            Rcpp::Named("height") = height,
                            Rcpp::Named("chance") = chance, Rcpp::Named("lost") = bankroll.lost());
}

// The law of the lowest point within so many rounds, as a depth below the start.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_lowest_point(Rcpp::List law, double rounds) {
  habanera::Fall fall(to_law(law));
  const std::uint64_t count = to_count(rounds);
  for (std::uint64_t round = 0; round < count; ++round) {
    if (round % 64 == 0) pause_for_user();
    fall.play();
  }
  Rcpp::NumericVector depth, chance;
  fall.depth().each([&](std::int64_t place, double share) {
    depth.push_back(static_cast<double>(place));
    chance.push_back(share);
  });
  return Rcpp::List::create(Rcpp::Named("depth") = depth, Rcpp::Named("chance") = chance,
                            Rcpp::Named("lost") = fall.lost());
}

// The depth that the worst fall exceeds with at most this chance.
// [[Rcpp::export(rng = false)]]
double core_worst_fall(Rcpp::List law, double rounds, double chance) {
  return static_cast<double>(habanera::worst_fall(to_law(law), to_count(rounds), chance, pause_for_user));
}

// [[Rcpp::export(rng = false)]]
double core_no_losing_run(double loss, double length, double rounds) {
  return habanera::no_losing_run(loss, to_count(length), to_count(rounds));
}

// The chance to be ruined before the goal, however long it takes.
// [[Rcpp::export(rng = false)]]
double core_ruin_before_goal(Rcpp::List law, double stake, double start, double goal) {
  const std::vector<double> chances = habanera::ruin_before_goal(to_law(law), to_units(stake), to_units(goal));
  return chances[static_cast<std::size_t>(to_units(start) - to_units(stake))];
}
