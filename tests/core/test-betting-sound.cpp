#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>
#include <memory>
#include <vector>

#include "betting_games.hpp"
#include "habanera/betting/sound_rows.hpp"

using namespace habanera;
using namespace habanera_test;

namespace {

// Ranks in suits, each card so often; two cards in each hand and `turned` on a second street. The more ranks in all the
// better; suits count for nothing, and are told apart where they are `named`.
Betting::Rules two_cards(std::size_t ranks, std::size_t suits, double copies, std::size_t turned, bool named) {
  Betting::Rules rules;
  rules.own = 2;
  rules.chips.blinds = {1, 2};
  rules.chips.stacks = {7, 7};
  rules.chips.streets = {street_of(0, {everything()}, 1), street_of(turned, {}, 0)};
  auto cards = std::make_shared<BettingCards>();
  cards->of_suit.resize(named ? suits : 0);
  for (std::size_t suit = 0; suit < suits; ++suit)
    for (std::size_t rank = 0; rank < ranks; ++rank) {
      const auto kind = static_cast<Card>(suit * ranks + rank);
      cards->copies.push_back(copies);
      cards->names.push_back(std::to_string(rank) + "." + std::to_string(suit));
      cards->codes.push_back(cards->names.back());
      cards->stands_for.push_back(named ? kind : static_cast<Card>(rank));
      cards->rank.push_back(static_cast<std::uint8_t>(rank));
      cards->suit.push_back(named ? static_cast<std::uint8_t>(suit) : HandRules::no_suit);
      if (named) cards->of_suit[suit].push_back(kind);
    }
  cards->suits_alike = named;
  if (named) cards->like_suit.assign(suits, 0);
  auto worth = std::make_shared<BettingStrength::Table>();
  std::vector<double> left(cards->copies.size(), 0);
  for (std::size_t kind = 0; kind < left.size(); ++kind) left[cards->stands_for[kind]] += copies;
  each_set(left, 2, [&](const std::vector<Card>& own, double) {
    each_set(left, turned, [&](const std::vector<Card>& shared, double) {
      std::vector<Card> key = own;
      key.insert(key.end(), shared.begin(), shared.end());
      std::uint64_t sum = 0;
      for (const Card card : key) sum += (card % ranks) * (card % ranks) + 1;
      worth->emplace(key, sum);
    });
  });
  rules.strength = BettingStrength::of_table(worth);
  rules.cards = cards;
  return rules;
}

// Of single cards, by their number: which kind each is.
std::vector<Card> single_cards(const std::vector<double>& left) {
  std::vector<Card> all;
  for (std::size_t kind = 0; kind < left.size(); ++kind)
    for (double copy = 0; copy < left[kind]; ++copy) all.push_back(static_cast<Card>(kind));
  return all;
}

// Calls use(own, other) with the hands of each two pairs of single cards that have none in common, as kinds in order.
template <class Use>
void each_two_hands(const std::vector<double>& left, Use&& use) {
  const std::vector<Card> cards = single_cards(left);
  const std::size_t n = cards.size();
  const auto hand = [&](std::size_t i, std::size_t j) {
    return std::vector<Card>{std::min(cards[i], cards[j]), std::max(cards[i], cards[j])};
  };
  for (std::size_t a = 0; a < n; ++a)
    for (std::size_t b = a + 1; b < n; ++b)
      for (std::size_t c = 0; c < n; ++c)
        for (std::size_t d = c + 1; d < n; ++d)
          if (a != c && a != d && b != c && b != d) use(hand(a, b), hand(c, d));
}

// Of each hand its row on a board.
std::size_t row_of(const Boards& boards, const BoardHoldings& board, const std::vector<Card>& hand) {
  for (const Holding& holding : board.sides[0]->all)
    if (std::equal(hand.begin(), hand.end(), boards.hands().cards(holding.hand))) return holding.row;
  FAIL("no such hand");
  return 0;
}

std::uint64_t worth_of(const Betting& game, std::vector<Card> own, const std::vector<Card>& shared) {
  return game.rules().strength(own.data(), own.size(), shared.data(), shared.size());
}

}  // namespace

TEST_CASE("sets are gone through once, each as often as it can be made") {
  double ways = 0;
  std::size_t sets = 0;
  each_set({2, 0, 3, 1}, 3, [&](const std::vector<Card>& cards, double each) {
    CHECK(std::is_sorted(cards.begin(), cards.end()));
    ways += each;
    ++sets;
  });
  CHECK(ways == combinations(6, 3));
  // 0 0 2, 0 0 3, 0 2 2, 0 2 3, 2 2 2, 2 2 3.
  CHECK(sets == 6);
}

