#include <doctest/doctest.h>

#include <map>
#include <vector>

#include "habanera/chance/given.hpp"
#include "habanera/game/counting.hpp"
#include "habanera/game/enumerating.hpp"
#include "habanera/game/remembered_trials.hpp"
#include "habanera/game/table_recorder.hpp"
#include "habanera/war/war.hpp"
#include "habanera/watcher/card_check.hpp"

using namespace habanera;

namespace {

// Cards 0, 1, 2, ... of so many ranks from 1, each as often as there are suits.
WarRules rules_for(std::size_t ranks, std::size_t suits, std::vector<std::size_t> sizes) {
  WarRules rules;
  rules.dealing.sizes = std::move(sizes);
  for (std::size_t i = 0; i < ranks * suits; ++i) rules.ranks.push_back(static_cast<std::uint32_t>(i % ranks + 1));
  return rules;
}

std::vector<Card> cards_of(const WarRules& rules) {
  std::vector<Card> deck(rules.ranks.size());
  for (std::size_t i = 0; i < deck.size(); ++i) deck[i] = static_cast<Card>(i);
  return deck;
}

// Piles as given, the top first.
template <std::size_t Seats>
WarOutcome play_piles(WarRules rules, const std::vector<std::vector<Card>>& piles) {
  std::vector<Card> deck;
  rules.dealing.alternate = false;
  for (std::size_t seat = 0; seat < piles.size(); ++seat) {
    rules.dealing.sizes[seat] = piles[seat].size();
    deck.insert(deck.end(), piles[seat].begin(), piles[seat].end());
  }
  War<Seats> war(rules);
  RandomChance chance(1, 1, lane::game);
  SeatLanes luck(1, 1);
  CardCheck check;
  const WarOutcome checked = war.play(deck, chance, luck, check);
  CHECK(check.moves() > 0);
  return checked;
}

std::vector<WarRules> many_rules() {
  std::vector<WarRules> all;
  const WarRules two = rules_for(5, 4, {10, 10}), three = rules_for(6, 4, {8, 8, 8});
  for (const WarRules& base : {two, three})
    for (const auto tie : {WarRules::Tie::war, WarRules::Tie::split, WarRules::Tie::discard, WarRules::Tie::seat,
                           WarRules::Tie::nothing})
      for (const auto collect : {WarRules::Collect::winner_first, WarRules::Collect::loser_first,
                                 WarRules::Collect::seat_order, WarRules::Collect::shuffled})
        for (const bool other : {false, true}) {
          WarRules rules = base;
          rules.tie = tie;
          rules.collect = collect;
          rules.face_down = other ? 1 : 3;
          rules.short_loses = rules.from_bottom = other;
          rules.inner_game = other && collect != WarRules::Collect::shuffled;
          rules.by_points = other && tie == WarRules::Tie::nothing;
          rules.max_rounds = 2000;
          if (other && collect == WarRules::Collect::loser_first) rules.repetition = WarRules::Repetition::tied;
          all.push_back(rules);
        }
  return all;
}

std::vector<std::int64_t> values(const WarOutcome& outcome) {
  std::vector<std::int64_t> all;
  for (const auto& column : WarOutcome::columns()) all.push_back(column.read(outcome));
  return all;
}

// Trials with every move checked, beside the silent run and the recorded one.
template <std::size_t Seats>
std::size_t check_trials(const WarRules& rules, std::uint64_t seed) {
  const std::vector<Card> deck = cards_of(rules);
  const Draw draw(DrawSpec{deck, deck.size(), false});
  War<Seats> war(rules);
  Workspace work;
  Silent silent;
  SeatLanes luck(1, 1);
  std::size_t moves = 0;
  for (std::uint64_t trial = 1; trial <= 50; ++trial) {
    std::vector<Card> table = deck;
    RandomChance dealing(seed, trial, lane::deal);
    draw(table, work, dealing, silent);
    CardCheck check;
    TableRecorder recorder;
    RandomChance one(seed, trial, lane::game), two(seed, trial, lane::game), three(seed, trial, lane::game);
    const auto quiet = values(war.play(table, one, luck, silent));
    CHECK(quiet == values(war.play(table, two, luck, check)));
    CHECK(quiet == values(war.play(table, three, luck, recorder)));
    CHECK(recorder.steps().size() + 1 >= check.moves());
    moves += check.moves();
  }
  return moves;
}

}  // namespace

TEST_CASE("a game of War worked by hand") {
  // 4 1 against 3 2, by ranks: 4 takes 3; 2 takes 1; 4 takes 2; 3 takes 1.
  const WarOutcome outcome = play_piles<2>(rules_for(4, 1, {2, 2}), {{3, 0}, {2, 1}});
  CHECK(outcome.winner == 1);
  CHECK(outcome.ended == WarOutcome::out_of_cards);
  CHECK(outcome.rounds == 4);
  CHECK(outcome.comparisons == 4);
  CHECK(outcome.winner_fewest == 2);
  CHECK(outcome.points[0] == 3);
  CHECK(outcome.points[1] == 1);
  CHECK(outcome.weighted_pile == 1 * 1 + 3 * 2 + 2 * 3 + 4 * 4);
}

