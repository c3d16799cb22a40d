#include "game.h"

#include "draw.h"
#include "stat_sums.h"

#include <memory>
#include <string>

#include "habanera/count/system.hpp"
#include "habanera/game/counting.hpp"
#include "habanera/game/playable.hpp"
#include "habanera/game/remembered_trials.hpp"

// Games from R: `game` is a pointer from the game's own unit (see game.h), a spec a list of `draw` (how the deck is
// shuffled) and `record`.

namespace {

using Names = habanera::PlayableGame::Names;

// A spec that has a `memory` remembers its trials there.
std::unique_ptr<habanera::TrialRunner> to_runner(SEXP game, const Rcpp::List& spec) {
  auto runner = to_game(game).runner(to_draw(spec["draw"]), Rcpp::as<Names>(spec["record"]));
  if (!spec.containsElementNamed("memory")) return runner;
  habanera::RememberedTrials& memory = *Rcpp::XPtr<habanera::RememberedTrials>(SEXP(spec["memory"])).checked_get();
  return std::make_unique<habanera::RememberingRunner>(std::move(runner), memory);
}

// A whole number of the core, NA where it has none.
double to_number(std::int64_t value) { return value == habanera::no_value ? NA_REAL : static_cast<double>(value); }

// Rows as a list of columns.
template <class Rows, class Read>
Rcpp::List pack_columns(const Rows& rows, Read&& read) {
  const std::size_t width = rows.empty() ? 0 : read(*rows.begin()).size();
  Rcpp::List columns(static_cast<R_xlen_t>(width));
  for (std::size_t column = 0; column < width; ++column) {
    Rcpp::NumericVector values(static_cast<R_xlen_t>(rows.size()));
    R_xlen_t at = 0;
    for (const auto& row : rows) values[at++] = to_number(read(row)[column]);
    columns[static_cast<R_xlen_t>(column)] = values;
  }
  return columns;
}

Rcpp::List pack_tally(const habanera::RowTally& tally) {
  const auto entries = tally.entries();
  const auto size = static_cast<R_xlen_t>(entries.size());
  Rcpp::NumericVector n(size), example(size);
  for (R_xlen_t i = 0; i < size; ++i) {
    const auto& entry = entries[static_cast<std::size_t>(i)].second;
    n[i] = static_cast<double>(entry.n);
    example[i] = static_cast<double>(entry.example);
  }
  return Rcpp::List::create(Rcpp::Named("rows") = pack_columns(entries, [](const auto& entry) { return entry.first; }),
                            Rcpp::Named("n") = n, Rcpp::Named("example_trial") = example);
}

Rcpp::IntegerVector pack_kinds(const std::vector<habanera::Card>& cards) {
  Rcpp::IntegerVector kinds;
  for (const habanera::Card card : cards) kinds.push_back(card + 1);
  return kinds;
}

Rcpp::List pack_piles(const std::vector<std::vector<habanera::Card>>& piles) {
  Rcpp::List packed;
  for (const auto& pile : piles) packed.push_back(pack_kinds(pile));
  return packed;
}

Rcpp::List pack_steps(const std::vector<habanera::TableRecorder::Step>& steps) {
  const auto size = static_cast<R_xlen_t>(steps.size());
  const R_xlen_t zones = size == 0 ? 0 : static_cast<R_xlen_t>(steps.front().sizes.size());
  Rcpp::NumericVector depth(size), round(size), seat(size), action(size), value(size), open(size), owed(size),
      pot(size), line(size);
  Rcpp::NumericVector running_count(size), true_count(size);
  Rcpp::NumericMatrix sizes(static_cast<int>(size), static_cast<int>(zones));
  Rcpp::List cards(size);
  for (R_xlen_t i = 0; i < size; ++i) {
    const auto& step = steps[static_cast<std::size_t>(i)];
    depth[i] = static_cast<double>(step.depth);
    round[i] = static_cast<double>(step.round);
    seat[i] = step.seat == habanera::no_seat ? 0 : static_cast<double>(step.seat + 1);
    action[i] = step.action;
    value[i] = static_cast<double>(step.value);
    open[i] = static_cast<double>(step.open.bits());
    owed[i] = static_cast<double>(step.owed);
    pot[i] = static_cast<double>(step.pot);
    line[i] = static_cast<double>(step.line);
    running_count[i] = static_cast<double>(step.running_count);
    true_count[i] = step.true_count;
    cards[i] = pack_kinds(step.cards);
    for (R_xlen_t zone = 0; zone < zones; ++zone)
      sizes(static_cast<int>(i), static_cast<int>(zone)) =
          static_cast<double>(step.sizes[static_cast<std::size_t>(zone)]);
  }
  return Rcpp::List::create(Rcpp::Named("depth") = depth, Rcpp::Named("round") = round, Rcpp::Named("seat") = seat,
                            Rcpp::Named("action") = action, Rcpp::Named("cards") = cards,
                            Rcpp::Named("sizes") = sizes, Rcpp::Named("value") = value, Rcpp::Named("open") = open,
                            Rcpp::Named("owed") = owed, Rcpp::Named("pot") = pot, Rcpp::Named("line") = line,
                            Rcpp::Named("running_count") = running_count, Rcpp::Named("true_count") = true_count);
}

class TrialRows {
 public:
  void add(const habanera::Entries& entries) {
    rows_.insert(rows_.end(), entries.begin(), entries.end());
    each_.push_back(static_cast<double>(entries.size()));
  }
  Rcpp::List packed() const {
    return Rcpp::List::create(Rcpp::Named("rows") = pack_columns(rows_, [](const auto& row) { return row; }),
                              Rcpp::Named("each") = each_);
  }

