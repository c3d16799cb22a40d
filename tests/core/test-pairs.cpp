#include <doctest/doctest.h>

#include <map>
#include <vector>

#include "habanera/chance/given.hpp"
#include "habanera/game/counting.hpp"
#include "habanera/game/playable.hpp"
#include "habanera/game/seated.hpp"
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
  const auto outcome = game.play(deck, chance, luck, check);
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
             [&](std::size_t, const Pairs::Position& now, Moves moves) { return player.choose(now, moves, luck); },
             [&](const Next& next, const Pairs::Position&) {
               if (next.what == Next::turn) places.push_back(next.place);
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
  Pairs::Position view = Pairs(table(2, {remembering()}).game).start();
  Moves all;
  for (std::size_t place = 0; place < 4; ++place) all.add(place);
  const auto look = [&](std::vector<std::uint64_t> choices) {
    GivenChance chance(std::move(choices));
    SharedLuck<GivenChance>::Lane luck(chance);
    memory.look(view, all, luck);
    return memory.known().has(0);
  };
  view.when[0] = view.sightings = 1;
  CHECK(look({0}));  // the first of two branches: it happens
  view.when[0] = view.sightings = 2;
  CHECK(look({1}));
  CHECK(look({}));  // a sighting is decided on once
  view.sightings = 4;
  CHECK(look({}));
  view.sightings = 5;
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
      return players[seat].choose(now, moves, luck);
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
    play_out(game, position, stock, choose_with(players, chance), [](const Next&, const auto&) {});
    return game.outcome(position);
  });
  const auto unseen = count([&](EveryChance& chance) {
    std::array<RememberingPlayer, 2> players{{{PairsMemory(), false}, {PairsMemory(), true}}};
    UnseenStock<EveryChance> stock({1, 1, 1, 1, 1, 1}, chance);
    Pairs::Position position = game.start();
    play_out(game, position, stock, choose_with(players, chance), [](const Next&, const auto&) {});
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
  const RowTally tally = count_games(1, 100000, 2, [&] { return GameCounter(*runner, 3); });
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
  CHECK(runner->play_on({0, 1, 2, 3}, 1, 7) == RowTally::Row{2});
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