TEST_CASE("what hands bring at a showdown is that of all pairs without a card in common") {
  for (const bool named : {true, false})
    for (const double copies : {1.0, 2.0}) {
      if (named && copies > 1) continue;
      const Betting game(two_cards(3, 3, copies, 0, named));
      Boards boards(game);
      const BoardHoldings& board = boards.at(0);
      REQUIRE(board.is_whole);
      std::vector<double> reach;
      for (std::size_t row = 0; row < board.sides[0]->rows(); ++row)
        reach.push_back(1 / (2.0 + static_cast<double>(row)));
      std::vector<double> slow(reach.size(), 0), met(reach.size(), 0), quick(reach.size(), 0), all(reach.size(), 0);
      each_two_hands(board.left, [&](const std::vector<Card>& own, const std::vector<Card>& other) {
        const std::size_t row = row_of(boards, board, own);
        const double chance = reach[row_of(boards, board, other)];
        const std::uint64_t one = worth_of(game, own, {}), two = worth_of(game, other, {});
        slow[row] += chance * (one > two ? 5 : one == two ? 1 : -4);
        met[row] += chance;
      });
      Showing showing(boards.hands());
      showing.show(board, 0, {5, 1, -4}, reach.data(), quick.data());
      showing.meet(board, 0, 1, reach.data(), all.data());
      for (std::size_t row = 0; row < reach.size(); ++row) {
        CHECK(quick[row] == doctest::Approx(slow[row]).epsilon(1e-12));
        CHECK(all[row] == doctest::Approx(met[row]).epsilon(1e-12));
      }
    }
}

TEST_CASE("how rows fare on all boards is what each board gives, and of rows told by ranks the same") {
  for (const bool named : {true, false}) {
    const Betting game(two_cards(3, 3, 1, 2, named));
    Boards boards(game);
    const BoardHoldings& first = boards.at(0);
    for (const unsigned threads : {1u, 2u}) {
      const Runout runout = run_out(boards, first, 0, Crew(threads));
      std::vector<double> slow(runout.wins.size(), 0);
      double ways_in_all = 0;
      each_set(first.left, 2, [&](const std::vector<Card>& shared, double ways) {
        std::vector<double> left = first.left;
        for (const Card card : shared) --left[card];
        ways_in_all += ways;
        each_two_hands(left, [&](const std::vector<Card>& own, const std::vector<Card>& other) {
          if (worth_of(game, own, shared) > worth_of(game, other, shared))
            slow[row_of(boards, first, own) * runout.other_rows + row_of(boards, first, other)] += ways;
        });
      });
      // Both hands being known, five cards are left of which two are turned.
      CHECK(ways_in_all == combinations(9, 2));
      for (std::size_t i = 0; i < slow.size(); ++i)
        CHECK(runout.wins[i] == doctest::Approx(slow[i] / combinations(5, 2)).epsilon(1e-12));
    }
  }
}

TEST_CASE("three cards and one bet are worth -1/18, and best answers gain the gap") {
  const Betting game(ranks_game(3, one_bet()));
  const BoardTree tree(game, Crew(1), nullptr);
  CHECK(tree.deals() == 6);
  BettingRegrets iteration(tree);
  while (iteration.rounds() < 4000) iteration.round();
  BoardMix mix = iteration.mean();
  const auto proof = iteration.proof(mix);
  CHECK(proof.gap() < 1e-8);
  CHECK(proof.low <= -1.0 / 18);
  CHECK(proof.high >= -1.0 / 18);
  CHECK(std::abs(proof.value + 1.0 / 18) < 1e-8);
  // The best answer put in the place of a seat's play brings what was proven.
  CHECK(put_best_answer(tree, 0, mix) == doctest::Approx(proof.high).epsilon(1e-12));
  MixOfRows both(mix);
  CHECK(BoardWalk<MixOfRows>(tree, 0, both).worth() == doctest::Approx(proof.high).epsilon(1e-12));
}

TEST_CASE("a tree that needs too much is refused before it is made") {
  CHECK(count_sets({2, 0, 3, 1}, 3) == 6);
  CHECK_THROWS_AS(HandList(std::vector<double>(52, 1), 8), OutOfReach);
  Betting::Rules rules = two_cards(3, 3, 1, 2, true);
  rules.chips.streets.back() = street_of(2, {half_pot(), whole_pot_size()}, 3);
  const Betting few(rules);
  CHECK_NOTHROW(BoardTree(few, Crew(1), nullptr));
  const Betting many(ranks_game(4000, [] {
    BettingRules chips = one_bet();
    chips.streets = {street_of(0, {chips_of(1)}, 2), street_of(1, {chips_of(1)}, 2)};
    return chips;
  }()));
  CHECK_THROWS_AS(BoardTree(many, Crew(1), nullptr), OutOfReach);
  BettingRules three = one_bet();
  three.seats = 3;
  three.stacks.push_back(100);
  const Betting of_three(ranks_game(4, three));
  CHECK_THROWS_AS(BoardTree(of_three, Crew(1), nullptr), std::invalid_argument);
}
