#include "draw.h"
#include "war.h"

#include <algorithm>
#include <memory>
#include <string>

#include "habanera/game/counting.hpp"
#include "habanera/game/enumerating.hpp"
#include "habanera/game/war.hpp"
#include "habanera/watcher/table_recorder.hpp"

// Games from R: a spec is a list of `game` (its name), `draw` (how the deck is shuffled), `rules` and `record`.

namespace {

template <class Game>
struct Kind {
  using Type = Game;
};

// The list of games: calls use(kind, rules).
template <class Use>
auto with_game(const Rcpp::List& spec, Use&& use) {
  const std::string name = Rcpp::as<std::string>(spec["game"]);
  if (name != "war") Rcpp::stop("internal error: no game is called \"%s\"", name);
  const habanera::WarRules rules = to_war_rules(spec["rules"]);
  if (rules.seats() == 2) return use(Kind<habanera::War<2>>{}, rules);
  return use(Kind<habanera::War<0>>{}, rules);
}

template <class Outcome>
std::vector<std::size_t> to_columns(const Rcpp::CharacterVector& names) {
  std::vector<std::size_t> places;
  const auto& known = Outcome::columns();
  for (const char* name : names) {
    const auto found = std::find_if(known.begin(), known.end(),
                                    [&](const auto& column) { return std::string(column.name) == name; });
    if (found == known.end()) Rcpp::stop("internal error: there is no outcome called \"%s\"", name);
    places.push_back(static_cast<std::size_t>(found - known.begin()));
  }
  return places;
}

std::unique_ptr<habanera::TrialPlayer> to_player(const Rcpp::List& spec) {
  return with_game(spec, [&](auto kind, const auto& rules) -> std::unique_ptr<habanera::TrialPlayer> {
    using Game = typename decltype(kind)::Type;
    return std::make_unique<habanera::GamePlayer<Game>>(to_draw(spec["draw"]), rules,
                                                        to_columns<typename Game::Outcome>(spec["record"]));
  });
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
  Rcpp::NumericVector depth(size), round(size), seat(size), action(size);
  Rcpp::NumericMatrix sizes(static_cast<int>(size), static_cast<int>(zones));
  Rcpp::List cards(size);
  for (R_xlen_t i = 0; i < size; ++i) {
    const auto& step = steps[static_cast<std::size_t>(i)];
    depth[i] = static_cast<double>(step.depth);
    round[i] = static_cast<double>(step.round);
    seat[i] = step.seat == habanera::no_seat ? 0 : static_cast<double>(step.seat + 1);
    action[i] = step.action;
    cards[i] = pack_kinds(step.cards);
    for (R_xlen_t zone = 0; zone < zones; ++zone)
      sizes(static_cast<int>(i), static_cast<int>(zone)) = static_cast<double>(step.sizes[static_cast<std::size_t>(zone)]);
  }
  return Rcpp::List::create(Rcpp::Named("depth") = depth, Rcpp::Named("round") = round, Rcpp::Named("seat") = seat,
                            Rcpp::Named("action") = action, Rcpp::Named("cards") = cards,
                            Rcpp::Named("sizes") = sizes);
}

// One game on a deck shuffled already, with everything recorded.
template <class Game, class Watcher>
typename Game::Outcome watch_game(const typename Game::Rules& rules, const std::vector<habanera::Card>& deck,
                                  std::uint64_t seed, std::uint64_t trial, Watcher& watcher) {
  Game game(rules);
  habanera::RandomChance chance(seed, trial, habanera::lane::game);
  habanera::NoPlayers players;
  return game.play(deck, chance, players, watcher);
}

template <class Outcome>
Rcpp::NumericVector pack_outcome(const Outcome& outcome) {
  Rcpp::NumericVector values;
  for (const auto& column : Outcome::columns()) values.push_back(to_number(column.read(outcome)), column.name);
  return values;
}

}  // namespace

// The deck of a trial as it was shuffled.
// [[Rcpp::export]]
Rcpp::IntegerVector core_game_deck(Rcpp::List spec, double seed, double trial) {
  const habanera::Draw draw = to_draw(spec["draw"]);
  std::vector<habanera::Card> deck = draw.fresh_table();
  habanera::RandomChance chance(to_count(seed), to_count(trial), habanera::lane::deal);
  habanera::Workspace work;
  habanera::Silent silent;
  draw(deck, work, chance, silent);
  return pack_kinds(deck);
}

