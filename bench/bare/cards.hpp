#pragma once

// Draws and shuffles, and what is counted of them.
#include "deals.hpp"

namespace bare {

// Shuffle, and count each kind of card at each place.
template <int Cards, int Kinds>
void positions(std::uint64_t first, std::uint64_t end, Tally& counts) {
  std::uint16_t fresh[Cards], deck[Cards];
  for (int i = 0; i < Cards; ++i) fresh[i] = static_cast<std::uint16_t>(i % Kinds);
  for (std::uint64_t trial = first; trial < end; ++trial) {
    std::memcpy(deck, fresh, sizeof deck);
    Words next(trial);
    settle_all<Cards, 0>(deck, next, [&](int place, int card) {
      ++counts[static_cast<std::size_t>(place * Kinds + card)];
    });
  }
}

// For large decks: the same with the sizes in a loop, one word for each few choices. Card i is of the kind
// `kind_of(i)`.
template <int Cards, int Kinds, class KindOf>
void positions_large(std::uint64_t first, std::uint64_t end, Tally& counts, KindOf&& kind_of) {
  std::vector<std::uint16_t> fresh(Cards), deck(Cards);
  for (int i = 0; i < Cards; ++i) fresh[static_cast<std::size_t>(i)] = static_cast<std::uint16_t>(kind_of(i));
  struct Batch { int from, to; std::uint64_t product, bound; };
  std::vector<Batch> batches;
  for (int from = 0; from < Cards - 1; from = batch_end(Cards, from)) {
    const std::uint64_t product = batch_product(Cards, from, batch_end(Cards, from));
    batches.push_back({from, batch_end(Cards, from), product, (0 - product) % product});
  }
  for (std::uint64_t trial = first; trial < end; ++trial) {
    std::memcpy(deck.data(), fresh.data(), Cards * sizeof(std::uint16_t));
    Words next(trial);
    for (const Batch& batch : batches) {
      std::uint64_t word = even_word(next, batch.product, batch.bound);
      for (int i = batch.from; i < batch.to; ++i) {
        const int other = i + static_cast<int>(take(word, static_cast<std::uint64_t>(Cards - i)));
        const std::uint16_t card = deck[static_cast<std::size_t>(other)];
        deck[static_cast<std::size_t>(other)] = deck[static_cast<std::size_t>(i)];
        deck[static_cast<std::size_t>(i)] = card;
        ++counts[static_cast<std::size_t>(i) * Kinds + card];
      }
    }
    ++counts[static_cast<std::size_t>(Cards - 1) * Kinds + deck[Cards - 1]];
  }
}

// Draws five of 52 cards, which are swapped back, and hands each to see(card); after each draw, done().
template <class See, class Done>
void five_of_52(std::uint64_t first, std::uint64_t end, See&& see, Done&& done) {
  constexpr int cards = 52, size = 5;
  std::uint16_t deck[cards];
  for (int i = 0; i < cards; ++i) deck[i] = static_cast<std::uint16_t>(i);
  constexpr std::uint64_t product = batch_product(cards, 0, batch_end(cards, 0));
  for (std::uint64_t trial = first; trial < end; ++trial) {
    Words next(trial);
    std::uint64_t word = even_word(next, product, (0 - product) % product);
    int others[size];
#pragma GCC unroll 5
    for (int i = 0; i < size; ++i) {
      const int other = others[i] = i + static_cast<int>(take(word, static_cast<std::uint64_t>(cards - i)));
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

// Counts the cards of five.
inline void draw5(std::uint64_t first, std::uint64_t end, Tally& counts) {
  five_of_52(first, end, [&](std::uint16_t card) { ++counts[card]; }, [] {});
}

// Two aces or more, and three hearts or more: what a hand adds to, card by card, in one number.
inline void question5(std::uint64_t first, std::uint64_t end, Tally& counts) {
  std::uint8_t adds[52];
  for (int i = 0; i < 52; ++i) adds[i] = static_cast<std::uint8_t>((rank_of(i) == ace ? 1 : 0) + (i / 13 == 1 ? 8 : 0));
  unsigned hand = 0;
  Tally sums(64);
  five_of_52(
      first, end, [&](std::uint16_t card) { hand += adds[card]; }, [&] {
    ++sums[hand];
    hand = 0;
  });
  for (std::size_t sum = 0; sum < 64; ++sum) counts[2 * (sum % 8 >= 2) + (sum / 8 >= 3)] += sums[sum];
}

// A riffle of 52: the bits of two random words say which packet each card comes from.
inline void riffle52(std::uint64_t first, std::uint64_t end, Tally& counts) {
  constexpr int cards = 52;
  for (std::uint64_t trial = first; trial < end; ++trial) {
    Words word(trial);
    std::uint64_t coins = word() >> 32;
    coins |= word() >> 44 << 32;
    std::uint32_t next[2] = {0, static_cast<std::uint32_t>(cards - __builtin_popcountll(coins))};
    for (int i = 0; i < cards; ++i) {
      const std::uint32_t card = next[(coins >> i) & 1]++;
      ++counts[static_cast<std::size_t>(i) * cards + card];
    }
  }
}

// The naive swap: each place with any of 52, a word for each choice.
inline void naive52(std::uint64_t first, std::uint64_t end, Tally& counts) {
  constexpr int cards = 52;
  std::uint16_t fresh[cards], deck[cards];
  for (int i = 0; i < cards; ++i) fresh[i] = static_cast<std::uint16_t>(i);
  for (std::uint64_t trial = first; trial < end; ++trial) {
    std::memcpy(deck, fresh, sizeof deck);
    Words next(trial);
    for (int i = 0; i < cards; ++i) {
      std::uint64_t word = even_word(next, cards, (0 - std::uint64_t{cards}) % cards);
      const auto other = static_cast<int>(take(word, cards));
      const std::uint16_t card = deck[other];
      deck[other] = deck[i];
      deck[i] = card;
    }
    for (int i = 0; i < cards; ++i) ++counts[static_cast<std::size_t>(i) * cards + deck[i]];
  }
}

// A guesser of 52 cards that has seen how often each card came after each: of each card after each (or first) those
// that it names before it, as bits. Of cards that came as often the first of the deck is named first.
inline std::vector<std::uint64_t> named_before(const std::uint32_t* follows, const std::uint32_t* came_first) {
  constexpr int n = 52;
  std::vector<std::uint64_t> before(n * (n + 1));
  for (int row = 0; row <= n; ++row) {
    const std::uint32_t* came = row < n ? follows + row * n : came_first;
    for (int card = 0; card < n; ++card)
      for (int other = 0; other < n; ++other)
        if (came[other] > came[card] || (came[other] == came[card] && other < card))
          before[static_cast<std::size_t>(row * n + card)] |= std::uint64_t{1} << other;
  }
  return before;
}

// Everything that an audit of 52 cards counts, one table after the other. The first half of the trials teaches the
// guesser.
inline void battery52(std::uint64_t first, std::uint64_t end, Tally& counts) {
  constexpr int n = 52;
  using Row = std::int16_t[n];
  std::uint32_t* table = counts.data();
  const auto next_table = [&table](int size) {
    std::uint32_t* const mine = table;
    table += size;
    return mine;
  };
  std::uint32_t *const position = next_table(n * n), *const stayed_put = next_table(n + 1),
                *const together_still = next_table(n + 1), *const rising_sequences = next_table(n + 1),
                *const inversions = next_table(n * (n - 1) / 2 + 1), *const cycles_found = next_table(n + 1),
                *const distance = next_table(n * n / 2 + 1), *const top_cards = next_table(n * n * n),
                *const right_guesses = next_table(n + 1), *const follows = next_table(n * n),
                *const first_cards = next_table(n), *const of_suit = next_table(n), *const of_rank = next_table(n),
                *const rest = next_table(2);
  std::vector<std::uint64_t> before;
  std::uint16_t deck[n];
  Row place = {}, previous = {}, suits, ranks, at, spliced_at, spliced_place;
  for (std::uint64_t trial = first; trial < end; ++trial) {
    for (int i = 0; i < n; ++i) deck[i] = static_cast<std::uint16_t>(i);
    Words next(trial);
    settle_all<n, 0>(deck, next, [&](int i, int card) { ++position[i * n + card]; });
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
    ++stayed_put[stayed], ++together_still[together], ++rising_sequences[rising], ++inversions[inverted];
    ++cycles_found[cycles], ++distance[moved], ++of_suit[suit], ++of_rank[rank];
    ++top_cards[(at[0] * n + at[1]) * n + at[2]];
    rest[0] += static_cast<std::uint32_t>(products);
    rest[1] += seen != (std::uint64_t{1} << n) - 1;
    std::memcpy(previous, place, sizeof place);
    if (trial - first < (end - first) / 2) {
      for (int i = 0; i + 1 < n; ++i) ++follows[at[i] * n + at[i + 1]];
      ++first_cards[at[0]];
      continue;
    }
    if (before.empty()) before = named_before(follows, first_cards);
    std::uint64_t unseen = (std::uint64_t{1} << n) - 1;
    int right = 0, row = n;
    for (int i = 0; i < n; ++i) {
      right += (before[static_cast<std::size_t>(row * n + at[i])] & unseen) == 0;
      unseen &= ~(std::uint64_t{1} << at[i]);
      row = at[i];
    }
    ++right_guesses[right];
  }
}
inline constexpr std::size_t battery_size =
    52 * 52 + 3 * 53 + (52 * 51 / 2 + 1) + 53 + (52 * 26 + 1) + 52 * 52 * 52 + 53 + 52 * 52 + 3 * 52 + 2;

}  // namespace bare
