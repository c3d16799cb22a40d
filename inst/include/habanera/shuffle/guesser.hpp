#pragma once

#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

// Names each card before it is turned: the one that most often came after the card just seen, and has
// not been seen yet. What it has learnt is, for each card c, all cards in the order in which they are
// to be named after c; row n is for the first card of the deck.
class Guesser {
 public:
  // `ranking` holds n + 1 rows of n cards, the first to be named first.
  Guesser(std::size_t cards, std::vector<Card> ranking) : n_(cards), ranking_(std::move(ranking)), seen_(cards) {
    if (ranking_.size() != n_ * (n_ + 1))
      throw std::invalid_argument("a ranking of " + std::to_string(ranking_.size()) + " cards for a deck of " +
                                  std::to_string(n_));
    if (n_ <= most_in_word) preferred_ = cards_preferred();
  }

  // How many cards of the arrangement it names rightly.
  std::size_t right_guesses(const Card* cards) { return n_ <= most_in_word ? by_mask(cards) : by_walk(cards); }

 private:
  static constexpr std::size_t most_in_word = 64;

  // For each row and card, the set of cards that are named before it.
  std::vector<std::uint64_t> cards_preferred() const {
    std::vector<std::uint64_t> preferred(n_ * (n_ + 1));
    for (std::size_t row = 0; row <= n_; ++row) {
      std::uint64_t named = 0;
      for (std::size_t k = 0; k < n_; ++k) {
        const Card card = ranking_[row * n_ + k];
        preferred[row * n_ + card] = named;
        named |= std::uint64_t{1} << card;
      }
    }
    return preferred;
  }

  // A guess is right when every card named before the one that comes has been seen. Small decks: the
  // cards not yet seen are bits of a word, and no branch has to be foretold.
  std::size_t by_mask(const Card* cards) const {
    std::uint64_t unseen = n_ == most_in_word ? ~std::uint64_t{0} : (std::uint64_t{1} << n_) - 1;
    std::size_t right = 0, row = n_;
    for (std::size_t i = 0; i < n_; ++i) {
      const std::size_t card = cards[i];
      right += (preferred_[row * n_ + card] & unseen) == 0;
      unseen &= ~(std::uint64_t{1} << card);
      row = card;
    }
    return right;
  }

  std::size_t by_walk(const Card* cards) {
    seen_.assign(n_, 0);
    std::size_t right = 0, row = n_;
    for (std::size_t i = 0; i < n_; ++i) {
      const Card* named = &ranking_[row * n_];
      while (seen_[*named]) ++named;
      right += *named == cards[i];
      seen_[cards[i]] = 1;
      row = cards[i];
    }
    return right;
  }

  std::size_t n_;
  std::vector<Card> ranking_;
  std::vector<char> seen_;
  std::vector<std::uint64_t> preferred_;
};

}  // namespace habanera
