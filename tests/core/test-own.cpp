#include <doctest/doctest.h>

#include <map>
#include <memory>

#include "habanera/game/choices.hpp"
#include "habanera/game/lookahead.hpp"
#include "habanera/game/remembered_walk.hpp"
#include "habanera/own.hpp"
#include "habanera/own/pile_table.hpp"
#include "habanera/own/seat_eyes.hpp"

namespace {

// A hidden card for each seat, then an open one; seat 1 says whether its own is higher than that of seat 2.
class Bluff : public habanera::OwnGame {
 public:
  static constexpr const char* name = "bluff";
  static constexpr const char* summary = "seat 1 says whether its card is the higher.";
  static constexpr std::array outcomes{habanera::outcome_seat("winner", "who is right")};
  static constexpr std::array piles{habanera::pile_hidden("stock"), habanera::pile_own("hand"),
                                    habanera::pile_open("table")};
  struct Position {
    std::array<habanera::Card, 3> card{};
    std::size_t dealt = 0;
    bool said = false, higher = false;
  };
  explicit Bluff(const habanera::Setting&) {}

  Next next(const Position& now) const {
    if (now.dealt < 2) return habanera::deal_to(1, now.dealt);
    if (now.dealt < 3) return habanera::deal_to(2);
    return now.said ? habanera::game_over() : habanera::decision(0);
  }
  void give(Position& now, const Next&, habanera::Card card) const { now.card[now.dealt++] = card; }
  habanera::Moves moves(const Position&) const { return habanera::Moves::below(2); }
  void move(Position& now, std::size_t move) const {
    now.said = true;
    now.higher = move == 1;
  }
  auto outcome(const Position& now) const {
    return values((now.card[0] > now.card[1]) == now.higher ? 1 : 2);
  }
  struct View : habanera::Sight<View> {
    View(habanera::Card of_seat, habanera::Card on_table) : own(of_seat), table(on_table) {}
    habanera::Card own, table;
    habanera::Shown shown() const { return {habanera::shows("own", own), habanera::shows("table", table)}; }
  };
  View view(const Position& now, std::size_t seat) const { return {now.card[seat], now.card[2]}; }
};

using Game = habanera::Own<Bluff>;

Game::Rules four_cards() {
  habanera::Setting::Values values;
  values.numbers["seats"] = 2;
  values.copies = {1, 1, 1, 1};
  return {std::make_shared<const habanera::Setting>(values)};
}

// The position before seat 1 speaks.
Game::Position dealt(const Game& game, const std::vector<habanera::Card>& deck) {
  Game::Position position = game.start(0);
  for (const habanera::Card card : deck) game.give(position, game.next(position), card);
  return position;
}

}  // namespace

TEST_CASE("a game of one's own keeps where its cards lie, and who has seen them") {
  const Game game(four_cards());
  const Game::Position position = dealt(game, {2, 0, 1});
  CHECK(game.zones().size() == 4);
  CHECK(game.zone_of(position, 0) == 1);
  CHECK(game.zone_of(position, 1) == 2);
  CHECK(game.zone_of(position, 2) == 3);
  CHECK(game.zone_of(position, 3) == 0);
  // Seat 1 has seen its own card and the open one: 0 and 3 are left.
  CHECK(game.unseen(position, 0).counts() == std::vector<double>{1, 0, 0, 1});
  // Seat 2 holds the 0, whoever moves.
  CHECK(game.unseen(position, 1).counts() == std::vector<double>{0, 0, 1, 1});
}

TEST_CASE("a position is dealt anew with what the seat has seen") {
  const Game game(four_cards());
  const Game::Position position = dealt(game, {2, 0, 1});
  const auto again = game.redealt(game.view(position, 0), {2, 3, 1, 0});
  REQUIRE(again);
  CHECK(again->own.card == std::array<habanera::Card, 3>{2, 3, 1});
  // No seat but the one that decides here can be asked.
  CHECK(!game.redealt(game.view(position, 1), {2, 3, 1, 0}));
}

TEST_CASE("the law of a game of one's own is that of counting by hand") {
  const Game game(four_cards());
  habanera::RememberedWalk<Game>::Players players;
  for (int seat = 0; seat < 2; ++seat) players.push_back(std::make_unique<habanera::RandomPlayer<Game::View>>());
  habanera::RememberedWalk<Game> walk(game, players, false, habanera::WorkBound(1000));
  std::map<std::int64_t, double> winner;
  walk({1, 1, 1, 1}, [&](const Game::Position& position, const habanera::Decisions&, double chance) {
    winner[game.outcome(position).own[0]] += chance;
  });
  // A coin is right as often as not, whatever the cards.
  CHECK(winner[1] == doctest::Approx(0.5));
  CHECK(winner[2] == doctest::Approx(0.5));
}

