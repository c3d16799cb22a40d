#include <doctest/doctest.h>

#include <utility>
#include <vector>

#include "betting_games.hpp"
#include "habanera/game/information.hpp"
#include "habanera/game/regret.hpp"

using namespace habanera;
using namespace habanera_test;

TEST_CASE("one card, one bet: every course by hand") {
  const Betting game(ranks_game(3, one_bet()));
  const std::vector<std::pair<Words, Nets>> courses{{{"check", "check"}, {-1, 1}},
                                                    {{"check", "bet", "fold"}, {-1, 1}},
                                                    {{"check", "bet", "call"}, {-2, 2}},
                                                    {{"bet", "fold"}, {1, -1}},
                                                    {{"bet", "call"}, {-2, 2}}};
  for (const auto& [words, net] : courses) {
    Betting::Position position = dealt(game, {0, 2});
    CHECK(game.next(position).seat == 0);
    make_moves(game, position, words);
    CHECK(nets(game, position) == net);
  }
}

TEST_CASE("sound play of one card, one bet is worth -1/18") {
  const Betting game(ranks_game(3, one_bet()));
  const InformationTree tree = TreeBuilder<Betting>(game, {nullptr, nullptr}, {})();
  CHECK(tree.sets().size() == 12);
  RegretIteration iteration(tree);
  while (iteration.rounds() < 2000) iteration.round();
  const auto proof = iteration.proof(iteration.mean());
  CHECK(proof.low <= -1.0 / 18);
  CHECK(proof.high >= -1.0 / 18);
  CHECK(proof.high - proof.low < 1e-3);
}

TEST_CASE("two seats with blinds: who speaks first, and the option of the larger blind") {
  BettingRules chips;
  chips.blinds = {1, 2};
  chips.stacks = {100, 100};
  chips.streets = {street_of(0, {chips_of(2)}, 2), street_of(0, {chips_of(4)}, 2)};
  const Betting game(ranks_game(5, chips));
  Betting::Position position = dealt(game, {0, 4});
  CHECK(game.next(position).seat == 0);
  CHECK(open_words(game, position) == Words{"fold", "call", "raise"});
  make_moves(game, position, {"call"});
  CHECK(game.next(position).seat == 1);
  CHECK(open_words(game, position) == Words{"check", "raise"});
  make_moves(game, position, {"raise", "raise"});
  // Two were made: no third.
  CHECK(open_words(game, position) == Words{"fold", "call"});
  make_moves(game, position, {"call"});
  CHECK(game.next(position).seat == 1);
  make_moves(game, position, {"bet", "call"});
  CHECK(game.actions_text(position) == "call raise raise call / bet call");
  CHECK(nets(game, position) == Nets{-10, 10});
}

TEST_CASE("three seats with blinds: the one after them speaks first, then the first after the dealer") {
  BettingRules chips;
  chips.seats = 3;
  chips.blinds = {1, 2};
  chips.stacks = {100, 100, 100};
  chips.streets = {street_of(0, {half_pot()}, 3), street_of(0, {half_pot(), whole_pot_size()}, 3)};
  const Betting game(ranks_game(5, chips));
  Betting::Position position = dealt(game, {0, 1, 2});
  CHECK(game.next(position).seat == 2);
  // The pot after the call is 5; half of it, 2, is as much as the blind.
  make_moves(game, position, {"raise"});
  CHECK(game.chips_of(position).owed == 4);
  make_moves(game, position, {"fold", "call"});
  CHECK(game.next(position).seat == 1);
  // 1 + 4 + 4; a bet of half of it is 4, rounded down.
  make_moves(game, position, {"bet 1/2 pot"});
  CHECK(game.chips_of(position).owed == 4);
  // After the call there are 17.
  make_moves(game, position, {"raise pot"});
  CHECK(game.chips_of(position).owed == 21);
  make_moves(game, position, {"fold"});
  CHECK(nets(game, position) == Nets{-1, -8, 9});
  CHECK(game.outcome(position).pot == 17);
}

