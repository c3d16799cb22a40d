#include <doctest/doctest.h>

#include <array>
#include <cmath>
#include <functional>
#include <map>
#include <memory>
#include <optional>

#include "habanera/game/chance_table.hpp"
#include "habanera/game/evidence.hpp"
#include "habanera/game/best_answer.hpp"
#include "habanera/game/information.hpp"
#include "habanera/game/lookahead.hpp"
#include "habanera/game/mixed_player.hpp"
#include "habanera/game/regret.hpp"
#include "hidden_game.hpp"

using namespace habanera;

namespace {

using View = HiddenGame::View;
using SeatPlayer = std::shared_ptr<const Player<View>>;
using Table = std::map<std::string, double>;  // by card and what was done: the chance of betting or calling

InformationTree tree_of(const HiddenGame& game, TreeBuilder<HiddenGame>::Players players) {
  return TreeBuilder<HiddenGame>(game, std::move(players), nullptr)();
}

// A table for all that a seat can see, with these chances to bet or call.
SeatPlayer by_table(std::size_t cards, const std::function<double(std::size_t, const std::string&)>& bold) {
  auto table = std::make_shared<ChanceTable>();
  for (std::size_t card = 1; card <= cards; ++card) {
    const std::string sees = "card: " + std::to_string(card) + "; made:";
    for (const std::string made : {"", " check"})
      table->rows[sees + made] = {{"check", 1 - bold(card, made)}, {"bet 1", bold(card, made)}};
    for (const std::string made : {" bet 1", " check, bet 1"})
      table->rows[sees + made] = {{"fold", 1 - bold(card, made)}, {"call", bold(card, made)}};
  }
  return std::make_shared<ChanceTablePlayer<HiddenGame>>(std::make_shared<const HiddenGame>(hidden_cards(cards)), table);
}

// The game by its rules alone: what it brings seat 1 where both play by these chances to bet or call.
using Bold = std::function<double(std::size_t, const std::string&)>;
double by_hand(std::size_t cards, const Bold& one, const Bold& other) {
  double sum = 0;
  for (std::size_t a = 1; a <= cards; ++a)
    for (std::size_t b = 1; b <= cards; ++b) {
      if (a == b) continue;
      const double higher = a > b ? 1 : -1;
      const double bet_to = one(a, ""), called = other(b, " bet 1");
      const double bet_back = other(b, " check"), calls = one(a, " check, bet 1");
      sum += bet_to * (called * 2 * higher + (1 - called)) +
             (1 - bet_to) * ((1 - bet_back) * higher + bet_back * (calls * 2 * higher - (1 - calls)));
    }
  return sum / static_cast<double>(cards * (cards - 1));
}

// The best that seat 1 can do, every pure plan tried.
double best_by_hand(std::size_t cards, const Bold& other) {
  double best = -10;
  for (std::size_t plan = 0; plan < std::size_t{1} << (2 * cards); ++plan)
    best = std::max(best, by_hand(cards, [plan](std::size_t card, const std::string& made) {
      return static_cast<double>(plan >> (2 * (card - 1) + (made.empty() ? 0 : 1)) & 1);
    }, other));
  return best;
}

Bold random_chances(std::uint64_t seed) {
  return [seed](std::size_t card, const std::string& made) {
    RandomChance chance(seed, card * 10 + made.size(), lane::game);
    return static_cast<double>(chance.bits(20)) * 0x1p-20;
  };
}

// The card is all that is seen: what was done before is not.
class Forgetful : public Lanterns {
 public:
  using Lanterns::Lanterns;
  struct View : Sight<View> {
    explicit View(std::int64_t of) : card(of) {}
    std::int64_t card;
    Shown shown() const { return {shows("card", card)}; }
  };
  static constexpr std::array<OwnPlayer, 0> players{};
  View view(const Position& now, std::size_t seat) const { return View(now.card[seat]); }
  // A move more for seat 1, so that it decides twice with the same open to it.
  Next next(const Position& now) const {
    if (now.dealt < 2 || now.moves < 3) return Lanterns::next(now);
    return game_over();
  }
  Moves moves(const Position&) const {
    Moves open;
    open.add(check);
    open.add(bet);
    return open;
  }
  auto outcome(const Position&) const { return values(1, 1, -1, true); }
};

// What keeps a player from the position is its type.
template <class V, class = void>
constexpr bool leads_to_position = false;
template <class V>
constexpr bool leads_to_position<V, std::void_t<decltype(std::declval<const V&>().position_)>> = true;

}  // namespace

