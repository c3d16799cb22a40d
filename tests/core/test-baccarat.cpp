#include <doctest/doctest.h>

#include <cmath>
#include <map>
#include <vector>

#include "habanera/baccarat/baccarat.hpp"
#include "habanera/chance/given.hpp"
#include "habanera/game/playable.hpp"
#include "habanera/game/seated.hpp"
#include "habanera/watcher/card_check.hpp"

using namespace habanera;

namespace {

using Game = Seated<Baccarat>;

// Kinds 0 to 9 by value; the usual table: who draws on what.
Game::Rules usual(std::size_t cards) {
  Game::Rules rules;
  BaccaratRules& game = rules.game;
  for (std::uint8_t value = 0; value < 10; ++value) game.values.push_back(value);
  game.alike.assign(game.values.begin(), game.values.end());
  game.cards = cards;
  for (std::size_t total = 0; total < 8; ++total) {
    game.player_draws[total] = total <= 5;
    game.banker_draws[total][baccarat_totals] = total <= 5;
    const std::vector<std::pair<std::size_t, std::size_t>> range{{0, 9}, {0, 9}, {0, 9}, {0, 9},
                                                                 {2, 7}, {4, 7}, {6, 7}, {10, 0}};
    for (std::size_t third = range[total].first; third <= range[total].second && third < 10; ++third)
      game.banker_draws[total][third] = !(total == 3 && third == 8);
  }
  game.stake = 20;
  game.player_wins = 20;
  game.banker_wins.fill(19);
  game.tie_wins = 160;
  return rules;
}

// `deck` is what comes first; more is not needed, but the game has it.
Baccarat::Outcome round_of(const Game::Rules& rules, std::vector<Card> deck) {
  deck.resize(std::max(deck.size(), rules.game.cards), 0);
  Game game(rules);
  GivenChance none({});
  SharedLuck<GivenChance> luck(none);
  CardCheck check;
  Baccarat::Outcome found;
  game.play(deck, none, luck, check, [&](const auto& outcome) { found = outcome.game; });
  return found;
}

// The law by every path, through the code that simulates.
std::map<std::vector<std::int64_t>, double> by_paths(const Game::Rules& rules, const std::vector<Card>& deck,
                                                     const std::vector<std::size_t>& columns) {
  std::map<std::vector<std::int64_t>, double> law;
  Game game(rules);
  AlikeDeal alike(deck, std::min<std::size_t>(deck.size(), 6), game);
  Silent silent;
  walk_every_path(WorkBound(10000000), [&](EveryChance& chance) {
    const std::vector<Card> dealt = alike(chance);
    SharedLuck<EveryChance> luck(chance);
    game.play(dealt, chance, luck, silent, [&](const auto& outcome) {
      std::vector<std::int64_t> row;
      for (const std::size_t column : columns) row.push_back(Game::Outcome::columns()[column].read(outcome));
      law[row] += chance.probability();
    });
  });
  return law;
}

void check_law(const Game::Rules& rules, const std::vector<Card>& deck) {
  // Nets, winner, totals, margin, cards used, and two side bets.
  const std::vector<std::size_t> columns{0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10};
  const auto paths = by_paths(rules, deck, columns);
  std::map<std::vector<std::int64_t>, double> quick;
  std::vector<double> counts(rules.game.values.size(), 0);
  for (const Card card : deck) ++counts[card];
  Game(rules).walk_by_memory(counts, columns, WorkBound(1000), [&](const auto& outcome, double chance) {
    std::vector<std::int64_t> row;
    for (const std::size_t column : columns) row.push_back(Game::Outcome::columns()[column].read(outcome));
    quick[row] += chance;
  });
  REQUIRE(quick.size() == paths.size());
  // Each chance is a sum of at most a few thousand terms, each right to a few units in the last place.
  for (const auto& [row, chance] : paths) CHECK(std::abs(quick[row] - chance) < 1e-12);
}

}  // namespace

TEST_CASE("rounds of baccarat worked by hand") {
  const auto rules = usual(12);
  // A natural of the player's: nobody draws.
  auto found = round_of(rules, {9, 1, 0, 3, 5, 5});
  CHECK(found.winner() == Baccarat::Outcome::player);
  CHECK(found.result.cards() == 4);
  CHECK(found.net_player == 20);
  CHECK(found.net_banker == -20);
  CHECK(found.net_tie == -20);
  // The player has 5 and draws an 8, on which the banker with 3 stands.
  found = round_of(rules, {2, 1, 3, 2, 8, 6});
  CHECK(found.result.player == 3);
  CHECK(found.result.banker == 3);
  CHECK(found.net_tie == 160);
  CHECK(found.net_banker == 0);
  CHECK(found.result.cards() == 5);
  // The same with 9 drawn: the banker draws.
  found = round_of(rules, {2, 1, 3, 2, 9, 6});
  CHECK(found.result.player == 4);
  CHECK(found.result.banker == 9);
  CHECK(found.net_banker == 19);
  CHECK(found.result.cards() == 6);
  // The player stands on 6; the banker draws alone on 5.
  found = round_of(rules, {2, 1, 4, 4, 2, 0});
  CHECK(found.result.player == 6);
  CHECK(found.result.banker == 7);
  CHECK(found.result.cards() == 5);
}

TEST_CASE("the law of baccarat at once is that of every path") {
  RandomChance chance(7, 1);
  for (int round = 0; round < 12; ++round) {
    auto rules = usual(8);
    // Values, drawing rules, pays and side bets at random.
    rules.game.natural_from = 6 + chance.below(5);
    for (auto& draws : rules.game.player_draws) draws = chance.below(2) == 0;
    for (auto& row : rules.game.banker_draws)
      for (bool& draws : row) draws = chance.below(2) == 0;
    rules.game.banker_wins[6] = 10;
    BaccaratSideBet openings, results;
    for (std::size_t pair = 0; pair < 100; ++pair) {
      openings.player_opening.push_back(static_cast<std::uint32_t>(pair / 10 == pair % 10));
      openings.banker_opening.push_back(static_cast<std::uint32_t>(2 * (pair / 10 > pair % 10)));
    }
    openings.net = {-20, 100, 7, 40};
    for (std::size_t number = 0; number < BaccaratResult::count; ++number)
      results.by_result.push_back(static_cast<std::uint32_t>(number % 3));
    results.net = {-20, 0, 30};
    rules.game.side_bets = {openings, results};
    rules.game.bet_on = BaccaratRules::on_side + chance.below(2);
    std::vector<Card> deck;
    for (int card = 0; card < 8; ++card) deck.push_back(static_cast<Card>(chance.below(10)));
    check_law(rules, deck);
  }
}

TEST_CASE("a bet on all cards reads those of its hand") {
  auto rules = usual(8);
  BaccaratSideBet bet;
  Words zeros;  // how many cards of value 0
  zeros.start = 0;
  zeros.added = {1, 0, 0, 0, 0, 0, 0, 0, 0, 0};
  zeros.cells = 7;
  bet.all_cards = zeros;
  bet.net = {-20, -20, 0, 20, 40, 60, 80};
  rules.game.side_bets = {bet};
  CHECK(round_of(rules, {0, 0, 5, 0, 0, 0}).side[0] == 60);
  rules.game.side_bets[0].all_cards.reset();
  rules.game.side_bets[0].banker_cards = zeros;
  CHECK(round_of(rules, {0, 0, 5, 0, 0, 0}).side[0] == 20);
}

TEST_CASE("a shoe of baccarat too small for a round is refused") {
  CHECK_THROWS_AS(Baccarat(usual(5).game), std::invalid_argument);
}
