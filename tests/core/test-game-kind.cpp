#include <doctest/doctest.h>

#include "habanera/habanera.hpp"
#include "habanera/watcher/card_check.hpp"

#include "toy_game.hpp"

using namespace habanera;

// Whatever runs games runs one that it knows nothing of.
TEST_CASE("a game of one's own is run, walked and replayed by the same code") {
  const Playable<Turning> game({{0, 0, 0, 1}, 2});  // the last of four cards stops
  const Draw draw(DrawSpec{{0, 1, 2, 3}, 4, false});
  // The stop is the first card with chance 1/4, the second with chance 1/4; else two are enough.
  const auto law = game.walk(draw, {"how", "turned"}, 100);
  REQUIRE(law.size() == 3);
  CHECK(law.at({Turning::Outcome::stopped, 1}) == doctest::Approx(0.25).epsilon(1e-12));
  CHECK(law.at({Turning::Outcome::stopped, 2}) == doctest::Approx(0.25).epsilon(1e-12));
  CHECK(law.at({Turning::Outcome::enough, 2}) == doctest::Approx(0.5).epsilon(1e-12));

  const auto runner = game.runner(draw, {"how", "turned"});
  const RowTally tally = count_games(1, 40000, 2, [&] { return GameCounter(*runner, 7); }).tally();
  for (const auto& [row, entry] : tally.entries()) {
    const double p = law.at(row), error = std::sqrt(p * (1 - p) / 40000);
    CHECK(std::abs(static_cast<double>(entry.n) / 40000 - p) < 4 * error);
  }

  const ReplayedGame replayed = game.replay({1, 3, 0, 2}, 1, 1, 2, nullptr);
  REQUIRE(replayed.steps.size() == 4);  // laid out, two cards, the end
  CHECK(replayed.outcomes == std::vector<RowTally::Row>{{2, Turning::Outcome::stopped}});
  CHECK(replayed.zones == std::vector<std::vector<Card>>{{2, 0, 3}, {1}});
  CHECK_THROWS_AS(game.runner(draw, {"rounds"}), std::invalid_argument);
}

TEST_CASE("the words of a game come by name") {
  const Vocabulary words = Playable<Turning>({{0}, 1}).words();
  REQUIRE(words.outcomes.size() == 2);
  CHECK(words.outcomes[0].name == "turned");
  CHECK(words.outcomes[0].words.empty());
  CHECK(words.outcomes[1].words.size() == 3);
  CHECK(words.zones.size() == 2);
  CHECK(words.zones[0].seat == no_seat);
}

TEST_CASE("no card is lost in a game of one's own") {
  Turning game({{0, 1, 0, 1}, 3});
  RandomChance chance(1, 1, lane::game);
  SeatLanes luck(1, 1);
  CardCheck check;
  game.play({2, 0, 3, 1}, chance, luck, check);
  CHECK(check.moves() == 5);
}
