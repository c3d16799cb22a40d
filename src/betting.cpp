#include "betting.h"
#include "game.h"
#include "hand.h"
#include "habanera_r/lines.hpp"
#include "habanera_r/seat_players.hpp"

#include <map>
#include <memory>
#include <string>
#include <vector>

#include "habanera/betting/betting.hpp"
#include "habanera/betting/players.hpp"
#include "habanera/betting/read_actions.hpp"
#include "habanera/game/seated.hpp"

namespace {

using habanera::Betting;

std::int64_t to_chips(double chips) { return static_cast<std::int64_t>(to_count(chips)); }

std::vector<habanera::BetSize> to_sizes(const Rcpp::List& spec) {
  std::vector<habanera::BetSize> sizes;
  for (const Rcpp::List size : spec) {
    habanera::BetSize made;
    made.how = to_choice<habanera::BetSize::How>(size, "how",
                                                 {{"chips", habanera::BetSize::chips},
                                                  {"share_of_pot", habanera::BetSize::share_of_pot},
                                                  {"all_in", habanera::BetSize::all_in}});
    made.amount = to_chips(Rcpp::as<double>(size["chips"]));
    made.over = to_chips(Rcpp::as<double>(size["over"]));
    made.under = to_chips(Rcpp::as<double>(size["under"]));
    made.name = Rcpp::as<std::string>(size["name"]);
    sizes.push_back(made);
  }
  return sizes;
}

habanera::Street to_street(const Rcpp::List& spec) {
  habanera::Street street;
  street.shared = static_cast<std::size_t>(to_count(spec["shared"]));
  street.bets = to_sizes(spec["bets"]);
  street.raises = to_sizes(spec["raises"]);
  street.most_bets = static_cast<std::size_t>(to_count(spec["most_bets"]));
  street.only_all_in = Rcpp::as<bool>(spec["only_all_in"]);
  if (!Rf_isNull(spec["first"])) street.first = static_cast<std::size_t>(to_count(spec["first"])) - 1;
  return street;
}

habanera::BettingRules to_chip_rules(const Rcpp::List& spec) {
  habanera::BettingRules rules;
  rules.seats = static_cast<std::size_t>(to_count(spec["seats"]));
  rules.ante = to_chips(Rcpp::as<double>(spec["ante"]));
  rules.pot = to_chips(Rcpp::as<double>(spec["pot"]));
  for (const double blind : Rcpp::NumericVector(spec["blinds"])) rules.blinds.push_back(to_chips(blind));
  for (const double stack : Rcpp::NumericVector(spec["stacks"])) rules.stacks.push_back(to_chips(stack));
  for (const Rcpp::List street : Rcpp::List(spec["streets"])) rules.streets.push_back(to_street(street));
  return rules;
}

std::shared_ptr<const habanera::BettingCards> to_betting_cards(const Rcpp::List& spec) {
  auto cards = std::make_shared<habanera::BettingCards>();
  cards->copies = Rcpp::as<std::vector<double>>(spec["copies"]);
  cards->names = Rcpp::as<std::vector<std::string>>(spec["names"]);
  cards->codes = Rcpp::as<std::vector<std::string>>(spec["codes"]);
  cards->stands_for = to_kinds(spec["stands_for"]);
  for (const double rank : Rcpp::NumericVector(spec["rank"])) cards->rank.push_back(static_cast<std::uint8_t>(rank));
  for (const double suit : Rcpp::NumericVector(spec["suit"]))
    cards->suit.push_back(number_or<std::uint8_t>(suit, habanera::HandRules::no_suit));
  cards->suits_alike = Rcpp::as<bool>(spec["suits_alike"]);
  for (const Rcpp::IntegerVector kinds : Rcpp::List(spec["of_suit"])) cards->of_suit.push_back(to_kinds(kinds));
  for (const double suit : Rcpp::NumericVector(spec["like_suit"]))
    cards->like_suit.push_back(static_cast<std::uint8_t>(to_count(suit)) - 1);
  return cards;
}

// Strengths of seven cards take a tenth of a second to list, and a run makes its game anew in every lap: the last few
// are kept.
std::shared_ptr<habanera::StrengthReader> known_reader(const habanera::HandRules& rules, std::size_t cards,
                                                       bool singles) {
  struct Known {
    habanera::HandRules rules;
    std::size_t cards;
    bool singles;
    std::shared_ptr<habanera::StrengthReader> reader;
  };
  static std::vector<Known> known;
  static constexpr std::size_t most_known = 4;
  for (const Known& each : known)
    if (each.cards == cards && each.singles == singles && each.rules == rules) return each.reader;
  if (known.size() == most_known) known.erase(known.begin());
  known.push_back({rules, cards, singles, std::make_shared<habanera::StrengthReader>(rules, cards, singles)});
  return known.back().reader;
}

habanera::BettingStrength to_strength(const Rcpp::List& spec) {
  using habanera::BettingStrength;
  const std::string by = Rcpp::as<std::string>(spec["by"]);
  if (by == "hands") {
    const auto reader = known_reader(to_hand_rules(spec["rules"]), static_cast<std::size_t>(to_count(spec["cards"])),
                                     Rcpp::as<bool>(spec["singles"]));
    return BettingStrength::of_hands(reader, static_cast<std::size_t>(to_count(spec["own_cards"])));
  }
  const Rcpp::NumericVector worth = spec["worth"];
  if (by == "ranks") {
    std::vector<std::uint64_t> by_kind;
    for (const double each : worth) by_kind.push_back(to_count(each));
    return BettingStrength::of_ranks(by_kind);
  }
  auto table = std::make_shared<BettingStrength::Table>();
  const Rcpp::List hands = spec["hands"];
  for (R_xlen_t i = 0; i < hands.size(); ++i) table->emplace(to_kinds(hands[i]), to_count(worth[i]));
  return BettingStrength::of_table(table);
}

std::shared_ptr<const habanera::Openings> to_openings(const Rcpp::List& spec, const std::vector<double>& copies) {
  if (Rf_isNull(spec["holdings"])) return nullptr;
  std::vector<std::vector<habanera::WeightedHand>> seats;
  for (const Rcpp::List seat : Rcpp::List(spec["holdings"])) {
    seats.emplace_back();
    if (seat.size() == 0) continue;
    const Rcpp::List hands = seat["hands"];
    const Rcpp::NumericVector weights = seat["weights"];
    for (R_xlen_t i = 0; i < hands.size(); ++i) seats.back().push_back({to_kinds(hands[i]), weights[i]});
  }
  return std::make_shared<habanera::Openings>(seats, copies);
}

// What betting brings to the players of its seats.
class OfBetting {
 public:
  using View = Betting::View;
  using SeatPlayer = std::shared_ptr<const habanera::Player<View>>;
  static constexpr bool can_be_weighed = true;

