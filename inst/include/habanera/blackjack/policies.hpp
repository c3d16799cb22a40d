#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "habanera/blackjack/seat_hands.hpp"
#include "habanera/blackjack/strategy.hpp"

namespace habanera {

// A policy says what a hand is worth by its play, and most what it does: choose() and surrenders_early().

// As a table has it.
class TablePolicy {
 public:
  explicit TablePolicy(const StrategyTable& table) : table_(&table) {}

  std::size_t choose(const SeatHands& hands, const BlackjackHand& hand, std::size_t, Moves moves) const {
    return table_->choose(hands.pieces(), hand, moves, hands.up().value);
  }
  template <class Played>
  BlackjackWorth worth(Played& played, const BlackjackHand& hand, std::size_t at, Moves moves) const {
    return played.after(choose(played.hands(), hand, at, moves), hand, at);
  }
  bool surrenders_early(const SeatHands& hands, const BlackjackHand& hand, std::size_t) const {
    return table_->surrenders_early(hands.pieces(), hand, 1, hands.up().value);
  }

 private:
  const StrategyTable* table_;
};

// What differs by rounding alone is as good, and the first stays.
inline constexpr double as_good = 1e-12;

// The best by the very cards of each hand.
class BestPolicy {
 public:
  static constexpr bool plays_alike = true;  // where it tells nothing which cards they are
  template <class Played>
  BlackjackWorth worth(Played& played, const BlackjackHand& hand, std::size_t at, Moves moves) const {
    return best(played, hand, at, moves).second;
  }
  template <class Played>
  std::size_t choose_in(Played& played, const BlackjackHand& hand, std::size_t at, Moves moves) const {
    return best(played, hand, at, moves).first;
  }

 private:
  template <class Played>
  static std::pair<std::size_t, BlackjackWorth> best(Played& played, const BlackjackHand& hand, std::size_t at,
                                                     Moves moves) {
    std::size_t best = BlackjackPieces::stand;
    BlackjackWorth most = played.after(best, hand, at);
    moves.each([&](std::size_t move) {
      if (move == BlackjackPieces::stand) return;
      const BlackjackWorth found = played.after(move, hand, at);
      if (found.net <= most.net + as_good) return;
      most = found;
      best = move;
    });
    return {best, most};
  }
};

// Entries of a table for one up card, by the place of the hand: what every composition of a hand does, alone and after
// a split.
class CardsPolicy {
 public:
  using Cell = StrategyTable::Cell;

  explicit CardsPolicy(std::size_t hands) : hands_(hands) {}

  std::vector<Cell>& cells(std::uint8_t split_value) {
    std::vector<Cell>& cells = cells_[split_value];
    if (cells.empty()) cells.resize(hands_);
    return cells;
  }
  bool has(std::uint8_t split_value) const { return !cells_[split_value].empty(); }
  Cell& pair(std::uint8_t value) { return pairs_[value]; }

  std::size_t choose(const SeatHands& hands, const BlackjackHand& hand, std::size_t at, Moves moves) const {
    if (hand.pair && moves.has(BlackjackPieces::split)) return pairs_[hand.first].among(moves);
    return cells_[hands.split_value()][at].among(moves);
  }
  template <class Played>
  BlackjackWorth worth(Played& played, const BlackjackHand& hand, std::size_t at, Moves moves) const {
    return played.after(choose(played.hands(), hand, at, moves), hand, at);
  }
  bool surrenders_early(const SeatHands& hands, const BlackjackHand& hand, std::size_t at) const {
    const bool as_pair = hand.pair && hands.pieces().may_split(hand, 1);
    return (as_pair ? pairs_[hand.first] : cells_[SeatHands::unsplit][at]).first == BlackjackPieces::surrender;
  }

 private:
  std::size_t hands_;
  std::array<std::vector<Cell>, 11> cells_;
  std::array<Cell, 11> pairs_{};
};

}  // namespace habanera
