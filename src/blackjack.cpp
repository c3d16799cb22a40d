#include "blackjack.h"
#include "count.h"
#include "draw.h"
#include "game.h"
#include "habanera_r/function_player.hpp"
#include "habanera_r/lines.hpp"
#include "stat_sums.h"

#include <string>

#include "habanera/blackjack/blackjack.hpp"
#include "habanera/blackjack/forks.hpp"
#include "habanera/blackjack/players.hpp"
#include "habanera/game/choices.hpp"
#include "habanera/game/counting.hpp"
#include "habanera/game/mixed_player.hpp"
#include "habanera/game/seated.hpp"

namespace {

using Pieces = habanera::BlackjackPieces;
using Rules = habanera::BlackjackRules;
using View = habanera::Blackjack::View;
using SeatPlayer = std::shared_ptr<const habanera::BlackjackPlayer>;
using PiecesPointer = std::shared_ptr<const Pieces>;

std::int64_t to_money(const Rcpp::List& spec, const char* name) {
  return static_cast<std::int64_t>(std::llround(Rcpp::as<double>(spec[name])));
}

std::size_t to_size(const Rcpp::List& spec, const char* name) {
  return static_cast<std::size_t>(to_count(spec[name]));
}

void read_house(Rules& rules, const Rcpp::List& spec) {
  rules.bust_over = static_cast<int>(to_size(spec, "bust_over"));
  rules.dealer_stands_on = static_cast<int>(to_size(spec, "dealer_stands_on"));
  rules.hits_soft = Rcpp::as<bool>(spec["hits_soft"]);
  rules.ties_to_dealer = Rcpp::as<bool>(spec["ties_to_dealer"]);
  rules.hole_card = to_choice<Rules::HoleCard>(spec, "hole_card",
                                               {{"checked", Rules::checked},
                                                {"unchecked_all_lost", Rules::unchecked_all_lost},
                                                {"unchecked_stake_only", Rules::unchecked_stake_only}});
  rules.double_on = to_choice<Rules::DoubleOn>(
      spec, "double_on",
      {{"any_two", Rules::any_two}, {"9_to_11", Rules::nine_to_eleven}, {"10_11", Rules::ten_eleven},
       {"any_cards", Rules::any_cards}, {"none", Rules::no_double}});
  rules.double_after_split = Rcpp::as<bool>(spec["double_after_split"]);
  rules.most_hands = to_size(spec, "most_hands");
  rules.split_aces_one_card = Rcpp::as<bool>(spec["split_aces_one_card"]);
  rules.resplit_aces = Rcpp::as<bool>(spec["resplit_aces"]);
  rules.surrender = to_choice<Rules::Surrender>(
      spec, "surrender", {{"none", Rules::no_surrender}, {"late", Rules::late}, {"early", Rules::early}});
  rules.insurance = Rcpp::as<bool>(spec["insurance"]);
  rules.cards_that_win = to_size(spec, "cards_that_win");
}

}  // namespace

habanera::BlackjackRules to_blackjack_rules(const Rcpp::List& spec) {
  Rules rules;
  for (const double points : Rcpp::NumericVector(spec["points"]))
    rules.points.push_back(static_cast<std::uint8_t>(points));
  rules.pairs_with = to_kinds(spec["pairs_with"]);
  rules.side_class = to_kinds(spec["side_class"]);
  rules.side_classes = to_size(spec, "side_classes");
  for (const Rcpp::NumericVector bet : Rcpp::List(spec["side_bets"])) {
    rules.side_bets.emplace_back();
    for (const double net : bet) rules.side_bets.back().net.push_back(static_cast<std::int64_t>(std::llround(net)));
  }
  rules.cards = to_size(spec, "cards");
  rules.cut_after = to_size(spec, "cut_after");
  rules.burn = to_size(spec, "burn");
  rules.seats = to_size(spec, "seats");
  read_house(rules, spec);
  rules.stake = to_money(spec, "stake_units");
  rules.natural_pays = to_money(spec, "natural_units");
  rules.surrender_costs = to_money(spec, "surrender_units");
  rules.insurance_stake = to_money(spec, "insurance_units");
  rules.insurance_wins = to_money(spec, "insured_units");
  rules.told_by_cards = Rcpp::as<bool>(spec["told_by_cards"]);
  return rules;
}

namespace {

// What a seat sees when it decides, as R has it: see player_with() there.
struct HandsView {
  PiecesPointer pieces;

