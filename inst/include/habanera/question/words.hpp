#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/hand/evaluator.hpp"

namespace habanera {

// What is asked of a hand: words, each a whole number from 0 below its size, all of them in one index
// (the sum of word times step). Counts and sums add up card by card; the other words need more.
struct Words {
  // How many groups a hand holds, or how large the largest is.
  struct Groups {
    std::vector<std::uint16_t> group;  // of each kind
    std::size_t count;
    std::uint64_t step, size;
    bool largest;
  };
  // Whether the card drawn at a position is one of these kinds.
  struct Place {
    std::size_t position;
    std::uint64_t step;
    std::vector<std::uint8_t> holds;  // of each kind
  };

  // The category of the hand, from 0 the worst.
  struct Category {
    HandEvaluator evaluate;  // over the kinds
    std::uint64_t step;
  };

  std::uint64_t start;               // of an empty hand
  std::vector<std::uint64_t> added;  // by each kind; a loss wraps around, which adds up all the same
  std::vector<Groups> groups;
  std::vector<Place> places;
  std::vector<Category> categories;
  std::uint64_t cells;

  bool only_added() const { return groups.empty() && places.empty() && categories.empty(); }
};

// Reads a hand card by card. It owns the words, so that a thread reads nothing that another one writes beside.
class Reading {
 public:
  explicit Reading(Words words) : words_(std::move(words)) {
    for (const Words::Groups& groups : words_.groups) counts_.emplace_back(groups.count, 0);
  }

  // Starts on an empty hand.
  void begin() {
    index_ = words_.start;
    for (auto& counts : counts_) std::fill(counts.begin(), counts.end(), 0);
    best_.assign(counts_.size(), 0);
    cards_.clear();
    drawn_ = 0;
  }

  // A card that was in the hand before the first was drawn.
  void hold(Card kind) {
    index_ += words_.added[kind];
    for (std::size_t i = 0; i < counts_.size(); ++i) add_to_group(i, kind);
    if (!words_.categories.empty()) cards_.push_back(kind);
  }

  void draw(Card kind) {
    hold(kind);
    for (const Words::Place& place : words_.places)
      if (place.position == drawn_ && place.holds[kind]) index_ += place.step;
    ++drawn_;
  }

  // As far as the hand is read.
  std::uint64_t index() const {
    std::uint64_t index = index_;
    for (const Words::Category& category : words_.categories)
      index += category.step * category.evaluate(cards_.data(), cards_.size()).category;
    return index;
  }

 private:
  void add_to_group(std::size_t i, Card kind) {
    const Words::Groups& groups = words_.groups[i];
    const std::uint32_t size = ++counts_[i][groups.group[kind]];
    const bool counts = groups.largest ? size > best_[i] : size == 1;
    if (!counts) return;
    best_[i] = size;
    index_ += groups.step;
  }

  Words words_;
  std::vector<std::vector<std::uint32_t>> counts_;  // by word, by group
  std::vector<std::uint32_t> best_;
  std::vector<Card> cards_;  // where a category is asked for
  std::uint64_t index_ = 0;
  std::size_t drawn_ = 0;
};

}  // namespace habanera
