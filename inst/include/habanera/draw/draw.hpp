#pragma once

#include <algorithm>
#include <cstddef>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/cards/sampled_deck.hpp"
#include "habanera/chance/size_run.hpp"
#include "habanera/shuffle/procedure.hpp"

namespace habanera {

// What is drawn: `size` cards from the top of the shuffled deck, or, with replacement, `size` cards
// each from the whole deck.
struct DrawSpec {
  std::vector<Card> deck;  // the kind of the card at each place, from the top; only its size counts when sampled
  std::size_t size;
  bool replace;
  DeckSampling sampling{};  // when not empty: the deck is sampled anew for each trial
};

// One trial of a draw, written once for simulation, enumeration and replay.
class Draw {
 public:
  explicit Draw(DrawSpec spec)
      : Draw(spec, Procedure({UniformStep(spec.deck.size())})) {}

  Draw(DrawSpec spec, Procedure procedure)
      : spec_(std::move(spec)),
        procedure_(std::move(procedure)),
        picks_(SizeRun::repeated(std::max<std::size_t>(spec_.deck.size(), 1),
                                 spec_.replace ? spec_.size : 0)) {
    if (spec_.deck.size() > most_cards)
      throw std::invalid_argument("a deck has at most " + std::to_string(most_cards) +
                                  " cards, not " + std::to_string(spec_.deck.size()));
    const bool enough = spec_.replace ? spec_.size == 0 || !spec_.deck.empty()
                                      : spec_.size <= spec_.deck.size();
    if (!enough)
      throw std::invalid_argument("cannot draw " + std::to_string(spec_.size) + " of " +
                                  std::to_string(spec_.deck.size()) + " cards");
    if (spec_.replace && spec_.sampling)
      throw std::invalid_argument("a deck sampled anew is drawn from without replacement");
  }

  const DrawSpec& spec() const { return spec_; }

  // Draws from `table`, a deck of the spec's cards in the spec's order. The drawn cards end up in
  // table[i], i from 0 to size - 1.
  template <class Chance, class Watcher>
  void operator()(std::vector<Card>& table, Workspace& work, Chance& chance,
                  Watcher& watcher) const {
    if (spec_.replace) {
      chance.below_each(picks_, spec_.size, [&](std::size_t i, std::uint64_t place) {
        table[i] = spec_.deck[static_cast<std::size_t>(place)];
      });
    } else {
      procedure_(Pile{table.data(), table.size()}, spec_.size, work, chance, watcher);
    }
  }

  // The uniform shuffle, when a draw is a few of its swaps on the deck, which can be taken back;
  // otherwise nullptr.
  const UniformShuffle* by_swaps() const { return spec_.replace ? nullptr : procedure_.uniform(); }

  // The deck of a trial, not shuffled yet, laid on the table.
  template <class Chance>
  void lay(std::vector<Card>& table, Chance& chance) const {
    table = fresh_table();
    if (!spec_.sampling) return;
    const std::vector<std::size_t> kinds = sample_deck(spec_.sampling, table.size(), chance);
    std::transform(kinds.begin(), kinds.end(), table.begin(),
                   [](std::size_t kind) { return static_cast<Card>(kind); });
  }

  // A table fit to draw on: the deck, or with replacement room for the drawn cards.
  std::vector<Card> fresh_table() const {
    return spec_.replace ? std::vector<Card>(spec_.size) : spec_.deck;
  }

 private:
  DrawSpec spec_;
  Procedure procedure_;
  SizeRun picks_;
};

}  // namespace habanera
