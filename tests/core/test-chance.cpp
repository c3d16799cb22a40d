#include <doctest/doctest.h>

#include <cmath>
#include <map>
#include <vector>

#include "habanera/chance/every.hpp"
#include "habanera/chance/given.hpp"
#include "habanera/chance/random.hpp"

using namespace habanera;

TEST_CASE("random words are pinned: a change here changes every number anybody ever got") {
  // SplitMix64 seeded with 1234567 gives this as its first output (a widely published test value).
  CHECK(mix64(1234567 + golden_step) == 6457827717110365317ULL);
  CHECK(random_word(1, 1, lane::deal, 0) == 7916369004121462793ULL);
  CHECK(random_word(1, 1, lane::deal, 1) == 18175794961618475445ULL);
  CHECK(random_word(1, 2, lane::deal, 0) == 13393310941227203927ULL);
  CHECK(random_word(2, 1, lane::game, 0) == 594603437310418153ULL);
  CHECK(random_word((1ULL << 53) - 1, (1ULL << 53) - 1, lane::seat(3), 5) == 14791179487853532146ULL);
}

TEST_CASE("the address of a word is the same whether it is counted to or computed") {
  RandomChance chance(42, 7);
  for (std::uint64_t k = 0; k < 20; ++k) CHECK(chance.word() == random_word(42, 7, lane::deal, k));
}

TEST_CASE("one word is split into several numbers without bias, over every 16-bit word") {
  using Split = WordSplit<std::uint16_t, std::uint32_t>;
  const std::vector<std::uint16_t> sizes{7, 6, 5};
  const std::uint16_t product = 210;
  const std::uint16_t bound = Split::refusal_bound(product);
  std::map<std::vector<int>, int> seen;
  for (unsigned number = 0; number < 65536; ++number) {
    std::uint16_t word = static_cast<std::uint16_t>(number);
    if (!Split::is_even(word, product, bound)) continue;
    std::vector<int> values;
    for (const std::uint16_t size : sizes) values.push_back(Split::take(word, size));
    ++seen[values];
  }
  CHECK(seen.size() == 210);
  for (const auto& [values, times] : seen) CHECK(times == 65536 / 210);
}

TEST_CASE("a run of sizes covers its sizes in batches that fit a word") {
  const SizeRun run = SizeRun::falling(52);
  CHECK(run.count() == 51);
  CHECK(run.size(0) == 52);
  CHECK(run.size(50) == 2);
  std::size_t covered = 0;
  for (const SizeRun::Batch& batch : run.batches()) {
    CHECK(batch.begin == covered);
    double log_product = 0;
    for (std::size_t i = batch.begin; i < batch.end; ++i) log_product += std::log2(run.size(i));
    CHECK(log_product <= 57);
    CHECK(std::log2(static_cast<double>(batch.product)) == doctest::Approx(log_product));
    covered = batch.end;
  }
  CHECK(covered == run.count());
  CHECK(SizeRun::falling(0).count() == 0);
  CHECK(SizeRun::falling(1).count() == 0);
  CHECK_THROWS_AS(SizeRun::repeated(0, 3), std::invalid_argument);
}

TEST_CASE("the first numbers of a run do not depend on how many are asked for") {
  const SizeRun run = SizeRun::falling(52);
  std::vector<std::uint64_t> all, five;
  RandomChance(3, 9).below_each(run, 51, [&](std::size_t, std::uint64_t v) { all.push_back(v); });
  RandomChance(3, 9).below_each(run, 5, [&](std::size_t, std::uint64_t v) { five.push_back(v); });
  CHECK(std::vector<std::uint64_t>(all.begin(), all.begin() + 5) == five);
}

// Four standard errors of a count that has the binomial law.
static double band(double trials, double p) { return 4 * std::sqrt(trials * p * (1 - p)); }

TEST_CASE("simulated choices have the chances that enumeration says") {
  const std::vector<double> weights{1, 0, 2.5, 0.5};
  std::vector<double> exact(4, 0);
  walk_every_path(100, [&](EveryChance& chance) {
    const std::size_t taken = chance.pick(weights);
    exact[taken] += chance.probability();
  });
  CHECK(exact[0] == 0.25);
  CHECK(exact[1] == 0);
  CHECK(exact[2] == 0.625);

  const int trials = 40000;
  std::vector<int> picks(4, 0), below(3, 0), bits(8, 0);
  for (int trial = 1; trial <= trials; ++trial) {
    RandomChance chance(11, static_cast<std::uint64_t>(trial));
    ++picks[chance.pick(weights)];
    ++below[chance.below(3)];
    ++bits[chance.bits(3)];
  }
  CHECK(picks[1] == 0);
  for (std::size_t i = 0; i < 4; ++i)
    CHECK(std::abs(picks[i] - trials * exact[i]) <= band(trials, exact[i]));
  for (const int count : below) CHECK(std::abs(count - trials / 3.0) <= band(trials, 1 / 3.0));
  for (const int count : bits) CHECK(std::abs(count - trials / 8.0) <= band(trials, 1 / 8.0));
}

TEST_CASE("every path is walked once, however the questions branch") {
  std::map<std::vector<std::uint64_t>, double> paths;
  const std::uint64_t walked = walk_every_path(100, [&](EveryChance& chance) {
    std::vector<std::uint64_t> path{chance.below(3)};
    if (path[0] == 1) path.push_back(chance.bits(1));
    if (path[0] == 2) path.push_back(chance.below(1));
    paths[path] += chance.probability();
  });
  CHECK(walked == 4);
  CHECK(paths.size() == 4);
  CHECK(paths[{0}] == 1 / 3.0);
  CHECK(paths[{1, 0}] == 1 / 6.0);
  CHECK(paths[{1, 1}] == 1 / 6.0);
  CHECK(paths[{2, 0}] == 1 / 3.0);
}

TEST_CASE("a walk that is too long, or not the same twice, is refused") {
  CHECK_THROWS_AS(walk_every_path(5, [](EveryChance& chance) { chance.below(6); }),
                  std::length_error);
  std::uint64_t size = 2;
  CHECK_THROWS_AS(walk_every_path(9, [&](EveryChance& chance) {
                    chance.below(size++);
                    chance.below(2);
                  }),
                  std::logic_error);
}

TEST_CASE("given choices come back, and misfits are named") {
  GivenChance chance({2, 0, 5});
  CHECK(chance.below(3) == 2);
  CHECK(chance.bits(1) == 0);
  CHECK(chance.unused() == 1);
  CHECK_THROWS_WITH(chance.below(5), "given choice 3 is 5, which is not below 5");
  CHECK_THROWS_WITH(chance.below(5), "only 3 choices were given, and one more is asked for");
}

TEST_CASE("impossible questions are refused by every kind of chance") {
  RandomChance random(1, 1);
  CHECK_THROWS_AS(random.below(0), std::invalid_argument);
  CHECK_THROWS_AS(random.bits(65), std::invalid_argument);
  CHECK_THROWS_AS(GivenChance({1}).bits(64), std::invalid_argument);
  CHECK_THROWS_AS(random.pick({0, 0}), std::invalid_argument);
  CHECK_THROWS_AS(random.pick({1, -1}), std::invalid_argument);
  CHECK_THROWS_AS(walk_every_path(9, [](EveryChance& chance) { chance.below(0); }),
                  std::invalid_argument);
}
