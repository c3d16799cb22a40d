#pragma once

#include <cstddef>
#include <limits>

#include "habanera/cards/pile.hpp"
#include "habanera/count/shoe_count.hpp"
#include "habanera/game/stock.hpp"

namespace habanera {

// A stock of which every card is counted when it is shown; one that lies face down when it is turned, or at the end of
// the round.
class CountedStock {
 public:
  CountedStock(ShuffledStock& stock, ShoeCount& count) : stock_(stock), count_(count) {}

  void expect(std::size_t cards) { stock_.expect(cards); }
  Card deal() {
    const Card card = stock_.deal();
    count_.take(1);
    count_.see(card);
    return card;
  }
  bool has_next() const { return stock_.has_next(); }
  Card peek() { return stock_.peek(); }
  std::size_t lay_down() {
    count_.take(1);
    return hidden_ = stock_.lay_down();
  }
  bool look(std::size_t place, const CardSet& set) { return stock_.look(place, set); }
  Card turn(std::size_t place) {
    const Card card = stock_.turn(place);
    if (hidden_ == place) {
      count_.see(card);
      hidden_ = nowhere;
    }
    return card;
  }
  void end_round() {
    if (hidden_ != nowhere) turn(hidden_);
  }

 private:
  ShuffledStock& stock_;
  ShoeCount& count_;
  static constexpr std::size_t nowhere = std::numeric_limits<std::size_t>::max();
  std::size_t hidden_ = nowhere;  // the place of the card that lies face down
};

}  // namespace habanera
