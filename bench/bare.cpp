// Bare loops that do one job each and nothing else, to hold the package against: the best plain C++
// we know how to write for a fixed deck, with no seams, no options and no addresses kept.
//
//   bare JOB TRIALS THREADS     prints the seconds the loop took
//
// Jobs: positions52, positions312, positions2000 (shuffle and count card by position),
//       draw5 (five of 52, count the cards), riffle52, naive52 (shuffle so, and count),
//       question5 (five of 52, count two conditions on them),
//       war52 (whole games of War with 52 cards, three face down; count the rounds),
//       highcard52 (a card each for seat and bank; count who wins),
//       blackjack312 (rounds of blackjack by a table from fresh shoes of six packs; count the results),
//       shoes312 (whole shoes of it, counted and betted on by the true count),
//       baccarat416 (rounds of baccarat from fresh shoes of eight packs; count who wins),
//       ace52 (cards turned until an ace comes; count them),
//       lift52 (games of lift of two seats that go on to fifteen points; count the winner and the cards turned),
//       machine52 (the best play of a pay table from 52 cards, as often as there are trials),
//       pairs30 (whole games of pairs, 30 cards, two seats that remember all; count the turns),
//       battery52 (shuffle, and keep all the counts that an audit keeps).
#include <algorithm>
#include <chrono>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <string>
#include <thread>
#include <utility>
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

// Draws five of 52 cards, which are swapped back, and hands each to see(card); after each draw, done().
template <class See, class Done>
void five_of_52(std::uint64_t trials, See&& see, Done&& done) {
  constexpr int cards = 52, size = 5;
  std::uint16_t deck[cards];
  for (int i = 0; i < cards; ++i) deck[i] = static_cast<std::uint16_t>(i);
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
      see(card);
    }
    done();
#pragma GCC unroll 5
    for (int i = size - 1; i >= 0; --i) {
      const std::uint16_t card = deck[others[i]];
      deck[others[i]] = deck[i];
      deck[i] = card;
    }
  }
}

double draw5(std::uint64_t trials) {
  std::uint32_t counts[52] = {};
  five_of_52(trials, [&](std::uint16_t card) { ++counts[card]; }, [] {});
  return counts[0];
}