TEST_CASE("a war lays the pot under layer by layer") {
  // Ranks 1 to 5 in two suits. 5 ties with 5; 1 2 and 2 1 go down; 4 beats 3.
  WarRules rules = rules_for(5, 2, {4, 4});
  rules.face_down = 2;
  const std::vector<std::vector<Card>> piles{{4, 0, 1, 3}, {9, 6, 5, 2}};
  const auto weighted = [&](WarRules::Collect collect) {
    rules.collect = collect;
    return play_piles<2>(rules, piles).weighted_pile;
  };
  // From the bottom, winner first: 3 4 1 2 2 1 5 5.
  CHECK(weighted(WarRules::Collect::winner_first) == 3 + 8 + 3 + 8 + 10 + 6 + 35 + 40);
  // Loser first, from the bottom: 4 3 2 1 1 2 5 5.
  CHECK(weighted(WarRules::Collect::loser_first) == 4 + 6 + 6 + 4 + 5 + 12 + 35 + 40);
  CHECK(weighted(WarRules::Collect::seat_order) == weighted(WarRules::Collect::winner_first));
}

TEST_CASE("nothing is lost or doubled, and watched games are the silent ones") {
  std::uint64_t seed = 0;
  for (const WarRules& rules : many_rules()) {
    ++seed;
    CHECK((rules.seats() == 2 ? check_trials<2>(rules, seed) : check_trials<0>(rules, seed)) > 50);
  }
}

TEST_CASE("two seats known when compiling play like any number") {
  for (const WarRules& rules : many_rules()) {
    if (rules.seats() != 2) continue;
    const std::vector<Card> deck = cards_of(rules);
    const Draw draw(DrawSpec{deck, deck.size(), false});
    GameRunner<War<2>> fixed(draw, rules, {0, 1, 2, 3, 4, 6, 8, 17});
    GameRunner<War<0>> any(draw, rules, {0, 1, 2, 3, 4, 6, 8, 17});
    for (std::uint64_t trial = 1; trial <= 40; ++trial) CHECK(fixed.play(3, trial).front() == any.play(3, trial).front());
  }
}

TEST_CASE("rounds played in one run are the general rounds, by random rules on random decks") {
  // A watcher that sees everything and does nothing keeps a game from playing many rounds at once.
  struct LooksOn : Silent {};
  RandomChance random(20, 1);
  const auto choose = [&](std::uint64_t size) { return static_cast<std::size_t>(random.below(size)); };
  std::uint64_t ties = 0, never = 0, rounds = 0;
  for (std::uint64_t game = 1; game <= 20000; ++game) {
    const std::size_t ranks = 1 + choose(13), suits = 1 + choose(4), cards = ranks * suits, left = choose(cards + 1);
    WarRules rules = rules_for(ranks, suits, {left, choose(cards - left + 1)});
    rules.collect = static_cast<WarRules::Collect>(choose(3));
    rules.tie = choose(4) == 0 ? static_cast<WarRules::Tie>(choose(5)) : WarRules::Tie::war;
    rules.tie_seat = choose(2);
    rules.face_down = choose(5);
    rules.short_loses = choose(2) == 0;
    rules.max_rounds = choose(3) == 0 ? choose(300) : 5000;
    rules.most_cards_at_limit = choose(4) == 0;
    rules.dealing.alternate = choose(2) == 0;
    const std::vector<Card> deck = cards_of(rules);
    std::vector<Card> table = deck;
    Workspace work;
    Silent silent;
    RandomChance dealing(21, game, lane::deal), one(21, game, lane::game), two(21, game, lane::game);
    Draw(DrawSpec{deck, deck.size(), false})(table, work, dealing, silent);
    War<2> war(rules);
    SeatLanes luck(1, 1);
    LooksOn looks_on;
    const WarOutcome at_once = war.play(table, one, luck, silent);
    REQUIRE(values(at_once) == values(war.play(table, two, luck, looks_on)));
    ties += at_once.ties;
    never += at_once.ended == WarOutcome::never_ends;
    rounds += at_once.rounds;
  }
  CHECK(ties > 10000);
  CHECK(never > 100);
  CHECK(rounds > 500000);
}