  Rcpp::List operator()(const View& view) const {
    const auto& hand = view.hand();
    Rcpp::IntegerVector totals;
    for (std::size_t i = 0; i < view.hands(); ++i) totals.push_back(pieces->total(view.hand(i)));
    return Rcpp::List::create(
        Rcpp::Named("seat") = static_cast<int>(view.seat()) + 1, Rcpp::Named("hand") = static_cast<int>(view.at()) + 1,
        Rcpp::Named("total") = pieces->total(hand), Rcpp::Named("soft") = pieces->is_soft(hand),
        Rcpp::Named("pair") = hand.pair && hand.cards == 2, Rcpp::Named("first") = static_cast<int>(hand.first),
        Rcpp::Named("cards") = static_cast<int>(hand.cards),
        Rcpp::Named("up_card") = static_cast<int>(pieces->rules().points[view.up()]),
        Rcpp::Named("hands") = static_cast<int>(view.own_hands()), Rcpp::Named("totals") = totals,
        Rcpp::Named("cards_gone") = static_cast<double>(view.cards_gone()));
  }
};

// The same by name, for conditions on what is seen.
habanera::Shown shown_hands(const View& view, const Pieces& pieces) {
  const auto& hand = view.hand();
  std::vector<int> totals;
  for (std::size_t i = 0; i < view.hands(); ++i) totals.push_back(pieces.total(view.hand(i)));
  using habanera::shows;
  return {shows("seat", view.seat() + 1), shows("hand", view.at() + 1), shows("total", pieces.total(hand)),
          shows("soft", pieces.is_soft(hand)), shows("pair", hand.pair && hand.cards == 2), shows("first", hand.first),
          shows("cards", hand.cards), shows("up_card", pieces.rules().points[view.up()]),
          shows("hands", view.own_hands()), shows("totals", totals), shows("cards_gone", view.cards_gone())};
}

SeatPlayer by_lines(const Rcpp::List& spec, const PiecesPointer& pieces) {
  static const std::vector<habanera::Word> words = habanera::Blackjack::move_words();
  return std::make_shared<habanera::LinePlayer<View>>(
      habanera_r::to_lines(spec, habanera_r::NoHandRules()),
      [pieces](const View& view) {
        return habanera::SeenThings([pieces, &view] { return shown_hands(view, *pieces); });
      },
      [](const View&, std::size_t move) {
        for (const habanera::Word& word : words)
          if (word.number == static_cast<int>(move)) return word.name;
        return std::string();
      });
}

// A row of cells: first choices and others as numbers, for the up cards of 1 to 10.
habanera::StrategyTable::Row to_row(const Rcpp::IntegerVector& cells) {
  habanera::StrategyTable::Row row;
  for (std::size_t up = 1; up <= 10; ++up)
    row[up] = {static_cast<std::uint8_t>(cells[static_cast<R_xlen_t>(2 * up - 2)]),
               static_cast<std::uint8_t>(cells[static_cast<R_xlen_t>(2 * up - 1)])};
  return row;
}

// Rows of single hands: what is held of each value, of which split, and the cells, hand after hand.
std::shared_ptr<const habanera::StrategyTable::RowsByCards> to_rows_by_cards(const Rcpp::List& spec) {
  const Rcpp::NumericVector held = spec["held"];
  const Rcpp::IntegerVector split = spec["split"];
  const Rcpp::IntegerMatrix cells = spec["cells"];
  auto rows = std::make_shared<habanera::StrategyTable::RowsByCards>();
  for (R_xlen_t i = 0; i < held.size(); ++i) {
    const std::uint64_t key = habanera::StrategyTable::cards_key(static_cast<std::uint64_t>(held[i]),
                                                                 static_cast<std::uint8_t>(split[i]));
    const Rcpp::IntegerVector of_hand = cells(Rcpp::_, static_cast<int>(i));
    (*rows)[key] = to_row(of_hand);
  }
  return rows;
}

}  // namespace

habanera::StrategyTable to_strategy_table(const Rcpp::List& spec) {
  habanera::StrategyTable table;
  const Rcpp::List hard = spec["hard"], soft = spec["soft"], pair = spec["pair"];
  for (std::size_t total = 0; total < habanera::StrategyTable::most_total; ++total) {
    table.hard[total] = to_row(hard[static_cast<R_xlen_t>(total)]);
    table.soft[total] = to_row(soft[static_cast<R_xlen_t>(total)]);
  }
  const Rcpp::LogicalVector by_total = spec["pair_by_total"];
  for (std::size_t value = 1; value <= 10; ++value) {
    table.pair[value] = to_row(pair[static_cast<R_xlen_t>(value - 1)]);
    table.plays_pair_by_total[value] = by_total[static_cast<R_xlen_t>(value - 1)] != 0;
  }
  if (spec.containsElementNamed("by_cards")) table.by_cards = to_rows_by_cards(spec["by_cards"]);
  return table;
}

