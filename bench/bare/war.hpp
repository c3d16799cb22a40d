#pragma once

#include "deals.hpp"

namespace bare {

// Games of War: the higher card takes both, the winner's first; in a tie three go face down, or all but the last, and
// the next decides; a seat that has none left then has lost. Games of more than 5,000 rounds are broken off.
struct WarPile {
  std::uint8_t cards[64];
  unsigned head = 0, end = 0;
  unsigned size() const { return end - head; }
  std::uint8_t take() { return cards[head++ & 63]; }
  void put_under(std::uint8_t card) { cards[end++ & 63] = card; }
};

inline int war_rounds(WarPile& a, WarPile& b) {
  int rounds = 0;
  while (a.size() && b.size() && rounds < 5000) {
    ++rounds;
    std::uint8_t x = a.take(), y = b.take();
    if (x > y) {
      a.put_under(x), a.put_under(y);
    } else if (y > x) {
      b.put_under(y), b.put_under(x);
    } else {
      // What each laid, its face-up cards in the same layers as the other's.
      std::uint8_t of_a[64], of_b[64];
      bool has_a[64] = {}, has_b[64] = {};
      int layer = 0;
      of_a[0] = x, of_b[0] = y, has_a[0] = has_b[0] = true;
      while (x == y) {
        if (!a.size() || !b.size()) return rounds;
        const unsigned down_a = a.size() > 3 ? 3 : a.size() - 1, down_b = b.size() > 3 ? 3 : b.size() - 1;
        const unsigned down = down_a > down_b ? down_a : down_b;
        for (int i = 1; i <= static_cast<int>(down_a); ++i) of_a[layer + i] = a.take(), has_a[layer + i] = true;
        for (int i = 1; i <= static_cast<int>(down_b); ++i) of_b[layer + i] = b.take(), has_b[layer + i] = true;
        layer += static_cast<int>(down) + 1;
        x = of_a[layer] = a.take(), y = of_b[layer] = b.take();
        has_a[layer] = has_b[layer] = true;
      }
      for (int i = 0; i <= layer; ++i) {
        if (x > y) {
          if (has_a[i]) a.put_under(of_a[i]);
          if (has_b[i]) a.put_under(of_b[i]);
        } else {
          if (has_b[i]) b.put_under(of_b[i]);
          if (has_a[i]) b.put_under(of_a[i]);
        }
      }
    }
  }
  return rounds;
}

// Counts the rounds of games.
inline void war52(std::uint64_t first, std::uint64_t end, Tally& counts) {
  for (std::uint64_t trial = first; trial < end; ++trial) {
    std::uint16_t deck[52];
    for (int i = 0; i < 52; ++i) deck[i] = static_cast<std::uint16_t>(i);
    Words next(trial);
    settle_all<52, 0>(deck, next, [](int, int) {});
    WarPile a, b;
    for (int i = 0; i < 52; i += 2) {
      a.put_under(static_cast<std::uint8_t>(rank_of(deck[i])));
      b.put_under(static_cast<std::uint8_t>(rank_of(deck[i + 1])));
    }
    ++counts[static_cast<std::size_t>(war_rounds(a, b))];
  }
}

}  // namespace bare
