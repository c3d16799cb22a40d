#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <numeric>
#include <vector>

#include "habanera/shuffle/audit.hpp"
#include "habanera/shuffle/distance_law.hpp"
#include "habanera/shuffle/repeats.hpp"

using namespace habanera;

namespace {

using Cards = std::vector<Card>;

Cards in_order(std::size_t n) {
  Cards cards(n);
  std::iota(cards.begin(), cards.end(), Card{0});
  return cards;
}

Cards shuffled(std::size_t n, std::uint64_t trial) {
  Cards cards = in_order(n);
  RandomChance chance(7, trial);
  Silent silent;
  const UniformShuffle fair(n);
  fair(Pile{cards.data(), n}, n, chance, silent);
  return cards;
}

// What the statistics are, counted pair by pair and card by card.
struct Slowly {
  std::uint64_t stayed = 0, together = 0, rising = 0, inversions = 0, cycles = 0, distance = 0;
  explicit Slowly(const Cards& cards) {
    const std::size_t n = cards.size();
    std::vector<std::size_t> place(n);
    for (std::size_t i = 0; i < n; ++i) place[cards[i]] = i;
    rising = n > 0 ? 1 : 0;
    for (std::size_t i = 0; i < n; ++i) {
      stayed += cards[i] == i;
      distance += static_cast<std::uint64_t>(std::abs(static_cast<int>(cards[i]) - static_cast<int>(i)));
      if (i + 1 < n) together += cards[i + 1] == cards[i] + 1;
      if (i + 1 < n) rising += place[i + 1] < place[i];
      for (std::size_t j = i + 1; j < n; ++j) inversions += cards[i] > cards[j];
    }
    std::vector<bool> seen(n);
    for (std::size_t i = 0; i < n; ++i)
      if (!seen[i]) {
        ++cycles;
        for (std::size_t j = i; !seen[j]; j = cards[j]) seen[j] = true;
      }
  }
};

void check_statistics(const Cards& cards) {
  Standing standing(cards.size());
  REQUIRE(standing.read(cards.data()));
  const Slowly slowly(cards);
  CHECK(standing.stayed_put() == slowly.stayed);
  CHECK(standing.still_together() == slowly.together);
  CHECK(standing.rising_sequences() == slowly.rising);
  CHECK(standing.inversions() == slowly.inversions);
  CHECK(standing.cycles() == slowly.cycles);
  CHECK(standing.total_distance() == slowly.distance);
}

BatterySpec whole_deck(std::size_t n) {
  return BatterySpec{std::vector<std::size_t>(n, 1), n, std::min<std::size_t>(n, 2), {}, {}};
}

}  // namespace

TEST_CASE("statistics of an arrangement agree with counting them slowly") {
  for (std::size_t n = 0; n <= 6; ++n) {
    Cards cards = in_order(n);
    do check_statistics(cards);
    while (std::next_permutation(cards.begin(), cards.end()));
  }
  for (const std::size_t n : {7u, 8u, 9u, 52u, 64u, 65u, 513u, 4096u})
    for (std::uint64_t trial = 1; trial <= 3; ++trial) check_statistics(shuffled(n, trial));
  Cards backwards = in_order(4096);
  std::reverse(backwards.begin(), backwards.end());
  check_statistics(backwards);
}

TEST_CASE("what is no rearrangement is noticed") {
  Standing standing(9);
  Cards cards = in_order(9);
  CHECK(standing.read(cards.data()));
  cards[3] = 4;
  CHECK_FALSE(standing.read(cards.data()));
  cards[3] = 9;
  CHECK_FALSE(standing.read(cards.data()));
}

TEST_CASE("the guesser names the best card that it has not seen, whatever the size of the deck") {
  for (const std::size_t n : {1u, 5u, 52u, 64u, 65u, 100u}) {
    Cards ranking;
    for (std::size_t row = 0; row <= n; ++row) {
      const Cards one = shuffled(n, 100 + row);
      ranking.insert(ranking.end(), one.begin(), one.end());
    }
    Guesser guesser(n, ranking);
    for (std::uint64_t trial = 1; trial <= 20; ++trial) {
      const Cards cards = shuffled(n, trial);
      std::size_t right = 0, row = n;
      std::vector<bool> seen(n);
      for (const Card card : cards) {
        const auto named = std::find_if(ranking.begin() + static_cast<std::ptrdiff_t>(row * n), ranking.end(),
                                        [&](Card c) { return !seen[c]; });
        right += *named == card;
        seen[card] = true;
        row = card;
      }
      CHECK(guesser.right_guesses(cards.data()) == right);
    }
  }
  CHECK_THROWS_AS(Guesser(3, Cards(3)), std::invalid_argument);
}

TEST_CASE("the law of the total distance: hand-counted for 3 and 4 cards, walked for 7") {
  const auto in_ways = [](std::size_t n) {
    std::vector<double> ways;
    double all = 1;
    for (std::size_t i = 2; i <= n; ++i) all *= static_cast<double>(i);
    for (const double chance : distance_law(n)) ways.push_back(std::round(chance * all * 1e6) / 1e6);
    return ways;
  };
  CHECK(in_ways(3) == std::vector<double>{1, 2, 3});
  CHECK(in_ways(4) == std::vector<double>{1, 3, 7, 9, 4});
  std::vector<double> walked(13);
  Cards cards = in_order(7);
  do walked[Slowly(cards).distance / 2] += 1;
  while (std::next_permutation(cards.begin(), cards.end()));
  CHECK(in_ways(7) == walked);
}

