#include <doctest/doctest.h>

#include <cmath>
#include <map>
#include <vector>

#include "habanera/chance/given.hpp"
#include "habanera/game/counting.hpp"
#include "habanera/game/playable.hpp"
#include "habanera/game/seated.hpp"
#include "habanera/high_card/high_card.hpp"
#include "habanera/watcher/card_check.hpp"

using namespace habanera;

namespace {

using Ties = HighCardRules::Ties;

// Kinds 0, 1, 2, ... by strength, so many of each; the unit of money is half a stake.
Seated<HighCard>::Rules shoe(std::size_t kinds, std::size_t copies, Ties ties, std::size_t cut_after = 0) {
  Seated<HighCard>::Rules rules;
  for (std::size_t kind = 0; kind < kinds; ++kind) {
    rules.game.strength.push_back(static_cast<std::uint16_t>(kind + 1));
    rules.game.on_colour.push_back(kind == 0);
    rules.game.on_suit.push_back(0);
  }
  rules.game.cards = kinds * copies;
  rules.game.cut_after = cut_after;
  rules.game.ties = ties;
  rules.game.main = {2, 2};
  return rules;
}

std::vector<Card> deck_of(std::size_t kinds, std::size_t copies) {
  std::vector<Card> deck;
  for (std::size_t i = 0; i < kinds * copies; ++i) deck.push_back(static_cast<Card>(i % kinds));
  return deck;
}

std::vector<std::int64_t> nets(const Seated<HighCard>::Rules& rules, const std::vector<Card>& deck) {
  Seated<HighCard> game(rules);
  GivenChance none({});
  SharedLuck<GivenChance> luck(none);
  CardCheck check;
  std::vector<std::int64_t> all;
  game.play(deck, none, luck, check, [&](const auto& outcome) { all.push_back(outcome.game.net_main()); });
  return all;
}

double mean_net(const Seated<HighCard>::Rules& rules, std::size_t kinds, std::size_t copies, const char* column) {
  const Draw draw(DrawSpec{deck_of(kinds, copies), kinds * copies, false});
  double net = 0, rounds = 0;
  for (const auto& [row, chance] : Playable<Seated<HighCard>>(rules).walk(draw, {column}, 1000000)) {
    net += chance * static_cast<double>(row[0]);
    rounds += chance;
  }
  return net / rounds;
}

}  // namespace

TEST_CASE("rounds of high card worked by hand") {
  using All = std::vector<std::int64_t>;
  CHECK(nets(shoe(3, 2, Ties::bank), {2, 0, 1, 1, 0, 2}) == All{2});
  CHECK(nets(shoe(3, 2, Ties::bank), {1, 1, 2, 2, 0, 0}) == All{-2});
  CHECK(nets(shoe(3, 2, Ties::half_back), {1, 1, 2, 2, 0, 0}) == All{-1});
  CHECK(nets(shoe(3, 2, Ties::push), {1, 1, 2, 2, 0, 0}) == All{0});
  CHECK(nets(shoe(3, 2, Ties::again), {1, 1, 2, 0, 2, 0}) == All{2});
  CHECK(nets(shoe(3, 2, Ties::again), {1, 1, 2, 2, 0, 0}) == All{0});
  // A cut after three cards: the second round is begun when two are gone, and the third is not.
  CHECK(nets(shoe(3, 2, Ties::bank, 3), {2, 0, 0, 1, 1, 2}) == All{2, -2});
  CHECK(nets(shoe(3, 2, Ties::bank, 6), {2, 0, 0, 1, 1, 2}) == All{2, -2, -2});
  auto burned = shoe(3, 2, Ties::bank);
  burned.game.burn = 1;
  CHECK(nets(burned, {2, 0, 1, 1, 0, 2}) == All{-2});
}