TEST_CASE("a game that comes back to a position is noticed at the round that the schedule says") {
  // Every deal of four cards; some of them go round for ever.
  WarRules rules = rules_for(4, 1, {2, 2});
  rules.collect = WarRules::Collect::seat_order;
  std::size_t never = 0;
  std::vector<Card> deck = cards_of(rules);
  do {
    const std::vector<std::vector<Card>> piles{{deck[0], deck[1]}, {deck[2], deck[3]}};
    const WarOutcome watched = play_piles<2>(rules, piles);
    WarRules remembering = rules;
    remembering.repetition = WarRules::Repetition::tied;
    const WarOutcome remembered = play_piles<2>(remembering, piles);
    CHECK((watched.ended == WarOutcome::never_ends) == (remembered.ended == WarOutcome::repetition_ends));
    if (watched.ended != WarOutcome::never_ends) continue;
    ++never;
    // The repetition is seen at once, after `entered` + `length` rounds; the watch needs 2^k + length.
    std::uint64_t kept = 512;
    bool fits = false;
    for (std::uint64_t length = 1; length <= remembered.rounds; ++length) {
      const std::uint64_t entered = remembered.rounds - length;
      for (kept = 512; kept < std::max(entered, length);) kept *= 2;
      fits = fits || watched.rounds == kept + length;
    }
    CHECK(fits);
  } while (std::next_permutation(deck.begin(), deck.end()));
  CHECK(never > 0);
}

TEST_CASE("dealing kinds that are alike gives the law of dealing cards") {
  WarRules rules = rules_for(3, 2, {3, 3});
  rules.face_down = 1;
  const std::vector<Card> deck = cards_of(rules);
  const std::vector<std::size_t> columns{0, 1, 2, 4, 17};
  const auto alike = walk_games<War<2>>(Draw(DrawSpec{deck, 6, false}), rules, columns, 100);
  // Two shuffles are no single uniform shuffle, so every arrangement of the cards is walked.
  const Draw twice(DrawSpec{deck, 6, false}, Procedure({NoShuffle(), UniformStep(6)}));
  const auto by_card = walk_games<War<2>>(twice, rules, columns, 720);
  REQUIRE(alike.size() == by_card.size());
  double total = 0;
  for (const auto& [row, chance] : alike) {
    CHECK(by_card.at(row) == doctest::Approx(chance).epsilon(1e-12));
    total += chance;
  }
  CHECK(total == doctest::Approx(1).epsilon(1e-12));
  CHECK_THROWS_AS(walk_games<War<2>>(twice, rules, columns, 719), std::length_error);
}

TEST_CASE("a shuffled pot asks chance, and a walk without end is stopped") {
  WarRules rules = rules_for(4, 1, {2, 2});
  rules.collect = WarRules::Collect::shuffled;
  War<2> war(rules);
  SeatLanes luck(1, 1);
  Silent silent;
  // 4 1 against 3 2: each pot of two cards asks for one choice of two; 0 keeps the order of the seats.
  GivenChance chance({0, 0, 0, 0});
  const WarOutcome outcome = war.play({3, 2, 0, 1}, chance, luck, silent);
  CHECK(outcome.winner == 1);
  CHECK(outcome.rounds == 4);
  CHECK(chance.unused() == 0);
  rules.max_rounds = 100;  // or a single path could have 100,000 choices
  CHECK_THROWS_AS(walk_games<War<2>>(Draw(DrawSpec{cards_of(rules), 4, false}), rules, {0}, 1000), std::length_error);
}

TEST_CASE("counts of games do not depend on threads, and rules are checked") {
  const WarRules rules = rules_for(13, 4, {26, 26});
  const Draw draw(DrawSpec{cards_of(rules), 52, false});
  const GameRunner<War<2>> runner(draw, rules, {0, 2});
  const auto count = [&](unsigned threads) {
    return count_games(1, 1000, threads, [&] { return GameCounter(runner, 5); }).tally().entries();
  };
  const auto one = count(1), three = count(3);
  REQUIRE(one.size() == three.size());
  for (std::size_t i = 0; i < one.size(); ++i) {
    CHECK(one[i].first == three[i].first);
    CHECK(one[i].second.n == three[i].second.n);
    CHECK(one[i].second.example == three[i].second.example);
  }
  CHECK_THROWS_AS(War<2>(rules_for(4, 1, {2, 1, 1})), std::invalid_argument);
  CHECK_THROWS_AS(War<0>(rules_for(4, 1, {4})), std::invalid_argument);
}

TEST_CASE("remembered trials are those that were played, as far as there is room") {
  const WarRules rules = rules_for(13, 4, {26, 26});
  const Draw draw(DrawSpec{cards_of(rules), 52, false});
  const GameRunner<War<2>> runner(draw, rules, {0, 2});
  RememberedTrials memory(100, 2 * 60);
  const auto remembering = std::make_unique<RememberingRunner>(runner.copy(), memory);
  for (int time = 0; time < 2; ++time) {
    const auto plain = count_games(1, 200, 2, [&] { return GameCounter(runner, 5); }).tally().entries();
    const auto kept = count_games(1, 200, 2, [&] { return GameCounter(*remembering, 5); }).tally().entries();
    REQUIRE(plain.size() == kept.size());
    for (std::size_t i = 0; i < plain.size(); ++i) {
      CHECK(plain[i].first == kept[i].first);
      CHECK(plain[i].second.n == kept[i].second.n);
    }
  }
  Entries entries;
  std::size_t known = 0;
  for (std::uint64_t trial = 0; trial <= 200; ++trial) known += memory.recall(trial, entries);
  CHECK(known == 60);
  CHECK_THROWS_AS(remembering->deck(), std::logic_error);
}
