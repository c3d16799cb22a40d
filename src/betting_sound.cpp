#include "betting.h"
#include "habanera_r/information.hpp"

#include <algorithm>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "habanera/betting/sound_rows.hpp"

// Play by what seats see at games in which they bet: of two seats by the tree of boards, all hands at once, else
// position by position.

namespace {

using habanera::Betting;

// Whether all hands are gone through at once: of two seats whose bets take no more courses than are listed; and not
// where hands are listed of a deck with cards that are alike, or are told so: there each listed hand counts once.
bool is_seen_whole(const Betting& game) {
  if (game.seats() != 2 || !game.has_tree()) return false;
  const std::vector<double>& copies = game.table().copies;
  for (std::size_t kind = 0; game.openings() && kind < copies.size(); ++kind)
    if (copies[kind] > 1 || game.stands_for(static_cast<habanera::Card>(kind)) != kind) return false;
  return true;
}

std::shared_ptr<const habanera::Runout> to_runout(SEXP known) {
  if (Rf_isNull(known)) return nullptr;
  const Rcpp::NumericMatrix wins(known);
  auto runout = std::make_shared<habanera::Runout>();
  runout->seat_rows = runout->other_rows = static_cast<std::size_t>(wins.nrow());
  runout->wins.assign(wins.begin(), wins.end());
  return runout;
}
SEXP pack_runout(const habanera::BoardTree& tree) {
  const auto runout = tree.first_runout();
  if (!runout) return R_NilValue;
  Rcpp::NumericMatrix wins(static_cast<int>(runout->other_rows), static_cast<int>(runout->seat_rows));
  std::copy(runout->wins.begin(), runout->wins.end(), wins.begin());
  return wins;
}

// A row for each move of what these seats can see, as pack_mix() has them; `sees` by number, among `seen`.
Rcpp::List pack_rows(const habanera::BoardTree& tree, const habanera::BoardMix& mix,
                     const std::vector<std::size_t>& of_seats) {
  std::vector<std::string> seen, words;
  std::vector<int> sees, moves;
  std::vector<double> seats, chances, reached, worths;
  std::map<std::string, int> known;
  const Betting& game = tree.game();
  for (const std::size_t seat : of_seats)
    habanera::each_sound_row(tree, seat, mix, [&](const habanera::SoundRow& row, const habanera::WorthOfRows& worth) {
      const auto& node = *row.node;
      const habanera::BettingPosition position = tree.boards().position(
          node.board, tree.board(node).sides[seat]->shown_by[row.row], seat, node.course);
      const Betting::View view = game.view(position, seat);
      seen.push_back(view.text());
      std::size_t place = 0;
      game.moves(position).each([&](std::size_t move) {
        const std::string word = game.move_text(view, move);
        const auto [found, is_new] = known.emplace(word, static_cast<int>(words.size()));
        if (is_new) words.push_back(word);
        sees.push_back(static_cast<int>(seen.size()));
        moves.push_back(found->second + 1);
        seats.push_back(static_cast<double>(seat) + 1);
        chances.push_back(mix[node.chances + place * row.rows + row.row]);
        reached.push_back(row.reached);
        worths.push_back(row.comes > 0 ? worth.worth(node, row.rows, place, row.row) : NA_REAL);
        ++place;
      });
    });
  return Rcpp::List::create(Rcpp::Named("seat") = seats, Rcpp::Named("sees") = sees, Rcpp::Named("seen") = seen,
                            Rcpp::Named("move") = moves, Rcpp::Named("words") = words,
                            Rcpp::Named("chance") = chances, Rcpp::Named("reached") = reached,
                            Rcpp::Named("worth") = worths);
}

habanera::InformationTree to_tree(const Rcpp::List& spec) {
  const Betting game(to_betting(spec));
  return habanera::TreeBuilder<Betting>(game, to_players(spec, game), pause_for_user)();
}

// Two seats on the tree of boards; who has a player plays by its chances.
class OnBoards {
 public:
  OnBoards(const Betting& game, const Rcpp::List& spec, SEXP known, int threads)
      : tree_(game, to_crew(threads), to_runout(known)), mix_(tree_.chances(), 0) {
    const auto players = to_players(spec, game);
    for (const std::size_t seat : {0, 1})
      if (players[seat]) habanera::put_player(tree_, seat, *players[seat], mix_);
  }
  const habanera::BoardTree& tree() const { return tree_; }
  habanera::BoardMix& mix() { return mix_; }
  double value(std::size_t seat) const {
    habanera::MixOfRows both(mix_);
    return habanera::BoardWalk<habanera::MixOfRows>(tree_, seat, both).worth();
  }