// Two aces or more, and three hearts or more: what a hand adds to, card by card, in one number.
double question5(std::uint64_t trials) {
  std::uint32_t counts[64] = {};
  std::uint8_t adds[52];
  for (int i = 0; i < 52; ++i) adds[i] = static_cast<std::uint8_t>((i % 13 == 12 ? 1 : 0) + (i / 13 == 1 ? 8 : 0));
  unsigned hand = 0;
  five_of_52(
      trials, [&](std::uint16_t card) { hand += adds[card]; }, [&] {
    ++counts[hand];
    hand = 0;
  });
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

// Everything that an audit of 52 cards counts. The first half of the trials teaches the guesser.
double battery52(std::uint64_t trials) {
  constexpr int n = 52;
  using Row = std::int16_t[n];
  struct Counts {
    std::uint32_t position[n * n] = {}, stayed[n + 1] = {}, together[n + 1] = {}, rising[n + 1] = {}, cycles[n + 1] = {},
        inverted[n * (n - 1) / 2 + 1] = {}, distance[n * n / 2 + 1] = {}, suit[n] = {}, rank[n] = {}, right[n + 1] = {},
        follows[n * n] = {};
    std::vector<std::uint32_t> start = std::vector<std::uint32_t>(n * n * n);
    std::uint64_t products = 0, broken = 0;
  };
  Counts c;
  std::vector<std::uint64_t> preferred(n * (n + 1));
  std::uint16_t deck[n];
  Row place = {}, previous = {}, suits, ranks, at, spliced_at, spliced_place;
  std::uint64_t state = 1;
  const auto next = [&state] { return mix(state += 0x9e3779b97f4a7c15ULL); };
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    for (int i = 0; i < n; ++i) deck[i] = static_cast<std::uint16_t>(i);
    settle_all<n, n, 0>(deck, c.position, next);
    std::uint64_t seen = 0;
    int inverted = 0, stayed = 0, together = 0, rising = 1, moved = 0, cycles = 0, suit = 0, rank = 0, products = 0;
    for (int i = 0; i < n; ++i) {
      const int card = deck[i];
      at[i] = static_cast<std::int16_t>(card);
      place[card] = static_cast<std::int16_t>(i);
      inverted += __builtin_popcountll(seen >> card);
      seen |= std::uint64_t{1} << card;
      suits[i] = static_cast<std::int16_t>(card / 13);
      ranks[i] = static_cast<std::int16_t>(card % 13);
    }
    c.broken += seen != (std::uint64_t{1} << n) - 1;
    for (int i = 0; i < n; ++i) {
      stayed += at[i] == i;
      moved += at[i] > i ? at[i] - i : i - at[i];
      products += place[i] * previous[i];
    }
    for (int i = 0; i + 1 < n; ++i) {
      together += at[i + 1] == at[i] + 1;
      rising += place[i + 1] < place[i];
      suit += suits[i] == suits[i + 1];
      rank += ranks[i] == ranks[i + 1];
    }
    std::memcpy(spliced_at, at, sizeof at);
    std::memcpy(spliced_place, place, sizeof place);
    for (int i = 0; i < n; ++i) {
      cycles += spliced_at[i] == i;
      spliced_at[spliced_place[i]] = spliced_at[i];
      spliced_place[spliced_at[i]] = spliced_place[i];
    }
    ++c.stayed[stayed], ++c.together[together], ++c.rising[rising], ++c.inverted[inverted], ++c.cycles[cycles];
    ++c.distance[moved], ++c.suit[suit], ++c.rank[rank], ++c.start[static_cast<std::size_t>((at[0] * n + at[1]) * n + at[2])];
    c.products += static_cast<std::uint64_t>(products);
    std::memcpy(previous, place, sizeof place);
    if (trial < trials / 2) {
      for (int i = 0; i + 1 < n; ++i) ++c.follows[at[i] * n + at[i + 1]];
      continue;
    }
    std::uint64_t unseen = (std::uint64_t{1} << n) - 1;
    int right = 0, row = n;
    for (int i = 0; i < n; ++i) {
      right += (preferred[static_cast<std::size_t>(row * n + at[i])] & unseen) == 0;
      unseen &= ~(std::uint64_t{1} << at[i]);
      row = at[i];
    }
    ++c.right[right];
  }
  return static_cast<double>(c.products) + c.position[0] + static_cast<double>(c.broken) + c.start[0] + c.right[0];
}

// Games of War: the higher card takes both, the winner's first; in a tie three go face down, or all but the last, and
// the next decides; a seat that has none left then has lost. Games of more than 5,000 rounds are broken off.
struct WarPile {
  std::uint8_t cards[64];
  unsigned head = 0, end = 0;
  unsigned size() const { return end - head; }
  std::uint8_t take() { return cards[head++ & 63]; }
  void put_under(std::uint8_t card) { cards[end++ & 63] = card; }
};

inline int war_rounds(WarPile& a, WarPile& b) {
  int rounds = 0;
  while (a.size() && b.size() && rounds < 5000) {
    ++rounds;
    std::uint8_t x = a.take(), y = b.take();
    if (x > y) {
      a.put_under(x), a.put_under(y);
    } else if (y > x) {
      b.put_under(y), b.put_under(x);
    } else {
      // What each laid, its face-up cards in the same layers as the other's.
      std::uint8_t of_a[64], of_b[64];
      bool has_a[64] = {}, has_b[64] = {};
      int layer = 0;
      of_a[0] = x, of_b[0] = y, has_a[0] = has_b[0] = true;
      while (x == y) {
        if (!a.size() || !b.size()) return rounds;
        const unsigned down_a = a.size() > 3 ? 3 : a.size() - 1, down_b = b.size() > 3 ? 3 : b.size() - 1;
        const unsigned down = down_a > down_b ? down_a : down_b;
        for (unsigned i = 1; i <= down_a; ++i) of_a[layer + static_cast<int>(i)] = a.take(), has_a[layer + static_cast<int>(i)] = true;
        for (unsigned i = 1; i <= down_b; ++i) of_b[layer + static_cast<int>(i)] = b.take(), has_b[layer + static_cast<int>(i)] = true;
        layer += static_cast<int>(down) + 1;
        x = of_a[layer] = a.take(), y = of_b[layer] = b.take();
        has_a[layer] = has_b[layer] = true;
      }
      for (int i = 0; i <= layer; ++i) {
        if (x > y) {
          if (has_a[i]) a.put_under(of_a[i]);
          if (has_b[i]) a.put_under(of_b[i]);
        } else {
          if (has_b[i]) b.put_under(of_b[i]);
          if (has_a[i]) b.put_under(of_a[i]);
        }
      }
    }
  }
  return rounds;
}

