#pragma once

#include <algorithm>
#include <cstdint>
#include <map>
#include <type_traits>
#include <vector>

#include "habanera/chance/every.hpp"
#include "habanera/draw/draw.hpp"
#include "habanera/game/trial.hpp"
#include "habanera/stat/exact_sum.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// A game whose players let its positions be remembered is walked by them.
template <class Game, class = void>
inline constexpr bool may_walk_by_memory = false;
template <class Game>
inline constexpr bool may_walk_by_memory<Game, std::void_t<decltype(&Game::walks_by_memory)>> = true;

template <class Game>
bool walks_by_memory(const Game& game, const Draw& draw) {
  if constexpr (may_walk_by_memory<Game>) return draw.by_swaps() && game.walks_by_memory();
  return false;
}

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

  // How many of each kind of card there are, those alike all counted as one of them.
  std::vector<double> counts() const {
    std::vector<double> all(1 + std::size_t{*std::max_element(kinds_.begin(), kinds_.end())}, 0);
    for (std::size_t i = 0; i < kinds_.size(); ++i) all[kinds_[i]] = copies_[i];
    return all;
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

inline std::map<RowTally::Row, double> values_of(const std::map<RowTally::Row, ExactSum>& sums) {
  std::map<RowTally::Row, double> values;
  for (const auto& [row, sum] : sums) values[row] = sum.value();
  return values;
}

// The chance of each row of recorded columns (of a trial with several rounds, how many of its rounds give it on
// average), by the code that simulates: by every path, or by positions that are remembered. A game on a fairly shuffled
// deck is walked by cards that are alike to it.
template <class Game>
std::map<RowTally::Row, double> walk_games(const Draw& draw, const typename Game::Rules& rules,
                                           const std::vector<std::size_t>& columns, const WorkBound& bound) {
  Game game(rules);
  AlikeDeal alike(draw.spec().deck, draw.spec().size, game);
  std::map<RowTally::Row, ExactSum> chances;
  RowTally::Row row;
  const ColumnReader<typename Game::Outcome> read(columns);
  const auto count = [&](const auto& outcome, double chance) {
    read(outcome, row);
    chances[row].add(chance);
  };
  if constexpr (may_walk_by_memory<Game>) {
    if (walks_by_memory(game, draw)) {
      game.walk_by_memory(alike.counts(), columns, bound, count);
      return values_of(chances);
    }
  }
  Silent silent;
  Workspace work;
  std::vector<Card> deck;
  std::vector<typename Game::Outcome> rounds;
  walk_every_path(bound, [&](EveryChance& chance) {
    if (draw.by_swaps()) {
      deck = alike(chance);
    } else {
      deck = draw.spec().deck;
      draw(deck, work, chance, silent);
    }
    SharedLuck luck(chance);
    rounds.clear();
    play_trial(game, deck, chance, luck, silent, [&](const auto& outcome) { rounds.push_back(outcome); });
    for (const auto& outcome : rounds) count(outcome, chance.probability());
  });
  return values_of(chances);
}

}  // namespace habanera
