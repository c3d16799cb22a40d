#pragma once

#include <cmath>
#include <cstddef>
#include <stdexcept>
#include <string>
#include <vector>

namespace habanera {

// The sum of the weights of a pick, each of which must be a finite number, 0 or more.
inline double total_weight(const std::vector<double>& weights) {
  double total = 0;
  for (std::size_t i = 0; i < weights.size(); ++i) {
    if (!std::isfinite(weights[i]) || weights[i] < 0)
      throw std::invalid_argument("weight " + std::to_string(i + 1) +
                                  " must be a number of 0 or more, not " +
                                  std::to_string(weights[i]));
    total += weights[i];
  }
  if (!(total > 0)) throw std::invalid_argument("at least one weight must be above 0");
  return total;
}

inline std::size_t last_positive(const std::vector<double>& weights) {
  std::size_t last = weights.size();
  while (last > 0 && !(weights[last - 1] > 0)) --last;
  return last - 1;
}

}  // namespace habanera