TEST_CASE("the edge of high card is what counting the pairs of cards gives") {
  // Of 3 kinds twice each, two cards tie with chance 1/5.
  CHECK(mean_net(shoe(3, 2, Ties::bank), 3, 2, "net_main") == doctest::Approx(-2.0 / 5).epsilon(1e-12));
  CHECK(mean_net(shoe(3, 2, Ties::half_back), 3, 2, "net_main") == doctest::Approx(-1.0 / 5).epsilon(1e-12));
  CHECK(mean_net(shoe(3, 2, Ties::push), 3, 2, "net_main") == doctest::Approx(0).epsilon(1e-12));
  // What comes later in a shoe has the same law, so that the edge per round of a cut shoe is the same: by
  // exchangeability, since the number of rounds is settled beforehand.
  CHECK(mean_net(shoe(3, 2, Ties::bank, 4), 3, 2, "net_main") == doctest::Approx(-2.0 / 5).epsilon(1e-12));
  auto coloured = shoe(3, 2, Ties::bank);
  coloured.game.colour = {2, 4};
  CHECK(mean_net(coloured, 3, 2, "net_colour") == doctest::Approx(0).epsilon(1e-12));
}

TEST_CASE("the remembered law of a shoe is that of every path") {
  for (const Ties ties : {Ties::bank, Ties::again}) {
    for (const std::size_t cut : {0u, 4u}) {
      auto rules = shoe(3, 2, ties, cut);
      rules.game.colour = {2, 1};
      Seated<HighCard> played(rules);
      AlikeDeal deal(deck_of(3, 2), 6, played);
      std::map<RowTally::Row, double> paths;
      const std::vector<std::size_t> columns{0, 2, 4, 5};
      walk_every_path(WorkBound(1000000), [&](EveryChance& chance) {
        SharedLuck<EveryChance> luck(chance);
        Silent silent;
        played.play(deal(chance), chance, luck, silent, [&](const auto& outcome) {
          RowTally::Row row;
          const ColumnReader<std::decay_t<decltype(outcome)>> read(columns);
          read(outcome, row);
          paths[row] += chance.probability();
        });
      });
      const auto law = Playable<Seated<HighCard>>(rules).walk(Draw(DrawSpec{deck_of(3, 2), 6, false}),
                                                              {"net", "net_colour", "result", "ties"}, 1000000);
      REQUIRE(law.size() == paths.size());
      for (const auto& [row, chance] : paths) CHECK(law.at(row) == doctest::Approx(chance).epsilon(1e-12));
    }
  }
}

TEST_CASE("what trials add up to does not depend on threads, and is what their rows give") {
  const Playable<Seated<HighCard>> game(shoe(4, 3, Ties::again, 9));
  const Draw draw(DrawSpec{deck_of(4, 3), 12, false});
  const auto runner = game.runner(draw, {"net", "result"});
  const auto count = [&](unsigned threads) {
    return count_games(1, 3000, threads, [&] {
      return RoundCounter({{runner.get(), EntryTotals({0, 3})}}, 11);
    });
  };
  const auto one = count(1), two = count(2);
  CHECK(one.sums().sums() == two.sums().sums());
  CHECK(one.sums().products() == two.sums().products());
  std::vector<WideInteger> sums(5, 0), products;
  products.assign(15, 0);
  for (std::uint64_t trial = 1; trial <= 3000; ++trial) {
    std::vector<std::int64_t> totals(5, 0);
    for (const RowTally::Row& row : runner->play(11, trial)) {
      totals[0] += 1;
      totals[1] += row[0];
      totals[2 + static_cast<std::size_t>(row[1])] += 1;
    }
    for (std::size_t i = 0, at = 0; i < 5; ++i) {
      sums[i] += totals[i];
      for (std::size_t j = 0; j <= i; ++j) products[at++] += static_cast<WideInteger>(totals[i]) * totals[j];
    }
  }
  CHECK(one.sums().sums() == sums);
  CHECK(one.sums().products() == products);
}

TEST_CASE("sums are wider than 64 bits") {
  TrialSums sums(1, {});
  for (std::uint64_t i = 0; i < 1000; ++i) sums.close({std::int64_t{1} << 40}, i);
  CHECK(sums.products()[0] == static_cast<WideInteger>(1000) << 80);
  TrialSums other(1, {});
  other.close({-5}, 1000);
  other.merge(sums);
  CHECK(other.sums()[0] == 1000 * (std::int64_t{1} << 40) - 5);
}

TEST_CASE("a shoe that holds no round is refused") {
  auto rules = shoe(2, 2, Ties::bank);
  rules.game.burn = 3;
  CHECK_THROWS_AS(HighCard(rules.game), std::invalid_argument);
}
