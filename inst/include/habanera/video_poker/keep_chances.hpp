#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/video_poker/keep_book.hpp"

namespace habanera {

// The chance of each category after each way to keep cards of a hand.
class KeepChances {
 public:
  explicit KeepChances(const KeepBook& book) : book_(book) {}

  // A row of categories for each way, by the bits of the cards kept.
  std::vector<double> operator()(const KeepBook::Hand& hand) const {
    const std::size_t size = book_.size(), lines = book_.lines(), ways = std::size_t{1} << size;
    std::vector<double> chances(ways * lines, 0.0);
    for (std::size_t kept = 0; kept < ways; ++kept) held(hand, kept, &chances[kept * lines]);
    // Hands that hold a card that was dropped cannot be drawn.
    for (std::size_t bit = 1; bit < ways; bit <<= 1)
      for (std::size_t kept = 0; kept < ways; ++kept)
        if (!(kept & bit))
          for (std::size_t line = 0; line < lines; ++line)
            chances[kept * lines + line] -= chances[(kept | bit) * lines + line];
    for (std::size_t kept = 0; kept < ways; ++kept) {
      const double draws = book_.sets().ways(book_.sets().cards() - size, size - count_of(kept));
      for (std::size_t line = 0; line < lines; ++line) chances[kept * lines + line] /= draws;
    }
    return chances;
  }

 private:
  static std::size_t count_of(std::size_t kept) { return static_cast<std::size_t>(__builtin_popcountll(kept)); }

  // How many hands hold these cards, by category.
  void held(const KeepBook::Hand& hand, std::size_t kept, double* to) const {
    const std::size_t cards = count_of(kept), set = book_.set_of(hand, kept);
    if (cards == book_.size()) {
      to[book_.category(set)] = 1;
      return;
    }
    const std::uint32_t* counts = book_.counts(cards, set);
    for (std::size_t line = 0; line < book_.lines(); ++line) to[line] = counts[line];
  }

  const KeepBook& book_;
};

}  // namespace habanera