  explicit OfBetting(Betting game) : game_(std::make_shared<const Betting>(std::move(game))) {}

  SeatPlayer player(const std::string& name, const Rcpp::List& spec) const {
    if (name == "calls_all") return std::make_shared<habanera::CallsAllPlayer>();
    if (name != "by_rules") return nullptr;
    const auto see = [](const View& view) {
      return habanera::SeenThings([&view] { return view.facts(); }, view.holding(), view.shared());
    };
    return std::make_shared<habanera::LinePlayer<View>>(
        habanera_r::to_lines(spec, to_hand_rules), see,
        [game = game_](const View& view, std::size_t move) { return game->move_text(view, move); });
  }
  SeatPlayer by_table(std::shared_ptr<const habanera::ChanceTable> table) const {
    return std::make_shared<habanera::BettingTablePlayer>(game_, std::move(table));
  }

  // Cards as they were dealt; the moves so far, and what follows from them.
  struct ToView {
    Rcpp::List operator()(const View& view) const {
      Rcpp::List all = habanera_r::pack_shown(view.facts());
      all.push_back(codes(view.holding()), "holding");
      all.push_back(codes(view.shared()), "shared");
      return all;
    }
    Rcpp::CharacterVector codes(const std::vector<habanera::Card>& cards) const {
      Rcpp::CharacterVector all;
      for (const habanera::Card card : cards) all.push_back(game->table().codes[card]);
      return all;
    }
    Rcpp::CharacterVector words(const View& view, habanera::Moves moves) const {
      return habanera_r::words_of_moves(*game, view, moves);
    }
    static constexpr bool tells_words = true;
    std::shared_ptr<const Betting> game;
  };
  ToView to_view() const { return {game_}; }

