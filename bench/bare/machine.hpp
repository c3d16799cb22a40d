#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace bare {

// The best play of a pay table from 52 cards, as often as there are trials: all hands by their sets of cards, then each
// hand once for all that differ in the names of suits. Cards are rank * 4 + suit.
class Machine {
 public:
  double solve() {
    for (auto& sums : sums_) sums.assign(1, 0);
    const std::size_t sizes[] = {1, 52, 1326, 22100, 270725, 2598960};
    for (std::size_t k = 0; k <= 5; ++k) sums_[k].assign(sizes[k], 0);
    int c[5];
    for (c[4] = 4; c[4] < 52; ++c[4])
      for (c[3] = 3; c[3] < c[4]; ++c[3])
        for (c[2] = 2; c[2] < c[3]; ++c[2])
          for (c[1] = 1; c[1] < c[2]; ++c[1])
            for (c[0] = 0; c[0] < c[1]; ++c[0]) add(c);
    double all = 0;
    for (c[4] = 4; c[4] < 52; ++c[4])
      for (c[3] = 3; c[3] < c[4]; ++c[3])
        for (c[2] = 2; c[2] < c[3]; ++c[2])
          for (c[1] = 1; c[1] < c[2]; ++c[1])
            for (c[0] = 0; c[0] < c[1]; ++c[0]) {
              const int like = count_like(c);
              if (like > 0) all += like * best(c);
            }
    return all / 2598960;
  }

 private:
  static std::size_t choose(int n, int k) {
    std::size_t ways = 1;
    for (int i = 0; i < k; ++i) ways = ways * static_cast<std::size_t>(n - i) / static_cast<std::size_t>(i + 1);
    return n < k ? 0 : ways;
  }
  static std::size_t index(const int* c, int kept) {
    static std::size_t table[53][6];
    static const bool filled = [] {
      for (int n = 0; n < 53; ++n)
        for (int k = 0; k < 6; ++k) table[n][k] = choose(n, k);
      return true;
    }();
    (void)filled;
    std::size_t sum = 0;
    for (int i = 0, k = 1; i < 5; ++i)
      if (kept >> i & 1) sum += table[c[i]][k++];
    return sum;
  }
  static int pay(const int* c) {
    unsigned ranks = 0, twice = 0, thrice = 0, four = 0;
    bool flush = true;
    for (int i = 0; i < 5; ++i) {
      const unsigned bit = 1u << (c[i] / 4);
      four |= thrice & bit;
      thrice |= twice & bit;
      twice |= ranks & bit;
      ranks |= bit;
      flush = flush && c[i] % 4 == c[0] % 4;
    }
    if (!twice) {
      const bool straight = ranks == 0x100f || (ranks / (ranks & -ranks)) == 31;
      if (straight && flush) return ranks == 0x1f00 ? 800 : 50;
      return flush ? 6 : straight ? 4 : 0;
    }
    if (four) return 25;
    if (thrice) return twice != thrice ? 9 : 3;
    if (twice & (twice - 1)) return 2;
    return twice >= 1u << 9 ? 1 : 0;
  }
  void add(const int* c) {
    const int won = pay(c);
    if (won == 0) return;
    for (int kept = 0; kept < 32; ++kept)
      sums_[static_cast<std::size_t>(__builtin_popcount(static_cast<unsigned>(kept)))][index(c, kept)] += won;
  }
  static int count_like(const int* c) {
    unsigned suits[4] = {};
    for (int i = 0; i < 5; ++i) suits[c[i] % 4] |= 1u << (c[i] / 4);
    int ways = 24, equal = 1;
    for (int s = 1; s < 4; ++s) {
      if (suits[s] > suits[s - 1]) return 0;
      equal = suits[s] == suits[s - 1] ? equal + 1 : 1;
      ways /= equal;
    }
    return ways;
  }
  double best(const int* c) const {
    static const double draws[] = {1533939, 178365, 16215, 1081, 47, 1};
    double worth[32], most = 0;
    for (int kept = 0; kept < 32; ++kept)
      worth[kept] = static_cast<double>(
          sums_[static_cast<std::size_t>(__builtin_popcount(static_cast<unsigned>(kept)))][index(c, kept)]);
    for (int bit = 1; bit < 32; bit <<= 1)
      for (int kept = 0; kept < 32; ++kept)
        if (!(kept & bit)) worth[kept] -= worth[kept | bit];
    for (int kept = 0; kept < 32; ++kept)
      most = std::max(most, worth[kept] / draws[__builtin_popcount(static_cast<unsigned>(kept))]);
    return most;
  }
  std::vector<std::int64_t> sums_[6];
};

}  // namespace bare
