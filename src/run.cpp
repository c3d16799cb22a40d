#include "habanera_r/convert.hpp"

#include <csignal>
#include <thread>

#include "habanera/chance/words.hpp"

// What `.Random.seed` is set to for trials: a column for each, of the number of R's kind of generator and six seeds from
// the words of a lane of the trial. The generator is L'Ecuyer's (1999) combined multiple recursive one, "MRG32k3a"; R
// takes three seeds below the first modulus and three below the second.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerMatrix core_generator_seeds(double seed, Rcpp::NumericVector trials, double lane, int kind) {
  constexpr std::uint64_t moduli[] = {4294967087, 4294944443};
  Rcpp::IntegerMatrix seeds(7, static_cast<int>(trials.size()));
  for (int column = 0; column < seeds.ncol(); ++column) {
    seeds(0, column) = kind;
    for (int k = 0; k < 6; ++k) {
      const std::uint64_t word = habanera::random_word(to_count(seed), to_count(trials[column]), to_count(lane),
                                                       static_cast<std::uint64_t>(k / 2));
      const std::uint64_t half = k % 2 == 0 ? word >> 32 : word & 0xffffffff;
      std::uint64_t value = 1 + half % (moduli[k / 3] - 1);
      if (value == std::uint64_t{1} << 31) ++value;  // its bits would be R's NA
      seeds(k + 1, column) = static_cast<int>(static_cast<std::uint32_t>(value));
    }
  }
  return seeds;
}

// [[Rcpp::export(rng = false)]]
int core_machine_threads() {
  const unsigned cores = std::thread::hardware_concurrency();
  return cores < 1 ? 1 : static_cast<int>(cores);
}

// From now on an interrupt is heard, also one that came while it was held back; see exec/habanera.
// [[Rcpp::export(rng = false)]]
void core_hear_interrupts() {
#ifndef _WIN32
  sigset_t interrupt;
  sigemptyset(&interrupt);
  sigaddset(&interrupt, SIGINT);
  pthread_sigmask(SIG_UNBLOCK, &interrupt, nullptr);
#endif
  Rcpp::checkUserInterrupt();
}
