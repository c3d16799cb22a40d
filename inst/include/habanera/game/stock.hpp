#pragma once

#include <cstddef>
#include <map>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

// Where cards come from while a game is played: dealt from the top, or, where they were laid face down, turned at
// their place.

// The cards in an order that is settled.
class ShuffledStock {
 public:
  explicit ShuffledStock(const std::vector<Card>& deck) : deck_(deck) {}
  Card deal() { return deck_[next_++]; }
  Card turn(std::size_t place) { return deck_[place]; }

 private:
  const std::vector<Card>& deck_;
  std::size_t next_ = 0;
};

// Only how many cards of each kind nobody has seen: one is picked among them when it is dealt or turned. The law is the
// same as that of a shuffled deck, since no unseen card is likelier in one place than in another.
template <class Chance>
class UnseenStock {
 public:
  UnseenStock(std::vector<double> unseen, Chance& chance) : unseen_(std::move(unseen)), chance_(chance) {}
  Card deal() { return pick(); }
  // What was turned before is what it was.
  Card turn(std::size_t place) {
    const auto [found, is_new] = turned_.try_emplace(place);
    if (is_new) found->second = pick();
    return found->second;
  }

 private:
  Card pick() {
    const std::size_t kind = chance_.pick(unseen_);
    --unseen_[kind];
    return static_cast<Card>(kind);
  }

  std::vector<double> unseen_;
  std::map<std::size_t, Card> turned_;
  Chance& chance_;
};

}  // namespace habanera
