#include <doctest/doctest.h>

#include <cmath>
#include <cstdint>
#include <vector>

#include "habanera/count/bettor.hpp"
#include "habanera/count/shoe_count.hpp"
#include "habanera/count/system.hpp"
#include "habanera/game/counted_stock.hpp"
#include "habanera/game/counting.hpp"
#include "habanera/stat/trial_sums.hpp"

using namespace habanera;

namespace {

CountSystem system_of(CountSystem::DecksLeft decks, CountSystem::Rounding rounding) {
  CountSystem system;
  system.tags = system.bet_tags = {-208, 0, 208};
  system.unit = 208;
  system.decks_left = decks;
  system.rounding = rounding;
  return system;
}

// By division in doubles, which is exact enough beside whole cards.
double slow_true_count(double running, double left, CountSystem::DecksLeft decks) {
  double by = left / 52;
  if (decks == CountSystem::half_decks) by = std::max(0.5, std::floor(by * 2 + 0.5) / 2);
  if (decks == CountSystem::whole_decks) by = std::max(1.0, std::floor(by + 0.5));
  return decks == CountSystem::running_alone ? running : running / by;
}

}  // namespace

TEST_CASE("a true count is the running count by the decks left, rounded as the player does") {
  for (const auto decks : {CountSystem::exact, CountSystem::half_decks, CountSystem::whole_decks,
                           CountSystem::running_alone})
    for (std::int64_t running = -12; running <= 12; ++running)
      for (std::size_t left = 1; left <= 312; left += 7) {
        const double slow = slow_true_count(static_cast<double>(running), static_cast<double>(left), decks);
        const auto level = [&](CountSystem::Rounding rounding) {
          return static_cast<double>(system_of(decks, rounding).level(running * 208, left));
        };
        const CountSystem system = system_of(decks, CountSystem::floor);
        CHECK(system.true_count(running * 208, left).value() == doctest::Approx(slow));
        CHECK(level(CountSystem::floor) == std::floor(slow + 1e-12));
        CHECK(level(CountSystem::truncate) == std::trunc(slow + (slow < 0 ? -1e-12 : 1e-12)));
        CHECK(level(CountSystem::nearest) == std::floor(slow + 0.5 + 1e-12));
      }
}

TEST_CASE("cards are counted when they are shown, one that lies hidden at the end of the round") {
  ShoeCount count(system_of(CountSystem::running_alone, CountSystem::floor), 4);
  const std::vector<Card> deck{0, 2, 2, 1};
  ShuffledStock stock(deck);
  count.begin(0);
  CountedStock counted(stock, count);
  counted.deal();
  CHECK(count.running() == -208);
  const std::size_t place = counted.lay_down();
  CHECK(count.running() == -208);
  CHECK_FALSE(counted.look(place, CardSet{true, true, false}));
  CHECK(count.running() == -208);
  SUBCASE("turned in the round, it is counted once") {
    counted.turn(place);
    CHECK(count.running() == 0);
    counted.turn(place);
  }
  counted.end_round();
  CHECK(count.running() == 0);
}

TEST_CASE("a bettor holds to the ends of his bets, and leaves and comes back by the count") {
  Bettor bettor;
  bettor.first_level = -1;
  bettor.bets = {1, 2, 5};
  CHECK(bettor.bet_at(-7) == 1);
  CHECK(bettor.bet_at(0) == 2);
  CHECK(bettor.bet_at(9) == 5);
  CHECK(bettor.begins_seated());
  CHECK(bettor.plays(-9, true));
  bettor.leaves_below = -2;
  CHECK_FALSE(bettor.plays(-3, true));
  CHECK_FALSE(bettor.plays(5, false));
  bettor.enters_at = 2;
  CHECK_FALSE(bettor.begins_seated());
  CHECK_FALSE(bettor.plays(1, false));
  CHECK(bettor.plays(2, false));
}