double war52(std::uint64_t trials) {
  std::vector<std::uint32_t> counts(5001);
  std::vector<std::uint32_t> unused(52 * 52);
  std::uint64_t state = 1;
  const auto next = [&state] { return mix(state += 0x9e3779b97f4a7c15ULL); };
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    std::uint16_t deck[52];
    for (int i = 0; i < 52; ++i) deck[i] = static_cast<std::uint16_t>(i);
    settle_all<52, 52, 0>(deck, unused.data(), next);
    WarPile a, b;
    for (int i = 0; i < 52; i += 2) {
      a.put_under(static_cast<std::uint8_t>(deck[i] % 13));
      b.put_under(static_cast<std::uint8_t>(deck[i + 1] % 13));
    }
    ++counts[static_cast<std::size_t>(war_rounds(a, b))];
  }
  return counts[100];
}

// Two cards of 52; the higher wins, a tie is the bank's.
double highcard52(std::uint64_t trials) {
  std::vector<std::uint32_t> counts(2);
  std::uint64_t state = 1;
  const auto next = [&state] { return mix(state += 0x9e3779b97f4a7c15ULL); };
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    const std::uint64_t word = next();
    const Wide first = static_cast<Wide>(word) * 52;
    const auto seat = static_cast<unsigned>(first >> 64);
    auto bank = static_cast<unsigned>(static_cast<Wide>(static_cast<std::uint64_t>(first)) * 51 >> 64);
    bank += bank >= seat;
    ++counts[seat % 13 > bank % 13];
  }
  return counts[1];
}

// Rounds of baccarat from a fresh shoe of eight packs; counts who wins.
double baccarat416(std::uint64_t trials) {
  std::vector<std::uint8_t> shoe(416);
  for (std::size_t i = 0; i < 416; ++i) shoe[i] = static_cast<std::uint8_t>(i % 13 < 9 ? i % 13 + 1 : 0);
  std::vector<std::uint32_t> counts(3);
  std::uint64_t state = 1;
  const auto next = [&state] { return mix(state += 0x9e3779b97f4a7c15ULL); };
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    std::uint64_t word = next();
    int cards[6];
    for (std::size_t i = 0; i < 6; ++i) {
      if (i == 3) word = next();
      const Wide scaled = static_cast<Wide>(word) * (416 - i);
      word = static_cast<std::uint64_t>(scaled);
      std::swap(shoe[i], shoe[i + static_cast<std::size_t>(scaled >> 64)]);
      cards[i] = shoe[i];
    }
    int player = (cards[0] + cards[2]) % 10, banker = (cards[1] + cards[3]) % 10;
    if (player < 8 && banker < 8) {
      if (player > 5) {
        if (banker < 6) banker = (banker + cards[4]) % 10;
      } else {
        const int third = cards[4];
        player = (player + third) % 10;
        const bool draws = banker < 3 || (banker == 3 && third != 8) || (banker == 4 && third > 1 && third < 8) ||
                           (banker == 5 && third > 3 && third < 8) || (banker == 6 && (third == 6 || third == 7));
        if (draws) banker = (banker + cards[5]) % 10;
      }
    }
    ++counts[player > banker ? 0 : player < banker ? 1 : 2];
  }
  return counts[1];
}

