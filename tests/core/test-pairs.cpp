#include <doctest/doctest.h>

#include <map>
#include <vector>

#include "habanera/chance/given.hpp"
#include "habanera/game/counting.hpp"
#include "habanera/game/lookahead.hpp"
#include "habanera/game/playable.hpp"
#include "habanera/game/seated.hpp"
#include "habanera/game/solver.hpp"
#include "habanera/pairs/pairs.hpp"
#include "habanera/pairs/players.hpp"
#include "habanera/watcher/card_check.hpp"

using namespace habanera;

namespace {

using Seats = std::vector<std::shared_ptr<const PairsPlayer>>;

std::shared_ptr<const PairsPlayer> remembering(bool careful = false) {
  return std::make_shared<RememberingPlayer>(PairsMemory(), careful);
}

// Kinds 0, 1, 2, ... in twos.
Seated<Pairs>::Rules table(std::size_t pairs, Seats players, bool again = true) {
  Seated<Pairs>::Rules rules;
  rules.game.pairs = pairs;
  rules.game.seats = players.size();
  rules.game.again = again;
  for (std::size_t i = 0; i < 2 * pairs; ++i) rules.game.mates.push_back(static_cast<std::uint16_t>(i / 2));
  rules.game.copies.assign(2 * pairs, 1);
  rules.players = std::move(players);
  return rules;
}

std::vector<Card> deck_of(std::size_t pairs) {
  std::vector<Card> deck(2 * pairs);
  for (std::size_t i = 0; i < deck.size(); ++i) deck[i] = static_cast<Card>(i);
  return deck;
}

template <class Chance>
Seated<Pairs>::Outcome play(const Seated<Pairs>::Rules& rules, const std::vector<Card>& deck, Chance& chance) {
  Seated<Pairs> game(rules);
  SharedLuck<Chance> luck(chance);
  CardCheck check;
  Seated<Pairs>::Outcome outcome{};
  game.play(deck, chance, luck, check, [&](const Seated<Pairs>::Outcome& ended) { outcome = ended; });
  CHECK(check.moves() >= 2 * rules.game.pairs);
  return outcome;
}

}  // namespace

TEST_CASE("a game of pairs worked by hand") {
  GivenChance none({});
  // On the table A B A B: A, then B; then the third is A, whose mate is known; then B and B.
  const auto outcome = play(table(2, {remembering()}), {0, 2, 1, 3}, none);
  CHECK(outcome.game.turns == 3);
  CHECK(outcome.game.winner == 1);
  CHECK(outcome.game.won[0] == 2);
  CHECK(outcome.decisions.made[0] == 6);
  CHECK(outcome.decisions.forced[0] == 1);  // the last card of all
  // Two seats: the first shows A and B, the second finds A and A, turns again and takes B.
  const auto two = play(table(2, {remembering(), remembering()}), {0, 2, 1, 3}, none);
  CHECK(two.game.winner == 2);
  CHECK(two.game.turns == 3);
  const auto not_again = play(table(2, {remembering(), remembering()}, false), {0, 2, 1, 3}, none);
  CHECK(not_again.game.winner == 0);
}

TEST_CASE("a careful player shows nothing new with its second card") {
  // A B C A B C: the places that one player alone turns, one after the other.
  const auto turned = [](bool careful) {
    const Pairs game(table(3, {remembering()}).game);
    RememberingPlayer player(PairsMemory(), careful);
    GivenChance none({});
    SharedLuck<GivenChance>::Lane luck(none);
    const std::vector<Card> deck{0, 2, 4, 1, 3, 5};
    ShuffledStock stock(deck);
    Pairs::Position position = game.start();
    std::vector<std::size_t> places;
    play_out(game, position, stock,
             [&](std::size_t seat, const Pairs::Position& now, Moves moves) {
               return player.choose(game.view(now, seat), moves, luck);
             },
             [&](const NextStep& next, const Pairs::Position&) {
               if (next.what == NextStep::turn) places.push_back(next.place);
             });
    return places;
  };
  // Both show A and B. Then the careful one turns C and, for its second, the A that all know; the other one shows A.
  CHECK(turned(true) == std::vector<std::size_t>{0, 1, 2, 0, 3, 0, 4, 1, 5, 2});
  CHECK(turned(false) == std::vector<std::size_t>{0, 1, 2, 3, 0, 3, 4, 1, 5, 2});
}