TEST_CASE("every arrangement of four cards, counted as rows") {
  std::vector<int> rows;
  Cards cards = in_order(4);
  std::vector<Cards> all;
  do all.push_back(cards);
  while (std::next_permutation(cards.begin(), cards.end()));
  for (std::size_t i = 0; i < 4; ++i)
    for (const Cards& one : all) rows.push_back(one[i] + 1);
  BatterySpec spec = whole_deck(4);
  spec.alike = {{{0, 0, 1, 1}, 0}, {{0, 0, 1, 1}, 2}};  // in a row, and two by two
  const Battery battery = audit(spec, RowsSource(rows.data(), 24, 4), 1, 24, 1);
  const auto counts = [](const Tally& tally) {
    std::vector<std::uint32_t> n;
    for (std::size_t i = 0; i < tally.size(); ++i) n.push_back(tally.count(i));
    return n;
  };
  CHECK(counts(battery.table(Battery::stayed)) == std::vector<std::uint32_t>{9, 8, 6, 0, 1});
  CHECK(counts(battery.table(Battery::together)) == std::vector<std::uint32_t>{11, 9, 3, 1, 0});
  CHECK(counts(battery.table(Battery::rising)) == std::vector<std::uint32_t>{0, 1, 11, 11, 1});
  CHECK(counts(battery.table(Battery::inverted)) == std::vector<std::uint32_t>{1, 3, 5, 6, 5, 3, 1});
  CHECK(counts(battery.table(Battery::cycles)) == std::vector<std::uint32_t>{0, 6, 11, 6, 1});
  CHECK(counts(battery.table(Battery::position)) == std::vector<std::uint32_t>(16, 6));
  // aabb and its like: 2 pairs in 8 of 24, one (abba) in 8, none (abab) in 8; in a square 2, 2, 0.
  CHECK(counts(battery.alike()[0]) == std::vector<std::uint32_t>{8, 8, 8, 0, 0, 0, 0, 0, 0});
  CHECK(counts(battery.alike()[1]) == std::vector<std::uint32_t>{8, 0, 16, 0, 0, 0, 0, 0, 0});
  CHECK(battery.pairs() == 23);
  const Repeats none = find_repeats(RowsSource(rows.data(), 24, 4), 4, 24);
  CHECK(none.pairs == 0);
}

TEST_CASE("lost and doubled cards are counted apart, with the first trial") {
  // Rows: in order; 2 doubled and 3 lost; an empty place instead of 1.
  const std::vector<int> rows{1, 1, 0, 2, 2, 2, 3, 2, 3};
  const Battery battery = audit(whole_deck(3), RowsSource(rows.data(), 3, 3), 1, 3, 1);
  CHECK(battery.table(Battery::broken).count(0) == 2);
  CHECK(battery.table(Battery::broken).example(0) == 2);
  CHECK(battery.table(Battery::doubled).count(1) == 1);
  CHECK(battery.table(Battery::lost).count(2) == 1);
  CHECK(battery.table(Battery::lost).count(0) == 1);
  CHECK(battery.table(Battery::lost).example(0) == 3);
  CHECK(battery.table(Battery::stayed).count(3) == 1);
  BatterySpec copies{{2, 1}, 3, 0, {}, {}};
  const std::vector<int> kinds{1, 1, 1, 1, 2, 1, 1, 2, 2};
  const Battery by_kind = audit(copies, RowsSource(kinds.data(), 3, 3), 1, 3, 1);
  CHECK(by_kind.table(Battery::broken).count(0) == 2);  // 111 and 122, of a deck 112
  CHECK(by_kind.table(Battery::position).count(0) == 1);
}

TEST_CASE("repeated rows are found, with the first that repeats") {
  const std::vector<int> rows{2, 1, 1, 2, 1, 1, 2, 2, 1, 2};  // 21, 12, 12, 21, 12
  const Repeats found = find_repeats(RowsSource(rows.data(), 5, 2), 2, 5);
  CHECK(found.pairs == 4);
  CHECK(found.again == 3);
  CHECK(found.before == 2);
}

TEST_CASE("counts do not depend on threads or laps, fresh or in chains") {
  const Procedure riffle({FairRiffle{}});
  const BatterySpec spec = whole_deck(20);
  for (const std::uint64_t chain : {1u, 1000u}) {
    const ProcedureSource source(riffle, 20, 3, 1, chain);
    const Battery one = audit(spec, source, 1, 9000, 1), two = audit(spec, source, 1, 9000, 2);
    Battery laps = audit(spec, source, 1, 4000, 1);
    laps.merge(audit(spec, source, 4001, 5000, 2));
    for (const Battery* other : {&two, static_cast<const Battery*>(&laps)}) {
      CHECK(one.products() == other->products());
      CHECK(one.pairs() == (chain == 1 ? 8999 : 8991));
      CHECK(one.pairs() == other->pairs());
      CHECK(one.follows() == other->follows());
      bool same = true;
      for (std::size_t i = 0; i < one.table(Battery::position).size(); ++i)
        same = same && one.table(Battery::position).count(i) == other->table(Battery::position).count(i) &&
               one.table(Battery::position).example(i) == other->table(Battery::position).example(i);
      CHECK(same);
    }
  }
}
