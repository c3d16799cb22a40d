#include "game.h"
#include "habanera_r/function_player.hpp"

#include "habanera/game/judged.hpp"
#include "habanera/game/lookahead.hpp"
#include "habanera/game/seated.hpp"
#include "habanera/game/solver.hpp"
#include "habanera/pairs/pairs.hpp"
#include "habanera/pairs/players.hpp"

namespace {

// What a seat sees of the table, as R has it: see player_with() there.
struct TableView {
  std::size_t places;

  Rcpp::List operator()(const habanera::Pairs::View& view) const {
    const auto size = static_cast<R_xlen_t>(places);
    Rcpp::IntegerVector seen(size), when(size);
    Rcpp::LogicalVector lies(size);
    for (std::size_t place = 0; place < places; ++place) {
      const auto at = static_cast<R_xlen_t>(place);
      const std::uint16_t known = view.seen(place);
      seen[at] = known == habanera::Pairs::nobody_knows ? NA_INTEGER : known + 1;
      when[at] = static_cast<int>(view.when(place));
      lies[at] = view.lies(place);
    }
    const int first = view.second_card() ? static_cast<int>(view.first()) + 1 : NA_INTEGER;
    return Rcpp::List::create(Rcpp::Named("seen") = seen, Rcpp::Named("when") = when, Rcpp::Named("lies") = lies,
                              Rcpp::Named("first") = first,
                              Rcpp::Named("seat") = static_cast<int>(view.seat()) + 1,
                              Rcpp::Named("pairs") = Rcpp::IntegerVector(view.won().begin(), view.won().end()));
  }
};

using Table = habanera::Pairs;

Table::Rules to_table(const Rcpp::List& spec) {
  Table::Rules rules;
  rules.mates = to_kinds(spec["mates"]);
  for (const double copies : Rcpp::NumericVector(spec["copies"])) rules.copies.push_back(copies);
  rules.pairs = static_cast<std::size_t>(to_count(spec["pairs"]));
  rules.seats = static_cast<std::size_t>(to_count(spec["seats"]));
  rules.again = Rcpp::as<bool>(spec["again"]);
  return rules;
}

using SeatPlayer = std::shared_ptr<const habanera::PairsPlayer>;
std::vector<SeatPlayer> to_players(const Rcpp::List& spec, const Table::Rules& rules);

// What the seat of a player that is solved does best against the others of its game.
habanera::Solver<Table> to_solver(const Rcpp::List& spec) {
  const Rcpp::List game = spec["game"];
  const Table::Rules rules = to_table(game);
  return {Table(rules), to_players(game, rules), static_cast<std::size_t>(to_count(spec["seat"])) - 1};
}

SeatPlayer to_forgetful(const Rcpp::List& spec) {
  const double span = Rcpp::as<double>(spec["span"]);
  const auto most = span < 0xffffffff ? static_cast<std::uint32_t>(to_count(span)) : 0xffffffff;
  const habanera::PairsMemory memory(Rcpp::as<double>(spec["recall"]), most);
  return std::make_shared<habanera::RememberingPlayer>(memory, false);
}

// A player as R gives it: its name and its settings.
SeatPlayer to_player(const Rcpp::List& spec, const Table::Rules& rules) {
  const std::string name = Rcpp::as<std::string>(spec["name"]);
  if (name == "nobody") return nullptr;
  if (name == "full_memory") return std::make_shared<habanera::RememberingPlayer>(habanera::PairsMemory(), false);
  if (name == "careful") return std::make_shared<habanera::RememberingPlayer>(habanera::PairsMemory(), true);
  if (name == "forgetful") return to_forgetful(spec);
  if (name == "random") return std::make_shared<habanera::RandomPlayer<Table::View>>();
  if (name == "with") return function_player<Table::View>(spec["f"], TableView{2 * rules.pairs});
  if (name == "solved") return std::make_shared<habanera::SolvedPlayer<Table>>(to_solver(spec));
  if (name != "lookahead") Rcpp::stop("internal error: no player is called \"%s\"", name);
  const auto samples = static_cast<std::size_t>(to_count(spec["samples"]));
  const Rcpp::List playing = spec["playing"];
  const habanera::Assumed<Table::View> assumed{{to_player(playing[0], rules)}};
  return std::make_shared<habanera::LookaheadPlayer<Table>>(Table(rules), samples, assumed);
}

std::vector<SeatPlayer> to_players(const Rcpp::List& spec, const Table::Rules& rules) {
  std::vector<SeatPlayer> players;
  for (const Rcpp::List player : Rcpp::List(spec["players"])) players.push_back(to_player(player, rules));
  return players;
}

// The judgement of a player who weighs moves.
habanera::JudgedPlayer<Table::View>::Judge to_judge(const SeatPlayer& player) {
  using Lookahead = habanera::LookaheadPlayer<Table>;
  using Solved = habanera::SolvedPlayer<Table>;
  if (const auto ahead = std::dynamic_pointer_cast<const Lookahead>(player)) {
    return [judge = std::make_shared<Lookahead>(*ahead)](const Table::View& view, habanera::Moves moves,
                                                         habanera::PlayerChance& chance) {
      return judge->worth_of_moves(view, moves, chance);
    };
  }
  const auto solved = std::dynamic_pointer_cast<const Solved>(player);
  if (!solved) Rcpp::stop("internal error: a player who weighs no moves judges none");
  return [judge = std::make_shared<Solved>(*solved)](const Table::View& view, habanera::Moves moves,
                                                     habanera::PlayerChance& chance) {
    return judge->worth_of_moves(view, moves, chance);
  };
}

}  // namespace