// [[Rcpp::export]]
Rcpp::List core_count_game(Rcpp::List spec, double seed, double first, double count, int threads) {
  const auto player = to_player(spec);
  return pack_tally(habanera::count_games(to_count(first), to_count(count), static_cast<unsigned>(threads), [&] {
    return habanera::GameCounter(*player, to_count(seed));
  }));
}

// [[Rcpp::export]]
Rcpp::List core_count_pairs(Rcpp::List one, Rcpp::List two, std::vector<bool> is_category, double seed, double first,
                            double count, int threads) {
  const auto a = to_player(one), b = to_player(two);
  return pack_tally(habanera::count_games(to_count(first), to_count(count), static_cast<unsigned>(threads), [&] {
    return habanera::PairCounter(*a, *b, is_category, to_count(seed));
  }));
}

// [[Rcpp::export]]
Rcpp::List core_count_holdings(Rcpp::List spec, Rcpp::List holding, double seed, double first, double count,
                               int threads) {
  const auto player = to_player(spec);
  const habanera::HoldingCounter::Holding held{to_kinds(holding["classes"]),
                                               static_cast<std::size_t>(to_count(holding["size"])),
                                               static_cast<std::size_t>(to_count(holding["seat"])) - 1,
                                               to_dealing(holding["dealing"])};
  return pack_tally(habanera::count_games(to_count(first), to_count(count), static_cast<unsigned>(threads), [&] {
    return habanera::HoldingCounter(*player, held, to_count(seed));
  }));
}

// What was recorded of single trials, as columns.
// [[Rcpp::export]]
Rcpp::List core_trial_game(Rcpp::List spec, double seed, Rcpp::NumericVector trials) {
  const auto player = to_player(spec);
  std::vector<habanera::RowTally::Row> rows;
  for (const double trial : trials) rows.push_back(player->play(to_count(seed), to_count(trial)));
  return pack_columns(rows, [](const auto& row) { return row; });
}

// The same on decks shuffled elsewhere, one in each row.
// [[Rcpp::export]]
Rcpp::List core_trial_game_on(Rcpp::List spec, double seed, Rcpp::NumericVector trials, Rcpp::IntegerMatrix decks) {
  const auto player = to_player(spec);
  std::vector<habanera::RowTally::Row> rows;
  for (R_xlen_t i = 0; i < trials.size(); ++i) {
    const Rcpp::IntegerVector deck = decks(static_cast<int>(i), Rcpp::_);
    rows.push_back(player->play_on(to_kinds(deck), to_count(seed), to_count(trials[i])));
  }
  return pack_columns(rows, [](const auto& row) { return row; });
}

// [[Rcpp::export]]
Rcpp::List core_walk_game(Rcpp::List spec, double path_limit) {
  return with_game(spec, [&](auto kind, const auto& rules) {
    using Game = typename decltype(kind)::Type;
    const auto law = habanera::walk_games<Game>(to_draw(spec["draw"]), rules,
                                                to_columns<typename Game::Outcome>(spec["record"]), to_bound(path_limit));
    Rcpp::NumericVector probability;
    for (const auto& entry : law) probability.push_back(entry.second);
    return Rcpp::List::create(Rcpp::Named("rows") = pack_columns(law, [](const auto& entry) { return entry.first; }),
                              Rcpp::Named("probability") = probability);
  });
}

// One game step by step, with its whole outcome, and where all cards lay after step `kept` (from 1).
// [[Rcpp::export]]
Rcpp::List core_replay_game(Rcpp::List spec, Rcpp::IntegerVector deck, double seed, double trial, double kept) {
  return with_game(spec, [&](auto kind, const auto& rules) {
    using Game = typename decltype(kind)::Type;
    habanera::TableRecorder recorder(static_cast<std::size_t>(to_count(kept)));
    const auto outcome = watch_game<Game>(rules, to_kinds(deck), to_count(seed), to_count(trial), recorder);
    return Rcpp::List::create(Rcpp::Named("steps") = pack_steps(recorder.steps()),
                              Rcpp::Named("outcome") = pack_outcome(outcome),
                              Rcpp::Named("zones") = pack_piles(recorder.zones()));
  });
}
