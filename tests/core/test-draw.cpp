#include <doctest/doctest.h>

#include <atomic>
#include <cmath>
#include <cstdint>
#include <stdexcept>
#include <thread>
#include <vector>

#include "habanera/draw/counting.hpp"
#include "habanera/draw/enumerating.hpp"

using namespace habanera;

namespace {

std::vector<Card> deck_of(std::size_t cards, std::size_t kinds) {
  std::vector<Card> deck;
  for (std::size_t i = 0; i < cards; ++i) deck.push_back(static_cast<Card>(i % kinds));
  return deck;
}

std::vector<Card> one_draw(const Draw& draw, std::uint64_t seed, std::uint64_t trial) {
  RandomChance chance(seed, trial);
  Silent silent;
  std::vector<Card> table = draw.fresh_table();
  Workspace work;
  draw(table, work, chance, silent);
  table.resize(draw.spec().size);
  return table;
}

struct Slow {
  std::vector<std::uint64_t> counts, examples, pairs;
};

// The same counts, slowly: one trial after another, looked at one card at a time.
Slow count_slowly(const Draw& draw, std::size_t kinds, bool by_position, std::uint64_t seed,
                  std::uint64_t first, std::uint64_t count) {
  const std::size_t size = draw.spec().size;
  const std::size_t cells = by_position ? kinds * size : kinds;
  Slow slow{std::vector<std::uint64_t>(cells), std::vector<std::uint64_t>(cells, Tally::never),
            std::vector<std::uint64_t>(kinds)};
  for (std::uint64_t trial = first; trial < first + count; ++trial) {
    const std::vector<Card> drawn = one_draw(draw, seed, trial);
    for (std::size_t i = 0; i < size; ++i) {
      const std::size_t cell = (by_position ? i * kinds : 0) + drawn[i];
      ++slow.counts[cell];
      slow.examples[cell] = std::min(slow.examples[cell], trial);
      for (std::size_t j = 0; j < i; ++j)
        if (drawn[j] == drawn[i]) ++slow.pairs[drawn[i]];
    }
  }
  return slow;
}

template <Cells cells>
void check_against_slow(const Draw& draw, std::size_t kinds, std::uint64_t count) {
  const Slow slow = count_slowly(draw, kinds, cells == Cells::kind_and_position, 9, 5, count);
  // Without pairs other, faster loops run: they must give the same.
  for (const bool pairs : {true, false}) {
    for (const unsigned threads : {1u, 2u, 3u}) {
      const auto fast = count_draws<cells>(draw, kinds, pairs, 9, 5, count, threads);
      bool same = !pairs || fast.pairs() == slow.pairs;
      for (std::size_t i = 0; i < slow.counts.size(); ++i)
        same = same && fast.tally().count(i) == slow.counts[i] &&
               fast.tally().example(i) == slow.examples[i];
      CHECK(same);
    }
  }
}

}  // namespace

TEST_CASE("fast counting on any number of threads equals slow counting, trial by trial") {
  struct Case {
    std::size_t cards, kinds, size;
    bool replace;
  };
  const std::vector<Case> cases{{52, 52, 5, false},  {104, 52, 3, false}, {104, 52, 104, false},
                                {20, 7, 19, false},  {6, 6, 4, true},     {1, 1, 1, false},
                                {2, 2, 1, false},    {3, 3, 0, false},    {0, 1, 0, false},
                                {52, 52, 7, false},  {8, 8, 7, false},   {8, 8, 1, false},
                                {200, 200, 2, false}};
  for (const Case& c : cases) {
    CAPTURE(c.cards);
    const Draw draw({deck_of(c.cards, c.kinds), c.size, c.replace});
    check_against_slow<Cells::kind>(draw, c.kinds, 7000);
    check_against_slow<Cells::kind_and_position>(draw, c.kinds, 3000);
  }
}

TEST_CASE("a draw is the top of the whole shuffle with the same address") {
  const Draw five({deck_of(52, 52), 5, false}), all({deck_of(52, 52), 52, false});
  for (std::uint64_t trial = 1; trial <= 20; ++trial) {
    std::vector<Card> top = one_draw(all, 4, trial);
    top.resize(5);
    CHECK(one_draw(five, 4, trial) == top);
  }
}

