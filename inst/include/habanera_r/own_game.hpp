#pragma once

// What R needs of a game of one's own in C++ beside what has it played: see habanera/own/plays.hpp.

#include <Rcpp/Light>

#include <memory>
#include <string>
#include <vector>

#include "habanera/game/playable.hpp"
#include "habanera/game/seated.hpp"
#include "habanera/game/solver.hpp"
#include "habanera/own.hpp"
#include "habanera/own/hiding.hpp"
#include "habanera/watcher/step_counter.hpp"
#include "habanera_r/convert.hpp"
#include "habanera_r/information.hpp"
#include "habanera_r/lines.hpp"
#include "habanera_r/seat_players.hpp"
#include "habanera_r/setting.hpp"

namespace habanera_r {

template <class G>
habanera::Solver<habanera::Own<G>> own_solver(const Rcpp::List& spec);

// What a game of one's own brings to the players of its seats.
template <class G>
class OfOwnGame {
 public:
  using Game = habanera::Own<G>;
  using View = typename Game::View;
  using SeatPlayer = std::shared_ptr<const habanera::Player<View>>;
  static constexpr bool can_be_weighed = Game::can_be_weighed();

  explicit OfOwnGame(typename Game::Rules rules) : rules_(std::move(rules)) {}

  SeatPlayer player(const std::string& name, const Rcpp::List& spec) const {
    for (std::size_t i = 0; i < G::players.size(); ++i)
      if (name == G::players.begin()[i].name)
        return std::make_shared<habanera::OwnGamePlayer<G>>(G(*rules_.setting), i);
    if (name == "by_rules") {
      const auto game = std::make_shared<const Game>(rules_);
      return std::make_shared<habanera::LinePlayer<View>>(
          to_lines(spec, NoHandRules()),
          [](const View& view) { return habanera::SeenThings([&view] { return view.shown(); }); },
          [game](const View& view, std::size_t move) { return game->move_text(view, move); });
    }
    if constexpr (can_be_weighed) {
      if (name == "solved") return std::make_shared<habanera::SolvedPlayer<Game>>(own_solver<G>(spec));
    }
    return nullptr;
  }
  SeatPlayer by_table(std::shared_ptr<const habanera::ChanceTable> table) const {
    return std::make_shared<habanera::ChanceTablePlayer<Game>>(std::make_shared<const Game>(rules_), std::move(table));
  }

  // What the seat that decides is shown.
  struct ToView {
    Rcpp::List operator()(const View& view) const { return pack_shown(view.shown()); }
    // Moves with amounts are told where they are open.
    Rcpp::CharacterVector words(const View& view, habanera::Moves moves) const {
      return words_of_moves(*game, view, moves);
    }
    static constexpr bool tells_words = habanera::tells_amounts<G>;
    std::shared_ptr<const Game> game;
  };
  ToView to_view() const { return {std::make_shared<const Game>(rules_)}; }

