#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <numeric>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/war/rules.hpp"

namespace habanera {

// A card on the table before a round is settled, and the layer that it lies in.
struct Laid {
  Card card;
  std::uint16_t layer;
};

// The cards on the table, for each seat in the order in which it laid them.
class Pot {
 public:
  // Room for so many cards, which are never more than those of the game.
  void make_room(std::size_t cards) {
    for (auto& row : laid_) row.resize(cards);
  }

  void lay(std::size_t seat, Card card, std::uint16_t layer) {
    laid_[seat][sizes_[seat]++] = {card, layer};
    layers_ = std::max<std::size_t>(layers_, layer + 1u);
  }
  void clear() {
    sizes_.fill(0);
    layers_ = 0;
  }

  std::size_t size() const { return std::accumulate(sizes_.begin(), sizes_.end(), std::size_t{0}); }

  // One past the last layer that a card lies in.
  std::size_t layers() const { return layers_; }

  // Calls use(seat, card) for each card, seat by seat.
  template <class Use>
  void each(Use&& use) const {
    for (std::size_t seat = 0; seat < most_seats; ++seat)
      for (std::size_t i = 0; i < sizes_[seat]; ++i) use(seat, laid_[seat][i].card);
  }

  // Calls take(card) for each card in the order in which they go under the winner's pile.
  template <class Chance, class Take>
  void gather(WarRules::Collect collect, std::size_t seats, std::size_t winner, Chance& chance, Take&& take) const {
    if (collect == WarRules::Collect::shuffled) return shuffle(chance, take);
    const std::array<std::size_t, most_seats> order = order_in_layers(collect, seats, winner);
    std::array<std::size_t, most_seats> next{};
    for (std::size_t layer = 0; layer < layers_; ++layer)
      for (std::size_t i = 0; i < seats; ++i) {
        const std::size_t seat = order[i];
        if (next[seat] < sizes_[seat] && laid_[seat][next[seat]].layer == layer) take(laid_[seat][next[seat]++].card);
      }
  }

 private:
  // In which order the seats' cards of one layer go under.
  static std::array<std::size_t, most_seats> order_in_layers(WarRules::Collect collect, std::size_t seats,
                                                             std::size_t winner) {
    std::array<std::size_t, most_seats> order;
    std::size_t placed = 0;
    if (collect == WarRules::Collect::winner_first) order[placed++] = winner;
    for (std::size_t seat = 0; seat < seats; ++seat)
      if (seat != winner || collect == WarRules::Collect::seat_order) order[placed++] = seat;
    if (collect == WarRules::Collect::loser_first) order[placed] = winner;
    return order;
  }

  template <class Chance, class Take>
  void shuffle(Chance& chance, Take&& take) const {
    std::vector<Card> cards;
    each([&](std::size_t, Card card) { cards.push_back(card); });
    for (std::size_t place = 0; place < cards.size(); ++place) {
      const std::size_t left = cards.size() - place;
      if (left > 1) std::swap(cards[place], cards[place + static_cast<std::size_t>(chance.below(left))]);
      take(cards[place]);
    }
  }

  std::array<std::vector<Laid>, most_seats> laid_;
  std::array<std::size_t, most_seats> sizes_{};
  std::size_t layers_ = 0;
};

}  // namespace habanera
