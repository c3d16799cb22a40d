#pragma once

#include <cstddef>
#include <cstdint>
#include <map>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/chance/work_bound.hpp"
#include "habanera/draw/classes.hpp"
#include "habanera/question/class_law.hpp"
#include "habanera/question/words.hpp"
#include "habanera/stat/exact_sum.hpp"

namespace habanera {

// The exact law of a hand's words set by set: every set of cards that can be drawn is read once, and weighs as many
// ways as there are to draw it. For words that do not add up card by card, such as the category of a hand.
class CombinationLaw {
 public:
  CombinationLaw(const Words& words, std::vector<CardClass> classes, bool replace, const WorkBound& limit)
      : reading_(words), classes_(std::move(classes)), replace_(replace), limit_(limit), clock_(limit.pause) {
    for (const CardClass& one : classes_) hand_.insert(hand_.end(), one.held, one.kind);
    left_in_deck_.assign(classes_.size() + 1, 0);
    for (std::size_t i = classes_.size(); i-- > 0;) left_in_deck_[i] = left_in_deck_[i + 1] + classes_[i].deck;
  }

  // Of the words' index after `size` cards on top of the held ones.
  IndexLaw operator()(std::size_t size) {
    // Known beforehand, so that nobody waits for a refusal.
    if (different_hands(size) > static_cast<double>(limit_.most))
      throw std::length_error("more than " + std::to_string(limit_.most) + " different hands");
    ways_.clear();
    take(0, size, 1);
    ExactSum all;
    for (const auto& [index, ways] : ways_) all.add(ways.value());
    IndexLaw law;
    for (const auto& [index, ways] : ways_) law[index] = ways.value() / all.value();
    return law;
  }

 private:
  // How many there are: of each class none, one, ... as far as it has so many.
  double different_hands(std::size_t size) const {
    std::vector<double> hands(size + 1, 0);  // of so many cards, out of the classes looked at
    hands[0] = 1;
    for (const CardClass& one : classes_)
      for (std::size_t cards = size; cards > 0; --cards)
        for (std::size_t taken = 1; taken <= cards && (replace_ ? one.deck > 0 : taken <= one.deck); ++taken)
          hands[cards] += hands[cards - taken];
    return hands[size];
  }

  // So many more cards, of the classes from one on.
  void take(std::size_t from, std::size_t left, double ways) {
    if (left == 0) return read(ways);
    for (std::size_t at = from; at < classes_.size(); ++at) {
      if (!replace_ && left_in_deck_[at] < left) return;
      take_of(at, left, ways);
    }
  }

  // One or more of a class first. Each card more is one of what is left of it; or, put back each time, any of it, in an
  // order that does not count.
  void take_of(std::size_t at, std::size_t left, double ways) {
    const std::size_t cards = classes_[at].deck, before = hand_.size();
    for (std::size_t taken = 0; taken < left && taken < (replace_ ? left : cards) && cards > 0; ++taken) {
      ways *= static_cast<double>(replace_ ? cards : cards - taken) / static_cast<double>(taken + 1);
      hand_.push_back(classes_[at].kind);
      take(at + 1, left - taken - 1, ways);
    }
    hand_.resize(before);
  }

  void read(double ways) {
    clock_.tick();
    reading_.begin();
    for (const Card card : hand_) reading_.hold(card);
    ways_[reading_.index()].add(ways);
  }

  Reading reading_;
  std::vector<CardClass> classes_;
  bool replace_;
  WorkBound limit_;
  WorkClock clock_;
  std::vector<std::size_t> left_in_deck_;  // from each class on
  std::vector<Card> hand_;
  std::map<std::uint64_t, ExactSum> ways_;
};

}  // namespace habanera
