#include <doctest/doctest.h>

#include <string>
#include <utility>
#include <vector>

#include "habanera/game/condition.hpp"

using namespace habanera;

TEST_CASE("conditions on what is seen") {
  const auto of = [](const std::string& what, std::vector<SeenCondition> parts) {
    return SeenCondition::of_function(what, std::move(parts));
  };
  const auto number = [](double x) { return SeenCondition::of_number(x); };
  const auto called = [](const char* x) { return SeenCondition::of_name(x); };
  const SeenThings seen(
      [] {
        return Shown{shows("pot", 7), shows("hand", std::vector<int>{3, 5}), shows_words("made", {"check", "bet"})};
      },
      {1, 2}, {2});
  CHECK(of(">=", {of("-", {called("pot"), number(2)}), number(5)}).holds(seen));
  CHECK(of("%in%", {number(5), called("hand")}).holds(seen));
  CHECK(!of("%in%", {number(4), called("hand")}).holds(seen));
  CHECK(of("==", {called("made"), SeenCondition::of_text("check, bet")}).holds(seen));
  CHECK(of("ifelse", {of("<", {called("pot"), number(3)}), number(1), number(2)}).number(seen) == 2);
  CHECK_THROWS_AS(called("pots").number(seen), NoAnswer);
  CHECK_THROWS_AS(called("hand").number(seen), NoAnswer);
  CHECK_THROWS_AS(of("/", {number(1), number(0)}).number(seen), NoAnswer);
  CHECK_THROWS_AS(of("==", {called("made"), number(1)}).holds(seen), NoAnswer);
  const std::vector<double> by_kind{0, 1, 10};
  CHECK(CardWord::sum_of(CardWord::all, by_kind)(seen) == 21);
  CHECK(CardWord::sum_of(CardWord::own, by_kind)(seen) == 11);
  CHECK(CardWord::groups(CardWord::all, CardWord::largest_group, by_kind)(seen) == 2);
  CHECK(CardWord::groups(CardWord::shared, CardWord::distinct, by_kind)(seen) == 1);
  CHECK(CardWord::one_of(CardWord::own, {{1, 2}})(seen) == 1);
}
