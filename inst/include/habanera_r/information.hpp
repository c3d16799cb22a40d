#pragma once

// Play by what seats see, as R has it.

#include <Rcpp/Light>

#include <algorithm>
#include <chrono>
#include <memory>
#include <string>

#include "habanera/game/chance_table.hpp"
#include "habanera/game/best_answer.hpp"
#include "habanera/game/information.hpp"
#include "habanera/game/regret.hpp"
#include "habanera/game/row_costs.hpp"
#include "habanera/game/view.hpp"
#include "habanera_r/convert.hpp"

namespace habanera_r {

// A row for each move of each set of a seat, of all open ones where `seat` is none of them: what is seen, the move, its
// chance, the chance that the set is come to, and what the move then brings if the others move so and the best follows.
inline Rcpp::List pack_mix(const habanera::InformationTree& tree, const habanera::Mix& mix, std::size_t seat) {
  Rcpp::NumericVector seats, chances, reached, worths;
  Rcpp::CharacterVector sees, moves;
  const std::vector<double> reach = tree.reach(mix);
  for (std::size_t of = 0; of < tree.seats(); ++of) {
    if (!tree.is_open(of) || (seat < tree.seats() && of != seat)) continue;
    habanera::BestAnswer best(tree, of, mix);
    for (std::size_t number = 0; number < tree.sets().size(); ++number) {
      const habanera::InformationSet& set = tree.sets()[number];
      if (set.seat != of) continue;
      const bool comes = best.let_come(number) > 0;
      const std::vector<double> worth = best.worth_of_moves(number);
      double here = 0;
      for (const std::size_t node : set.nodes) here += reach[node];
      for (std::size_t i = 0; i < set.moves.size(); ++i) {
        seats.push_back(static_cast<double>(of) + 1);
        sees.push_back(set.sees);
        moves.push_back(set.words[i]);
        chances.push_back(mix[set.first + i]);
        reached.push_back(here);
        worths.push_back(comes ? worth[i] : NA_REAL);
      }
    }
  }
  return Rcpp::List::create(Rcpp::Named("seat") = seats, Rcpp::Named("sees") = sees, Rcpp::Named("move") = moves,
                            Rcpp::Named("chance") = chances, Rcpp::Named("reached") = reached,
                            Rcpp::Named("worth") = worths);
}

// Rounds, until best answers gain no more than `gap`, or time is up; an interrupt gives what is there. What was found,
// and its mix by `mix`.
template <class Iteration, class Mix>
Rcpp::List rounds_played(Iteration& iteration, double gap, double seconds, Mix& mix) {
  static const Rcpp::Function show(Rcpp::Environment::namespace_env("habanera").get("show_gap"));
  const auto begun = std::chrono::steady_clock::now();
  const auto in_time = [&] {
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - begun).count() < seconds;
  };
  bool interrupted = false;
  // Whether the gap is reached is looked at after numbers of rounds that do not hang on the machine.
  for (std::size_t until = 16;; until += until / 4) {
    try {
      while (iteration.rounds() < until && (iteration.rounds() == 0 || in_time())) {
        iteration.round();
        pause_for_user();
      }
    } catch (const Rcpp::internal::InterruptedException&) {
      interrupted = true;
    }
    const auto proven = [&] {
      mix = iteration.mean();
      return iteration.proof(mix);
    };
    habanera::SoundProof proof;
    try {
      proof = proven();
    } catch (const Rcpp::internal::InterruptedException&) {
      // What was found by then still has its gap, if nobody asks again to stop.
      interrupted = true;
      proof = proven();
    }
    show(proof.gap(), gap);
    if (proof.gap() > gap && !interrupted && in_time()) continue;
    return Rcpp::List::create(
        Rcpp::Named("value") = proof.value, Rcpp::Named("low") = proof.low, Rcpp::Named("high") = proof.high,
        Rcpp::Named("total") = iteration.total(), Rcpp::Named("rounds") = static_cast<double>(iteration.rounds()),
        Rcpp::Named("interrupted") = interrupted);
  }
}