TEST_CASE("sizes at or above what is left are all in, and those that come to the same are one") {
  BettingRules chips;
  chips.ante = 1;
  chips.stacks = {11, 100};
  chips.streets = {street_of(0, {chips_of(2), chips_of(3), half_pot(), chips_of(10), chips_of(50), everything()}, 2)};
  const Betting game(ranks_game(3, chips));
  Betting::Position position = dealt(game, {0, 2});
  // Half of the pot of 2 is 1; 10 is all that is left.
  Words open = open_words(game, position);
  CHECK(open == Words{"check", "bet 2", "bet 3", "bet 1/2 pot", "all in"});
  make_moves(game, position, {"bet 3"});
  // On top: not below the bet of 3, and half of the pot of 8 is 4.
  open = open_words(game, position);
  CHECK(open == Words{"fold", "call", "raise 3", "raise 1/2 pot", "raise 10", "raise 50", "all in"});
  CHECK(game.chips().amount_of(game.chips_of(position), BettingMove::first_size + 1) == 3);
  make_moves(game, position, {"raise 50"});
  CHECK(game.chips_of(position).owed == 53);
  CHECK(game.chips_of(position).to_call(0) == 7);
  make_moves(game, position, {"call"});
  CHECK(game.chips_of(position).left[0] == 0);
  // What was not called goes back.
  CHECK(nets(game, position) == Nets{-11, 11});
  CHECK(game.outcome(position).pot == 22);
  CHECK(game.outcome(position).all_in[0] == 1);
  CHECK(game.outcome(position).all_in[1] == 0);
}

TEST_CASE("an all in below the last raise does not reopen betting for who has spoken") {
  BettingRules chips;
  chips.seats = 3;
  chips.ante = 1;
  chips.stacks = {101, 101, 14};
  chips.streets = {street_of(0, {chips_of(10)}, 4)};
  const Betting game(ranks_game(5, chips));
  Betting::Position position = dealt(game, {0, 1, 2});
  make_moves(game, position, {"bet", "call", "all in"});
  // 3 on top of 10: seats 1 and 2 may call these 3 or fold.
  CHECK(game.chips_of(position).owed == 13);
  CHECK(open_words(game, position) == Words{"fold", "call"});
  make_moves(game, position, {"call"});
  CHECK(open_words(game, position) == Words{"fold", "call"});
  make_moves(game, position, {"fold"});
  CHECK(nets(game, position) == Nets{-14, -11, 25});

  // Who has not spoken may raise, by the last full bet.
  chips.stacks = {101, 14, 101};
  const Betting other(ranks_game(5, chips));
  position = dealt(other, {0, 1, 2});
  make_moves(other, position, {"bet", "all in"});
  CHECK(open_words(other, position) == Words{"fold", "call", "raise"});
  make_moves(other, position, {"raise"});
  CHECK(other.chips_of(position).owed == 23);
  // Now the first may, too.
  CHECK(open_words(other, position) == Words{"fold", "call", "raise"});
}

TEST_CASE("side pots, and an uncalled bet that goes back") {
  BettingRules chips;
  chips.seats = 3;
  chips.ante = 1;
  chips.stacks = {101, 6, 21};
  chips.streets = {street_of(0, {everything()}, 3)};
  const Betting game(ranks_game(5, chips));
  // The shortest has the best hand: the main pot of 18 is his, the side pot of 30 the third's; 80 go back.
  Betting::Position position = dealt(game, {1, 4, 3});
  make_moves(game, position, {"all in", "call", "call"});
  CHECK(nets(game, position) == Nets{-21, 12, 9});
  CHECK(game.outcome(position).pot == 48);
  CHECK(game.outcome(position).winner == 2);
  // The best of all has it all.
  position = dealt(game, {4, 0, 1});
  make_moves(game, position, {"all in", "call", "call"});
  CHECK(nets(game, position) == Nets{27, -6, -21});
  // Folded chips stay in the pots they were put into.
  chips.stacks = {101, 21, 101};
  chips.streets = {street_of(0, {chips_of(30), everything()}, 3)};
  const Betting folding(ranks_game(5, chips));
  position = dealt(folding, {4, 3, 1});
  make_moves(folding, position, {"bet 30", "call", "all in", "fold"});
  // 30 + 20 + 30 (70 go back) + 3: the main pot is 63, the side pot of 20 the last seat's.
  CHECK(nets(folding, position) == Nets{-31, 42, -11});
}

