#pragma once

#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

inline constexpr std::size_t most_ranks = 32, most_suits = 16, most_hand = 9;

// What a hand may hold. A hand is of the best category that it holds, in the order of the rules.
enum class HandCategory : int {
  high_card, one_pair, two_pair, three_of_a_kind, straight, flush, full_house, four_of_a_kind, straight_flush,
  royal_flush, five_of_a_kind
};

struct HandRules {
  struct Category {
    HandCategory what;
    // Of groups: between which ranks that of the first must be.
    std::size_t from_rank = 0, to_rank = most_ranks;
    bool natural = false;        // wild cards do not help
    std::size_t least_wild = 0;  // so many must be held

    bool operator==(const Category& other) const {
      return what == other.what && from_rank == other.from_rank && to_rank == other.to_rank &&
             natural == other.natural && least_wild == other.least_wild;
    }
  };
  // Where the ace stands in straights besides its own rank: below the lowest rank, too, or not.
  static constexpr std::size_t no_ace = static_cast<std::size_t>(-1);

  std::vector<Category> categories;  // the best first, high_card last
  std::size_t size = 5;              // so many cards of a hand count
  std::size_t ranks = 0;             // numbered from 0, the lowest
  std::size_t suits = 0;
  std::size_t low_ace = no_ace;      // the rank that may also stand below the lowest
  bool dealt_order = false;          // ties are broken by the cards as dealt, not sorted
  bool wild_lowest = false;          // in breaking ties wild cards count below every rank
  std::vector<std::uint8_t> rank, suit;  // of each kind of card; no_suit where it has none
  std::vector<std::uint8_t> wild;        // whether a kind is wild
  static constexpr std::uint8_t no_suit = 0xff;

  bool operator==(const HandRules& other) const {
    return categories == other.categories && size == other.size && ranks == other.ranks && suits == other.suits &&
           low_ace == other.low_ace && dealt_order == other.dealt_order && wild_lowest == other.wild_lowest &&
           rank == other.rank && suit == other.suit && wild == other.wild;
  }
};

// How many cards a category needs.
inline std::size_t cards_needed(HandCategory category, std::size_t size) {
  switch (category) {
    case HandCategory::high_card: return 0;
    case HandCategory::one_pair: return 2;
    case HandCategory::three_of_a_kind: return 3;
    case HandCategory::two_pair:
    case HandCategory::four_of_a_kind: return 4;
    case HandCategory::full_house:
    case HandCategory::five_of_a_kind: return 5;
    default: return size;
  }
}

inline void check_hand_rules(const HandRules& rules) {
  if (rules.size < 1 || rules.size > most_hand)
    throw std::invalid_argument("of a hand 1 to 9 cards count, not " + std::to_string(rules.size));
  if (rules.ranks > most_ranks)
    throw std::invalid_argument("there are at most 32 ranks, not " + std::to_string(rules.ranks));
  if (rules.suits > most_suits)
    throw std::invalid_argument("there are at most 16 suits, not " + std::to_string(rules.suits));
  if (rules.categories.empty() || rules.categories.back().what != HandCategory::high_card)
    throw std::invalid_argument("the last category is high card, which every hand holds");
  for (const auto& category : rules.categories)
    if (cards_needed(category.what, rules.size) > rules.size)
      throw std::invalid_argument("a category needs more cards than count");
}

}  // namespace habanera