inline Rcpp::List sound_play(const habanera::InformationTree& tree, double gap, double seconds) {
  for (std::size_t seat = 0; seat < tree.seats(); ++seat)
    if (tree.forgets(seat)) return Rcpp::List::create(Rcpp::Named("forgets") = static_cast<double>(seat) + 1);
  habanera::RegretIteration iteration(tree);
  habanera::Mix mix;
  Rcpp::List found = rounds_played(iteration, gap, seconds, mix);
  found["nodes"] = static_cast<double>(tree.nodes().size());
  found["sets"] = static_cast<double>(tree.sets().size());
  found["rows"] = pack_mix(tree, mix, tree.seats());
  return found;
}

// What the open seat of a tree does best; NULL where it forgets what it saw or did.
inline SEXP best_answer(const habanera::InformationTree& tree, std::size_t seat) {
  if (tree.forgets(seat)) return R_NilValue;
  habanera::Mix mix(tree.chances(), 0);
  const habanera::BestAnswer best(tree, seat, mix);
  double sets = 0;
  for (std::size_t i = 0; i < tree.sets().size(); ++i) {
    const habanera::InformationSet& set = tree.sets()[i];
    if (set.seat != seat) continue;
    mix[set.first + best.chosen(i)] = 1;
    ++sets;
  }
  return Rcpp::List::create(Rcpp::Named("worth") = best.value(), Rcpp::Named("positions") = sets,
                            Rcpp::Named("rows") = pack_mix(tree, mix, seat));
}

// What each row of a seat's play costs: see row_costs(). NULL where it forgets what it saw or did.
inline SEXP pack_costs(const habanera::InformationTree& tree, std::size_t seat) {
  if (tree.forgets(seat)) return R_NilValue;
  Rcpp::NumericVector row, how_often, worth, chances, best;
  Rcpp::CharacterVector sees, moves;
  double number = 0;
  for (const habanera::RowCost& each : habanera::row_costs(tree, seat)) {
    const habanera::InformationSet& set = tree.sets()[each.set];
    ++number;
    for (std::size_t i = 0; i < set.moves.size(); ++i) {
      row.push_back(number);
      sees.push_back(set.sees);
      moves.push_back(set.words[i]);
      how_often.push_back(each.how_often);
      worth.push_back(each.worth[i]);
      chances.push_back(each.chances[i]);
      best.push_back(i == each.best ? 1 : 0);
    }
  }
  const std::vector<double> values = tree.values(habanera::Mix(tree.chances(), 0));
  return Rcpp::List::create(Rcpp::Named("row") = row, Rcpp::Named("sees") = sees, Rcpp::Named("move") = moves,
                            Rcpp::Named("how_often") = how_often, Rcpp::Named("worth") = worth,
                            Rcpp::Named("chance") = chances, Rcpp::Named("best") = best,
                            Rcpp::Named("value") = values[seat]);
}

// What is seen, by name.
inline Rcpp::List pack_shown(const habanera::Shown& shown) {
  Rcpp::List all;
  for (const habanera::Shows& each : shown) {
    if (each.in_words) all.push_back(Rcpp::CharacterVector(each.words.begin(), each.words.end()), each.name);
    else all.push_back(Rcpp::NumericVector(each.values.begin(), each.values.end()), each.name);
  }
  return all;
}
template <class Game>
Rcpp::CharacterVector words_of_moves(const Game& game, const typename Game::View& view, habanera::Moves moves) {
  Rcpp::CharacterVector all;
  moves.each([&](std::size_t move) { all.push_back(game.move_text(view, move)); });
  return all;
}

// A table as R gives it: what is seen, moves in words, and chances, row by row.
inline std::shared_ptr<const habanera::ChanceTable> to_chance_table(const Rcpp::List& spec) {
  const Rcpp::CharacterVector sees = spec["sees"], moves = spec["moves"];
  const Rcpp::NumericVector chances = spec["chances"];
  auto table = std::make_shared<habanera::ChanceTable>();
  for (R_xlen_t i = 0; i < sees.size(); ++i)
    table->rows[Rcpp::as<std::string>(sees[i])].push_back({Rcpp::as<std::string>(moves[i]), chances[i]});
  return table;
}

}  // namespace habanera_r
