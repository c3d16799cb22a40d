#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <vector>

namespace habanera {

inline constexpr std::size_t most_kept = 5;

// Sets of up to five of some cards, which are numbered from 0, each set with a number of its own among those of its
// size (Knuth 2011, The Art of Computer Programming, vol. 4A, section 7.2.1.3, theorem L).
class CardSets {
 public:
  explicit CardSets(std::size_t cards) : cards_(cards) {
    for (auto& row : below_) row.assign(cards + 1, 0);
    for (std::size_t n = 0; n <= cards; ++n) {
      below_[0][n] = 1;
      for (std::size_t k = 1; k <= most_kept; ++k) below_[k][n] = n == 0 ? 0 : below_[k][n - 1] + below_[k - 1][n - 1];
    }
  }

  std::size_t cards() const { return cards_; }
  std::size_t count(std::size_t size) const { return below_[size][cards_]; }
  // Of n things, k.
  double ways(std::size_t n, std::size_t k) const { return static_cast<double>(below_[k][n]); }

  // What a card adds to the number of a set in which so many others are lower.
  std::size_t step(std::size_t card, std::size_t lower) const { return below_[lower + 1][card]; }

  // Calls use(cards) for each set of a size in the order of their numbers; `cards` rise.
  template <class Use>
  void each(std::size_t size, Use&& use) const {
    std::array<std::size_t, most_kept> chosen{};
    for (std::size_t i = 0; i < size; ++i) chosen[i] = i;
    for (std::size_t left = count(size); left > 0; --left) {
      use(chosen);
      std::size_t at = 0;
      while (at + 1 < size && chosen[at] + 1 == chosen[at + 1]) {
        chosen[at] = at;
        ++at;
      }
      if (size > 0) ++chosen[at];
    }
  }

 private:
  std::size_t cards_;
  std::array<std::vector<std::size_t>, most_kept + 1> below_;
};

}  // namespace habanera
