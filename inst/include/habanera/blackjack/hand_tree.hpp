#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <numeric>
#include <tuple>
#include <unordered_map>
#include <vector>

#include "habanera/blackjack/rules.hpp"

namespace habanera {

// Every hand that is not bust, told apart by what it holds of each value, the order of its cards aside. Hands with more
// cards stand further on.
class HandTree {
 public:
  static constexpr std::size_t bust = static_cast<std::size_t>(-1);

  HandTree(const BlackjackPieces& pieces, std::vector<std::uint8_t> values) : values_(std::move(values)) {
    hands_.push_back(BlackjackHand{});
    for (std::size_t at = 0; at < hands_.size(); ++at) {
      with_.emplace_back();
      with_.back().fill(bust);
      for (const std::uint8_t value : values_) {
        const BlackjackHand longer = extended(hands_[at], value);
        if (!pieces.is_bust(longer)) with_[at][value] = place_of(longer);
      }
    }
    list_by_points();
    for (std::size_t value = 0; value < holding_.size(); ++value) list_holding(value);
    list_alike(std::max<std::size_t>(3, pieces.rules().cards_that_win));
  }

  // The hands that hold a value, or all for 0: which they are, and where each stands among them.
  struct Holding {
    std::vector<std::size_t> hands, place;
  };
  const Holding& holding(std::size_t value) const { return holding_[value]; }

  std::size_t size() const { return hands_.size(); }
  const std::vector<std::uint8_t>& values() const { return values_; }
  const BlackjackHand& hand(std::size_t at) const { return hands_[at]; }
  // The first hand that only by its cards differs from one: with the same total and, as far as a rule tells, as many
  // cards. Hands of two stand for themselves.
  std::size_t alike(std::size_t at) const { return alike_[at]; }
  // All hands by their points: with one more card each stands further on, and so does what is alike to it.
  const std::vector<std::size_t>& by_points() const { return by_points_; }
  // The hand with one more card.
  std::size_t with(std::size_t at, int value) const { return with_[at][static_cast<std::size_t>(value)]; }
  std::size_t of_two(int one, int two) const { return with(with(0, one), two); }

  static BlackjackHand extended(BlackjackHand hand, std::uint8_t value) {
    if (hand.cards == 0) return BlackjackHand::of_card(value);
    hand.add(value);
    return hand;
  }

 private:
  std::size_t place_of(const BlackjackHand& hand) {
    const auto [found, is_new] = places_.try_emplace(hand.held, hands_.size());
    if (is_new) hands_.push_back(hand);
    return found->second;
  }

  // By their points: what a seat stands on lies together, so that the dealer's laws against it are found together.
  void list_holding(std::size_t value) {
    Holding& holding = holding_[value];
    holding.place.resize(hands_.size());
    for (const std::size_t at : by_points_) {
      holding.place[at] = holding.hands.size();
      if (value == 0 || BlackjackHand::count_held(hands_[at].held, static_cast<int>(value)) > 0)
        holding.hands.push_back(at);
    }
  }

  void list_by_points() {
    by_points_.resize(hands_.size());
    std::iota(by_points_.begin(), by_points_.end(), std::size_t{0});
    std::stable_sort(by_points_.begin(), by_points_.end(),
                     [&](std::size_t one, std::size_t two) { return hands_[one].points < hands_[two].points; });
  }
  void list_alike(std::size_t most_told) {
    std::map<std::tuple<int, bool, std::size_t>, std::size_t> first;
    for (std::size_t at = 0; at < hands_.size(); ++at) {
      const BlackjackHand& hand = hands_[at];
      const std::tuple told(int{hand.points}, bool{hand.ace}, std::min<std::size_t>(hand.cards, most_told));
      alike_.push_back(hand.cards <= 2 ? at : first.emplace(told, at).first->second);
    }
  }

  std::vector<std::uint8_t> values_;
  std::vector<std::size_t> alike_, by_points_;
  std::array<Holding, 11> holding_;
  std::vector<BlackjackHand> hands_;
  std::vector<std::array<std::size_t, 11>> with_;
  std::unordered_map<std::uint64_t, std::size_t> places_;
};

}  // namespace habanera
