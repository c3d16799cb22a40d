#pragma once

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <vector>

#include "habanera/shuffle/procedure.hpp"

namespace habanera {

// A step by its name and the numbers of its parameters, for a deck of so many cards. The names and
// numbers are those of the interface; see the list of procedures there.
inline Step make_step(const std::string& name, const std::vector<double>& values, std::size_t cards) {
  const auto value = [&](std::size_t i) {
    if (i >= values.size()) throw std::invalid_argument("step " + name + " lacks a parameter");
    return values[i];
  };
  const auto whole = [&](std::size_t i) { return static_cast<std::size_t>(value(i)); };
  if (name == "uniform") return UniformStep(cards);
  if (name == "none") return NoShuffle{};
  if (name == "naive_swap") return NaiveSwap{whole(0)};
  if (name == "one_cycle") return OneCycle{};
  if (name == "transpositions") return Transposition{};
  if (name == "random_keys") return RandomKeys{static_cast<std::uint64_t>(value(0))};
  if (name == "coin_sort") {
    if (value(0) > 0) return CoinMerge{};
    return CoinInsertion{};
  }
  if (name == "modulo") return ModuloLoop{static_cast<unsigned>(value(0))};
  if (name == "small_seed") return SmallSeed{static_cast<unsigned>(value(0))};
  if (name == "retry") return RetryLoop{};
  if (name == "overwrite") return Overwriting{value(0) > 0};
  if (name == "riffle") {
    if (std::isnan(value(0)) && std::isnan(value(1))) return FairRiffle{};
    return HandRiffle{value(0), value(1)};
  }
  if (name == "faro") return Faro{value(0) > 0};
  if (name == "overhand") return Overhand{value(0)};
  if (name == "strip") return Strip{whole(0)};
  if (name == "piles") return Piles{whole(0), static_cast<PickUp>(static_cast<int>(value(1)))};
  if (name == "top_to_random") return TopToRandom{};
  if (name == "cut") return Cut{value(0)};
  if (name == "wash") return Wash{whole(0)};
  if (name == "shelf") return Shelves{whole(0)};
  throw std::invalid_argument("there is no step named " + name);
}

}  // namespace habanera
