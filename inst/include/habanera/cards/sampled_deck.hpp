#pragma once

#include <cstddef>
#include <stdexcept>
#include <string>
#include <vector>

namespace habanera {

// How a deck is sampled: a weight and the most copies for each kind; none: it is not.
struct DeckSampling {
  std::vector<double> weights;
  std::vector<std::size_t> max_copies;

  explicit operator bool() const { return !weights.empty(); }
};

// A deck of `size` cards picked one after another, kind k with chance in proportion to weights[k]
// among the kinds that have not reached max_copies[k] yet.
template <class Chance>
std::vector<std::size_t> sample_deck(DeckSampling sampling, std::size_t size, Chance& chance) {
  std::vector<double>& weights = sampling.weights;
  std::vector<std::size_t>& max_copies = sampling.max_copies;
  if (weights.size() != max_copies.size())
    throw std::invalid_argument("there are " + std::to_string(weights.size()) + " weights and " +
                                std::to_string(max_copies.size()) + " numbers of copies");
  for (std::size_t kind = 0; kind < weights.size(); ++kind)
    if (max_copies[kind] == 0) weights[kind] = 0;
  std::vector<std::size_t> kinds;
  while (kinds.size() < size) {
    const std::size_t kind = chance.pick(weights);
    kinds.push_back(kind);
    if (--max_copies[kind] == 0) weights[kind] = 0;
  }
  return kinds;
}

}  // namespace habanera