TEST_CASE("who looks ahead says what is likelier of hidden cards, and knows no more") {
  const Game game(four_cards());
  habanera::LookaheadPlayer<Game> ahead(
      game, 200, {{std::make_shared<habanera::RandomPlayer<Game::View>>()}});
  std::size_t right = 0, all = 0;
  std::vector<habanera::Card> deck{0, 1, 2, 3};
  do {
    const Game::Position position = dealt(game, {deck[0], deck[1], deck[2]});
    ahead.begins();
    habanera::RandomChance chance(7, all, habanera::lane::game);
    habanera::SharedLuck<habanera::RandomChance>::Lane luck(chance);
    const bool higher = ahead.choose(game.view(position, 0), game.moves(position), luck) == 1;
    // Two cards are left: it is sure of 0 and 3, and of 1 and 2 where the open card leaves both on one side.
    const bool sure = deck[0] == 0 || deck[0] == 3 || (deck[0] == 1 && deck[2] == 0) || (deck[0] == 2 && deck[2] == 3);
    if (sure) CHECK(higher == (deck[0] > deck[1]));
    right += higher == (deck[0] > deck[1]);
    ++all;
  } while (std::next_permutation(deck.begin(), deck.end()));
  // 16 orders are sure; of the 8 others one choice is made for either hidden card.
  CHECK(right >= 16);
  CHECK(right < all);
}

TEST_CASE("piles lose no card, whatever is moved") {
  habanera::PileTable table({"stock", "hand"});
  CHECK(table.find("hand") == 1);
  CHECK(table.find("hat") == habanera::PileTable::no_pile);
  table.lay(0, {1, 2, 3, 4, 5});
  CHECK(table.move_top(0, 1) == 1);
  CHECK(table.holds(0, {4, 1}));
  CHECK(!table.holds(0, {5}));
  CHECK(!table.holds(0, {0}));
  CHECK(!table.holds(0, {2, 2}));
  CHECK(table.move(0, 1, {4, 2}, false) == habanera::PileTable::Cards{5, 3});
  CHECK(table.cards(1) == habanera::PileTable::Cards{5, 3, 1});
  CHECK(table.move(0, 1, {1, 2}, true) == habanera::PileTable::Cards{2, 4});
  CHECK(table.cards(1) == habanera::PileTable::Cards{5, 3, 1, 2, 4});
  CHECK(table.size(0) == 0);
  // On the same pile the cards change places alone.
  table.move(1, 1, {3}, true);
  CHECK(table.cards(1) == habanera::PileTable::Cards{5, 3, 2, 4, 1});
}

TEST_CASE("seats see what lies open, what is theirs and what is turned, until it is shuffled") {
  using habanera::PileTable;
  using habanera::SeatEyes;
  PileTable piles({"stock", "row", "hand_1", "hand_2"});
  const auto eyes_of = [] { return SeatEyes({{0, 0, 1, 2}, {false, true, false, false}}, 5, 2); };
  // Cards 1 to 5 lie on the stock; seat 1 gets the first, seat 2 the second, the third lies open.
  const auto deal = [&](SeatEyes& eyes, const PileTable::Cards& stock) {
    for (std::size_t pile = 0; pile < piles.piles(); ++pile) piles.lay(pile, {});
    piles.lay(0, stock);
    bool fits = eyes.happened("deal", 0, {}, piles);
    for (const std::size_t to : {std::size_t{2}, std::size_t{3}, std::size_t{1}})
      fits = eyes.happened("stock to " + piles.name(to), 0, {piles.move_top(0, to)}, piles) && fits;
    return fits;
  };
  SeatEyes eyes = eyes_of();
  deal(eyes, {1, 2, 3, 4, 5});
  CHECK(eyes.unseen(1, 0) == std::vector<int>{2, 4, 5});
  CHECK(eyes.unseen(2, 0) == std::vector<int>{1, 4, 5});
  // To seat 1 a deal looks the same in which what it has not seen lies otherwise; to seat 2 it does not.
  SeatEyes other = eyes_of();
  deal(other, {1, 5, 3, 2, 4});
  CHECK(other.saw_the_same(eyes, 1));
  CHECK(!other.saw_the_same(eyes, 2));
  CHECK(other.all_seen(1) == eyes.all_seen(1));
  // Held to what seat 1 saw, such a deal fits and one with another card of its own does not, from that card on.
  SeatEyes follows = eyes_of();
  follows.follow(eyes, 1);
  CHECK(deal(follows, {1, 4, 3, 5, 2}));
  follows.begin();
  CHECK(!deal(follows, {2, 1, 3, 4, 5}));
  // Nobody looks any more after what was seen.
  follows.begin();
  CHECK(deal(follows, {1, 4, 3, 5, 2}));
  CHECK(follows.happened("row to stock", 0, {3}, piles));
  CHECK(follows.unseen(1, 0) == std::vector<int>{2, 4, 5});
  // A card that is turned is seen by all; a shuffle takes it out of sight again.
  deal(eyes = eyes_of(), {1, 2, 3, 4, 5});
  eyes.happened("turns stock", 0, {4}, piles);
  CHECK(eyes.unseen(2, 0) == std::vector<int>{1, 5});
  piles.move(1, 0, {1}, false);
  eyes.happened("row to stock", 0, {3}, piles);
  CHECK(eyes.unseen(2, 0) == std::vector<int>{1, 5});
  eyes.happened("shuffles stock", 0, {}, piles);
  CHECK(eyes.shuffles() == 1);
  CHECK(eyes.unseen(2, 0) == std::vector<int>{1});
  CHECK(eyes.unseen(2, 1) == std::vector<int>{3, 4, 5});
}

TEST_CASE("lists between commas") {
  CHECK(habanera::detail::listed("a, b c ,d") == std::vector<std::string>{"a", "b c", "d"});
  CHECK(habanera::detail::listed("").empty());
}
