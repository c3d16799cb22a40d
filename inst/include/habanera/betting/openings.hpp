#pragma once

#include <algorithm>
#include <cstddef>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/random.hpp"

namespace habanera {

// A hand that a seat may be dealt, and how likely it is before the others are.
struct WeightedHand {
  std::vector<Card> cards;
  double weight = 1;
};

// The hands, all at once, of those seats that may be dealt some only: every combination in which no card is held more
// often than it is there, by the product of its weights. What the other seats may be dealt has no part in it: to each
// of these combinations there are as many hands of others.
class Openings {
 public:
  static constexpr std::size_t most = 2000000;

  // Of each seat its hands; none where it may be dealt any.
  Openings(const std::vector<std::vector<WeightedHand>>& seats, const std::vector<double>& copies)
      : by_seat_(seats), left_(copies) {
    std::vector<std::vector<WeightedHand>> listed;
    for (std::size_t seat = 0; seat < seats.size(); ++seat) {
      if (seats[seat].empty()) continue;
      seats_.push_back(seat);
      listed.push_back(seats[seat]);
    }
    combine(listed, 0, 1);
    if (up_to_.empty()) throw std::invalid_argument("no hands of the seats go together");
    const double all = up_to_.back();
    for (double& sum : up_to_) sum /= all;
    for (double& chance : chances_) chance /= all;
    up_to_.back() = 1;
  }

  std::size_t size() const { return up_to_.size(); }
  double chance(std::size_t at) const { return chances_[at]; }
  // Of each seat its hands; none where it may be dealt any.
  const std::vector<std::vector<WeightedHand>>& listed() const { return by_seat_; }
  // The seats that have hands in it; the cards, seat by seat.
  const std::vector<std::size_t>& seats() const { return seats_; }
  const Card* cards(std::size_t at) const { return &cards_[at * together_]; }

  std::size_t pick(RandomChance& chance) const {
    const double drawn = static_cast<double>(chance.bits(53)) * 0x1p-53;
    return static_cast<std::size_t>(std::upper_bound(up_to_.begin(), up_to_.end() - 1, drawn) - up_to_.begin());
  }
  template <class Chance>
  std::size_t pick(Chance& chance) const {
    return chance.pick(chances_);
  }

 private:
  void combine(const std::vector<std::vector<WeightedHand>>& seats, std::size_t seat, double weight) {
    if (seat == seats.size()) {
      if (size() == most) throw std::length_error("the hands of the seats make more than 2,000,000 combinations");
      together_ = dealt_.size();
      cards_.insert(cards_.end(), dealt_.begin(), dealt_.end());
      chances_.push_back(weight);
      up_to_.push_back((up_to_.empty() ? 0 : up_to_.back()) + weight);
      return;
    }
    for (const WeightedHand& hand : seats[seat]) {
      std::size_t taken = 0;
      while (taken < hand.cards.size() && left_[hand.cards[taken]] > 0) --left_[hand.cards[taken++]];
      if (taken == hand.cards.size()) {
        dealt_.insert(dealt_.end(), hand.cards.begin(), hand.cards.end());
        combine(seats, seat + 1, weight * hand.weight);
        dealt_.resize(dealt_.size() - hand.cards.size());
      }
      while (taken > 0) ++left_[hand.cards[--taken]];
    }
  }

  std::vector<std::vector<WeightedHand>> by_seat_;
  std::vector<double> left_, chances_, up_to_;  // up_to_: sums of chances, to draw by
  std::vector<std::size_t> seats_;
  std::vector<Card> cards_, dealt_;
  std::size_t together_ = 0;
};

}  // namespace habanera