 private:
  std::shared_ptr<const Betting> game_;
};

}  // namespace

Betting::Rules to_betting(const Rcpp::List& spec) {
  Betting::Rules rules;
  rules.chips = to_chip_rules(spec["chips"]);
  rules.own = static_cast<std::size_t>(to_count(spec["own"]));
  rules.board = to_kinds(spec["board"]);
  rules.cards = to_betting_cards(spec["cards"]);
  rules.strength = to_strength(spec["strength"]);
  rules.tells_holdings = Rcpp::as<bool>(spec["tells_holdings"]);
  rules.openings = to_openings(spec, rules.cards->copies);
  return rules;
}

std::vector<std::shared_ptr<const habanera::Player<Betting::View>>> to_players(const Rcpp::List& spec,
                                                                               const Betting& game) {
  return habanera_r::SeatPlayers<Betting, OfBetting>(game, OfBetting(game)).all(spec["players"]);
}

// [[Rcpp::export(rng = false)]]
SEXP core_betting(Rcpp::List spec) {
  const Betting::Rules rules = to_betting(spec);
  return game_pointer(std::make_unique<habanera::Playable<habanera::Seated<Betting>>>(
      habanera::Seated<Betting>::Rules{rules, to_players(spec, Betting(rules))}));
}

// Numbers of an outcome as text: the moves of a hand; what a seat held.
// [[Rcpp::export(rng = false)]]
Rcpp::CharacterVector core_betting_actions(Rcpp::List spec, Rcpp::NumericVector codes) {
  const Betting game(to_betting(spec));
  Rcpp::CharacterVector all;
  for (const double code : codes) all.push_back(game.actions_of_code(to_count(code)));
  return all;
}
// [[Rcpp::export(rng = false)]]
Rcpp::CharacterVector core_betting_holdings(Rcpp::List spec, Rcpp::NumericVector codes) {
  const Betting game(to_betting(spec));
  Rcpp::CharacterVector all;
  for (const double code : codes) all.push_back(game.holding_of_code(to_count(code)));
  return all;
}

// What cards of a seat and those that all see (in groups of these sizes, street by street) are told as, and how many of
// a seat's own there are: one text for each in `hands`, kinds as they lie.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_betting_told(Rcpp::List cards, Rcpp::IntegerVector groups, Rcpp::List hands) {
  const auto table = to_betting_cards(cards);
  Rcpp::CharacterVector holding, shared;
  for (const Rcpp::IntegerVector hand : hands) {
    const std::vector<habanera::Card> kinds = to_kinds(hand);
    habanera::ToldCards told(*table);
    std::size_t at = 0;
    for (const int size : groups) {
      told.begin_group();
      for (int i = 0; i < size && at < kinds.size(); ++i) told.add(kinds[at++]);
    }
    told.tell();
    const auto own = static_cast<std::size_t>(groups[0]);
    holding.push_back(told.text(0, own));
    shared.push_back(told.text(own, told.size()));
  }
  return Rcpp::List::create(Rcpp::Named("holding") = holding, Rcpp::Named("shared") = shared);
}

// Of moves so far as text: who speaks next (0: nobody), how many cards all see by then, what may be done; and what of
// the text can be no move.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_betting_open(Rcpp::List spec, Rcpp::CharacterVector actions) {
  const Betting game(to_betting(spec));
  Rcpp::List all;
  for (const Rcpp::String text : actions) {
    const habanera::ReadActions read = habanera::read_actions(game, text.get_cstring());
    Rcpp::CharacterVector moves(read.open.begin(), read.open.end());
    all.push_back(Rcpp::List::create(Rcpp::Named("seat") = static_cast<double>(read.seat),
                                     Rcpp::Named("turned") = static_cast<double>(read.turned),
                                     Rcpp::Named("moves") = moves, Rcpp::Named("wrong") = read.wrong,
                                     Rcpp::Named("text") = read.text));
  }
  return all;
}
