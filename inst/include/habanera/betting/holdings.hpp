#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

// A hand that a seat may hold beside what all see.
struct Holding {
  std::uint32_t hand;       // its number in the list
  std::uint32_t row;        // what it is told as
  double weight;            // of the hands that its seat may be dealt; 1
  double ways;              // see HandList
  std::uint64_t strength;   // where all cards are turned
};

// The same of two single cards, without what these do not need: `twin` is where the other seat may hold the same hand.
struct TwoCards {
  static constexpr std::uint32_t no_twin = ~std::uint32_t{0};
  Card one, other;
  std::uint32_t row, twin;
  double weight;
};

// All that one seat may hold beside some board, the weakest first where all cards are turned.
struct SideHoldings {
  std::vector<Holding> all;
  std::vector<TwoCards> two;            // of hands of two single cards
  std::vector<double> adds;             // of each part of each hand: how often it is added
  std::vector<std::uint32_t> shown_by;  // of each row a hand that is told so
  std::vector<std::uint32_t> before;    // of each row that which it was before the last cards were turned
  std::size_t rows() const { return shown_by.size(); }
};

// Cards that all see, group by group as they are turned, and what both seats may hold beside them. Boards that differ
// only by the names of suits are one.
struct BoardHoldings {
  std::vector<Card> cards;
  std::vector<double> left;  // of each kind: what is not on the board
  std::array<std::shared_ptr<const SideHoldings>, 2> sides;
  struct Next {
    std::uint32_t board;
    double chance;  // that it is turned, both hands being known
  };
  bool is_turned = false;        // whether what comes next is listed
  std::vector<Next> next;
  bool is_whole = false;         // all cards are turned
  bool is_of_two = false;        // hands are two single cards
  // Of both sides where hands of the same strength end, strength by strength.
  std::vector<std::array<std::uint32_t, 2>> levels;
};

}  // namespace habanera
