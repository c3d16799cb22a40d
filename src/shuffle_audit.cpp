#include "shuffle.h"

#include "habanera/shuffle/audit.hpp"
#include "habanera/shuffle/distance_law.hpp"
#include "habanera/shuffle/repeats.hpp"

using habanera::Battery;
using habanera::BatterySpec;

namespace {

std::vector<std::size_t> to_sizes(const Rcpp::NumericVector& numbers) {
  std::vector<std::size_t> sizes;
  for (const double number : numbers) sizes.push_back(static_cast<std::size_t>(to_count(number)));
  return sizes;
}

BatterySpec to_battery(const Rcpp::List& spec) {
  BatterySpec battery{to_sizes(spec["copies"]), static_cast<std::size_t>(to_count(spec["cards"])),
                      static_cast<std::size_t>(to_count(spec["top"])), {}, to_kinds(spec["ranking"])};
  if (battery.cards > habanera::most_audited_cards) Rcpp::stop("internal error: too many cards to audit");
  const Rcpp::List alike = spec["alike"];
  for (const Rcpp::List like : alike)
    battery.alike.push_back({to_kinds(like["group"]), static_cast<std::size_t>(to_count(like["below"]))});
  return battery;
}

// The parts of a battery one after another, each given to use(name, tally) or use(name, numbers).
template <class Use>
void each_part(const Battery& battery, Use&& use) {
  for (int table = 0; table < Battery::table_count; ++table)
    use(Battery::names[static_cast<std::size_t>(table)], battery.table(static_cast<Battery::Table>(table)));
  for (const habanera::Tally& tally : battery.alike()) use("alike", tally);
  use("follows", std::vector<double>(battery.follows().begin(), battery.follows().end()));
  use("successive", std::vector<double>{static_cast<double>(battery.pairs()), static_cast<double>(battery.products())});
  use("sums", std::vector<double>{static_cast<double>(battery.inversions()), static_cast<double>(battery.distances())});
}

// Appends numbers to `n`, and to `example_trial` where they are known.
struct Appender {
  std::vector<double> n, example;
  void operator()(const char*, const habanera::Tally& tally) {
    for (std::size_t i = 0; i < tally.size(); ++i) {
      n.push_back(tally.count(i));
      example.push_back(tally.count(i) > 0 ? static_cast<double>(tally.example(i)) : R_PosInf);
    }
  }
  void operator()(const char*, const std::vector<double>& numbers) {
    n.insert(n.end(), numbers.begin(), numbers.end());
    example.insert(example.end(), numbers.size(), R_PosInf);
  }
};

Rcpp::List pack_battery(const Battery& battery) {
  Appender appended;
  each_part(battery, appended);
  return Rcpp::List::create(Rcpp::Named("n") = appended.n, Rcpp::Named("example_trial") = appended.example,
                            Rcpp::Named("pairs") = R_NilValue);
}

}  // namespace

// The parts of an audit's counts, in order: a data frame of `part` and `cells`.
// [[Rcpp::export(rng = false)]]
Rcpp::DataFrame core_audit_parts(Rcpp::List spec) {
  const BatterySpec battery = to_battery(spec);
  std::vector<std::string> part;
  std::vector<double> cells;
  each_part(Battery(battery), [&](const char* name, const auto& counts) {
    part.emplace_back(name);
    cells.push_back(static_cast<double>(counts.size()));
  });
  return Rcpp::DataFrame::create(Rcpp::Named("part") = part, Rcpp::Named("cells") = cells,
                                 Rcpp::Named("stringsAsFactors") = false);
}

// Counts of a procedure's arrangements in trials `first` and on: `n` and `example_trial` over the parts.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_audit_procedure(Rcpp::List steps, Rcpp::List spec, double seed, double chain, double first,
                                double count, int threads) {
  const BatterySpec battery = to_battery(spec);
  const habanera::Procedure procedure = to_procedure(steps, battery.cards);
  const habanera::ProcedureSource source(procedure, battery.cards, to_count(seed), 1, to_count(chain));
  return pack_battery(habanera::audit(battery, source, to_count(first), to_count(count),
                                      to_crew(threads)));
}

// The same of arrangements that were made elsewhere, one a row.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_audit_rows(Rcpp::IntegerMatrix rows, Rcpp::List spec, double first, double count, int threads) {
  const BatterySpec battery = to_battery(spec);
  const habanera::RowsSource source(rows.begin(), static_cast<std::size_t>(rows.nrow()), battery.cards);
  return pack_battery(habanera::audit(battery, source, to_count(first), to_count(count),
                                      to_crew(threads)));
}

// Pairs of like rows, and the first row that repeats one with the one it repeats (0, 0 when none does).
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_repeated_rows(Rcpp::IntegerMatrix rows) {
  const auto cards = static_cast<std::size_t>(rows.ncol());
  const auto found = habanera::find_repeats(
      habanera::RowsSource(rows.begin(), static_cast<std::size_t>(rows.nrow()), cards), cards,
      static_cast<std::uint64_t>(rows.nrow()));
  return Rcpp::NumericVector::create(Rcpp::Named("pairs") = static_cast<double>(found.pairs),
                                     Rcpp::Named("again") = static_cast<double>(found.again),
                                     Rcpp::Named("before") = static_cast<double>(found.before));
}

// Chances of a total distance of 0, 2, 4, ... in a uniform arrangement.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_distance_law(double cards) {
  return Rcpp::wrap(habanera::distance_law(static_cast<std::size_t>(to_count(cards))));
}
