#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <utility>
#include <vector>

#include "habanera/hand/rules.hpp"

namespace habanera {

// A hand taken apart: how many of each rank, in each suit, and how many wild cards.
struct HandParts {
  std::array<std::uint8_t, most_ranks> ranks{};
  std::array<std::array<std::uint8_t, most_ranks>, most_suits> suits{};
  std::size_t wild = 0, cards = 0;
};

// The most that a hand has of anything: of a rank, of a suit, of different ranks, and of ranks twice or more; without
// its wild cards.
struct HandSizes {
  explicit HandSizes(const HandParts& hand, const HandRules& rules) {
    for (std::size_t rank = 0; rank < rules.ranks; ++rank) {
      of_rank = std::max<std::size_t>(of_rank, hand.ranks[rank]);
      ranks += hand.ranks[rank] > 0;
      pairs += hand.ranks[rank] > 1;
    }
    for (std::size_t suit = 0; suit < rules.suits; ++suit) {
      std::size_t size = 0;
      for (std::size_t rank = 0; rank < rules.ranks; ++rank) size += hand.suits[suit][rank];
      of_suit = std::max(of_suit, size);
    }
  }

  std::size_t of_rank = 0, of_suit = 0, ranks = 0, pairs = 0;
};

// What a hand is worth: the place of its category, from 0 the worst, and the cards that break ties, the most important
// first: rank + 1, or 0 for a wild card that counts below every rank and for a place without a card.
struct HandWorth {
  std::size_t category = 0;
  std::array<std::uint8_t, most_hand> cards{};

  friend bool operator<(const HandWorth& a, const HandWorth& b) {
    return a.category != b.category ? a.category < b.category : a.cards < b.cards;
  }
  friend bool operator==(const HandWorth& a, const HandWorth& b) {
    return a.category == b.category && a.cards == b.cards;
  }
};

// Finds what hands are worth, from the rules alone.
class HandEvaluator {
 public:
  using Cards = std::array<std::uint8_t, most_hand>;

  explicit HandEvaluator(HandRules rules) : rules_(std::move(rules)) { check_hand_rules(rules_); }

  const HandRules& rules() const { return rules_; }

  HandParts parts(const Card* hand, std::size_t size) const {
    HandParts parts;
    parts.cards = size;
    for (std::size_t i = 0; i < size; ++i) {
      const Card card = hand[i];
      if (rules_.wild[card]) {
        ++parts.wild;
        continue;
      }
      ++parts.ranks[rules_.rank[card]];
      if (rules_.suit[card] != HandRules::no_suit) ++parts.suits[rules_.suit[card]][rules_.rank[card]];
    }
    return parts;
  }

  HandWorth operator()(const Card* hand, std::size_t size) const {
    HandWorth worth = best_of(parts(hand, size));
    if (rules_.dealt_order) worth.cards = as_dealt(hand, size, worth.category);
    return worth;
  }

  static bool of_one_suit(HandCategory category) {
    return category == HandCategory::flush || category == HandCategory::straight_flush ||
           category == HandCategory::royal_flush;
  }

  // Of sorted hands, by all categories; or only by those that suits make, or only by the others.
  HandWorth best_of(const HandParts& hand) const {
    return best_among(hand, [](HandCategory) { return true; });
  }
  HandWorth best_by_suits(const HandParts& hand) const { return best_among(hand, of_one_suit); }
  HandWorth best_by_ranks(const HandParts& hand) const {
    return best_among(hand, [](HandCategory category) { return !of_one_suit(category); });
  }

 private:
  using Found = std::optional<Cards>;

  template <class Which>
  HandWorth best_among(const HandParts& hand, Which&& which) const {
    const HandSizes sizes(hand, rules_);
    for (std::size_t i = 0; i < rules_.categories.size(); ++i) {
      const HandRules::Category& category = rules_.categories[i];
      const std::size_t wild = category.natural ? 0 : hand.wild;
      if (!which(category.what) || hand.wild < category.least_wild || !may_hold(category.what, sizes, wild)) continue;
      const Found cards = category.natural ? held(category, without_wild(hand)) : held(category, hand);
      if (cards) return {rules_.categories.size() - 1 - i, *cards};
    }
    return {};
  }

  static HandParts without_wild(HandParts hand) {
    hand.wild = 0;
    return hand;
  }

