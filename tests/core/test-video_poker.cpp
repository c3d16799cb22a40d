#include <doctest/doctest.h>

#include <cmath>
#include <map>
#include <numeric>
#include <vector>

#include "habanera/chance/given.hpp"
#include "habanera/game/playable.hpp"
#include "habanera/game/seated.hpp"
#include "habanera/video_poker/players.hpp"
#include "habanera/video_poker/solved.hpp"
#include "habanera/video_poker/video_poker.hpp"
#include "habanera/watcher/card_check.hpp"

using namespace habanera;

namespace {

using C = HandCategory;

// Ranks times suits, kind = suit * ranks + rank; the last `wild` kinds stand for anything. Hands of three.
HandRules hands_of_three(std::size_t ranks, std::size_t suits, std::size_t wild) {
  HandRules rules;
  rules.size = 3;
  rules.ranks = ranks;
  rules.suits = suits;
  rules.categories = {{C::three_of_a_kind}, {C::straight_flush}, {C::flush}, {C::straight}, {C::one_pair, 1},
                      {C::high_card}};
  for (std::size_t kind = 0; kind < ranks * suits; ++kind) {
    rules.rank.push_back(static_cast<std::uint8_t>(kind % ranks));
    rules.suit.push_back(static_cast<std::uint8_t>(kind / ranks));
    rules.wild.push_back(kind + wild >= ranks * suits);
  }
  return rules;
}

std::vector<Card> whole_deck(std::size_t cards) {
  std::vector<Card> deck(cards);
  std::iota(deck.begin(), deck.end(), Card{0});
  return deck;
}

VideoPokerRules three_card_machine(const HandRules& hands, const std::vector<Card>& deck,
                                   const std::vector<std::int64_t>& pays) {
  VideoPokerRules rules;
  rules.hands = hands;
  rules.pays = pays;
  rules.lines = {"nothing", "pair", "straight", "flush", "straight flush", "three"};
  rules.worth = std::make_shared<const WorthOnDemand>(hands, deck, 3, pays);
  return rules;
}

// The mean pay of a way to keep, draw by draw.
double worth_by_draws(const HandRules& hands, const std::vector<Card>& deck, const std::vector<std::int64_t>& pays,
                      const KeepBook::Hand& hand, std::size_t kept) {
  const HandEvaluator evaluate(hands);
  std::vector<Card> held, rest;
  for (std::size_t i = 0; i < 3; ++i)
    if (kept >> i & 1) held.push_back(deck[hand[i]]);
  for (std::size_t place = 0; place < deck.size(); ++place)
    if (place != hand[0] && place != hand[1] && place != hand[2]) rest.push_back(deck[place]);
  double sum = 0, draws = 0;
  CardSets(rest.size()).each(3 - held.size(), [&](const KeepBook::Hand& drawn) {
    std::vector<Card> end = held;
    for (std::size_t i = 0; i + held.size() < 3; ++i) end.push_back(rest[drawn[i]]);
    sum += static_cast<double>(pays[evaluate(end.data(), 3).category]);
    ++draws;
  });
  return sum / draws;
}

std::vector<std::int64_t> random_pays(RandomChance& chance) {
  std::vector<std::int64_t> pays{0};
  for (int line = 1; line < 6; ++line) pays.push_back(static_cast<std::int64_t>(chance.below(30)));
  return pays;
}

KeepList three_card_list(const HandRules& hands) {
  const auto of_two = [&](HandRules::Category category) {
    HandRules two = hands;
    two.categories = {category, {C::high_card}};
    return HandEvaluator(two);
  };
  KeepRule three{KeepRule::made, 3, of_two({C::three_of_a_kind}), 0, {}},
      pair{KeepRule::made, 2, of_two({C::one_pair}), 0, {}},
      flush{KeepRule::towards, 2, of_two({C::flush}), 0, {}}, high{KeepRule::high, 1, {}, 3, {}};
  return {{three, pair, flush, high}, hands, 3};
}

// What comes of a machine by every path, through the code that simulates.
std::map<RowTally::Row, double> by_paths(const Seated<VideoPoker>::Rules& rules, const std::vector<Card>& deck) {
  std::map<RowTally::Row, double> law;
  Seated<VideoPoker> game(rules);
  AlikeDeal alike(deck, 6, game);
  Silent silent;
  RowTally::Row row;
  const ColumnReader<Seated<VideoPoker>::Outcome> read({0, 1, 2, 3});
  walk_every_path(WorkBound(100000000), [&](EveryChance& chance) {
    const std::vector<Card> dealt = alike(chance);
    SharedLuck<EveryChance> luck(chance);
    game.play(dealt, chance, luck, silent, [&](const auto& outcome) {
      read(outcome, row);
      law[row] += chance.probability();
    });
  });
  return law;
}

}  // namespace

