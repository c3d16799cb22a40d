#pragma once

#include <cstddef>
#include <cstdint>
#include <limits>
#include <utility>

#include "habanera/cards/pile.hpp"
#include "habanera/counting/system.hpp"
#include "habanera/game/stock.hpp"

namespace habanera {

// Where the count of a shoe stands.
class ShoeCount {
 public:
  ShoeCount(CountSystem system, std::size_t cards) : system_(std::move(system)), cards_(cards) {}

  // A fresh shoe, of which `gone` cards were burned unseen.
  void begin(std::size_t gone) {
    running_ = for_bets_ = system_.start;
    gone_ = gone;
  }
  void see(Card card) {
    running_ += system_.tags[card];
    for_bets_ += system_.bet_tags[card];
  }
  void take(std::size_t cards) { gone_ += cards; }

  std::int64_t running() const { return running_; }
  std::int64_t level() const { return system_.level(running_, cards_ - gone_); }
  std::int64_t level_for_bets() const { return system_.level(for_bets_, cards_ - gone_); }
  double true_count() const { return system_.true_count(running_, cards_ - gone_).value(); }

 private:
  CountSystem system_;
  std::size_t cards_;
  std::int64_t running_ = 0, for_bets_ = 0;
  std::size_t gone_ = 0;
};

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