TEST_CASE("what is remembered stays so when it is seen again") {
  // Kept at the first sighting; at the second the chance says no; then it is dropped by its span.
  PairsMemory memory(0.5, 3);
  memory.begins();
  const Pairs game(table(2, {remembering()}).game);
  Pairs::Position now = game.start();
  Moves all;
  for (std::size_t place = 0; place < 4; ++place) all.add(place);
  const auto look = [&](std::vector<std::uint64_t> choices) {
    GivenChance chance(std::move(choices));
    SharedLuck<GivenChance>::Lane luck(chance);
    memory.look(game.view(now, 0), all, luck);
    return memory.known().has(0);
  };
  now.seen[0] = 0;
  now.when[0] = now.sightings = 1;
  CHECK(look({0}));  // the first of two branches: it happens
  now.when[0] = now.sightings = 2;
  CHECK(look({1}));
  CHECK(look({}));  // a sighting is decided on once
  now.sightings = 4;
  CHECK(look({}));
  now.sightings = 5;
  CHECK_FALSE(look({}));
}

TEST_CASE("an unseen stock gives the law of a shuffled one") {
  const Pairs game(table(3, {remembering(), remembering()}).game);
  const auto count = [&](auto&& play_one) {
    std::map<std::vector<std::int64_t>, double> law;
    walk_every_path(WorkBound(100000), [&](EveryChance& chance) {
      const Pairs::Outcome outcome = play_one(chance);
      law[{outcome.turns, outcome.winner, outcome.won[0]}] += chance.probability();
    });
    return law;
  };
  const auto choose_with = [&](auto& players, EveryChance& chance) {
    return [&](std::size_t seat, const Pairs::Position& now, Moves moves) {
      SharedLuck<EveryChance>::Lane luck(chance);
      return players[seat].choose(game.view(now, seat), moves, luck);
    };
  };
  const auto shuffled = count([&](EveryChance& chance) {
    std::vector<Card> deck;
    std::vector<double> left{1, 1, 1, 1, 1, 1};
    for (int i = 0; i < 6; ++i) {
      deck.push_back(static_cast<Card>(chance.pick(left)));
      left[deck.back()] = 0;
    }
    std::array<RememberingPlayer, 2> players{{{PairsMemory(), false}, {PairsMemory(), true}}};
    ShuffledStock stock(deck);
    Pairs::Position position = game.start();
    play_out(game, position, stock, choose_with(players, chance), [](const NextStep&, const auto&) {});
    return game.outcome(position);
  });
  const auto unseen = count([&](EveryChance& chance) {
    std::array<RememberingPlayer, 2> players{{{PairsMemory(), false}, {PairsMemory(), true}}};
    UnseenStock<EveryChance> stock(UnseenCards({1, 1, 1, 1, 1, 1}), chance);
    Pairs::Position position = game.start();
    play_out(game, position, stock, choose_with(players, chance), [](const NextStep&, const auto&) {});
    return game.outcome(position);
  });
  REQUIRE(shuffled.size() == unseen.size());
  for (const auto& [row, chance] : shuffled) CHECK(unseen.at(row) == doctest::Approx(chance).epsilon(1e-12));
}

TEST_CASE("forgetful players play on, and simulation follows the walk") {
  const auto forgetful = std::make_shared<RememberingPlayer>(PairsMemory(0.5, 2), false);
  const Playable<Seated<Pairs>> game(table(2, {remembering(), forgetful}));
  const Draw draw(DrawSpec{deck_of(2), 4, false});
  const auto law = game.walk(draw, {"winner", "pairs_1"}, 1000000);
  const auto runner = game.runner(draw, {"winner", "pairs_1"});
  const RowTally tally = count_games(1, 100000, 2, [&] { return GameCounter(*runner, 3); }).tally();
  double total = 0;
  for (const auto& [row, entry] : tally.entries()) {
    const double p = law.at(row);
    total += p;
    CHECK(std::abs(static_cast<double>(entry.n) / 1e5 - p) < 4 * std::sqrt(p * (1 - p) / 1e5));
  }
  CHECK(total == doctest::Approx(1).epsilon(1e-9));
}

TEST_CASE("a game that does not end is stopped, and the trial is named") {
  // Turns the two first cards for ever.
  class Stubborn : public PairsPlayer {
   public:
    std::unique_ptr<PairsPlayer> copy() const override { return std::make_unique<Stubborn>(*this); }
    std::size_t choose(const Pairs::View&, Moves moves, PlayerChance&) override { return moves.first(); }
  };
  const Playable<Seated<Pairs>> game(table(2, {std::make_shared<Stubborn>()}));
  const auto runner = game.runner(Draw(DrawSpec{deck_of(2), 4, false}), {"turns"});
  CHECK(runner->play_on({0, 1, 2, 3}, 1, 7).front() == RowTally::Row{2});
  CHECK_THROWS_WITH_AS(runner->play_on({0, 2, 1, 3}, 1, 7), "trial 7 does not end in 200000 steps", EndlessGame);
}