// Cards turned until an ace comes; counts how many.
double ace52(std::uint64_t trials) {
  std::vector<std::uint8_t> deck(52);
  for (std::size_t i = 0; i < 52; ++i) deck[i] = static_cast<std::uint8_t>(i % 13);
  std::vector<std::uint32_t> counts(53);
  std::uint64_t state = 1;
  const auto next = [&state] { return mix(state += 0x9e3779b97f4a7c15ULL); };
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    std::uint64_t word = 0;
    std::size_t turned = 0;
    do {
      if (turned % 8 == 0) word = next();
      const Wide scaled = static_cast<Wide>(word) * (52 - turned);
      word = static_cast<std::uint64_t>(scaled);
      std::swap(deck[turned], deck[turned + static_cast<std::size_t>(scaled >> 64)]);
    } while (deck[turned++] != 0);
    ++counts[turned];
  }
  return counts[1];
}

// Games of lift (inst/examples/lift.cpp) of two seats that go on to fifteen points; counts who wins and how many cards
// are turned.
double lift52(std::uint64_t trials) {
  std::vector<std::uint8_t> deck(52);
  for (std::size_t i = 0; i < 52; ++i) deck[i] = static_cast<std::uint8_t>(i % 13 + 1);
  std::vector<std::uint32_t> counts(3 * 53);
  std::uint64_t state = 1;
  const auto next = [&state] { return mix(state += 0x9e3779b97f4a7c15ULL); };
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    int points[2] = {0, 0}, in_turn = 0, seat = 0;
    std::size_t turned = 0;
    std::uint64_t word = 0;
    while (turned < 52 && points[0] < 30 && points[1] < 30) {
      if (turned % 8 == 0) word = next();
      const Wide scaled = static_cast<Wide>(word) * (52 - turned);
      word = static_cast<std::uint64_t>(scaled);
      std::swap(deck[turned], deck[turned + static_cast<std::size_t>(scaled >> 64)]);
      const int rank = deck[turned++];
      in_turn += rank;
      if (rank < 11 && in_turn < 15 && points[seat] + in_turn < 30 && turned < 52) continue;
      points[seat] += rank < 11 ? in_turn : 0;
      seat = 1 - seat;
      in_turn = 0;
    }
    ++counts[(points[0] > points[1] ? 0 : points[0] < points[1] ? 1 : 2) * 53 + turned];
  }
  return counts[20];
}

// The best play of a pay table from 52 cards, as often as there are trials: all hands by their sets of cards, then each
// hand once for all that differ in the names of suits. Cards are rank * 4 + suit.
class BareMachine {
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

double machine52(std::uint64_t trials) {
  double sum = 0;
  for (std::uint64_t trial = 0; trial < trials; ++trial) sum += BareMachine().solve();
  return sum;
}

// Pairs on a table of 30 by two seats that remember all; counts the turns.
double pairs30(std::uint64_t trials) {
  std::vector<std::uint32_t> counts(200), unused(30 * 30);
  std::uint64_t state = 1;
  const auto next = [&state] { return mix(state += 0x9e3779b97f4a7c15ULL); };
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    std::uint16_t deck[30];
    for (int i = 0; i < 30; ++i) deck[i] = static_cast<std::uint16_t>(i);
    settle_all<30, 30, 0>(deck, unused.data(), next);
    int turns = 0, known_pairs = 0, unseen = 0;
    bool seen[15] = {};
    const auto is_mate = [&](int place) {
      const int pair = deck[place] / 2;
      const bool known = seen[pair];
      seen[pair] = true;
      return known;
    };
    // All that one of them turns both know, so that only the number of known pairs matters besides what is unseen.
    while (unseen < 30 || known_pairs > 0) {
      ++turns;
      if (known_pairs > 0) {
        --known_pairs;
        continue;
      }
      if (is_mate(unseen++) || unseen == 30) continue;
      const int first = deck[unseen - 1] / 2;
      const int second = deck[unseen] / 2;
      const bool known = is_mate(unseen++);
      if (second != first) known_pairs += known;
    }
    ++counts[static_cast<std::size_t>(turns)];
  }
  return counts[25];
}