  // What a hand has too few cards for need not be looked for.
  bool may_hold(HandCategory category, const HandSizes& sizes, std::size_t wild) const {
    switch (category) {
      case HandCategory::high_card: return true;
      case HandCategory::one_pair: return sizes.of_rank + wild >= 2;
      case HandCategory::two_pair: return sizes.pairs + wild >= 2;
      case HandCategory::three_of_a_kind: return sizes.of_rank + wild >= 3;
      case HandCategory::full_house: return sizes.of_rank + wild >= 3 && sizes.pairs + wild >= 2;
      case HandCategory::four_of_a_kind: return sizes.of_rank + wild >= 4;
      case HandCategory::five_of_a_kind: return sizes.of_rank + wild >= 5;
      case HandCategory::straight: return sizes.ranks + wild >= rules_.size;
      default: return sizes.of_suit + wild >= rules_.size;
    }
  }

  static void keep_best(Found& best, const Cards& cards) {
    if (!best || *best < cards) best = cards;
  }

  // The best cards by which a hand holds a category, or nothing.
  Found held(const HandRules::Category& category, const HandParts& hand) const {
    switch (category.what) {
      case HandCategory::high_card: return kickers(hand.ranks, hand.wild, {}, 0);
      case HandCategory::one_pair: return groups(hand, 2, 0, category);
      case HandCategory::two_pair: return groups(hand, 2, 2, category);
      case HandCategory::three_of_a_kind: return groups(hand, 3, 0, category);
      case HandCategory::full_house: return groups(hand, 3, 2, category);
      case HandCategory::four_of_a_kind: return groups(hand, 4, 0, category);
      case HandCategory::five_of_a_kind: return groups(hand, 5, 0, category);
      case HandCategory::straight: return straight(hand.ranks, hand.wild, false);
      case HandCategory::flush: return flush(hand);
      case HandCategory::straight_flush: return in_one_suit(hand, false);
      case HandCategory::royal_flush: return in_one_suit(hand, true);
    }
    return std::nullopt;
  }

  // Groups of equal rank, the first and the second (0: none), and the highest cards beside them.
  Found groups(const HandParts& hand, std::size_t first, std::size_t second,
               const HandRules::Category& category) const {
    Found best;
    for (std::size_t one = category.from_rank; one < std::min(rules_.ranks, category.to_rank + 1); ++one) {
      const std::size_t wild_one = lacking(hand.ranks[one], first);
      if (wild_one > hand.wild) continue;
      if (second == 0) {
        add_group(best, hand, one, first, 0, 0);
        continue;
      }
      // Two pairs are told by the higher one.
      const std::size_t end = first == second ? one : rules_.ranks;
      for (std::size_t two = 0; two < end; ++two)
        if (two != one && wild_one + lacking(hand.ranks[two], second) <= hand.wild)
          add_group(best, hand, one, first, two, second);
    }
    return best;
  }

  static std::size_t lacking(std::size_t there, std::size_t wanted) { return there < wanted ? wanted - there : 0; }

  void add_group(Found& best, const HandParts& hand, std::size_t one, std::size_t first, std::size_t two,
                 std::size_t second) const {
    auto left = hand.ranks;
    std::size_t wild = hand.wild, filled = 0;
    Cards cards{};
    fill_group(cards, filled, left, wild, one, first);
    fill_group(cards, filled, left, wild, two, second);
    keep_best(best, kickers(left, wild, cards, filled));
  }

  void fill_group(Cards& cards, std::size_t& filled, std::array<std::uint8_t, most_ranks>& left, std::size_t& wild,
                  std::size_t rank, std::size_t size) const {
    const std::size_t natural = std::min<std::size_t>(left[rank], size);
    for (std::size_t i = 0; i < size; ++i) cards[filled++] = i < natural ? natural_card(rank) : wild_card(rank);
    left[rank] = static_cast<std::uint8_t>(left[rank] - natural);
    wild -= size - natural;
  }

  // Fills up with the highest cards that are left; a wild card is one of the highest rank.
  Cards kickers(const std::array<std::uint8_t, most_ranks>& left, std::size_t wild, Cards cards,
                std::size_t filled) const {
    if (!rules_.wild_lowest)
      for (; wild > 0 && filled < rules_.size; --wild) cards[filled++] = natural_card(rules_.ranks - 1);
    for (std::size_t rank = rules_.ranks; rank-- > 0 && filled < rules_.size;)
      for (std::size_t i = 0; i < left[rank] && filled < rules_.size; ++i) cards[filled++] = natural_card(rank);
    return cards;
  }

  static std::uint8_t natural_card(std::size_t rank) { return static_cast<std::uint8_t>(rank + 1); }
  std::uint8_t wild_card(std::size_t rank) const { return rules_.wild_lowest ? 0 : natural_card(rank); }

