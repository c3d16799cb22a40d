#include <doctest/doctest.h>

#include <map>
#include <numeric>
#include <vector>

#include "habanera/cards/sampled_deck.hpp"
#include "habanera/chance/every.hpp"
#include "habanera/chance/given.hpp"
#include "habanera/chance/random.hpp"
#include "habanera/shuffle/procedure.hpp"
#include "habanera/shuffle/uniform.hpp"
#include "habanera/watcher/card_check.hpp"
#include "habanera/watcher/recorder.hpp"
#include "habanera/watcher/silent.hpp"

using namespace habanera;

namespace {

std::vector<Card> in_order(std::size_t n) {
  std::vector<Card> cards(n);
  std::iota(cards.begin(), cards.end(), Card{0});
  return cards;
}

template <class Chance, class Watcher>
std::vector<Card> shuffled(std::size_t n, Chance& chance, Watcher& watcher) {
  std::vector<Card> cards = in_order(n);
  const Pile pile{cards.data(), cards.size()};
  watcher.begins(pile);
  const UniformShuffle shuffle(n);
  shuffle(pile, n, chance, watcher);
  return cards;
}

// A shuffle with a slip in it: the card that is swapped away is forgotten.
template <class Watcher>
void overwriting(std::vector<Card>& cards, Watcher& watcher) {
  const Pile pile{cards.data(), cards.size()};
  watcher.begins(pile);
  cards[0] = cards[1];
  watcher.swapped(pile, 0, 1);
}

}  // namespace

TEST_CASE("under every chance the uniform shuffle of 0 to 6 cards is exactly uniform") {
  double arrangements = 1;
  for (std::size_t n = 0; n <= 6; ++n) {
    if (n > 1) arrangements *= static_cast<double>(n);
    std::map<std::vector<Card>, double> law;
    Silent silent;
    walk_every_path(1000, [&](EveryChance& chance) {
      const std::vector<Card> cards = shuffled(n, chance, silent);
      law[cards] += chance.probability();
    });
    CHECK(static_cast<double>(law.size()) == arrangements);
    for (const auto& [cards, probability] : law)
      CHECK(probability == doctest::Approx(1 / arrangements).epsilon(1e-15));
  }
}

TEST_CASE("a shuffle followed by hand") {
  // Choices 2, 0, 1 of 4, 3, 2 cards: a swaps with c, b stays, a (now third) swaps with d.
  GivenChance chance({2, 0, 1});
  Recorder recorder;
  const std::vector<Card> cards = shuffled(4, chance, recorder);
  CHECK(cards == std::vector<Card>{2, 1, 3, 0});
  CHECK(chance.unused() == 0);
  CHECK(recorder.start() == in_order(4));
  CHECK(recorder.steps().size() == 3);
  CHECK(recorder.steps()[0].to == 2);
  CHECK(recorder.steps()[0].after == std::vector<Card>{2, 1, 0, 3});
  CHECK(recorder.steps()[2].after == cards);
}

TEST_CASE("one trial of the shuffle is pinned") {
  RandomChance chance(1, 1);
  Silent silent;
  CHECK(shuffled(10, chance, silent) == std::vector<Card>{4, 3, 6, 9, 1, 7, 2, 5, 0, 8});
}

TEST_CASE("whoever watches, the shuffle is the same, and no card is lost") {
  for (std::uint64_t trial = 1; trial <= 50; ++trial) {
    Silent silent;
    Recorder recorder;
    CardCheck check;
    RandomChance one(5, trial), two(5, trial), three(5, trial);
    const std::vector<Card> cards = shuffled(52, one, silent);
    CHECK(shuffled(52, two, recorder) == cards);
    CHECK(shuffled(52, three, check) == cards);
    CHECK(recorder.steps().back().after == cards);
    CHECK(check.moves() == 51);
  }
}

TEST_CASE("the card check finds a lost and doubled card at the move that did it") {
  std::vector<Card> cards{4, 7, 7};
  CardCheck check;
  CHECK_THROWS_WITH_AS(overwriting(cards, check), "after move 1 card 4 is there 0 times, not 1",
                       std::logic_error);
}

TEST_CASE("a sampled deck keeps to its weights and copies") {
  // Two kinds, one copy each at most, weights 3 and 1: the first card is kind 0 with chance 3/4,
  // and the second must be the other.
  std::map<std::vector<std::size_t>, double> law;
  walk_every_path(100, [&](EveryChance& chance) {
    const auto deck = sample_deck({{3, 1}, {1, 1}}, 2, chance);
    law[deck] += chance.probability();
  });
  CHECK(law.size() == 2);
  CHECK(law[{0, 1}] == 0.75);
  CHECK(law[{1, 0}] == 0.25);
  RandomChance chance(1, 1);
  CHECK_THROWS_AS(sample_deck({{1, 1}, {1, 1}}, 3, chance), std::invalid_argument);
  CHECK_THROWS_AS(sample_deck({{1, 1}, {1}}, 1, chance), std::invalid_argument);
}

TEST_CASE("the card check passes every step of a procedure, and finds out the one that is no shuffle") {
  const std::vector<Step> fair{UniformStep(9), NaiveSwap{0}, OneCycle{},   RandomKeys{4}, FairRiffle{},
                               Faro{true},     Overhand{3},  Strip{4},     Piles{4, PickUp::random},
                               Cut{2},         Wash{3},      Shelves{3},   TopToRandom{}, CoinMerge{}};
  std::vector<Card> cards = in_order(9);
  const Pile pile{cards.data(), cards.size()};
  Workspace work;
  CardCheck check;
  check.begins(pile);
  RandomChance chance(6, 1);
  const Procedure procedure(fair);
  procedure(pile, 9, work, chance, check);
  CHECK(check.moves() >= fair.size());
  // Choice 1 of 3: the second card is written over the first.
  GivenChance given({1, 0});
  std::vector<Card> three = in_order(3);
  const Pile small{three.data(), three.size()};
  check.begins(small);
  CHECK_THROWS_WITH_AS(Procedure({Overwriting{false}})(small, 3, work, given, check),
                       "after move 1 card 0 is there 0 times, not 1", std::logic_error);
}

TEST_CASE("cards cannot be dealt into no piles") {
  std::vector<Card> deck{0, 1, 2};
  Workspace work;
  RandomChance chance(1, 1);
  Silent silent;
  CHECK_THROWS_AS((Piles{0, PickUp::in_order}(Pile{deck.data(), deck.size()}, work, chance, silent)),
                  std::invalid_argument);
}
