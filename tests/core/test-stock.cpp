#include <doctest/doctest.h>

#include <map>
#include <vector>

#include "habanera/chance/every.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/stock.hpp"

using namespace habanera;

namespace {

// Cards are dealt to one seat, which may take a third after two; none is laid face down.
struct Three {
  struct Position {
    std::vector<Card> hand;
    bool asked = false, more = false;
  };
  static constexpr std::size_t takes = 0, stays = 1;

  Next next(const Position& now) const {
    if (now.hand.size() < 2 || (now.more && now.hand.size() < 3)) return {Next::deal};
    if (!now.asked) return {Next::decide};
    return {Next::over};
  }
  void give(Position& now, const Next&, Card card) const { now.hand.push_back(card); }
  Moves moves(const Position&) const {
    Moves all;
    all.add(takes);
    all.add(stays);
    return all;
  }
  void move(Position& now, std::size_t move) const {
    now.asked = true;
    now.more = move == takes;
  }
};

// The law of the hands of a seat that takes a third card when its first is a 0.
template <class Play>
std::map<std::vector<Card>, double> law_of(Play&& play) {
  std::map<std::vector<Card>, double> law;
  walk_every_path(WorkBound(1000), [&](EveryChance& chance) {
    Three::Position position;
    play(position, chance);
    law[position.hand] += chance.probability();
  });
  return law;
}

std::size_t choose(std::size_t, const Three::Position& now, Moves) {
  return now.hand[0] == 0 ? Three::takes : Three::stays;
}

}  // namespace

TEST_CASE("cards dealt from an unseen stock have the law of a shuffled one") {
  const std::vector<double> copies{2, 1, 1};
  const Three game;
  const auto nobody = [](const Next&, const Three::Position&) {};
  const auto unseen = law_of([&](Three::Position& position, EveryChance& chance) {
    UnseenStock<EveryChance> stock(copies, chance);
    const Decisions decisions = play_out(game, position, stock, choose, nobody);
    CHECK(decisions.made[0] == 1);
    CHECK(decisions.forced[0] == 0);
  });
  const auto shuffled = law_of([&](Three::Position& position, EveryChance& chance) {
    std::vector<double> left = copies;
    std::vector<Card> deck;
    for (int i = 0; i < 4; ++i) {
      deck.push_back(static_cast<Card>(chance.pick(left)));
      --left[deck.back()];
    }
    ShuffledStock stock(deck);
    play_out(game, position, stock, choose, nobody);
  });
  REQUIRE(unseen.size() == shuffled.size());
  for (const auto& [hand, chance] : shuffled) CHECK(unseen.at(hand) == doctest::Approx(chance).epsilon(1e-12));
  // By hand: 0 0 and then 1 has chance 2/4 * 1/3 * 1/2; 1 0 stays, with chance 1/4 * 2/3.
  CHECK(unseen.at({0, 0, 1}) == doctest::Approx(1.0 / 12).epsilon(1e-12));
  CHECK(unseen.at({1, 0}) == doctest::Approx(1.0 / 6).epsilon(1e-12));
}
