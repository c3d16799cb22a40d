// Bare loops that do one job each and nothing else, to hold the package against: the best plain C++
// we know how to write for a fixed deck, with no seams, no options and no addresses kept.
//
//   bare JOB TRIALS THREADS     prints the seconds the loop took
//
// Jobs: positions52, positions312, positions2000 (shuffle and count card by position),
//       draw5 (five of 52, count the cards), riffle52, naive52 (shuffle so, and count).
#include <chrono>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <string>
#include <thread>
#include <vector>

namespace {

__extension__ typedef unsigned __int128 Wide;

inline std::uint64_t mix(std::uint64_t z) {
  z = (z ^ (z >> 30)) * 0xbf58476d1ce4e5b9ULL;
  z = (z ^ (z >> 27)) * 0x94d049bb133111ebULL;
  return z ^ (z >> 31);
}

// Swaps places From to To - 1 into place out of one random word, and counts each as it is settled.
template <int Cards, int Kinds, int From, int To, class Next>
inline void settle(std::uint16_t* deck, std::uint32_t* counts, Next&& next) {
  constexpr std::uint64_t product = [] {
    std::uint64_t all = 1;
    for (int i = From; i < To; ++i) all *= static_cast<std::uint64_t>(Cards - i);
    return all;
  }();
  std::uint64_t word = next();
  while (word * product < (0 - product) % product) word = next();
#pragma GCC unroll 16
  for (int i = From; i < To; ++i) {
    const Wide both = static_cast<Wide>(word) * static_cast<std::uint64_t>(Cards - i);
    word = static_cast<std::uint64_t>(both);
    const int other = i + static_cast<int>(both >> 64);
    const std::uint16_t card = deck[other];
    deck[other] = deck[i];
    deck[i] = card;
    ++counts[i * Kinds + card];
  }
}

// How many sizes from Cards - from downwards fit one word.
constexpr int batch_end(int cards, int from) {
  std::uint64_t all = 1;
  int to = from;
  while (to < cards - 1 && all <= (1ULL << 57) / static_cast<std::uint64_t>(cards - to))
    all *= static_cast<std::uint64_t>(cards - to++);
  return to;
}

template <int Cards, int Kinds, int From, class Next>
inline void settle_all(std::uint16_t* deck, std::uint32_t* counts, Next&& next) {
  if constexpr (From < Cards - 1) {
    constexpr int to = batch_end(Cards, From);
    settle<Cards, Kinds, From, to>(deck, counts, next);
    settle_all<Cards, Kinds, to>(deck, counts, next);
  } else {
    ++counts[From * Kinds + deck[From]];
  }
}

template <int Cards, int Kinds>
double positions52(std::uint64_t trials) {
  std::uint16_t fresh[Cards], deck[Cards];
  for (int i = 0; i < Cards; ++i) fresh[i] = static_cast<std::uint16_t>(i % Kinds);
  std::vector<std::uint32_t> counts(static_cast<std::size_t>(Cards) * Kinds);
  std::uint64_t state = 1;
  const auto next = [&state] { return mix(state += 0x9e3779b97f4a7c15ULL); };
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    std::memcpy(deck, fresh, sizeof deck);
    settle_all<Cards, Kinds, 0>(deck, counts.data(), next);
  }
  return counts[0];
}

// For large decks: the same with the sizes in a loop, one word for each few choices.
template <int Cards, int Kinds>
double positions_large(std::uint64_t trials) {
  std::vector<std::uint16_t> fresh(Cards), deck(Cards);
  for (int i = 0; i < Cards; ++i) fresh[i] = static_cast<std::uint16_t>(i % Kinds);
  std::vector<std::uint32_t> counts(static_cast<std::size_t>(Cards) * Kinds);
  struct Batch { int from, to; std::uint64_t product, bound; };
  std::vector<Batch> batches;
  for (int from = 0; from < Cards - 1;) {
    const int to = batch_end(Cards, from);
    std::uint64_t product = 1;
    for (int i = from; i < to; ++i) product *= static_cast<std::uint64_t>(Cards - i);
    batches.push_back({from, to, product, (0 - product) % product});
    from = to;
  }
  std::uint64_t state = 1;
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    std::memcpy(deck.data(), fresh.data(), Cards * sizeof(std::uint16_t));
    for (const Batch& batch : batches) {
      std::uint64_t word;
      do word = mix(state += 0x9e3779b97f4a7c15ULL);
      while (word * batch.product < batch.bound);
      for (int i = batch.from; i < batch.to; ++i) {
        const Wide both = static_cast<Wide>(word) * static_cast<std::uint64_t>(Cards - i);
        word = static_cast<std::uint64_t>(both);
        const int other = i + static_cast<int>(both >> 64);
        const std::uint16_t card = deck[other];
        deck[other] = deck[i];
        deck[i] = card;
        ++counts[static_cast<std::size_t>(i) * Kinds + card];
      }
    }
    ++counts[static_cast<std::size_t>(Cards - 1) * Kinds + deck[Cards - 1]];
  }
  return counts[0];
}

