#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <map>
#include <string>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/game/solver.hpp"

namespace habanera {

// How many sets of k there are among n.
inline double combinations(double n, std::size_t k) {
  double all = 1;
  for (std::size_t i = 0; i < k; ++i) all *= (n - static_cast<double>(i)) / static_cast<double>(i + 1);
  return all < 0 ? 0 : all;
}

// Calls use(cards, ways) for each set of so many cards, told by their kinds in rising order, of which there are
// `left`; `ways`: how many sets of single cards it stands for.
template <class Use>
void each_set(const std::vector<double>& left, std::size_t size, Use&& use) {
  std::vector<Card> cards;
  const auto add = [&](const auto& again, std::size_t kind, std::size_t need, double ways) -> void {
    if (need == 0) return use(std::as_const(cards), ways);
    if (kind == left.size()) return;
    for (std::size_t many = 0; many <= need && static_cast<double>(many) <= left[kind]; ++many) {
      if (many > 0) cards.push_back(static_cast<Card>(kind));
      again(again, kind + 1, need - many, ways * combinations(left[kind], many));
    }
    cards.resize(cards.size() - std::min(need, static_cast<std::size_t>(left[kind])));
  };
  add(add, 0, size, 1);
}

// How many of these there are.
inline double count_sets(const std::vector<double>& left, std::size_t size) {
  std::vector<double> sets(size + 1, 0);
  sets[0] = 1;
  for (const double copies : left)
    for (std::size_t all = size; all > 0; --all)
      for (std::size_t many = 1; many <= all && static_cast<double>(many) <= copies; ++many)
        sets[all] += sets[all - many];
  return sets[size];
}

// All hands that a seat can hold, each once: kinds that no rule tells apart are one. What two seats cannot both hold is
// left out by inclusion and exclusion over the parts of a hand: of all hands of the other those are taken that hold a
// card of it, those put back that hold two, and so on. Of several cards alike a part is taken as often as it can be
// chosen.
class HandList {
 public:
  struct Part {
    std::uint32_t number;  // the same of all hands that have it
    double sign;           // 0: none
  };

  HandList(const std::vector<double>& copies, std::size_t size) : size_(size), parts_each_(std::size_t{1} << size) {
    // Before any is made: the parts of hands of many cards are far more than the hands.
    if (count_sets(copies, size) * static_cast<double>(parts_each_) > most_parts)
      throw OutOfReach("a seat can hold more hands of " + std::to_string(size) + " cards than are gone through");
    each_set(copies, size, [&](const std::vector<Card>& cards, double) {
      cards_.insert(cards_.end(), cards.begin(), cards.end());
      part(cards);
      ++count_;
    });
    // Each whole hand is a part of its own, behind all others.
    for (std::size_t hand = 0; hand < count_; ++hand)
      parts_[(hand + 1) * parts_each_ - 1].number = static_cast<std::uint32_t>(numbers_.size() + hand);
  }

  static constexpr double most_parts = 5e6;

  std::size_t size() const { return size_; }
  std::size_t count() const { return count_; }
  const Card* cards(std::size_t hand) const { return &cards_[hand * size_]; }
  std::size_t parts_each() const { return parts_each_; }
  // The last part of each hand is the whole of it, which only this hand has; the others are numbered first.
  std::size_t parts() const { return numbers_.size() + count_; }
  std::size_t lesser_parts() const { return numbers_.size(); }
  const Part* parts(std::size_t hand) const { return &parts_[hand * parts_each_]; }

  // How many sets of single cards a hand stands for, of those left; and how many of them hold one certain set of single
  // cards that is such a part of it.
  double ways(std::size_t hand, const std::vector<double>& left) const { return ways_with(hand, 0, left); }
  double ways_with(std::size_t hand, std::size_t part, const std::vector<double>& left) const {
    double all = 1;
    const Card* held = cards(hand);
    for (std::size_t i = 0; i < size_;) {
      std::size_t many = 0, taken = 0;
      for (const Card card = held[i]; i < size_ && held[i] == card; ++i, ++many) taken += part >> i & 1;
      all *= combinations(left[held[i - 1]] - static_cast<double>(taken), many - taken);
    }
    return all;
  }

 private:
  // The parts of a hand by the places of their cards, as bits; of cards alike the first ones stand for all.
  void part(const std::vector<Card>& cards) {
    for (std::size_t bits = 0; bits < parts_each_; ++bits) {
      const bool is_whole = bits + 1 == parts_each_;
      double sign = 1;
      std::vector<Card> taken;
      for (std::size_t i = 0; i < size_ && sign != 0;) {
        std::size_t many = 0, chosen = 0;
        const Card card = cards[i];
        for (; i < size_ && cards[i] == card; ++i, ++many) {
          if ((bits >> i & 1) == 0) continue;
          if (chosen < many) sign = 0;
          ++chosen;
          taken.push_back(card);
        }
        sign *= combinations(static_cast<double>(many), chosen) * (chosen % 2 == 0 ? 1 : -1);
      }
      std::uint32_t number = 0;
      if (sign != 0 && !is_whole)
        number = numbers_.emplace(taken, static_cast<std::uint32_t>(numbers_.size())).first->second;
      parts_.push_back({number, sign});
    }
  }

  std::size_t size_, parts_each_, count_ = 0;
  std::vector<Card> cards_;
  std::vector<Part> parts_;
  std::map<std::vector<Card>, std::uint32_t> numbers_;
};

}  // namespace habanera