 private:
  std::vector<habanera::RowTally::Row> rows_;
  Rcpp::NumericVector each_;
};

habanera::EntryClasses to_entry_classes(SEXP spec) {
  habanera::EntryClasses classes;
  if (Rf_isNull(spec)) return classes;
  const Rcpp::List stated(spec);
  classes.column = static_cast<std::size_t>(to_count(stated["column"])) - 1;
  for (const double from : Rcpp::NumericVector(stated["from"])) classes.from.push_back(static_cast<std::int64_t>(from));
  for (const double place : Rcpp::NumericVector(stated["numbers"]))
    classes.numbers.push_back(static_cast<std::size_t>(to_count(place)) - 1);
  return classes;
}

std::vector<habanera::GroupedSums::Family> to_families(const Rcpp::List& families) {
  std::vector<habanera::GroupedSums::Family> all;
  for (const Rcpp::List sets : families) {
    habanera::GroupedSums::Family family;
    for (const Rcpp::NumericVector places : sets) {
      family.emplace_back();
      for (const double place : places) family.back().push_back(static_cast<std::size_t>(to_count(place)) - 1);
    }
    all.push_back(family);
  }
  return all;
}

Rcpp::IntegerVector pack_words(const std::vector<habanera::Word>& words) {
  Rcpp::IntegerVector packed;
  for (const habanera::Word& word : words) packed.push_back(word.number, word.name);
  return packed;
}

}  // namespace

// The words of a game: its `actions` and the categories of its outcomes as numbers by name, the `seats` among its
// outcomes, and its `zones` with the seat of each (0: nobody's).
// [[Rcpp::export(rng = false)]]
Rcpp::List core_game_words(SEXP game) {
  const habanera::Vocabulary words = to_game(game).words();
  Rcpp::CharacterVector outcomes, seats, zones;
  Rcpp::List categories;
  for (const auto& outcome : words.outcomes) {
    outcomes.push_back(outcome.name);
    if (outcome.is_seat) seats.push_back(outcome.name);
    if (!outcome.words.empty()) categories.push_back(pack_words(outcome.words), outcome.name);
  }
  Rcpp::IntegerVector seat_of;
  for (const habanera::Zone& zone : words.zones) {
    zones.push_back(zone.name);
    seat_of.push_back(zone.seat == habanera::no_seat ? 0 : static_cast<int>(zone.seat) + 1);
  }
  return Rcpp::List::create(Rcpp::Named("outcomes") = outcomes, Rcpp::Named("categories") = categories,
                            Rcpp::Named("seats") = seats, Rcpp::Named("actions") = pack_words(words.actions),
                            Rcpp::Named("zones") = Rcpp::List::create(Rcpp::Named("name") = zones,
                                                                      Rcpp::Named("seat") = seat_of),
                            Rcpp::Named("holds_rounds") = to_game(game).holds_rounds());
}

