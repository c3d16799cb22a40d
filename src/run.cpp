#include "habanera_r/convert.hpp"

#include <thread>

#include "habanera/chance/words.hpp"

// `count` words of a lane of a trial, each in two halves of 32 bits: one row per word.
// [[Rcpp::export]]
Rcpp::NumericMatrix core_address_words(double seed, double trial, double lane, int count) {
  Rcpp::NumericMatrix halves(count, 2);
  for (int k = 0; k < count; ++k) {
    const std::uint64_t word =
        habanera::random_word(to_count(seed), to_count(trial), to_count(lane),
                              static_cast<std::uint64_t>(k));
    halves(k, 0) = static_cast<double>(word >> 32);
    halves(k, 1) = static_cast<double>(word & 0xffffffffULL);
  }
  return halves;
}

// [[Rcpp::export]]
int core_machine_threads() {
  const unsigned cores = std::thread::hardware_concurrency();
  return cores < 1 ? 1 : static_cast<int>(cores);
}