TEST_CASE("what cannot be played is refused") {
  CHECK_THROWS_AS(Pairs(table(27, {remembering()}).game), std::invalid_argument);
  CHECK_THROWS_AS(Seated<Pairs>(Seated<Pairs>::Rules{table(2, {remembering()}).game, {}}), std::invalid_argument);
  // A player that makes a move that it may not.
  class Stubborn : public PairsPlayer {
   public:
    std::unique_ptr<PairsPlayer> copy() const override { return std::make_unique<Stubborn>(*this); }
    std::size_t choose(const Pairs::View&, Moves, PlayerChance&) override { return 0; }
  };
  GivenChance none({});
  CHECK_THROWS_AS(play(table(2, {std::make_shared<Stubborn>()}), {0, 1, 2, 3}, none), std::domain_error);
}

TEST_CASE("positions that are remembered give the law of every path") {
  const auto random = std::make_shared<RandomPlayer<Pairs::View>>();
  const std::vector<std::pair<Seated<Pairs>::Rules, std::vector<std::string>>> games{
      {table(3, {remembering(), remembering(true)}),
       {"turns", "winner", "pairs_1", "turns_again", "decisions_2", "forced_1"}},
      {table(3, {remembering(true), remembering(), remembering()}, false), {"turns", "score_1", "score_3"}}};
  for (const auto& [rules, record] : games) {
    const Playable<Seated<Pairs>> game(rules);
    // A shuffle that is not by swaps (a spot for each card, one after the other) is walked path by path.
    const Draw draw(DrawSpec{deck_of(3), 6, false});
    REQUIRE(game.walks_by_memory(draw));
    std::map<RowTally::Row, double> paths;
    Seated<Pairs> played(rules);
    AlikeDeal deal(deck_of(3), 6, played);
    std::vector<std::size_t> columns;
    for (const std::string& name : record)
      for (std::size_t i = 0; i < Seated<Pairs>::Outcome::columns().size(); ++i)
        if (Seated<Pairs>::Outcome::columns()[i].name == name) columns.push_back(i);
    walk_every_path(WorkBound(1000000), [&](EveryChance& chance) {
      SharedLuck<EveryChance> luck(chance);
      Silent silent;
      played.play(deal(chance), chance, luck, silent, [&](const Seated<Pairs>::Outcome& outcome) {
        RowTally::Row row;
        const ColumnReader<std::decay_t<decltype(outcome)>> read(columns);
        read(outcome, row);
        paths[row] += chance.probability();
      });
    });
    const auto law = game.walk(draw, record, 1000000);
    REQUIRE(law.size() == paths.size());
    for (const auto& [row, chance] : paths) CHECK(law.at(row) == doctest::Approx(chance).epsilon(1e-12));
  }
  // Whoever forgets is walked path by path.
  const auto forgetful = std::make_shared<RememberingPlayer>(PairsMemory(0.5, 2), false);
  CHECK_FALSE(Playable<Seated<Pairs>>(table(2, {forgetful})).walks_by_memory(Draw(DrawSpec{deck_of(2), 4, false})));
}

TEST_CASE("best play alone, by hand and held to all that is played") {
  const auto solver = [](std::size_t pairs, Seats players, std::size_t seat = 0) {
    return Solver<Pairs>(Pairs(table(pairs, players).game), players, seat);
  };
  const auto start = [](std::size_t pairs, std::size_t seats) {
    return Pairs(table(pairs, Seats(seats, remembering())).game).start();
  };
  // One pair takes a turn. Of two, the second card is the first one's mate with chance 1/3: two turns; else a third
  // card tells all, and it takes three.
  CHECK(solver(1, {nullptr}).worth(start(1, 1)) == doctest::Approx(-1).epsilon(1e-12));
  CHECK(solver(2, {nullptr}).worth(start(2, 1)) == doctest::Approx(-(2.0 / 3 + 3 * 2.0 / 3)).epsilon(1e-12));

  // What is solved, played by the loop of all games, comes to what was promised, and no other player does better.
  for (std::size_t pairs : {3u, 4u}) {
    auto solved = solver(pairs, {nullptr});
    const double promised = -solved.worth(start(pairs, 1));
    const auto mean_turns = [&](std::shared_ptr<const PairsPlayer> player) {
      double mean = 0;
      for (const auto& [row, chance] : Playable<Seated<Pairs>>(table(pairs, {player}))
               .walk(Draw(DrawSpec{deck_of(pairs), 2 * pairs, false}), {"turns"}, 1000000))
        mean += chance * static_cast<double>(row[0]);
      return mean;
    };
    CHECK(mean_turns(std::make_shared<SolvedPlayer<Pairs>>(solved)) == doctest::Approx(promised).epsilon(1e-12));
    CHECK(mean_turns(remembering()) >= promised - 1e-12);
    CHECK(mean_turns(remembering(true)) >= promised - 1e-12);
  }
}

