#pragma once

#include <algorithm>
#include <cstddef>
#include <stdexcept>
#include <string>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

// Verifies after every move that no card was lost, doubled or invented.
class CardCheck {
 public:
  void begins(const Pile& pile) {
    expected_ = count(pile);
    moves_ = 0;
  }
  void step_begins(std::size_t) {}
  void swapped(const Pile& pile, std::size_t, std::size_t) { verify(pile); }

  void rearranged(const Pile& pile) { verify(pile); }
  void asked() {}

  std::size_t moves() const { return moves_; }

 private:
  static std::vector<long> count(const Pile& pile) {
    std::vector<long> copies;
    for (std::size_t i = 0; i < pile.size; ++i) {
      const Card card = pile.cards[i];
      if (card >= copies.size()) copies.resize(card + std::size_t{1}, 0);
      ++copies[card];
    }
    return copies;
  }

  void verify(const Pile& pile) {
    ++moves_;
    std::vector<long> found = count(pile);
    const std::size_t kinds = std::max(found.size(), expected_.size());
    found.resize(kinds, 0);
    expected_.resize(kinds, 0);
    for (std::size_t card = 0; card < kinds; ++card)
      if (found[card] != expected_[card])
        throw std::logic_error("after move " + std::to_string(moves_) + " card " +
                               std::to_string(card) + " is there " + std::to_string(found[card]) +
                               " times, not " + std::to_string(expected_[card]));
  }

  std::vector<long> expected_;
  std::size_t moves_ = 0;
};

}  // namespace habanera