TEST_CASE("a view has no way to the position") {
  static_assert(keeps_from<View, HiddenGame::Position>);
  static_assert(!leads_to_position<View>);
  static_assert(keeps_from<Lanterns::View, Lanterns::Position>);
  static_assert(!keeps_from<HiddenGame::Position, HiddenGame::Position>);
  struct Sees : HiddenGame::Position {};
  static_assert(!keeps_from<Sees, HiddenGame::Position>);
  struct Leads {
    operator const HiddenGame::Position*() const { return nullptr; }
  };
  static_assert(!keeps_from<Leads, HiddenGame::Position>);
  static_assert(!is_view<Leads>);
}

TEST_CASE("views are equal, hashed and told by what they show") {
  const HiddenGame game(hidden_cards(3));
  HiddenGame::Position one = game.start(0), other = game.start(0);
  for (const int card : {0, 1}) game.give(one, game.next(one), static_cast<Card>(card));
  for (const int card : {0, 2}) game.give(other, game.next(other), static_cast<Card>(card));
  CHECK(game.view(one, 0) == game.view(other, 0));
  CHECK(game.view(one, 0).hash() == game.view(other, 0).hash());
  CHECK(game.view(one, 1) != game.view(other, 1));
  CHECK(game.view(one, 0).text() == "card: 1; made:");
  game.move(one, Lanterns::check);
  CHECK(game.view(one, 1).text() == "card: 2; made: check");
  CHECK(text_of({shows("a", 0.1), shows("b", std::vector<int>{1, -2})}) == "a: 0.10000000000000001; b: 1, -2");
}

TEST_CASE("a tree holds together what a seat cannot tell apart") {
  const HiddenGame game(hidden_cards(3));
  const InformationTree tree = tree_of(game, {nullptr, nullptr});
  // Three cards, each with two situations a seat; two positions in each.
  CHECK(tree.sets().size() == 12);
  for (const InformationSet& set : tree.sets()) CHECK(set.nodes.size() == 2);
  CHECK(!tree.forgets(0));
  CHECK(!tree.forgets(1));
  // At random each seat wins as much as the other: by hand 1/8 more for seat 1, since seat 2 gives up bets.
  const auto random = std::make_shared<RandomPlayer<View>>();
  const auto half = [](std::size_t, const std::string&) { return 0.5; };
  CHECK(tree_of(game, {random, random}).values({})[0] == doctest::Approx(by_hand(3, half, half)).epsilon(1e-12));
  CHECK(by_hand(3, half, half) == doctest::Approx(1.0 / 8).epsilon(1e-12));
}

TEST_CASE("best answers to random tables are those of trying every plan") {
  for (const std::size_t cards : {3, 4, 5})
    for (std::uint64_t seed = 1; seed <= 5; ++seed) {
      const HiddenGame game(hidden_cards(cards));
      const Bold other = random_chances(seed);
      const InformationTree tree = tree_of(game, {nullptr, by_table(cards, other)});
      const Mix nothing(tree.chances(), 0);
      const BestAnswer best(tree, 0, nothing);
      CHECK(best.value() == doctest::Approx(best_by_hand(cards, other)).epsilon(1e-12));
      Mix plan(tree.chances(), 0);
      for (std::size_t i = 0; i < tree.sets().size(); ++i)
        if (tree.sets()[i].seat == 0) plan[tree.sets()[i].first + best.chosen(i)] = 1;
      CHECK(tree.values(plan)[0] == doctest::Approx(best.value()).epsilon(1e-12));
    }
}

