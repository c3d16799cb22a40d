#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

#include "habanera/hand/evaluator.hpp"
#include "habanera/question/question.hpp"
#include "habanera/question/words.hpp"
#include "habanera/video_poker/card_sets.hpp"

namespace habanera {

// What is kept, if a hand has it: cards that by themselves are of a category (made), or become one with what is drawn
// (towards; open: in two ways or more, inside: in one), cards of a rank or better (high), or what a condition says.
struct KeepRule {
  enum What { made, towards, open, inside, high, high_suited, condition };
  What what = made;
  std::size_t cards = 0;          // that are kept; of a condition any number
  std::optional<HandEvaluator> evaluate;  // of two categories, the second high card
  std::size_t from_rank = 0;
  std::optional<Condition> asked;
};

// Reads an ordered list of rules: the first that a hand meets decides. Of several ways to meet it the one with the
// highest ranks is taken, of those the one that comes first in the hand.
class KeepList {
 public:
  // `hands` tells the ranks and suits of cards, and what is wild.
  KeepList(std::vector<KeepRule> rules, HandRules hands, std::size_t size)
      : known_(std::make_shared<const Known>(Known{std::move(rules), std::move(hands)})), size_(size) {
    for (const KeepRule& rule : known_->rules)
      readings_.push_back(rule.asked ? std::optional<Reading>(rule.asked->words) : std::nullopt);
  }

  std::size_t size() const { return known_->rules.size(); }

  struct Kept {
    std::size_t cards = 0;  // by their bits
    std::size_t rule = 0;   // the number of rules: none
  };
  Kept operator()(const std::array<Card, most_kept>& hand) {
    for (std::size_t rule = 0; rule < known_->rules.size(); ++rule) {
      std::optional<std::size_t> best;
      for (std::size_t kept = 0; kept < std::size_t{1} << size_; ++kept)
        if (meets(rule, hand, kept) && (!best || higher(hand, kept, *best))) best = kept;
      if (best) return {*best, rule};
    }
    return {0, known_->rules.size()};
  }
  // The first rule that these cards meet; the number of rules: none.
  std::size_t rule_of(const std::array<Card, most_kept>& hand, std::size_t kept) {
    std::size_t rule = 0;
    while (rule < known_->rules.size() && !meets(rule, hand, kept)) ++rule;
    return rule;
  }

 private:
  bool meets(std::size_t number, const std::array<Card, most_kept>& hand, std::size_t kept) {
    const KeepRule& rule = known_->rules[number];
    const auto count = static_cast<std::size_t>(__builtin_popcountll(kept));
    if (rule.what != KeepRule::condition && count != rule.cards) return false;
    std::array<Card, most_kept> cards{};
    std::size_t at = 0;
    for (std::size_t i = 0; i < size_; ++i)
      if (kept >> i & 1) cards[at++] = hand[i];
    switch (rule.what) {
      case KeepRule::made: return (*rule.evaluate)(cards.data(), count).category == 1;
      case KeepRule::towards: return becomes(rule, rule.evaluate->parts(cards.data(), count));
      case KeepRule::open: return ways_to_complete(rule, cards, count) > 1;
      case KeepRule::inside: return ways_to_complete(rule, cards, count) == 1;
      case KeepRule::high: return all_high(rule, cards, count, false);
      case KeepRule::high_suited: return all_high(rule, cards, count, true);
      case KeepRule::condition: return holds(rule, *readings_[number], cards, count);
    }
    return false;
  }

  // With a wild card for each that is drawn.
  bool becomes(const KeepRule& rule, HandParts hand) const {
    hand.wild += size_ - hand.cards;
    hand.cards = size_;
    return rule.evaluate->best_of(hand).category == 1;
  }

  // How many ranks complete cards that lack one.
  std::size_t ways_to_complete(const KeepRule& rule, const std::array<Card, most_kept>& cards,
                               std::size_t count) const {
    HandParts hand = rule.evaluate->parts(cards.data(), count);
    ++hand.cards;
    std::size_t ways = 0;
    for (std::size_t rank = 0; rank < known_->hands.ranks; ++rank) {
      HandParts more = hand;
      ++more.ranks[rank];
      for (std::size_t suit = 0; suit < known_->hands.suits; ++suit) ++more.suits[suit][rank];
      ways += rule.evaluate->best_of(more).category == 1;
    }
    return ways;
  }

  bool all_high(const KeepRule& rule, const std::array<Card, most_kept>& cards, std::size_t count,
                bool suited) const {
    const HandRules& hands = known_->hands;
    for (std::size_t i = 0; i < count; ++i) {
      if (hands.wild[cards[i]] || hands.rank[cards[i]] < rule.from_rank) return false;
      const std::uint8_t suit = hands.suit[cards[i]];
      if (suited && (suit == HandRules::no_suit || suit != hands.suit[cards[0]])) return false;
    }
    return true;
  }

  static bool holds(const KeepRule& rule, Reading& reading, const std::array<Card, most_kept>& cards,
                    std::size_t count) {
    reading.begin();
    for (std::size_t i = 0; i < count; ++i) reading.draw(cards[i]);
    return rule.asked->holds[reading.index()] != 0;
  }

  bool higher(const std::array<Card, most_kept>& hand, std::size_t kept, std::size_t than) const {
    return ranks(hand, kept) > ranks(hand, than);
  }
  // Wild cards above all, then from high to low.
  std::array<std::size_t, most_kept> ranks(const std::array<Card, most_kept>& hand, std::size_t kept) const {
    const HandRules& hands = known_->hands;
    std::array<std::size_t, most_kept> all{};
    std::size_t at = 0;
    for (std::size_t i = 0; i < size_; ++i)
      if (kept >> i & 1) all[at++] = hands.wild[hand[i]] ? most_ranks + 1 : hands.rank[hand[i]] + std::size_t{1};
    std::sort(all.begin(), all.end(), [](std::size_t a, std::size_t b) { return a > b; });
    return all;
  }

  // What copies of a player share.
  struct Known {
    std::vector<KeepRule> rules;
    HandRules hands;
  };
  std::shared_ptr<const Known> known_;
  std::size_t size_;
  std::vector<std::optional<Reading>> readings_;
};

}  // namespace habanera