  // So many ranks in a row as count; `highest`: only the highest such.
  Found straight(const std::array<std::uint8_t, most_ranks>& ranks, std::size_t wild, bool highest) const {
    Found best;
    if (rules_.ranks < rules_.size) return best;
    for (std::size_t top = rules_.ranks - 1; top + 1 >= rules_.size; --top) {
      add_straight(best, ranks, wild, top, rules_.size);
      if (highest) return best;
    }
    // The ace below the lowest rank.
    if (rules_.low_ace != HandRules::no_ace && rules_.size > 1 && rules_.low_ace + 1 >= rules_.size)
      add_straight(best, ranks, wild, rules_.size - 2, rules_.size - 1);
    return best;
  }

  // From `top` downwards; one card fewer than count means that the ace ends it.
  void add_straight(Found& best, const std::array<std::uint8_t, most_ranks>& ranks, std::size_t wild, std::size_t top,
                    std::size_t length) const {
    Cards cards{};
    std::size_t filled = 0, used = 0;
    for (std::size_t i = 0; i < length; ++i) {
      const bool there = ranks[top - i] > 0;
      used += !there;
      if (there || !rules_.wild_lowest) cards[filled++] = natural_card(top - i);
    }
    if (length < rules_.size) used += ranks[rules_.low_ace] == 0;
    if (used <= wild) keep_best(best, cards);
  }

  Found flush(const HandParts& hand) const {
    Found best;
    for (std::size_t at = 0; at < rules_.suits; ++at) {
      const auto& suit = hand.suits[at];
      std::size_t there = 0;
      for (std::size_t rank = 0; rank < rules_.ranks; ++rank) there += suit[rank];
      if (there + hand.wild >= rules_.size && hand.cards >= rules_.size) keep_best(best, flush_cards(suit, hand.wild));
    }
    return best;
  }

  // A wild card of a suit is the highest that is not there.
  Cards flush_cards(std::array<std::uint8_t, most_ranks> suit, std::size_t wild) const {
    if (!rules_.wild_lowest)
      for (std::size_t rank = rules_.ranks; rank-- > 0 && wild > 0;)
        if (suit[rank] == 0) ++suit[rank], --wild;
    Cards cards{};
    std::size_t filled = 0;
    for (std::size_t rank = rules_.ranks; rank-- > 0;)
      for (std::size_t i = 0; i < suit[rank] && filled < rules_.size; ++i) cards[filled++] = natural_card(rank);
    return cards;
  }

  Found in_one_suit(const HandParts& hand, bool highest) const {
    Found best;
    for (std::size_t at = 0; at < rules_.suits; ++at) {
      const Found found = straight(hand.suits[at], hand.wild, highest);
      if (found) keep_best(best, *found);
    }
    return best;
  }

  // The first cards as they came; a wild one is the highest that leaves the hand its category.
  Cards as_dealt(const Card* hand, std::size_t size, std::size_t category) const {
    HandParts left = parts(hand, size);
    Cards cards{};
    for (std::size_t i = 0; i < std::min(size, rules_.size); ++i) {
      const Card card = hand[i];
      if (!rules_.wild[card]) cards[i] = natural_card(rules_.rank[card]);
      else if (!rules_.wild_lowest) cards[i] = natural_card(became(left, category));
    }
    return cards;
  }

  std::size_t became(HandParts& left, std::size_t category) const {
    --left.wild;
    for (std::size_t rank = rules_.ranks; rank-- > 0;) {
      ++left.ranks[rank];
      if (best_of(left).category == category) return rank;
      for (std::size_t suit = 0; suit < rules_.suits; ++suit) {
        ++left.suits[suit][rank];
        if (best_of(left).category == category) return rank;
        --left.suits[suit][rank];
      }
      --left.ranks[rank];
    }
    return 0;
  }

  HandRules rules_;
};

// As one whole number: higher is better, equal is tied.
class HandStrength {
 public:
  explicit HandStrength(const HandRules& rules) : base_(rules.ranks + 1), size_(rules.size) {}

  std::uint64_t operator()(const HandWorth& worth) const {
    std::uint64_t all = worth.category;
    for (std::size_t i = 0; i < size_; ++i) all = all * base_ + worth.cards[i];
    return all;
  }
  std::size_t category(std::uint64_t strength) const {
    for (std::size_t i = 0; i < size_; ++i) strength /= base_;
    return static_cast<std::size_t>(strength);
  }

 private:
  std::uint64_t base_;
  std::size_t size_;
};

}  // namespace habanera
