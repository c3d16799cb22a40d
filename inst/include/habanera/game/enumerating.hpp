#pragma once

#include <cstdint>
#include <map>
#include <vector>

#include "habanera/chance/every.hpp"
#include "habanera/draw/draw.hpp"
#include "habanera/game/trial.hpp"
#include "habanera/stat/exact_sum.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// Lays a fairly shuffled deck card by card from the top, choosing among the kinds that are alike to the game
// rather than among the cards: the same law in far fewer paths.
class AlikeDeal {
 public:
  template <class Game>
  AlikeDeal(const std::vector<Card>& deck, std::size_t dealt, const Game& game) : deck_(deck), dealt_(dealt) {
    std::map<std::uint32_t, std::size_t> place;
    for (const Card card : deck) {
      const auto [found, is_new] = place.emplace(game.likeness(card), kinds_.size());
      if (is_new) {
        kinds_.push_back(card);
        copies_.push_back(0);
      }
      ++copies_[found->second];
    }
  }

  template <class Chance>
  const std::vector<Card>& operator()(Chance& chance) {
    std::vector<double> left = copies_;
    for (std::size_t i = 0; i < dealt_; ++i) {
      const std::size_t kind = chance.pick(left);
      deck_[i] = kinds_[kind];
      --left[kind];
    }
    return deck_;
  }

 private:
  std::vector<Card> deck_;
  std::size_t dealt_;
  std::vector<Card> kinds_;
  std::vector<double> copies_;
};

// The chance of each row of recorded columns, by walking every path of the code that simulates. A game on a
// fairly shuffled deck is walked by cards that are alike to it.
template <class Game>
std::map<RowTally::Row, double> walk_games(const Draw& draw, const typename Game::Rules& rules,
                                           const std::vector<std::size_t>& columns, const WorkBound& path_limit) {
  Game game(rules);
  AlikeDeal alike(draw.spec().deck, draw.spec().size, game);
  std::map<RowTally::Row, ExactSum> chances;
  RowTally::Row row;
  Silent silent;
  Workspace work;
  std::vector<Card> deck;
  walk_every_path(path_limit, [&](EveryChance& chance) {
    if (draw.by_swaps()) {
      deck = alike(chance);
    } else {
      deck = draw.spec().deck;
      draw(deck, work, chance, silent);
    }
    SharedLuck luck(chance);
    read_columns(game.play(deck, chance, luck, silent), columns, row);
    chances[row].add(chance.probability());
  });
  std::map<RowTally::Row, double> values;
  for (const auto& [found, sum] : chances) values[found] = sum.value();
  return values;
}

}  // namespace habanera