// Blackjack from a fresh shoe of six packs, one seat by a table; the dealer stands on 17 and looks for a natural;
// doubling any two cards, after splits too, splits to four hands, one card for split aces. Counts results by net.
class Blackjack312 {
 public:
  Blackjack312() : counts_(64) {
    for (int card = 0; card < 312; ++card) {
      const int rank = card % 13;
      shoe_[card] = static_cast<std::uint8_t>(rank < 9 ? rank + 1 : 10);
    }
    const char* hard = "HHHHHHHHHH" "HHHHHHHHHH" "HHHHHHHHHH" "HHHHHHHHHH" "HDDDDHHHHH" "DDDDDDDDHH" "DDDDDDDDDH"
                       "HHSSSHHHHH" "SSSSSHHHHH" "SSSSSHHHHH" "SSSSSHHHHH" "SSSSSHHHHH";
    const char* soft = "HHHDDHHHHH" "HHHDDHHHHH" "HHDDDHHHHH" "HHDDDHHHHH" "HDDDDHHHHH" "SddddSSHHH";
    const char* pair = "PPPPPPPPPP" "PPPPPPHHHH" "PPPPPPHHHH" "HHHPPHHHHH" "DDDDDDDDHH" "PPPPPHHHHH" "PPPPPPHHHH"
                       "PPPPPPPPPP" "PPPPPSPPSS" "SSSSSSSSSS";
    for (int total = 0; total < 22; ++total)
      for (int up = 1; up <= 10; ++up) {
        const int column = up == 1 ? 9 : up - 2;
        hard_[total][up] = total < 5 ? 'H' : total > 16 ? 'S' : hard[(total - 5) * 10 + column];
        soft_[total][up] = total < 13 ? 'H' : total > 18 ? 'S' : soft[(total - 13) * 10 + column];
        if (total >= 1 && total <= 10) pair_[total][up] = pair[(total - 1) * 10 + column];
      }
  }

  double play(std::uint64_t trials) {
    for (std::uint64_t trial = 0; trial < trials; ++trial) {
      ++counts_[round() + 32];
      put_back();
    }
    return counts_[32];
  }

  // Whole shoes to the 234th card, every card counted; adds up results by the true count, times a bet that it sets.
  double play_shoes(std::uint64_t trials) {
    double won = 0;
    for (std::uint64_t trial = 0; trial < trials; ++trial) {
      int running = 0, counted = 0;
      while (dealt_ < 234) {
        const int above = 52 * running, left = 312 - dealt_;
        const int level = above / left - (above % left != 0 && above < 0);
        const int bet = level < 1 ? 1 : level < 2 ? 2 : level < 3 ? 4 : 8;
        const int net = round();
        by_count_[level < -15 ? 0 : level > 15 ? 30 : level + 15] += net;
        won += bet * net;
        for (; counted < dealt_; ++counted)
          running += shoe_[counted] == 1 || shoe_[counted] == 10 ? -1 : shoe_[counted] < 7 ? 1 : 0;
      }
      put_back();
    }
    return won + by_count_[15];
  }

 private:
  struct Hand {
    int points, cards, bet;
    bool ace, from_split, of_aces;
    int first;
  };

  int draw() {
    if (dealt_ == ready_) settle();
    return shoe_[dealt_++];
  }
  // Six more cards out of one word, remembered so that they can be put back.
  void settle() {
    std::uint64_t word = mix(state_ += 0x9e3779b97f4a7c15ULL);
    for (int i = 0; i < 6; ++i) {
      const Wide both = static_cast<Wide>(word) * static_cast<std::uint64_t>(312 - ready_);
      word = static_cast<std::uint64_t>(both);
      const int other = ready_ + static_cast<int>(both >> 64);
      std::swap(shoe_[ready_], shoe_[other]);
      swapped_[ready_++] = static_cast<std::uint16_t>(other);
    }
  }
  void put_back() {
    while (ready_ > 0) {
      --ready_;
      std::swap(shoe_[ready_], shoe_[swapped_[ready_]]);
    }
    dealt_ = 0;
  }

