#include "convert.h"

#include <numeric>

#include "habanera/chance/random.hpp"
#include "habanera/shuffle/uniform.hpp"
#include "habanera/watcher/silent.hpp"

// Where the card now at each place came from, places counted from 1.
// [[Rcpp::export]]
Rcpp::IntegerVector core_shuffled_places(int cards, double seed, double trial) {
  std::vector<habanera::Card> places(static_cast<std::size_t>(cards));
  std::iota(places.begin(), places.end(), habanera::Card{0});
  habanera::RandomChance chance(to_count(seed), to_count(trial));
  habanera::Silent silent;
  habanera::UniformShuffle shuffle(places.size());
  shuffle(habanera::Pile{places.data(), places.size()}, places.size(), chance, silent);
  Rcpp::IntegerVector from(places.begin(), places.end());
  return from + 1;
}
