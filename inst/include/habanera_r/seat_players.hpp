#pragma once

// The players of a game's seats, as R gives them.

#include <Rcpp/Light>

#include <memory>
#include <string>
#include <vector>

#include "habanera/game/choices.hpp"
#include "habanera/game/lookahead.hpp"
#include "habanera/game/mixed_player.hpp"
#include "habanera_r/convert.hpp"
#include "habanera_r/function_player.hpp"
#include "habanera_r/information.hpp"

namespace habanera_r {

// `OfGame` has the players that this game alone knows: `player(name, spec)` (none where it does not know the name),
// `by_table(table)`, and `to_view()`, which gives a view as R has it; `can_be_weighed` tells whether what comes of the
// game is worth something to a seat.
template <class Game, class OfGame>
class SeatPlayers {
 public:
  using View = typename Game::View;
  using SeatPlayer = std::shared_ptr<const habanera::Player<View>>;

  SeatPlayers(Game game, OfGame of_game) : game_(std::move(game)), of_game_(std::move(of_game)) {}

  std::vector<SeatPlayer> all(const Rcpp::List& specs) const {
    std::vector<SeatPlayer> players;
    for (const Rcpp::List spec : specs) players.push_back(one(spec));
    return players;
  }

  SeatPlayer one(const Rcpp::List& spec) const {
    const std::string name = Rcpp::as<std::string>(spec["name"]);
    if (const SeatPlayer own = of_game_.player(name, spec)) return own;
    if (name == "nobody") return nullptr;
    if (name == "random") return std::make_shared<habanera::RandomPlayer<View>>();
    if (name == "table") return of_game_.by_table(to_chance_table(spec));
    if (name == "mixture") return mixture(spec);
    if (name == "with") return function_player<View>(spec["f"], of_game_.to_view());
    if constexpr (OfGame::can_be_weighed) {
      if (name == "lookahead")
        return std::make_shared<habanera::LookaheadPlayer<Game>>(
            game_, static_cast<std::size_t>(to_count(spec["samples"])), assumed(spec), to_peek(spec));
    }
    Rcpp::stop("internal error: no player is called \"%s\"", name);
  }

 private:
  habanera::Assumed<View> assumed(const Rcpp::List& spec) const {
    return {all(spec["playing"]), Rcpp::as<bool>(spec["known"])};
  }
  static habanera::Peek to_peek(const Rcpp::List& spec) {
    if (!spec.containsElementNamed("how_often")) return {};
    return {Rcpp::as<bool>(spec["hands"]), Rcpp::as<bool>(spec["next"]), Rcpp::as<double>(spec["how_often"])};
  }
  SeatPlayer mixture(const Rcpp::List& spec) const {
    return std::make_shared<habanera::MixedPlayer<View>>(all(spec["players"]),
                                                         Rcpp::as<std::vector<double>>(spec["up_to"]));
  }

  Game game_;
  OfGame of_game_;
};

}  // namespace habanera_r
