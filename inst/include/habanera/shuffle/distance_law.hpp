#pragma once

#include <algorithm>
#include <cstddef>
#include <vector>

namespace habanera {

// The law of the total distance that the cards of a uniform arrangement have travelled: entry k is the
// chance of a distance of 2k (it is always even).
//
// Places and cards are taken in one after the other. After i of them, j cards lie open, whose places
// come later, and j places, whose cards come later; every open one grows by one step, so that the
// distance grows by 2j. The next place and card can be matched with each other (1 way) or one of them
// with an open one (2j ways): j stays; both with open ones (j^2 ways): j - 1; neither: j + 1.
inline std::vector<double> distance_law(std::size_t cards) {
  const std::size_t most = cards * cards / 4;
  std::vector<std::vector<double>> ways(cards / 2 + 2, std::vector<double>(most + 1, 0.0));
  std::vector<std::vector<double>> after = ways;
  ways[0][0] = 1;
  for (std::size_t i = 1; i <= cards; ++i) {
    const std::size_t open = std::min(i, cards - i), reached = std::min(most, i * (i + 1) / 2);
    for (std::size_t j = 0; j <= open; ++j) {
      // Divided by i at every step, so that the whole ends as a probability.
      const double stay = (1 + 2 * static_cast<double>(j)) / static_cast<double>(i);
      const double close = static_cast<double>((j + 1) * (j + 1)) / static_cast<double>(i);
      const double begin = j > 0 ? 1 / static_cast<double>(i) : 0;
      const std::vector<double>& fewer = ways[j > 0 ? j - 1 : 0];
      for (std::size_t d = 0; d < j && d <= reached; ++d) after[j][d] = 0;
      for (std::size_t d = j; d <= reached; ++d)
        after[j][d] = stay * ways[j][d - j] + close * ways[j + 1][d - j] + begin * fewer[d - j];
    }
    for (std::size_t j = open + 1; j < after.size(); ++j) std::fill(after[j].begin(), after[j].end(), 0.0);
    ways.swap(after);
  }
  return ways[0];
}

}  // namespace habanera