double draw5(std::uint64_t trials) {
  constexpr int cards = 52, size = 5;
  std::uint16_t deck[cards];
  for (int i = 0; i < cards; ++i) deck[i] = static_cast<std::uint16_t>(i);
  std::uint32_t counts[cards] = {};
  constexpr std::uint64_t product = 52ULL * 51 * 50 * 49 * 48;
  std::uint64_t state = 1;
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    std::uint64_t word;
    do word = mix(state += 0x9e3779b97f4a7c15ULL);
    while (word * product < (0 - product) % product);
    int others[size];
#pragma GCC unroll 5
    for (int i = 0; i < size; ++i) {
      const Wide both = static_cast<Wide>(word) * static_cast<std::uint64_t>(cards - i);
      word = static_cast<std::uint64_t>(both);
      const int other = others[i] = i + static_cast<int>(both >> 64);
      const std::uint16_t card = deck[other];
      deck[other] = deck[i];
      deck[i] = card;
      ++counts[card];
    }
#pragma GCC unroll 5
    for (int i = size - 1; i >= 0; --i) {
      const std::uint16_t card = deck[others[i]];
      deck[others[i]] = deck[i];
      deck[i] = card;
    }
  }
  return counts[0];
}

// A riffle of 52: one random word says which packet each card comes from.
double riffle52(std::uint64_t trials) {
  constexpr int cards = 52;
  std::vector<std::uint32_t> counts(cards * cards);
  std::uint64_t state = 1;
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    const std::uint64_t coins = mix(state += 0x9e3779b97f4a7c15ULL) >> 12;
    std::uint32_t next[2] = {0, static_cast<std::uint32_t>(cards - __builtin_popcountll(coins))};
    for (int i = 0; i < cards; ++i) {
      const std::uint32_t card = next[(coins >> i) & 1]++;
      ++counts[static_cast<std::size_t>(i) * cards + card];
    }
  }
  return counts[0];
}

// The naive swap: each place with any of 52, a word for each choice.
double naive52(std::uint64_t trials) {
  constexpr int cards = 52;
  std::uint16_t fresh[cards], deck[cards];
  for (int i = 0; i < cards; ++i) fresh[i] = static_cast<std::uint16_t>(i);
  std::vector<std::uint32_t> counts(cards * cards);
  std::uint64_t state = 1;
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    std::memcpy(deck, fresh, sizeof deck);
    for (int i = 0; i < cards; ++i) {
      const std::uint64_t word = mix(state += 0x9e3779b97f4a7c15ULL);
      const auto other = static_cast<int>((static_cast<Wide>(word) * cards) >> 64);
      const std::uint16_t card = deck[other];
      deck[other] = deck[i];
      deck[i] = card;
    }
    for (int i = 0; i < cards; ++i) ++counts[static_cast<std::size_t>(i) * cards + deck[i]];
  }
  return counts[0];
}

using Job = double (*)(std::uint64_t);

Job find_job(const std::string& name) {
  if (name == "positions52") return positions52<52, 52>;
  if (name == "positions312") return positions_large<312, 52>;
  if (name == "positions2000") return positions_large<2000, 50>;
  if (name == "draw5") return draw5;
  if (name == "riffle52") return riffle52;
  if (name == "naive52") return naive52;
  return nullptr;
}

}  // namespace

int main(int argc, char** argv) {
  const Job job = argc == 4 ? find_job(argv[1]) : nullptr;
  if (!job) {
    std::fprintf(stderr, "use: bare JOB TRIALS THREADS\n");
    return 2;
  }
  const std::uint64_t trials = std::strtoull(argv[2], nullptr, 10);
  const unsigned threads = static_cast<unsigned>(std::strtoul(argv[3], nullptr, 10));
  const auto start = std::chrono::steady_clock::now();
  volatile double kept = 0;  // so that no loop is optimised away
  std::vector<std::thread> running;
  for (unsigned i = 0; i < threads; ++i)
    running.emplace_back([&] { kept = kept + job(trials / threads); });
  for (auto& thread : running) thread.join();
  const std::chrono::duration<double> took = std::chrono::steady_clock::now() - start;
  std::printf("%.9f\n", took.count());
}