 private:
  habanera::BoardTree tree_;
  habanera::BoardMix mix_;
};

std::size_t seat_of(double seat) { return static_cast<std::size_t>(to_count(seat)) - 1; }

}  // namespace

// `known`: how often rows beat each other where the last cards are turned at once, as an earlier call gave it in
// `runout`.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_betting_sound(Rcpp::List spec, double gap, double seconds, SEXP known, int threads) {
  const Betting game(to_betting(spec));
  if (!is_seen_whole(game)) return habanera_r::sound_play(to_tree(spec), gap, seconds);
  const habanera::BoardTree tree(game, to_crew(threads), to_runout(known));
  habanera::BettingRegrets iteration(tree);
  habanera::BoardMix mix;
  Rcpp::List found = habanera_r::rounds_played(iteration, gap, seconds, mix);
  found["nodes"] = static_cast<double>(tree.nodes().size());
  found["sets"] = static_cast<double>(tree.rows_in_all());
  found["rows"] = pack_rows(tree, mix, {0, 1});
  found["runout"] = pack_runout(tree);
  return found;
}

// [[Rcpp::export(rng = false)]]
SEXP core_betting_best_answer(Rcpp::List spec, double seat, SEXP known, int threads) {
  const Betting game(to_betting(spec));
  if (!is_seen_whole(game)) return habanera_r::best_answer(to_tree(spec), seat_of(seat));
  OnBoards boards(game, spec, known, threads);
  const double worth = habanera::put_best_answer(boards.tree(), seat_of(seat), boards.mix());
  const Rcpp::List rows = pack_rows(boards.tree(), boards.mix(), {seat_of(seat)});
  return Rcpp::List::create(Rcpp::Named("worth") = worth,
                            Rcpp::Named("positions") = static_cast<double>(Rf_xlength(rows["seen"])),
                            Rcpp::Named("rows") = rows, Rcpp::Named("runout") = pack_runout(boards.tree()));
}

// What each row of a seat's play costs.
// [[Rcpp::export(rng = false)]]
SEXP core_betting_costs(Rcpp::List spec, double seat, SEXP known, int threads) {
  const Betting game(to_betting(spec));
  if (!is_seen_whole(game)) return habanera_r::pack_costs(to_tree(spec), seat_of(seat));
  OnBoards boards(game, spec, known, threads);
  return Rcpp::List::create(Rcpp::Named("rows") = pack_rows(boards.tree(), boards.mix(), {seat_of(seat)}),
                            Rcpp::Named("value") = boards.value(seat_of(seat)),
                            Rcpp::Named("runout") = pack_runout(boards.tree()));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_betting_values(Rcpp::List spec, SEXP known, int threads) {
  const Betting game(to_betting(spec));
  if (!is_seen_whole(game)) {
    const std::vector<double> values = to_tree(spec).values({});
    return Rcpp::List::create(Rcpp::Named("values") = values);
  }
  OnBoards boards(game, spec, known, threads);
  const std::vector<double> values{boards.value(0), boards.value(1)};
  return Rcpp::List::create(Rcpp::Named("values") = values, Rcpp::Named("runout") = pack_runout(boards.tree()));
}
