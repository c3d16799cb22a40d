#include <doctest/doctest.h>

#include <map>
#include <string>
#include <vector>

#include "habanera/chance/every.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/solver.hpp"
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

  NextStep next(const Position& now) const {
    if (now.hand.size() < 2 || (now.more && now.hand.size() < 3)) return {NextStep::deal};
    if (!now.asked) return {NextStep::decide};
    return {NextStep::over};
  }
  void give(Position& now, const NextStep&, Card card) const { now.hand.push_back(card); }
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
  const auto nobody = [](const NextStep&, const Three::Position&) {};
  const auto unseen = law_of([&](Three::Position& position, EveryChance& chance) {
    UnseenStock<EveryChance> stock(UnseenCards(copies), chance);
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

TEST_CASE("a seat without a move is an error of the game's rules") {
  struct Stuck : Three {
    Moves moves(const Position&) const { return {}; }
  };
  const std::vector<Card> deck{0, 1, 2};
  ShuffledStock stock(deck);
  Stuck::Position position;
  CHECK_THROWS_WITH_AS(play_out(Stuck(), position, stock, choose, [](const NextStep&, const Three::Position&) {}),
                       "seat 1 has no move", std::logic_error);
}

namespace {

// A card for the seat, one face down, a look whether that is of some kinds; if not the seat may have another card; then
// the card is turned.
struct Peek {
  struct Position {
    std::vector<Card> seen;
    std::size_t hidden = 0;
    int step = 0;
    bool is_in = false;
  };
  CardSet asked;

  NextStep next(const Position& now) const {
    switch (now.step) {
      case 0: return {NextStep::deal};
      case 1: return {NextStep::lay_down};
      case 2: return {NextStep::look, 0, now.hidden};
      case 3: return {NextStep::decide};
      case 4: return {NextStep::deal};
      case 5: return {NextStep::turn, 0, now.hidden};
      default: return {NextStep::over};
    }
  }
  void give(Position& now, const NextStep&, Card card) const {
    now.seen.push_back(card);
    ++now.step;
  }
  void laid(Position& now, const NextStep&, std::size_t place) const {
    now.hidden = place;
    ++now.step;
  }
  CardSet looked_for(const Position&) const { return asked; }
  void looked(Position& now, const NextStep&, bool is_in) const {
    now.is_in = is_in;
    now.step = is_in ? 5 : 3;
  }
  Moves moves(const Position&) const {
    Moves all;
    all.add(0);
    all.add(1);
    return all;
  }
  void move(Position& now, std::size_t move) const { now.step = move == 1 ? 4 : 5; }
  const Position& view(const Position& now, std::size_t) const { return now; }
  double worth(const Position& now, std::size_t) const {
    return now.step < 6 ? 0 : static_cast<double>(now.seen.front() == now.seen.back());
  }
  std::string key(const Position& now, const UnseenCards&) const { return {now.seen.begin(), now.seen.end()}; }
  UnseenCards unseen(const Position&) const { return UnseenCards(copies); }
  using View = Position;
  std::vector<double> copies;
};

}  // namespace

TEST_CASE("a look only narrows down what a hidden card can be") {
  const std::vector<double> copies{2, 2, 1};
  const Peek game{{false, true, true}, copies};
  // Another card for a seat whose first card is a 0.
  const auto choose = [](std::size_t, const Peek::Position& now, Moves) -> std::size_t { return now.seen[0] == 0; };
  const auto law_by = [&](auto&& stock_of) {
    std::map<std::pair<bool, std::vector<Card>>, double> law;
    walk_every_path(WorkBound(10000), [&](EveryChance& chance) {
      auto stock = stock_of(chance);
      Peek::Position position;
      play_out(game, position, stock, choose, [](const NextStep&, const auto&) {});
      law[{position.is_in, position.seen}] += chance.probability();
    });
    return law;
  };
  const auto unseen =
      law_by([&](EveryChance& chance) { return UnseenStock<EveryChance>(UnseenCards(copies), chance); });
  std::vector<Card> deck;
  const auto shuffled = law_by([&](EveryChance& chance) {
    std::vector<double> left = copies;
    deck.clear();
    for (int i = 0; i < 5; ++i) {
      deck.push_back(static_cast<Card>(chance.pick(left)));
      --left[deck.back()];
    }
    return ShuffledStock(deck);
  });
  REQUIRE(unseen.size() == shuffled.size());
  for (const auto& [found, chance] : shuffled) CHECK(unseen.at(found) == doctest::Approx(chance).epsilon(1e-12));
  // By hand: 0 for the seat, the other 0 face down and so not of the set; then a 2 of the three left, and the 0 turned.
  CHECK(unseen.at({false, {0, 2, 0}}) == doctest::Approx(2.0 / 5 * 1 / 4 * 1 / 3).epsilon(1e-12));
}

TEST_CASE("best play knows of a hidden card what a look has told") {
  // The seat wins when the hidden card is like its first. Its choice matters nothing; the worth is the chance of two
  // alike.
  const Peek game{{false, true, true}, {2, 2, 1}};
  Solver<Peek> solver(game, {nullptr}, 0);
  CHECK(solver.worth(Peek::Position()) == doctest::Approx(4.0 / 5 * 1 / 4).epsilon(1e-12));
}

TEST_CASE("what a look alone settles is part of what is worth") {
  // The round ends when the seat is told whether the hidden card is a 0, two of five.
  struct EndsByLook : Peek {
    void looked(Position& now, const NextStep&, bool is_in) const {
      now.is_in = is_in;
      now.step = 6;
    }
    double worth(const Position& now, std::size_t) const { return now.step == 6 && now.is_in ? 1 : 0; }
  };
  Solver<EndsByLook> solver(EndsByLook{{{true, false, false}, {2, 2, 1}}}, {nullptr}, 0);
  CHECK(solver.worth(Peek::Position()) == doctest::Approx(2.0 / 5).epsilon(1e-12));
}

TEST_CASE("a deal that fits what is known is any of them, as likely") {
  // Five cards: a 0 dealt, one face down that is a 1 or a 2, three more.
  UnseenCards cards({2, 2, 1});
  cards.deal(0);
  const std::size_t place = cards.lay_down();
  cards.narrow(place, {true, false, false}, false);
  std::map<std::vector<Card>, double> law;
  walk_every_path(WorkBound(10000), [&](EveryChance& chance) {
    const auto deck = cards.any_order(5, [&](std::uint64_t size) { return chance.below(size); });
    law[deck] += chance.probability();
  });
  // 0, then 1 or 2, then the rest: of 12 orders of 0 1 1 2, three begin with the 0.
  CHECK(law.size() == 9);
  for (const auto& [deck, chance] : law) {
    CHECK(deck[0] == 0);
    CHECK(deck[1] != 0);
    CHECK(chance == doctest::Approx(1.0 / 9).epsilon(1e-12));
  }
}