 private:
  typename Game::Rules rules_;
};

template <class G>
class OwnPlayers : public SeatPlayers<habanera::Own<G>, OfOwnGame<G>> {
 public:
  explicit OwnPlayers(const typename habanera::Own<G>::Rules& rules)
      : SeatPlayers<habanera::Own<G>, OfOwnGame<G>>(habanera::Own<G>(rules), OfOwnGame<G>(rules)) {}
};

template <class G>
typename habanera::Own<G>::Rules to_own_rules(const Rcpp::List& spec) { return {to_setting(spec["setting"])}; }

template <class G>
SEXP own_game(const Rcpp::List& spec) {
  using Game = habanera::Seated<habanera::Own<G>>;
  const auto own = to_own_rules<G>(spec);
  const typename Game::Rules rules{own, OwnPlayers<G>(own).all(spec["players"])};
  Game made(rules);  // what it refuses is refused here
  return Rcpp::XPtr<habanera::PlayableGame>(new habanera::Playable<Game>(rules));
}

// What the seat of a player that is solved does best against the others of its game.
template <class G>
habanera::Solver<habanera::Own<G>> own_solver(const Rcpp::List& spec) {
  const Rcpp::List game = spec["game"];
  const auto rules = to_own_rules<G>(game);
  return {habanera::Own<G>(rules), OwnPlayers<G>(rules).all(game["players"]),
          static_cast<std::size_t>(to_count(spec["seat"])) - 1};
}

// What the game is worth to the seat that is solved, and the positions gone through.
template <class G>
Rcpp::List own_solved(const Rcpp::List& spec) {
  auto solver = own_solver<G>(spec);
  solver.pauses_by(pause_for_user);
  const Rcpp::List game = spec["game"];
  const double worth = solver.worth(habanera::Own<G>(to_own_rules<G>(game)).start(0));
  return Rcpp::List::create(Rcpp::Named("worth") = worth,
                            Rcpp::Named("positions") = static_cast<double>(solver.positions()));
}

// The tree of a game by what its seats see; a seat of "nobody" is open.
template <class G>
habanera::InformationTree own_tree(const Rcpp::List& spec) {
  const auto rules = to_own_rules<G>(spec);
  const habanera::Own<G> game(rules);
  return habanera::TreeBuilder<habanera::Own<G>>(game, OwnPlayers<G>(rules).all(spec["players"]), pause_for_user)();
}

template <class G>
Rcpp::List own_sound(const Rcpp::List& spec, double gap, double seconds) {
  return sound_play(own_tree<G>(spec), gap, seconds);
}

// What the one open seat does best; NULL where its view forgets.
template <class G>
SEXP own_best_answer(const Rcpp::List& spec, double seat) {
  return best_answer(own_tree<G>(spec), static_cast<std::size_t>(to_count(seat)) - 1);
}

// What each row of a seat's play costs.
template <class G>
SEXP own_costs(const Rcpp::List& spec, double seat) {
  return pack_costs(own_tree<G>(spec), static_cast<std::size_t>(to_count(seat)) - 1);
}

// What a game is worth to each seat by the chances of its players.
template <class G>
Rcpp::NumericVector own_values(const Rcpp::List& spec) {
  const std::vector<double> values = own_tree<G>(spec).values({});
  return {values.begin(), values.end()};
}

// Plays the game of a trial, with whatever sits there and looks on.
template <class G, class Watcher>
void own_played(const typename habanera::Own<G>::Rules& rules,
                const std::vector<typename OwnPlayers<G>::SeatPlayer>& players, const Rcpp::IntegerVector& deck,
                double seed, double trial, Watcher& watcher) {
  habanera::Seated<habanera::Own<G>> game({rules, players});
  habanera::RandomChance chance(to_count(seed), to_count(trial), habanera::lane::game);
  habanera::StopSign sign(pause_for_user);
  habanera::SeatLanes luck(to_count(seed), to_count(trial), &sign);
  game.play(to_kinds(deck), chance, luck, watcher, [](const auto&) {});
}

// The step at which a trial fails, from 1.
template <class G>
double own_failing_step(const Rcpp::List& spec, const Rcpp::IntegerVector& deck, double seed, double trial) {
  const auto rules = to_own_rules<G>(spec);
  habanera::StepCounter watcher;
  try {
    own_played<G>(rules, OwnPlayers<G>(rules).all(spec["players"]), deck, seed, trial, watcher);
  } catch (const std::exception&) {
  }
  return static_cast<double>(watcher.steps() + 1);
}

// Whether in a trial a seat is shown what it may not see: how many choices were tested, the first that shows it (0:
// none), and its seat; and of each choice what was seen, and what the seat saw and did before.
template <class G>
Rcpp::List own_hiding(const Rcpp::List& spec, const Rcpp::IntegerVector& deck, double seed, double trial) {
  const auto rules = to_own_rules<G>(spec);
  habanera::HidingFound found;
  std::size_t choices = 0;
  auto players = OwnPlayers<G>(rules).all(spec["players"]);
  for (auto& player : players)
    player = std::make_shared<habanera::HidingTest<G>>(habanera::Own<G>(rules), player, to_count(seed), found, choices);
  habanera::Silent silent;
  own_played<G>(rules, players, deck, seed, trial, silent);
  return Rcpp::List::create(Rcpp::Named("asked") = static_cast<double>(found.asked),
                            Rcpp::Named("choice") = static_cast<double>(found.choice),
                            Rcpp::Named("seat") = static_cast<double>(found.seat + 1),
                            Rcpp::Named("sees") = found.sees, Rcpp::Named("before") = found.before);
}

}  // namespace habanera_r
