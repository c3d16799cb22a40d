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
              std::declval<const typename Game::View&>(), std::declval<const std::vector<Card>&>(), false,
              std::declval<void (*)(const typename Game::Position&, std::size_t, std::size_t)>()))>> = true;

// The position that a seat sees on another deal; nothing where the deal does not fit. The weight of the deal is the
// chance that the other seats would have moved there as they did, where it is `known` how they play (Bayes); else 1.
// What the seat itself did says nothing: it saw the same on each of these deals. Who sees the hands of all, too, knows
// where they lie.
template <class Game, class Known>
std::optional<FittingDeal<typename Game::Position>> fitting_deal(const Game& game, const typename Game::View& view,
                                                                 const std::vector<Card>& deck, const Known* known,
                                                                 bool sees_hands) {
  using Position = typename Game::Position;
  if constexpr (tells_moves_again<Game>) {
    double weight = 1;
    std::array<Past<typename Game::View>, most_players> past;
    const auto weigh = [&](const Position& there, std::size_t seat, std::size_t move) {
      if (!known || seat == view.seat() || weight == 0) return;
      const Moves open = game.moves(there);
      const auto seen = game.view(there, seat);
      weight *= chances_of(known->of(seat), seen, open, past[seat])[open.place_of(move)];
      past[seat].push_back({seen, open, move});
    };
    auto position = game.redealt(view, deck, sees_hands, weigh);
    if (!position) return std::nullopt;
    return FittingDeal<Position>{std::move(*position), weight};
  } else {
    auto position = game.redealt(view, deck);
    if (!position) return std::nullopt;
    return FittingDeal<Position>{std::move(*position)};
  }
}

}  // namespace habanera
