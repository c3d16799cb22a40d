#pragma once

#include <array>
#include <cstddef>
#include <optional>
#include <type_traits>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/game/choices.hpp"
#include "habanera/game/play_out.hpp"

namespace habanera {

// A position in which the cards that a seat has not seen lie in some way that fits what it saw; and how much likelier
// or less likely what the others did makes it.
template <class Position>
struct FittingDeal {
  Position position;
  double weight = 1;
};

// A game in which seats hide cards from each other tells, as it deals anew, of every move that was made.
template <class Game, class = void>
inline constexpr bool tells_moves_again = false;
template <class Game>
inline constexpr bool tells_moves_again<
    Game, std::void_t<decltype(std::declval<const Game&>().redealt(
              std::declval<const typename Game::View&>(), std::declval<const std::vector<Card>&>(),
              std::declval<void (*)(const typename Game::Position&, std::size_t, std::size_t)>()))>> = true;

// The position that a seat sees on another deal; nothing where the deal does not fit. The weight of the deal is the
// chance that the other seats, were they played by `assumed`, would have moved there as they did (Bayes); nobody
// assumed: 1. What the seat itself did says nothing: it saw the same on each of these deals.
template <class Game>
std::optional<FittingDeal<typename Game::Position>> fitting_deal(const Game& game, const typename Game::View& view,
                                                                 std::size_t seat, const std::vector<Card>& deck,
                                                                 const Player<typename Game::View>* assumed) {
  using Position = typename Game::Position;
  if constexpr (tells_moves_again<Game>) {
    double weight = 1;
    std::array<Past<typename Game::View>, most_players> past;
    auto position = game.redealt(view, deck, [&](const Position& there, std::size_t moves, std::size_t move) {
      if (!assumed || moves == seat || weight == 0) return;
      const Moves open = game.moves(there);
      const auto seen = game.view(there, moves);
      weight *= chances_of(*assumed, seen, open, past[moves])[open.place_of(move)];
      past[moves].push_back({seen, open, move});
    });
    if (!position) return std::nullopt;
    return FittingDeal<Position>{std::move(*position), weight};
  } else {
    auto position = game.redealt(view, deck);
    if (!position) return std::nullopt;
    return FittingDeal<Position>{std::move(*position)};
  }
}

}  // namespace habanera
