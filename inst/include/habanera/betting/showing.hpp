#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/betting/hand_list.hpp"
#include "habanera/betting/holdings.hpp"

namespace habanera {

// What a seat has at the end: where its hand is the better, where both are alike, where the other's is.
struct Stakes {
  double better = 0, alike = 0, worse = 0;
};

// How often hands are met that go together with a hand: of hands of any kind, by the sums of all their parts.
class MetByParts {
 public:
  explicit MetByParts(const HandList& list) : list_(list), sums_(list.parts(), 0) {}

  void begin(const BoardHoldings& board, std::size_t seat, const double* others) {
    own_ = board.sides[seat].get();
    other_ = board.sides[1 - seat].get();
    others_ = others;
    std::fill(sums_.begin(), sums_.end(), 0.0);
  }
  void add(std::size_t at) {
    const Holding& holding = other_->all[at];
    const double chance = others_[holding.row] * holding.weight;
    if (chance == 0) return;
    const HandList::Part* parts = list_.parts(holding.hand);
    const double* adds = &other_->adds[at * list_.parts_each()];
    for (std::size_t i = 0; i < list_.parts_each(); ++i) sums_[parts[i].number] += adds[i] * chance;
  }
  double below(std::size_t at) const { return up_to(at); }
  double up_to(std::size_t at) const {
    const HandList::Part* parts = list_.parts(own_->all[at].hand);
    double all = 0;
    for (std::size_t i = 0; i < list_.parts_each(); ++i) all += parts[i].sign * sums_[parts[i].number];
    return all;
  }
  double weight(std::size_t at) const { return own_->all[at].weight * own_->all[at].ways; }
  std::uint32_t row(std::size_t at) const { return own_->all[at].row; }

 private:
  const HandList& list_;
  const SideHoldings* own_ = nullptr;
  const SideHoldings* other_ = nullptr;
  const double* others_ = nullptr;
  std::vector<double> sums_;
};

// The same of two single cards: all, less those with either card, and the same hand again.
class MetByTwo {
 public:
  void begin(const BoardHoldings& board, std::size_t seat, const double* others) {
    own_ = board.sides[seat]->two.data();
    other_ = board.sides[1 - seat]->two.data();
    const std::vector<TwoCards>& other = board.sides[1 - seat]->two;
    chances_.resize(other.size());
    for (std::size_t i = 0; i < other.size(); ++i) chances_[i] = others[other[i].row] * other[i].weight;
    all_ = 0;
    by_card_.assign(board.left.size(), 0.0);
  }
  void add(std::size_t at) {
    const TwoCards& hand = other_[at];
    const double chance = chances_[at];
    all_ += chance;
    by_card_[hand.one] += chance;
    by_card_[hand.other] += chance;
  }
  // Weaker hands are never the same hand.
  double below(std::size_t at) const { return all_ - by_card_[own_[at].one] - by_card_[own_[at].other]; }
  double up_to(std::size_t at) const {
    return below(at) + (own_[at].twin == TwoCards::no_twin ? 0 : chances_[own_[at].twin]);
  }
  double weight(std::size_t at) const { return own_[at].weight; }
  std::uint32_t row(std::size_t at) const { return own_[at].row; }

 private:
  const TwoCards* own_ = nullptr;
  const TwoCards* other_ = nullptr;
  double all_ = 0;
  std::vector<double> chances_, by_card_;
};

// What all hands of a seat bring at once against all hands of the other, each of these as likely as its row says: one
// pass over the hands from the weakest to the best, with sums over the parts of hands, so that pairs of hands with a
// card in common drop out exactly. The time is that of a sort of the hands and not that of their pairs (Johanson,
// Waugh, Bowling & Zinkevich 2011, "Accelerating best response calculation in large extensive games", section 4).
class Showing {
 public:
  explicit Showing(const HandList& list) : by_parts_(list) {}

  // Adds to each row of `seat` what its hands bring in all, where hands are shown.
  void show(const BoardHoldings& board, std::size_t seat, const Stakes& stakes, const double* others, double* worth) {
    board.is_of_two ? show(by_two_, board, seat, stakes, others, worth)
                    : show(by_parts_, board, seat, stakes, others, worth);
  }
  // The same where nobody's hand is asked: each pair of hands brings so much.
  void meet(const BoardHoldings& board, std::size_t seat, double each, const double* others, double* worth) {
    board.is_of_two ? meet(by_two_, board, seat, each, others, worth)
                    : meet(by_parts_, board, seat, each, others, worth);
  }

 private:
  template <class Met>
  void show(Met& met, const BoardHoldings& board, std::size_t seat, const Stakes& stakes, const double* others,
            double* worth) {
    met.begin(board, seat, others);
    const std::size_t hands = board.sides[seat]->all.size();
    brings_.resize(hands);
    const double below = stakes.better - stakes.alike, up_to = stakes.alike - stakes.worse;
    std::size_t at = 0, added = 0;
    for (const auto& level : board.levels) {
      for (std::size_t i = at; i < level[seat]; ++i) brings_[i] = below * met.below(i);
      for (; added < level[1 - seat]; ++added) met.add(added);
      for (; at < level[seat]; ++at) brings_[at] += up_to * met.up_to(at);
    }
    for (std::size_t i = 0; i < hands; ++i)
      worth[met.row(i)] += met.weight(i) * (brings_[i] + stakes.worse * met.up_to(i));
  }
  template <class Met>
  void meet(Met& met, const BoardHoldings& board, std::size_t seat, double each, const double* others, double* worth) {
    met.begin(board, seat, others);
    for (std::size_t i = 0; i < board.sides[1 - seat]->all.size(); ++i) met.add(i);
    for (std::size_t i = 0; i < board.sides[seat]->all.size(); ++i)
      worth[met.row(i)] += each * met.weight(i) * met.up_to(i);
  }

  MetByParts by_parts_;
  MetByTwo by_two_;
  std::vector<double> brings_;
};

}  // namespace habanera