namespace {

SeatPlayer to_player(const Rcpp::List& spec, const PiecesPointer& pieces) {
  const std::string name = Rcpp::as<std::string>(spec["name"]);
  if (name == "strategy") return std::make_shared<habanera::TablePlayer>(pieces, to_strategy_table(spec));
  if (name == "random") return std::make_shared<habanera::RandomPlayer<View>>();
  if (name == "with") return function_player<View>(spec["f"], HandsView{pieces});
  if (name == "by_rules") return by_lines(spec, pieces);
  if (name == "errs")
    return std::make_shared<habanera::ErringPlayer>(*to_player(spec["player"], pieces),
                                                    Rcpp::as<double>(spec["how_often"]));
  if (name == "counting") {
    std::vector<SeatPlayer> by_count;
    for (const Rcpp::List player : Rcpp::List(spec["players"])) by_count.push_back(to_player(player, pieces));
    std::vector<std::int64_t> from;
    for (const double level : Rcpp::NumericVector(spec["from"])) from.push_back(static_cast<std::int64_t>(level));
    return std::make_shared<habanera::CountingPlayer>(from, by_count, to_optional(spec["insures_from"]));
  }
  if (name == "insures") return std::make_shared<habanera::InsuringPlayer>(*to_player(spec["player"], pieces));
  if (name != "mixture") Rcpp::stop("internal error: no player is called \"%s\"", name);
  std::vector<SeatPlayer> players;
  for (const Rcpp::List player : Rcpp::List(spec["players"])) players.push_back(to_player(player, pieces));
  return std::make_shared<habanera::MixedPlayer<View>>(players, Rcpp::as<std::vector<double>>(spec["up_to"]));
}

}  // namespace

// The moves, as numbers by name.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerVector core_blackjack_moves() {
  Rcpp::IntegerVector packed;
  for (const habanera::Word& word : habanera::Blackjack::move_words()) packed.push_back(word.number, word.name);
  return packed;
}

// [[Rcpp::export(rng = false)]]
SEXP core_blackjack(Rcpp::List spec) {
  habanera::Seated<habanera::Blackjack>::Rules rules;
  rules.game = to_blackjack_rules(spec);
  const auto pieces = std::make_shared<const Pieces>(rules.game);
  for (const Rcpp::List player : Rcpp::List(spec["players"])) rules.players.push_back(to_player(player, pieces));
  rules.bettor = to_bettor(spec);
  rules.shoes = static_cast<std::size_t>(to_count(spec["shoes"]));
  return game_pointer(std::make_unique<habanera::Playable<habanera::Seated<habanera::Blackjack>>>(rules));
}

// What single departures bring on the shoes of a run: `plays` and `departs` are players, `cells` a matrix with a cell in
// each row (kind from 0: hard, soft, pair; total or value; up card).
// [[Rcpp::export(rng = false)]]
Rcpp::List core_blackjack_forks(Rcpp::List spec, Rcpp::List draw, Rcpp::List plays, Rcpp::List departs,
                                Rcpp::IntegerMatrix cells, double seed, double first, double count, int threads) {
  habanera::ForkCounter::Plan plan;
  plan.rules = to_blackjack_rules(spec);
  plan.bettor = to_bettor(spec).value();
  const auto pieces = std::make_shared<const Pieces>(plan.rules);
  plan.plays = to_player(plays, pieces);
  plan.departs = to_player(departs, pieces);
  for (int i = 0; i < cells.nrow(); ++i)
    plan.cells.push_back({static_cast<std::uint8_t>(cells(i, 0)), static_cast<std::uint8_t>(cells(i, 1)),
                          static_cast<std::uint8_t>(cells(i, 2))});
  const habanera::Draw dealt = to_draw(draw);
  return pack_sums(habanera::count_games(to_count(first), to_count(count), to_crew(threads), [&] {
    return habanera::ForkCounter(dealt, plan, to_count(seed));
  }).sums());
}

// How many seats and split hands there is room for.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_blackjack_room() {
  return Rcpp::NumericVector::create(Rcpp::Named("seats") = static_cast<double>(habanera::most_blackjack_seats),
                                     Rcpp::Named("hands") = static_cast<double>(habanera::most_split_hands));
}