TEST_CASE("sound play of three cards and one bet is worth -1/18, and its gap is proven") {
  const HiddenGame game(hidden_cards(3));
  const InformationTree tree = tree_of(game, {nullptr, nullptr});
  RegretIteration iteration(tree);
  double before = 10;
  for (const std::size_t rounds : {10, 100, 1000}) {
    while (iteration.rounds() < rounds) iteration.round();
    const auto proof = iteration.proof(iteration.mean());
    CHECK(proof.low <= -1.0 / 18 + 1e-12);
    CHECK(proof.high >= -1.0 / 18 - 1e-12);
    CHECK(proof.gap() < before);
    before = proof.gap();
  }
  CHECK(before < 1e-3);
  // Kuhn (1950, "A simplified two-person poker"): seat 2 bets the lowest card after a check once in three, and calls
  // with the middle one once in three; seat 1 bets the highest three times as often as the lowest.
  const Mix mix = iteration.mean();
  std::map<std::string, double> bold;
  for (const InformationSet& set : tree.sets())
    bold[std::to_string(set.seat + 1) + " " + set.sees] = mix[set.first + 1];
  CHECK(std::abs(bold["2 card: 1; made: check"] - 1.0 / 3) < 0.01);
  CHECK(std::abs(bold["2 card: 2; made: bet 1"] - 1.0 / 3) < 0.01);
  CHECK(std::abs(bold["1 card: 3; made:"] - 3 * bold["1 card: 1; made:"]) < 0.02);
  CHECK(bold["2 card: 3; made: check"] > 0.999);
}

TEST_CASE("a view that forgets is found out") {
  using Game = Own<Forgetful>;
  const Game game({hidden_cards(3).setting});
  const InformationTree tree = TreeBuilder<Game>(game, {nullptr, nullptr}, nullptr)();
  CHECK(tree.forgets(0) != tree.forgets(1));
  CHECK_THROWS_AS(RegretIteration{tree}, std::logic_error);
}

TEST_CASE("chances that are told are those of the luck that is walked") {
  const HiddenGame game(hidden_cards(3));
  const auto table = by_table(3, random_chances(3));
  const RandomPlayer<View> random;
  for (const int card : {0, 1, 2}) {
    HiddenGame::Position now = game.start(0);
    game.give(now, game.next(now), static_cast<Card>(card));
    game.give(now, game.next(now), static_cast<Card>(card == 0 ? 1 : 0));
    const View view = game.view(now, 0);
    const Moves moves = game.moves(now);
    for (const Player<View>* player : std::initializer_list<const Player<View>*>{table.get(), &random}) {
      const auto told = player->chances(view, moves, {}), walked = walked_chances(*player, view, moves);
      REQUIRE(told.size() == walked.size());
      for (std::size_t i = 0; i < told.size(); ++i) CHECK(told[i] == doctest::Approx(walked[i]).epsilon(1e-12));
    }
  }
}

TEST_CASE("who sits in a seat is told by what it did") {
  // One always bets or calls, the other never does; they sit there as 1 to 3.
  const HiddenGame game(hidden_cards(3));
  const auto bold = by_table(3, [](std::size_t, const std::string&) { return 1.0; });
  const auto timid = by_table(3, [](std::size_t, const std::string&) { return 0.0; });
  const auto sometimes = by_table(3, [](std::size_t, const std::string&) { return 0.5; });
  const MixedPlayer<View> seat({bold, timid, sometimes}, {0.25, 1.0 / 3});
  HiddenGame::Position now = game.start(0);
  for (const int card : {0, 1}) game.give(now, game.next(now), static_cast<Card>(card));
  const View first = game.view(now, 0);
  const Moves open = game.moves(now);
  // 1/4 bold, 1/4 timid, 1/2 by a coin.
  CHECK(seat.chances(first, open, {})[1] == doctest::Approx(0.5).epsilon(1e-12));
  const Past<View> checked{{first, open, Lanterns::check}};
  game.move(now, Lanterns::check);
  game.move(now, Lanterns::bet);
  // After a check: bold 0, timid 1/4, coin 1/4: so it calls with 1/2 of 1/2.
  CHECK(seat.chances(game.view(now, 0), game.moves(now), checked)[1] == doctest::Approx(0.25).epsilon(1e-12));
}

TEST_CASE("a mixture is worth what its players are worth, as often as they come") {
  const HiddenGame game(hidden_cards(4));
  std::vector<SeatPlayer> players{by_table(4, random_chances(1)), by_table(4, random_chances(2))};
  const SeatPlayer mixed = std::make_shared<MixedPlayer<View>>(players, std::vector<double>{0.3, 1.0});
  const SeatPlayer other = by_table(4, random_chances(9));
  const double found = tree_of(game, {mixed, other}).values({})[0];
  CHECK(found == doctest::Approx(0.3 * by_hand(4, random_chances(1), random_chances(9)) +
                                 0.7 * by_hand(4, random_chances(2), random_chances(9))).epsilon(1e-12));
}