  static void add(Hand& hand, int card) {
    hand.points += card;
    hand.ace |= card == 1;
    ++hand.cards;
  }
  static int total(const Hand& hand) { return hand.points + (hand.ace && hand.points <= 11 ? 10 : 0); }

  // The net result, in half stakes.
  int round() {
    const int one = draw(), up = draw(), two = draw(), hole = draw();
    const bool natural = one + two == 11 && (one == 1 || two == 1);
    int net;
    if (up + hole == 11 && (up == 1 || hole == 1)) net = natural ? 0 : -2;
    else if (natural) net = 3;
    else net = play_out({one + two, 2, 1, one == 1 || two == 1, false, false, one}, one == two, up, hole);
    return net;
  }

  int play_out(const Hand& first, bool pair, int up, int hole) {
    hands_[0] = first;
    count_ = 1;
    bool live = false;
    for (int at = 0; at < count_; ++at) live |= play_hand(at, at == 0 && pair, up);
    Hand dealer{up + hole, 2, 0, up == 1 || hole == 1, false, false, up};
    if (live)
      while (total(dealer) < 17) add(dealer, draw());
    const int theirs = total(dealer);
    int net = 0;
    for (int at = 0; at < count_; ++at) {
      const Hand& hand = hands_[at];
      const int mine = total(hand);
      if (mine > 21) net -= 2 * hand.bet;
      else if (theirs > 21 || mine > theirs) net += 2 * hand.bet;
      else if (mine < theirs) net -= 2 * hand.bet;
    }
    return net;
  }

  bool play_hand(int at, bool pair, int up) {
    Hand& hand = hands_[at];
    for (;;) {
      if (hand.cards == 1) {
        const int card = draw();
        pair = card == hand.first;
        add(hand, card);
        if (hand.of_aces) return true;
      }
      const int now = total(hand);
      if (now > 21) return false;
      char entry = pair && hand.cards == 2 && count_ < 4 ? pair_[hand.first][up]
                   : now != hand.points                 ? soft_[now][up]
                                                        : hard_[now][up];
      if (entry == 'P') {
        hand = {hand.first, 1, 1, hand.first == 1, true, hand.first == 1, hand.first};
        for (int i = count_; i > at + 1; --i) hands_[i] = hands_[i - 1];
        hands_[at + 1] = hand;
        ++count_;
        continue;
      }
      if (hand.cards > 2) entry = entry == 'D' ? 'H' : entry == 'd' ? 'S' : entry;
      if (entry == 'S') return true;
      add(hand, draw());
      if (entry == 'H') continue;
      hand.bet = 2;
      return hand.points <= 21;
    }
  }

  std::vector<std::uint32_t> counts_;
  double by_count_[31] = {};
  std::uint8_t shoe_[312];
  std::uint16_t swapped_[312];
  char hard_[22][11], soft_[22][11], pair_[11][11];
  Hand hands_[4];
  int count_ = 0, dealt_ = 0, ready_ = 0;
  std::uint64_t state_ = 1;
};

double blackjack312(std::uint64_t trials) {
  Blackjack312 table;
  return table.play(trials);
}
double shoes312(std::uint64_t trials) {
  Blackjack312 table;
  return table.play_shoes(trials);
}

using Job = double (*)(std::uint64_t);

Job find_job(const std::string& name) {
  if (name == "positions52") return positions52<52, 52>;
  if (name == "positions312") return positions_large<312, 52>;
  if (name == "positions2000") return positions_large<2000, 50>;
  if (name == "draw5") return draw5;
  if (name == "question5") return question5;
  if (name == "war52") return war52;
  if (name == "highcard52") return highcard52;
  if (name == "baccarat416") return baccarat416;
  if (name == "machine52") return machine52;
  if (name == "ace52") return ace52;
  if (name == "lift52") return lift52;
  if (name == "blackjack312") return blackjack312;
  if (name == "shoes312") return shoes312;
  if (name == "pairs30") return pairs30;
  if (name == "riffle52") return riffle52;
  if (name == "naive52") return naive52;
  if (name == "battery52") return battery52;
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
