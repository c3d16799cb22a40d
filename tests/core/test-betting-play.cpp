#include <doctest/doctest.h>

#include <cmath>
#include <memory>
#include <vector>

#include "betting_games.hpp"
#include "habanera/betting/players.hpp"
#include "habanera/game/information.hpp"
#include "habanera/game/row_costs.hpp"
#include "habanera/game/seated.hpp"
#include "habanera/watcher/card_check.hpp"

using namespace habanera;
using namespace habanera_test;

TEST_CASE("hands go the same way where all courses are listed and where they are not") {
  BettingRules chips;
  chips.seats = 3;
  chips.blinds = {1, 2};
  chips.stacks = {60, 45, 80};
  const std::vector<BetSize> sizes{chips_of(2), half_pot(), whole_pot_size(), everything()};
  chips.streets = {street_of(0, sizes, 4), street_of(0, sizes, 4)};
  CHECK(!Betting(ranks_game(6, chips)).has_tree());
  chips.streets = {street_of(0, {half_pot()}, 2), street_of(0, {half_pot()}, 2)};
  const Betting listed(ranks_game(6, chips));
  CHECK(listed.has_tree());
  const ChipRules rules(chips);
  RandomChance chance(7, 1);
  for (int hand = 0; hand < 300; ++hand) {
    Betting::Position position = dealt(listed, {0, 3, 5});
    Chips now = rules.start();
    while (!now.is_over()) {
      const Moves open = listed.moves(position);
      CHECK(open.bits() == rules.moves(now).bits());
      const std::size_t move = open.at(static_cast<std::size_t>(chance.below(open.count())));
      listed.move(position, move);
      rules.move(now, move);
    }
    const Betting::Outcome outcome = listed.outcome(position);
    Chips::BySeat net{};
    std::int64_t pot = 0;
    const std::size_t winner = rules.settle(
        now, [](std::size_t seat) { return std::uint64_t{seat == 0 ? 1u : seat == 1 ? 4u : 6u}; }, net, pot);
    for (std::size_t seat = 0; seat < 3; ++seat) CHECK(outcome.net[seat] == net[seat]);
    CHECK(outcome.pot == pot);
    CHECK(outcome.winner == (winner == Chips::nobody ? 0 : static_cast<std::int64_t>(winner) + 1));
    CHECK(listed.actions_of_code(static_cast<std::uint64_t>(outcome.actions)) == listed.actions_text(position));
  }
}

TEST_CASE("hidden cards that are exchanged change nothing that a seat sees") {
  BettingRules chips = one_bet();
  chips.seats = 3;
  chips.stacks = {100, 100, 100};
  chips.streets = {street_of(0, {chips_of(1)}, 2), street_of(1, {chips_of(2)}, 1)};
  const Betting game(ranks_game(7, chips));
  RandomChance chance(3, 1);
  std::size_t asked = 0;
  for (int hand = 0; hand < 200; ++hand) {
    Betting::Position one = dealt(game, {0, 3, 5}), other = dealt(game, {0, 5, 2});
    for (;;) {
      const NextStep next = game.next(one);
      if (next.what == NextStep::over) break;
      if (next.what == NextStep::deal) {
        game.give(one, next, 6);
        game.give(other, next, 6);
        continue;
      }
      CHECK(game.next(other).seat == next.seat);
      CHECK(game.moves(other).bits() == game.moves(one).bits());
      if (next.seat == 0) {
        ++asked;
        CHECK(game.view(one, 0) == game.view(other, 0));
        CHECK(text_of(game.view(one, 0).facts()) == text_of(game.view(other, 0).facts()));
        CHECK(game.unseen(game.view(one, 0)).counts() == game.unseen(game.view(other, 0)).counts());
      }
      const std::size_t move = game.moves(one).at(static_cast<std::size_t>(chance.below(game.moves(one).count())));
      game.move(one, move);
      game.move(other, move);
    }
  }
  CHECK(asked > 200);
}

TEST_CASE("hands that only one seat is dealt, by their weights, the other any") {
  auto rules = ranks_game(4, one_bet());
  rules.openings = std::make_shared<const Openings>(
      std::vector<std::vector<WeightedHand>>{{{{0}, 3}, {{3}, 1}}, {}}, rules.cards->copies);
  const Betting game(rules);
  CHECK(game.openings()->size() == 2);
  CHECK(game.openings()->chance(0) == doctest::Approx(0.75));
  const auto calls = std::make_shared<CallsAllPlayer>();
  // Checked through, the first loses with the lowest card and wins with the highest.
  const InformationTree tree = TreeBuilder<Betting>(game, {calls, calls}, {})();
  CHECK(tree.values({})[0] == doctest::Approx(-0.5));
  Seated<Betting> seated({rules, {calls, calls}});
  std::size_t lost = 0;
  const std::size_t trials = 4000;
  for (std::uint64_t trial = 0; trial < trials; ++trial) {
    RandomChance chance(5, trial, lane::game), shuffle(5, trial, lane::deal);
    SeatLanes luck(5, trial);
    CardCheck check;
    std::vector<Card> deck{0, 1, 2, 3};
    for (std::size_t i = 3; i > 0; --i) std::swap(deck[i], deck[shuffle.below(i + 1)]);
    seated.play(deck, chance, luck, check, [&](const auto& outcome) { lost += outcome.game.net[0] < 0; });
    CHECK(check.moves() > 2);
  }
  // Four standard errors of a share of 3/4.
  CHECK(std::abs(static_cast<double>(lost) / static_cast<double>(trials) - 0.75) < 4 * std::sqrt(0.1875 / trials));
  CHECK_THROWS_AS(Openings({{{{0}, 1}}, {{{0}, 1}}}, rules.cards->copies), std::invalid_argument);
}

TEST_CASE("what rows cost sums to what the best answer gains") {
  const Betting game(ranks_game(3, one_bet()));
  const auto random = std::make_shared<RandomPlayer<BettingView>>();
  const auto calls = std::make_shared<CallsAllPlayer>();
  const InformationTree tree = TreeBuilder<Betting>(game, {random, calls}, {})();
  double all = 0;
  for (const RowCost& row : row_costs(tree, 0)) all += row.how_often * row.cost();
  // The best answer to who calls all bets the highest alone: it wins 2 there, loses and wins 1 with the others.
  CHECK(all == doctest::Approx(1.0 / 3 - tree.values({})[0]));
}