TEST_CASE("what was done weighs the deals as Bayes has it") {
  const std::size_t cards = 4;
  const HiddenGame game(hidden_cards(cards));
  const Bold bold = random_chances(5);
  const Assumed<View> assumed{{by_table(cards, bold)}, true};
  // Seat 2 holds the card 2, and was bet to.
  HiddenGame::Position now = game.start(0);
  for (const int card : {3, 1}) game.give(now, game.next(now), static_cast<Card>(card));
  game.move(now, Lanterns::bet);
  const View view = game.view(now, 1);
  std::map<std::int64_t, double> found, posterior;
  double all = 0, sum = 0;
  std::vector<Card> deck{0, 1, 2, 3};
  do {
    const auto deal = fitting_deal(game, view, deck, &assumed, false);
    if (!deal || deck[0] == 1) continue;
    found[deal->position.own.card[0]] += deal->weight;
    all += deal->weight;
  } while (std::next_permutation(deck.begin(), deck.end()));
  for (const std::size_t card : {1, 3, 4}) sum += posterior[static_cast<std::int64_t>(card)] = bold(card, "");
  CHECK(found.size() == 3);
  for (const auto& [card, chance] : posterior)
    CHECK(found[card] / all == doctest::Approx(chance / sum).epsilon(1e-12));
  // Nobody assumed: all that fit are alike.
  CHECK(fitting_deal(game, view, {0, 1, 2, 3}, static_cast<Assumed<View>*>(nullptr), false)->weight == 1);
}

TEST_CASE("who knows how others play calls their bluffs, and only those") {
  const HiddenGame game(hidden_cards(3));
  // Seat 1 bets the lowest card always, the highest once in ten, the middle never: a bet is a bluff mostly.
  const auto bluffer = by_table(3, [](std::size_t card, const std::string& made) {
    return made.empty() ? (card == 1 ? 1.0 : card == 3 ? 0.1 : 0.0) : 0.5;
  });
  const auto honest = by_table(3, [](std::size_t card, const std::string&) { return card == 3 ? 1.0 : 0.0; });
  HiddenGame::Position now = game.start(0);
  for (const int card : {0, 1}) game.give(now, game.next(now), static_cast<Card>(card));
  game.move(now, Lanterns::bet);
  const auto calls_against = [&](const Assumed<View>& assumed) {
    LookaheadPlayer<HiddenGame> ahead(game, 200, assumed);
    RandomChance chance(1, 1, lane::game);
    SharedLuck<RandomChance>::Lane luck(chance);
    const auto worth = ahead.worth_of_moves(game.view(now, 1), game.moves(now), luck);
    return worth[1] - worth[0];
  };
  // A call wins 2 against the lowest and loses 2 to the highest; a fold loses 1. The lowest comes with 10/11.
  const double share = 10.0 / 11, exact = share * 2 - (1 - share) * 2 + 1;
  // Of 200 deals half hold each card, within five binomial standard errors of 0.035; the weights move it by less.
  CHECK(std::abs(calls_against({{bluffer}, true}) - exact) < 5 * 4 * 0.035 * share * (1 - share) / 0.25);
  CHECK(calls_against({{honest}, true}) == doctest::Approx(-1).epsilon(1e-12));
  CHECK(std::abs(calls_against({{std::make_shared<RandomPlayer<View>>()}}) - 1) < 5 * 4 * 0.035);
}

TEST_CASE("a table without a row for what is seen says so") {
  const HiddenGame game(hidden_cards(3));
  const ChanceTablePlayer<HiddenGame> nothing(std::make_shared<const HiddenGame>(game), std::make_shared<ChanceTable>());
  HiddenGame::Position now = game.start(0);
  for (const int card : {0, 1}) game.give(now, game.next(now), static_cast<Card>(card));
  CHECK_THROWS_WITH_AS(nothing.chances(game.view(now, 0), game.moves(now), {}),
                       "the table has no row for \"card: 1; made:\"", NoSuchRow);
}
