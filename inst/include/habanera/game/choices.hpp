#pragma once

#include <cstddef>
#include <map>
#include <memory>
#include <stdexcept>
#include <string>
#include <vector>

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
  bool tells_chances() const override { return true; }
  std::vector<double> chances(const View&, Moves moves, const Past<View>&) const override {
    return std::vector<double>(moves.count(), 1 / static_cast<double>(moves.count()));
  }
};

// Whether the chance of each move can be had: the player tells it, or its luck can be walked.
template <class View>
bool has_chances(const Player<View>& player) { return player.tells_chances() || player.decides_by_view(); }

// The chance of each open move of a player who decides by the view, all of its luck being walked.
template <class View>
std::vector<double> walked_chances(const Player<View>& player, const View& view, Moves moves) {
  std::map<std::size_t, double> found;
  walk_every_path(WorkBound(1000000), [&](EveryChance& chance) {
    typename SharedLuck<EveryChance>::Lane luck(chance);
    const auto mind = player.copy();
    mind->begins();
    const std::size_t move = mind->choose(view, moves, luck);
    // Left out, its share of the chance would be lost in silence.
    if (!moves.has(move))
      throw std::domain_error("a player made the move " + std::to_string(move) + ", which it may not");
    found[move] += chance.probability();
  });
  std::vector<double> chances;
  moves.each([&](std::size_t move) { chances.push_back(found.count(move) > 0 ? found[move] : 0); });
  return chances;
}

// The chance of each open move, in their order, of a player that has chances.
template <class View>
std::vector<double> chances_of(const Player<View>& player, const View& view, Moves moves, const Past<View>& past) {
  return player.tells_chances() ? player.chances(view, moves, past) : walked_chances(player, view, moves);
}

// The moves that a player who decides by the view can make, each with its chance.
template <class View>
std::map<std::size_t, double> chances_of_moves(const Player<View>& player, const View& view, Moves moves) {
  const std::vector<double> all = chances_of(player, view, moves, {});
  std::map<std::size_t, double> chances;
  for (std::size_t i = 0; i < all.size(); ++i)
    if (all[i] > 0) chances[moves.at(i)] = all[i];
  return chances;
}

}  // namespace habanera