TEST_CASE("rounds are added up in the class of their number, and nothing is lost of sums that are mostly nothing") {
  EntryTotals totals({0, 0}, {1, {-1, 0, 2}, {0}});
  REQUIRE(totals.columns() == 3 + 6);
  Entries entries;
  for (const auto& row : std::vector<RowTally::Row>{{5, -4}, {7, 0}, {1, 1}, {2, 9}}) entries.add() = row;
  const std::vector<std::int64_t> found = totals.of(entries);
  CHECK(found == std::vector<std::int64_t>{4, 15, 6, 1, 5, 2, 8, 1, 2});

  TrialSums sums(found.size(), {});
  const std::vector<std::int64_t> other{2, 0, -3, 0, 0, 2, 6, 0, 0};
  sums.close(found, 1);
  sums.close(other, 2);
  std::size_t at = 0;
  for (std::size_t i = 0; i < found.size(); ++i) {
    CHECK(sums.sums()[i] == found[i] + other[i]);
    for (std::size_t j = 0; j <= i; ++j) CHECK(sums.products()[at++] == found[i] * found[j] + other[i] * other[j]);
  }
}

TEST_CASE("trials are kept of a class that few hold, whatever way they are merged, and of one that many hold none") {
  const auto totals = [](std::uint64_t trial) {
    // The first column comes in every trial, the second in every fifth, with the third beside it.
    const bool fifth = trial % 5 == 0;
    return std::vector<std::int64_t>{2, fifth ? 1 : 0, fifth ? static_cast<std::int64_t>(trial) - 50 : 0};
  };
  const std::vector<ColumnClass> classes{{0, 3}, {1, 2}};
  const auto counted = [&](std::uint64_t first, std::uint64_t last) {
    TrialSums sums(3, classes);
    for (std::uint64_t trial = first; trial <= last; ++trial) sums.close(totals(trial), trial);
    return sums;
  };
  const TrialSums whole = counted(1, 320);
  CHECK(whole.held() == std::vector<std::uint64_t>{320, 64, 63});
  CHECK(whole.kept(0).empty());
  REQUIRE(whole.kept(1).size() == 64);
  for (std::size_t i = 0; i < 64; ++i) {
    CHECK(whole.kept(1)[i].trial == 5 * (i + 1));
    CHECK(whole.kept(1)[i].values == std::vector<std::int64_t>{1, static_cast<std::int64_t>(5 * (i + 1)) - 50});
  }
  TrialSums parts = counted(101, 320);
  parts.merge(counted(1, 60));
  parts.merge(counted(61, 100));
  CHECK(parts.held() == whole.held());
  CHECK(parts.sums() == whole.sums());
  REQUIRE(parts.kept(1).size() == 64);
  for (std::size_t i = 0; i < 64; ++i) CHECK(parts.kept(1)[i].trial == whole.kept(1)[i].trial);
  // One more, and the class is told by its squares.
  TrialSums more = counted(1, 320);
  more.merge(counted(325, 325));
  CHECK(more.kept(1).empty());
  CHECK(counted(1, 325).kept(1).empty());
}

TEST_CASE("sums and squares of families are those of their groups of trials, merged in any way") {
  const std::vector<GroupedSums::Family> families{{{0}, {1}}, {{0, 1}}};
  const auto totals = [](std::uint64_t trial) {
    return std::vector<std::int64_t>{static_cast<std::int64_t>(trial), 3 - static_cast<std::int64_t>(trial % 7)};
  };
  GroupedSums one(2, families), two(2, families);
  for (std::uint64_t trial = 1; trial <= 70; ++trial) (trial % 3 == 0 ? one : two).close(totals(trial), trial);
  one.merge(two);
  for (std::size_t group = 0; group < GroupedSums::groups; ++group) {
    std::uint64_t trials = 0;
    WideInteger first = 0, second = 0, each = 0, both = 0;
    for (std::uint64_t trial = 1; trial <= 70; ++trial) {
      if (trial % GroupedSums::groups != group) continue;
      const auto now = totals(trial);
      ++trials;
      first += now[0];
      second += now[1];
      each += now[0] * now[0] + now[1] * now[1];
      both += (now[0] + now[1]) * (now[0] + now[1]);
    }
    CHECK(one.trials()[group] == trials);
    CHECK(one.sums()[2 * group] == first);
    CHECK(one.sums()[2 * group + 1] == second);
    CHECK(one.squares()[2 * group] == each);
    CHECK(one.squares()[2 * group + 1] == both);
  }
  CHECK(GroupedSums(2, {}).trials().empty());
}
