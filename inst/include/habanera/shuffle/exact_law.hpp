#pragma once

#include <cstddef>
#include <cstdint>
#include <numeric>
#include <stdexcept>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/every.hpp"
#include "habanera/shuffle/procedure.hpp"
#include "habanera/stat/exact_sum.hpp"
#include "habanera/watcher/silent.hpp"

// The exact distribution of the arrangement that a procedure leaves, on small decks: each step is
// walked from the deck in order, and steps are convolved.

namespace habanera {

inline constexpr std::size_t most_exact_cards = 8;

// An arrangement packed into a word, four bits a place: where the card at each place came from.
using Arrangement = std::uint64_t;
using ArrangementLaw = std::unordered_map<Arrangement, ExactSum>;

inline std::size_t place_in(Arrangement arrangement, std::size_t i) {
  return (arrangement >> (4 * i)) & 15;
}

inline Arrangement pack(const std::vector<Card>& cards) {
  Arrangement packed = 0;
  for (std::size_t i = 0; i < cards.size(); ++i) packed |= static_cast<Arrangement>(cards[i]) << (4 * i);
  return packed;
}

inline ArrangementLaw step_law(const Step& step, std::size_t cards, const WorkBound& path_limit) {
  ArrangementLaw law;
  Workspace work;
  std::vector<Card> deck(cards);
  walk_every_path(path_limit, [&](EveryChance& chance) {
    std::iota(deck.begin(), deck.end(), Card{0});
    Silent silent;
    const Pile pile{deck.data(), deck.size()};
    std::visit([&](const auto& one) { one(pile, work, chance, silent); }, step);
    law[pack(deck)].add(chance.probability());
  });
  return law;
}

// First one, then the other: the card now at place i came from where the first had put the card that
// the second took. Holds for steps that lose cards, too.
inline ArrangementLaw convolve(const ArrangementLaw& first, const ArrangementLaw& second, std::size_t cards,
                               WorkBound::Pause pause) {
  ArrangementLaw law;
  WorkClock clock(pause);
  for (const auto& [one, chance_of_one] : first)
    for (const auto& [two, chance_of_two] : second) {
      clock.tick();
      Arrangement both = 0;
      for (std::size_t i = 0; i < cards; ++i)
        both |= static_cast<Arrangement>(place_in(one, place_in(two, i))) << (4 * i);
      law[both].add(chance_of_one.value() * chance_of_two.value());
    }
  return law;
}

// `times[i]` says how often step i is made before the next.
inline ArrangementLaw exact_law(const std::vector<Step>& steps, const std::vector<std::size_t>& times,
                                std::size_t cards, const WorkBound& path_limit, double product_limit) {
  if (cards > most_exact_cards)
    throw std::length_error("at most " + std::to_string(most_exact_cards) + " cards, not " +
                            std::to_string(cards));
  ArrangementLaw law = step_law(NoShuffle{}, cards, 1);
  for (std::size_t i = 0; i < steps.size(); ++i) {
    const ArrangementLaw one = step_law(steps[i], cards, path_limit);
    for (std::size_t time = 0; time < times[i]; ++time) {
      const double products = static_cast<double>(law.size()) * static_cast<double>(one.size());
      if (products > product_limit)
        throw std::length_error("a convolution of " + std::to_string(law.size()) + " by " +
                                std::to_string(one.size()) + " arrangements");
      law = convolve(law, one, cards, path_limit.pause);
    }
  }
  return law;
}

}  // namespace habanera
