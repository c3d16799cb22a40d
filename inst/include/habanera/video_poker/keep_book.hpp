#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "habanera/hand/dealt_hand.hpp"
#include "habanera/hand/evaluator.hpp"
#include "habanera/hand/table.hpp"
#include "habanera/video_poker/card_sets.hpp"

namespace habanera {

// Of every set of cards that can be kept, how many hands of the deck hold it, by their category.
class KeepBook {
 public:
  using Hand = std::array<std::size_t, most_kept>;  // places in the deck, rising

  KeepBook(const HandRules& rules, std::vector<Card> deck, std::size_t size)
      : sets_(deck.size()), deck_(std::move(deck)), size_(size), lines_(rules.categories.size()),
        categories_(categories_of(rules)) {
    counts_.resize(size_);
    for (std::size_t kept = size_; kept-- > 0;) count_sets(kept);
  }

  std::size_t size() const { return size_; }
  std::size_t lines() const { return lines_; }
  const CardSets& sets() const { return sets_; }
  const std::vector<Card>& deck() const { return deck_; }
  std::size_t category(std::size_t hand) const { return categories_[hand]; }
  // By category, of the hands that hold a set of so many cards.
  const std::uint32_t* counts(std::size_t kept, std::size_t set) const { return &counts_[kept][set * lines_]; }

  // The number of the set that a hand keeps, among sets of its size: a bit for each card of the hand.
  std::size_t set_of(const Hand& hand, std::size_t kept) const {
    std::size_t number = 0, lower = 0;
    for (std::size_t i = 0; i < size_; ++i)
      if (kept >> i & 1) number += sets_.step(hand[i], lower++);
    return number;
  }

 private:
  std::vector<std::uint8_t> categories_of(const HandRules& rules) const {
    std::vector<Card> sorted = deck_;
    std::sort(sorted.begin(), sorted.end());
    bool alike = false;
    std::size_t wild = 0;
    std::vector<std::size_t> of_rank(rules.ranks + 1, 0);
    for (std::size_t i = 0; i < sorted.size(); ++i) {
      if (rules.wild[sorted[i]]) ++wild;
      else ++of_rank[rules.rank[sorted[i]]];
      alike = alike || (i > 0 && sorted[i] == sorted[i - 1] && !rules.wild[sorted[i]]);
    }
    return alike ? by_evaluator(rules) : by_table(rules, *std::max_element(of_rank.begin(), of_rank.end()), wild);
  }

  // Cards of a deck that are there twice are told apart the slow way.
  std::vector<std::uint8_t> by_evaluator(const HandRules& rules) const {
    const HandEvaluator evaluate(rules);
    std::vector<std::uint8_t> found;
    std::array<Card, most_kept> cards{};
    sets_.each(size_, [&](const Hand& hand) {
      for (std::size_t i = 0; i < size_; ++i) cards[i] = deck_[hand[i]];
      found.push_back(static_cast<std::uint8_t>(evaluate(cards.data(), size_).category));
    });
    return found;
  }

  // The lowest card of a hand is its last, so that the hands come in the order of their numbers.
  std::vector<std::uint8_t> by_table(const HandRules& rules, std::size_t copies, std::size_t wild) const {
    HandTable table(rules, size_, std::min(size_, copies), std::min(size_, wild));
    std::vector<std::uint8_t> found(sets_.count(size_));
    std::size_t at = 0;
    extend(table, DealtHand(), size_, deck_.size(), found, at);
    return found;
  }
  void extend(HandTable& table, const DealtHand& begun, std::size_t left, std::size_t below,
              std::vector<std::uint8_t>& found, std::size_t& at) const {
    for (std::size_t card = left - 1; card < below; ++card) {
      DealtHand more = begun;
      more.add(deck_[card], table);
      if (left == 1) found[at++] = static_cast<std::uint8_t>(more.category(table));
      else extend(table, more, left - 1, card, found, at);
    }
  }

  // A hand holds a set of cards if it holds one with a card more: each does so in as many ways as it has other cards.
  void count_sets(std::size_t kept) {
    auto& counts = counts_[kept];
    counts.assign(sets_.count(kept) * lines_, 0);
    const std::size_t larger = kept + 1;
    std::size_t number = 0;
    sets_.each(larger, [&](const Hand& cards) {
      // The set without its lowest card, and then how the number changes as a lower card comes in for a higher.
      std::size_t without = 0;
      for (std::size_t i = 1; i < larger; ++i) without += sets_.step(cards[i], i - 1);
      for (std::size_t out = 0; out < larger; ++out) {
        if (out > 0) without += sets_.step(cards[out - 1], out - 1) - sets_.step(cards[out], out - 1);
        std::uint32_t* to = &counts[without * lines_];
        if (larger == size_) {
          ++to[categories_[number]];
        } else {
          const std::uint32_t* from = &counts_[larger][number * lines_];
          for (std::size_t line = 0; line < lines_; ++line) to[line] += from[line];
        }
      }
      ++number;
    });
    for (std::uint32_t& count : counts) count /= static_cast<std::uint32_t>(size_ - kept);
  }

  CardSets sets_;
  std::vector<Card> deck_;
  std::size_t size_, lines_;
  std::vector<std::uint8_t> categories_;              // of each hand
  std::vector<std::vector<std::uint32_t>> counts_;    // by size and set
};

}  // namespace habanera