TEST_CASE("odd chips go to the first after the dealer, one by one") {
  BettingRules chips;
  chips.seats = 4;
  chips.ante = 1;
  chips.stacks = {50, 50, 50, 50};
  chips.pot = 0;
  chips.streets = {street_of(0, {chips_of(7)}, 1)};
  auto rules = ranks_game(6, chips);
  // All cards are alike.
  rules.strength = BettingStrength::of_ranks(std::vector<std::uint64_t>(6, 1));
  const Betting game(rules);
  Betting::Position position = dealt(game, {0, 1, 2, 3});
  make_moves(game, position, {"bet", "fold", "call", "call"});
  // 25 by three: 9, 8, 8.
  CHECK(nets(game, position) == Nets{1, -1, 0, 0});
  CHECK(game.outcome(position).winner == 0);
  // Of two with blinds the first deals, and the second has the odd chip.
  BettingRules two;
  two.blinds = {1, 2};
  two.ante = 1;
  two.stacks = {50, 50};
  two.pot = 1;
  two.streets = {street_of(0, {chips_of(2)}, 1)};
  rules.chips = two;
  const Betting heads(rules);
  position = dealt(heads, {0, 1});
  make_moves(heads, position, {"call", "check"});
  CHECK(nets(heads, position) == Nets{0, 1});
}

TEST_CASE("a seat whose blind is its stack has no decision, and cards are turned without betting") {
  BettingRules chips;
  chips.blinds = {1, 2};
  chips.stacks = {10, 2};
  chips.streets = {street_of(0, {chips_of(2)}, 2), street_of(1, {chips_of(2)}, 2), street_of(1, {chips_of(2)}, 2)};
  const Betting game(ranks_game(9, chips));
  Betting::Position position = dealt(game, {8, 0});
  // Nobody could call a raise.
  CHECK(open_words(game, position) == Words{"fold", "call"});
  make_moves(game, position, {"call"});
  for (const Card card : {Card{3}, Card{4}}) {
    CHECK(game.next(position).what == NextStep::deal);
    game.give(position, game.next(position), card);
  }
  CHECK(nets(game, position) == Nets{2, -2});
  // Of the smaller blind, too.
  chips.stacks = {1, 10};
  const Betting other(ranks_game(9, chips));
  position = dealt(other, {8, 0});
  CHECK(other.next(position).what == NextStep::deal);
}

TEST_CASE("a blind may not merely be called") {
  BettingRules chips;
  chips.blinds = {1, 2};
  chips.stacks = {20, 20};
  chips.streets = {street_of(0, {everything()}, 1)};
  chips.streets[0].only_all_in = true;
  const Betting game(ranks_game(5, chips));
  Betting::Position position = dealt(game, {0, 4});
  CHECK(open_words(game, position) == Words{"fold", "all in"});
  make_moves(game, position, {"all in"});
  CHECK(open_words(game, position) == Words{"fold", "call"});
  make_moves(game, position, {"call"});
  CHECK(nets(game, position) == Nets{-20, 20});
}

TEST_CASE("a call for less, and who folded is skipped") {
  BettingRules chips;
  chips.seats = 3;
  chips.ante = 0;
  chips.pot = 10;
  chips.stacks = {50, 8, 50};
  chips.streets = {street_of(0, {chips_of(10)}, 1), street_of(0, {chips_of(10)}, 1)};
  const Betting game(ranks_game(5, chips));
  Betting::Position position = dealt(game, {2, 4, 1});
  make_moves(game, position, {"bet", "call", "call"});
  CHECK(game.chips_of(position).left[1] == 0);
  // The second is all in: only the first and the third go on.
  CHECK(game.next(position).seat == 0);
  make_moves(game, position, {"bet"});
  CHECK(game.next(position).seat == 2);
  make_moves(game, position, {"fold"});
  // Main pot 10 + 24 to the second; side pot 4 to the first; nets sum to the pot of 10.
  CHECK(nets(game, position) == Nets{-6, 26, -10});
}