// [[Rcpp::export(rng = false)]]
SEXP core_pairs(Rcpp::List spec) {
  const Table::Rules rules = to_table(spec);
  return game_pointer(std::make_unique<habanera::Playable<habanera::Seated<Table>>>(
      habanera::Seated<Table>::Rules{rules, to_players(spec, rules)}));
}

// What is still to come at the start of the game is worth to a seat by best play, and the positions gone through.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_solve_pairs(Rcpp::List spec) {
  habanera::Solver<Table> solver = to_solver(spec);
  solver.pauses_by(pause_for_user);
  const double worth = solver.worth(Table(to_table(spec["game"])).start());
  return Rcpp::List::create(Rcpp::Named("worth") = worth,
                            Rcpp::Named("positions") = static_cast<double>(solver.positions()));
}

// What the moves that a seat made in a trial were worth, by the player who sits in that seat of the game given.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_judge_pairs(Rcpp::List spec, double seat, Rcpp::NumericVector made, Rcpp::IntegerVector deck,
                            double seed, double trial) {
  const Table::Rules rules = to_table(spec);
  std::vector<SeatPlayer> players = to_players(spec, rules);
  std::vector<std::size_t> moves;
  for (const double move : made) moves.push_back(static_cast<std::size_t>(to_count(move)) - 1);
  std::vector<habanera::Judgement> judgements;
  SeatPlayer& judged = players[static_cast<std::size_t>(to_count(seat)) - 1];
  judged = std::make_shared<habanera::JudgedPlayer<Table::View>>(moves, to_judge(judged), judgements);
  habanera::Seated<Table> game({rules, players});
  habanera::RandomChance chance(to_count(seed), to_count(trial), habanera::lane::game);
  habanera::StopSign sign(pause_for_user);
  habanera::SeatLanes luck(to_count(seed), to_count(trial), &sign);
  habanera::Silent silent;
  try {
    game.play(to_kinds(deck), chance, luck, silent, [](const auto&) {});
  } catch (const habanera::AllJudged&) {
  }
  Rcpp::List packed;
  for (const habanera::Judgement& judgement : judgements) {
    Rcpp::NumericVector open, worth(judgement.worth.begin(), judgement.worth.end());
    for (std::size_t i = 0; i < judgement.moves.count(); ++i)
      open.push_back(static_cast<double>(judgement.moves.at(i)) + 1);
    packed.push_back(Rcpp::List::create(Rcpp::Named("moves") = open, Rcpp::Named("worth") = worth));
  }
  return packed;
}
