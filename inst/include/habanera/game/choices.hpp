#pragma once

#include <cstddef>
#include <map>
#include <memory>

#include "habanera/chance/every.hpp"
#include "habanera/game/player.hpp"

namespace habanera {

// Any move, each as likely.
template <class View>
class RandomPlayer : public Player<View> {
 public:
  std::unique_ptr<Player<View>> copy() const override { return std::make_unique<RandomPlayer>(*this); }
  std::size_t choose(const View&, Moves moves, PlayerChance& chance) override {
    return moves.at(static_cast<std::size_t>(chance.below(moves.count())));
  }
};

// The chance of each move of a player who decides by the view.
template <class View>
std::map<std::size_t, double> chances_of_moves(const Player<View>& player, const View& view, Moves moves) {
  std::map<std::size_t, double> chances;
  walk_every_path(WorkBound(1000000), [&](EveryChance& chance) {
    typename SharedLuck<EveryChance>::Lane luck(chance);
    const auto mind = player.copy();
    mind->begins();
    const std::size_t move = mind->choose(view, moves, luck);
    chances[move] += chance.probability();
  });
  return chances;
}

}  // namespace habanera
