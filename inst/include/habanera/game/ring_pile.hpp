#pragma once

#include <cstddef>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

// A pile that cards are taken from at either end and put under, kept as a ring.
class RingPile {
 public:
  // Room for so many cards.
  explicit RingPile(std::size_t most = 0) {
    std::size_t room = 1;
    while (room < most) room *= 2;
    cells_.resize(room);
    mask_ = room - 1;
  }

  std::size_t size() const { return end_ - head_; }
  void clear() { head_ = end_ = 0; }

  // Card i from the top, which is card 0.
  Card at(std::size_t i) const { return cells_[(head_ + i) & mask_]; }

  Card take_top() { return cells_[head_++ & mask_]; }
  Card take_bottom() { return cells_[--end_ & mask_]; }
  void put_under(Card card) { cells_[end_++ & mask_] = card; }

 private:
  std::vector<Card> cells_;
  std::size_t mask_ = 0;
  std::size_t head_ = 0, end_ = 0;  // counted on without end; their last bits are the cells
};

}  // namespace habanera