TEST_CASE("best play against another is worth what it brings, and at least what the other would have") {
  for (const bool careful : {false, true}) {
    const Seats players{nullptr, remembering(careful)};
    Solver<Pairs> solver(Pairs(table(4, {remembering(), remembering()}).game), players, 0);
    const double promised = solver.worth(Pairs(table(4, {remembering(), remembering()}).game).start());
    const auto share = [&](std::shared_ptr<const PairsPlayer> player) {
      double mean = 0;
      for (const auto& [row, chance] : Playable<Seated<Pairs>>(table(4, {player, remembering(careful)}))
               .walk(Draw(DrawSpec{deck_of(4), 8, false}), {"score_1"}, 1000000))
        mean += chance * static_cast<double>(row[0]) / Pairs::whole_score;
      return mean;
    };
    CHECK(share(std::make_shared<SolvedPlayer<Pairs>>(solver)) == doctest::Approx(promised).epsilon(1e-12));
    CHECK(share(remembering()) <= promised + 1e-12);
    CHECK(share(remembering(true)) <= promised + 1e-12);
  }
}

TEST_CASE("what the plain solver cannot do it says") {
  const auto forgetful = std::make_shared<RememberingPlayer>(PairsMemory(0.5, 2), false);
  const Pairs two(table(3, {remembering(), remembering()}).game);
  CHECK_THROWS_WITH_AS(Solver<Pairs>(two, {nullptr, forgetful}, 0),
                       "the player of seat 2 does not decide by what it sees alone", std::invalid_argument);
  Solver<Pairs> endless(two, {nullptr, std::make_shared<RandomPlayer<Pairs::View>>()}, 0);
  CHECK_THROWS_AS(endless.worth(two.start()), OutOfReach);
}

TEST_CASE("who looks ahead takes what is known, and never peeks") {
  const Pairs game(table(4, {remembering(), remembering()}).game);
  const auto random = std::make_shared<RandomPlayer<Pairs::View>>();
  // Places 0 and 1 show a pair, 2 and 3 two others; what lies at the other four is another thing in each deck.
  const auto worth = [&](std::shared_ptr<const PairsPlayer> playing, const std::vector<Card>& deck,
                         std::vector<std::size_t> turned, std::uint64_t trial) {
    LookaheadPlayer<Pairs> player(game, 40, {{playing}});
    Pairs::Position now = game.start();
    for (const std::size_t place : turned) {
      game.move(now, place);
      game.give(now, game.next(now), deck[place]);
    }
    SeatLanes::Lane luck(1, trial, now.seat);
    return player.worth_of_moves(game.view(now, now.seat), game.moves(now), luck);
  };
  const std::vector<Card> deck{0, 1, 2, 4, 3, 5, 6, 7}, other{0, 1, 2, 4, 7, 6, 5, 3};
  int mates = 0, others = 0;
  for (std::uint64_t trial = 1; trial <= 20; ++trial) {
    for (const auto& playing : {std::shared_ptr<const PairsPlayer>(random), remembering()}) {
      CHECK(worth(playing, deck, {0, 2, 1, 3}, trial) == worth(playing, other, {0, 2, 1, 3}, trial));
    }
    // Once the first card of a known pair lies turned, its mate at place 1 (the first move open) is best; and by
    // players who remember it is seen that a card whose mate nobody knows should not be turned again first.
    const auto second = worth(random, deck, {0, 2, 1, 3, 0}, trial);
    const auto first = worth(remembering(), deck, {0, 2, 1, 3}, trial);
    mates += std::max_element(second.begin(), second.end()) == second.begin();
    const auto best = std::max_element(first.begin(), first.end()) - first.begin();
    others += best != 2 && best != 3;
  }
  // Of seven moves any would be the mate 18 times or more of 20 with chance 2e-13. A known card whose mate is not known
  // costs a sixth of the win (by best play from there); the means of 40 games have a standard error of at most a
  // thirteenth each, so that it seldom looks best among six others that are better.
  CHECK(mates >= 18);
  CHECK(others == 20);
}