// Whether exact answers go by remembered positions, and not deal by deal.
// [[Rcpp::export(rng = false)]]
bool core_walks_by_memory(SEXP game, Rcpp::List spec) { return to_game(game).walks_by_memory(to_draw(spec["draw"])); }

// The decks of trials as they were shuffled, a column for each.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerMatrix core_game_decks(Rcpp::List spec, double seed, Rcpp::NumericVector trials) {
  const habanera::Draw draw = to_draw(spec["draw"]);
  const std::vector<habanera::Card> fresh = draw.fresh_table();
  Rcpp::IntegerMatrix decks(static_cast<int>(fresh.size()), static_cast<int>(trials.size()));
  habanera::Workspace work;
  habanera::Silent silent;
  for (int column = 0; column < decks.ncol(); ++column) {
    std::vector<habanera::Card> deck = fresh;
    habanera::RandomChance chance(to_count(seed), to_count(trials[column]), habanera::lane::deal);
    draw(deck, work, chance, silent);
    std::transform(deck.begin(), deck.end(), decks.column(column).begin(),
                   [](habanera::Card card) { return card + 1; });
  }
  return decks;
}

// What is recorded of the first `trials` trials of a game, to be kept as they are played: at most so many `numbers`.
// [[Rcpp::export(rng = false)]]
SEXP core_trial_memory(double trials, double numbers) {
  return Rcpp::XPtr<habanera::RememberedTrials>(
      new habanera::RememberedTrials(to_count(trials), static_cast<std::int64_t>(numbers)));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_count_game(SEXP game, Rcpp::List spec, double seed, double first, double count, int threads) {
  const auto runner = to_runner(game, spec);
  return pack_tally(habanera::count_games(to_count(first), to_count(count), to_crew(threads), [&] {
    return habanera::GameCounter(*runner, to_count(seed));
  }).tally());
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_count_pairs(SEXP game_one, Rcpp::List one, SEXP game_two, Rcpp::List two,
                            Rcpp::List columns, double seed, double first, double count, int threads) {
  const auto a = to_runner(game_one, one), b = to_runner(game_two, two);
  std::vector<habanera::PairCounter::PairColumn> about;
  const Rcpp::LogicalVector is_category = columns["is_category"];
  const Rcpp::NumericVector times_one = columns["times_x"], times_two = columns["times_y"];
  for (R_xlen_t i = 0; i < is_category.size(); ++i)
    about.push_back({is_category[i] != 0, static_cast<std::int64_t>(times_one[i]),
                     static_cast<std::int64_t>(times_two[i])});
  return pack_tally(habanera::count_games(to_count(first), to_count(count), to_crew(threads), [&] {
    return habanera::PairCounter(*a, *b, about, to_count(seed));
  }).tally());
}

// Games whose trials hold rounds, all on the same deals: the tally of the rounds where there is one game, and what the
// trials add up to. `values` says for each game and recorded column how many values it has, 0 for a number; `classes`
// of each game by what its rounds are divided (NULL: by nothing), with the places of columns among the recorded.
// `families` of sets of columns whose squares are added up in groups of trials; a list of lists of places.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_count_rounds(Rcpp::List games, Rcpp::List specs, Rcpp::List values, Rcpp::List classes,
                             Rcpp::List families, double seed, double first, double count, int threads) {
  std::vector<std::unique_ptr<habanera::TrialRunner>> runners;
  std::vector<habanera::RoundCounter::Game> all;
  for (R_xlen_t i = 0; i < games.size(); ++i) {
    runners.push_back(to_runner(games[i], specs[i]));
    std::vector<std::size_t> sizes;
    for (const double size : Rcpp::NumericVector(values[i])) sizes.push_back(static_cast<std::size_t>(to_count(size)));
    all.push_back({runners.back().get(), habanera::EntryTotals(sizes, to_entry_classes(classes[i]))});
  }
  const std::vector<habanera::GroupedSums::Family> told = to_families(families);
  const auto counted = habanera::count_games(to_count(first), to_count(count), to_crew(threads), [&] {
    return habanera::RoundCounter(all, to_count(seed), told);
  });
  Rcpp::List packed = pack_tally(counted.tally()), sums = pack_sums(counted.sums());
  if (!told.empty()) pack_grouped(sums, counted.grouped());
  packed["sums"] = sums;
  return packed;
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_count_holdings(SEXP game, Rcpp::List spec, Rcpp::List holding, double seed, double first,
                               double count, int threads) {
  const auto runner = to_runner(game, spec);
  const habanera::HoldingCounter::Holding held{to_kinds(holding["classes"]),
                                               static_cast<std::size_t>(to_count(holding["size"])),
                                               static_cast<std::size_t>(to_count(holding["seat"])) - 1,
                                               to_dealing(holding["dealing"])};
  return pack_tally(habanera::count_games(to_count(first), to_count(count), to_crew(threads), [&] {
    return habanera::HoldingCounter(*runner, held, to_count(seed));
  }).tally());
}

// What was recorded of single trials, as columns, and how many rows each trial has.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_trial_game(SEXP game, Rcpp::List spec, double seed, Rcpp::NumericVector trials) {
  const auto runner = to_runner(game, spec);
  habanera::StopSign sign(pause_for_user);
  runner->heed(sign);
  TrialRows rows;
  for (const double trial : trials) rows.add(runner->play(to_count(seed), to_count(trial)));
  return rows.packed();
}

// The same on decks shuffled elsewhere, one in each row.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_trial_game_on(SEXP game, Rcpp::List spec, double seed, Rcpp::NumericVector trials,
                              Rcpp::IntegerMatrix decks) {
  const auto runner = to_runner(game, spec);
  habanera::StopSign sign(pause_for_user);
  runner->heed(sign);
  TrialRows rows;
  for (R_xlen_t i = 0; i < trials.size(); ++i) {
    const Rcpp::IntegerVector deck = decks(static_cast<int>(i), Rcpp::_);
    rows.add(runner->play_on(to_kinds(deck), to_count(seed), to_count(trials[i])));
  }
  return rows.packed();
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_walk_game(SEXP game, Rcpp::List spec, double path_limit) {
  const auto law = to_game(game).walk(to_draw(spec["draw"]), Rcpp::as<Names>(spec["record"]), to_bound(path_limit));
  Rcpp::NumericVector probability;
  for (const auto& entry : law) probability.push_back(entry.second);
  return Rcpp::List::create(Rcpp::Named("rows") = pack_columns(law, [](const auto& entry) { return entry.first; }),
                            Rcpp::Named("probability") = probability);
}

// One game step by step, with its whole outcome, and where all cards lay after step `kept` (from 1).
// [[Rcpp::export(rng = false)]]
Rcpp::List core_replay_game(SEXP game, Rcpp::IntegerVector deck, double seed, double trial, double kept) {
  habanera::StopSign sign(pause_for_user);
  const habanera::ReplayedGame replayed = to_game(game).replay(to_kinds(deck), to_count(seed), to_count(trial),
                                                               static_cast<std::size_t>(to_count(kept)), &sign);
  const Rcpp::List outcome = pack_columns(replayed.outcomes, [](const auto& row) { return row; });
  return Rcpp::List::create(Rcpp::Named("steps") = pack_steps(replayed.steps), Rcpp::Named("outcome") = outcome,
                            Rcpp::Named("zones") = pack_piles(replayed.zones));
}

// Numbers that the core has, and R must have the same.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_numbers() {
  return Rcpp::NumericVector::create(
      Rcpp::Named("most_seats") = static_cast<double>(habanera::most_players),
      Rcpp::Named("whole_win") = static_cast<double>(habanera::whole_win),
      Rcpp::Named("parts_of_a_tag") = static_cast<double>(habanera::CountSystem::parts_of_a_tag));
}
