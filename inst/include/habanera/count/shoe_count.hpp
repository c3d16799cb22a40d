#pragma once

#include <cstddef>
#include <cstdint>
#include <utility>

#include "habanera/cards/pile.hpp"
#include "habanera/count/system.hpp"

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

}  // namespace habanera
