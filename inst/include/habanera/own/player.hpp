#pragma once

#include <cstddef>
#include <memory>
#include <utility>

#include "habanera/game/moves.hpp"
#include "habanera/game/player.hpp"
#include "habanera/own/own.hpp"

namespace habanera {

// A player that the game brings, by its place among them.
template <class G>
class OwnGamePlayer : public Player<typename Own<G>::View> {
 public:
  using View = typename Own<G>::View;
  OwnGamePlayer(G game, std::size_t which) : game_(std::move(game)), which_(which) {}
  std::unique_ptr<Player<View>> copy() const override { return std::make_unique<OwnGamePlayer>(*this); }
  std::size_t choose(const View& view, Moves moves, PlayerChance& chance) override {
    if constexpr (G::players.size() > 0)
      return game_.choose(which_, view.own(), moves, chance);
    else
      return moves.first();
  }

 private:
  G game_;
  std::size_t which_;
};

}  // namespace habanera