TEST_CASE("sets of cards have their numbers in order") {
  const CardSets sets(7);
  for (std::size_t size = 0; size <= 5; ++size) {
    std::size_t number = 0;
    sets.each(size, [&](const auto& cards) {
      std::size_t sum = 0;
      for (std::size_t i = 0; i < size; ++i) {
        sum += sets.step(cards[i], i);
        if (i > 0) CHECK(cards[i] > cards[i - 1]);
      }
      CHECK(sum == number++);
    });
    CHECK(number == sets.count(size));
  }
}

TEST_CASE("what ways to keep are worth is what the draws bring") {
  RandomChance chance(11, 1);
  for (int round = 0; round < 6; ++round) {
    const std::size_t wild = chance.below(3);
    const HandRules hands = hands_of_three(4, 3, wild);
    std::vector<Card> deck = whole_deck(12);
    if (round % 2 == 1) deck.push_back(static_cast<Card>(chance.below(5)));  // a card twice
    const auto pays = random_pays(chance);
    const KeepWorth worth(std::make_shared<const KeepBook>(hands, deck, 3), pays);
    double all = 0;
    LikeHands(hands, deck, 3).each([&](const KeepBook::Hand& hand, double like) {
      all += like;
      const KeepWorth::AllWays ways = worth(hand);
      for (std::size_t kept = 0; kept < 8; ++kept)
        CHECK(std::abs(ways[kept] - worth_by_draws(hands, deck, pays, hand, kept)) < 1e-9);
    });
    CHECK(all == CardSets(deck.size()).ways(deck.size(), 3));
  }
}

TEST_CASE("hands that are alike are worth the same, and one of each is told") {
  const HandRules hands = hands_of_three(4, 3, 1);
  const std::vector<Card> deck = whole_deck(12);
  const std::vector<std::int64_t> pays{0, 1, 3, 4, 20, 9};
  const KeepWorth worth(std::make_shared<const KeepBook>(hands, deck, 3), pays);
  double one_by_one = 0, by_likeness = 0;
  const auto best = [&](const KeepBook::Hand& hand) {
    const auto ways = worth(hand);
    return ways[worth.best(ways)];
  };
  CardSets(12).each(3, [&](const KeepBook::Hand& hand) { one_by_one += best(hand); });
  LikeHands(hands, deck, 3).each([&](const KeepBook::Hand& hand, double like) { by_likeness += like * best(hand); });
  CHECK(std::abs(one_by_one - by_likeness) < 1e-8);
  CHECK(std::abs(SolvedDeck(hands, deck, 3).mean_pay(pays, WorkBound(1)) - one_by_one / 220) < 1e-10);
}