TEST_CASE("walking every path gives each kind its share of each position") {
  for (const bool replace : {false, true}) {
    // Kinds 0, 1, 0, 1, 0: three and two copies of five.
    const std::vector<double> expected = walk_draws(Draw({deck_of(5, 2), 3, replace}), 2, 1000);
    for (std::size_t position = 0; position < 3; ++position) {
      CHECK(expected[position * 2] == doctest::Approx(0.6).epsilon(1e-14));
      CHECK(expected[position * 2 + 1] == doctest::Approx(0.4).epsilon(1e-14));
    }
  }
  CHECK_THROWS_AS(walk_draws(Draw({deck_of(10, 10), 10, false}), 10, 1000), std::length_error);
}

TEST_CASE("simulation keeps to the enumerated law") {
  const Draw draw({deck_of(6, 4), 3, false});
  const std::vector<double> law = walk_draws(draw, 4, 1000);
  const double trials = 60000;
  const auto counted = count_draws<Cells::kind_and_position>(draw, 4, false, 8, 1, 60000, 2);
  for (std::size_t i = 0; i < law.size(); ++i)
    CHECK(std::abs(counted.tally().count(i) - trials * law[i]) <=
          4 * std::sqrt(trials * law[i] * (1 - law[i])));
}

TEST_CASE("impossible draws and laps are refused with the numbers in the words") {
  CHECK_THROWS_WITH_AS(Draw({deck_of(3, 3), 4, false}), "cannot draw 4 of 3 cards",
                       std::invalid_argument);
  CHECK_THROWS_AS(Draw({{}, 1, true}), std::invalid_argument);
  CHECK_THROWS_AS(Draw({std::vector<Card>(65536), 1, false}), std::invalid_argument);
  const Draw draw({deck_of(52, 52), 52, false});
  CHECK_THROWS_AS(count_draws<Cells::kind>(draw, 52, false, 1, 1, 1ULL << 32, 1),
                  std::invalid_argument);
}

TEST_CASE("a failure in a worker stops all threads and reaches the caller") {
  struct Failing {
    void run(std::uint64_t begin, std::uint64_t) {
      if (begin > 5000) throw std::runtime_error("trial went wrong");
    }
    void merge(const Failing&) {}
  };
  CHECK_THROWS_WITH(run_blocks(1, 100000, 2, [] { return Failing(); }), "trial went wrong");
}

TEST_CASE("a failure in merging reaches the caller, and a worker that cannot be made is told") {
  struct Unmerged {
    void run(std::uint64_t, std::uint64_t) {}
    void merge(const Unmerged&) { throw std::length_error("too many outcomes"); }
  };
  CHECK_THROWS_WITH(run_blocks(1, 100000, 3, [] { return Unmerged(); }), "too many outcomes");
  struct Counter {
    std::uint64_t trials = 0;
    void run(std::uint64_t begin, std::uint64_t end) { trials += end - begin; }
    void merge(const Counter& other) { trials += other.trials; }
  };
  CHECK_THROWS_WITH(run_blocks(1, 10, 1, []() -> Counter { throw std::runtime_error("no room"); }), "no room");
  CHECK(run_blocks(7, 123456, 5, [] { return Counter(); }).trials == 123456);
}

TEST_CASE("a worker is made, used and destroyed by one thread and shares nothing with another") {
  // Every worker remembers the thread that made it; a use by any other is told when it dies.
  static std::atomic<int> alive{0}, strange{0};
  struct Homebody {
    std::thread::id home = std::this_thread::get_id();
    Homebody() { ++alive; }
    Homebody(Homebody&& other) noexcept : home(other.home) { ++alive; }
    ~Homebody() {
      strange += std::this_thread::get_id() != home;
      --alive;
    }
    void run(std::uint64_t, std::uint64_t) { strange += std::this_thread::get_id() != home; }
    void merge(const Homebody& other) { strange += other.home == home; }
  };
  run_blocks(1, 100000, 4, [] { return Homebody(); });
  CHECK(alive == 0);
  CHECK(strange == 0);
}