TEST_CASE("the law of a machine at once is that of every path, by any player") {
  RandomChance chance(13, 1);
  const HandRules hands = hands_of_three(4, 2, 1);
  const std::vector<Card> deck = whole_deck(8);
  for (int round = 0; round < 3; ++round) {
    const VideoPokerRules rules = three_card_machine(hands, deck, random_pays(chance));
    const std::vector<std::shared_ptr<const Player<VideoPoker::View>>> players{
        std::make_shared<BestKeeper>(rules.worth), std::make_shared<ListKeeper>(three_card_list(hands)),
        std::make_shared<RandomPlayer<VideoPoker::View>>()};
    for (const auto& player : players) {
      const Seated<VideoPoker>::Rules seated{rules, {player}};
      const auto paths = by_paths(seated, deck);
      const auto quick = Playable<Seated<VideoPoker>>(seated).walk(Draw(DrawSpec{deck, 6, false}),
                                                                  {"net", "category", "dealt", "kept"}, 1000);
      double sum = 0;
      for (const auto& [row, share] : quick) {
        CHECK(std::abs(share - paths.at(row)) < 1e-12);
        sum += share;
      }
      CHECK(std::abs(sum - 1) < 1e-12);
    }
  }
}

TEST_CASE("a list of what is kept, on hands worked by hand") {
  const HandRules hands = hands_of_three(5, 3, 0);
  KeepList list = three_card_list(hands);
  const auto kept = [&](Card a, Card b, Card c) {
    const auto found = list({a, b, c});
    return std::pair(found.cards, found.rule);
  };
  using Kept = std::pair<std::size_t, std::size_t>;
  CHECK(kept(0, 5, 10) == Kept(7, 0));  // a rank in three suits
  CHECK(kept(0, 5, 14) == Kept(3, 1));  // the pair
  CHECK(kept(0, 1, 13) == Kept(3, 2));  // two of a suit
  CHECK(kept(0, 6, 13) == Kept(4, 3));  // a card of rank 3
  CHECK(kept(0, 6, 12) == Kept(0, 4));  // nothing
  CHECK(kept(2, 0, 1) == Kept(5, 2));   // of three of a suit the two that are highest
}

TEST_CASE("what mistakes lose is what the player has less") {
  const HandRules hands = hands_of_three(4, 3, 0);
  const std::vector<Card> deck = whole_deck(12);
  const std::vector<std::int64_t> pays{0, 1, 3, 4, 20, 9};
  const VideoPokerRules rules = three_card_machine(hands, deck, pays);
  const auto mean = [&](const std::shared_ptr<const Player<VideoPoker::View>>& player) {
    double sum = 0;
    for (const auto& [row, share] : Playable<Seated<VideoPoker>>({rules, {player}}).walk(
             Draw(DrawSpec{deck, 6, false}), {"net"}, 1000))
      sum += static_cast<double>(row[0]) * share;
    return sum;
  };
  const ListKeeper keeper(three_card_list(hands));
  double loss = 0;
  for (const auto& [labels, mistake] : KeepMistakes(rules, three_card_list(hands))(keeper, WorkBound(1)))
    loss += mistake.loss;
  CHECK(loss > 0);
  CHECK(std::abs(loss - (mean(std::make_shared<BestKeeper>(rules.worth)) - mean(keeper.copy()))) < 1e-10);
}

TEST_CASE("categories without wild cards, with so many of them, and of some ranks") {
  HandRules hands = hands_of_three(4, 3, 2);
  const auto category = [&](HandRules::Category asked, std::vector<Card> cards) {
    hands.categories = {asked, {C::high_card}};
    return HandEvaluator(hands)(cards.data(), cards.size()).category == 1;
  };
  CHECK(category({C::one_pair}, {0, 1, 11}));
  CHECK_FALSE(category({C::one_pair, 0, most_ranks, true}, {0, 1, 11}));
  CHECK(category({C::one_pair, 0, most_ranks, true}, {0, 4, 11}));
  CHECK(category({C::high_card, 0, most_ranks, false, 2}, {0, 10, 11}));
  CHECK_FALSE(category({C::high_card, 0, most_ranks, false, 2}, {0, 1, 11}));
  CHECK(category({C::one_pair, 0, 0}, {0, 4, 1}));
  CHECK_FALSE(category({C::one_pair, 0, 0}, {1, 5, 0}));
}
