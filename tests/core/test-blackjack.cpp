#include <doctest/doctest.h>

#include <algorithm>
#include <memory>
#include <numeric>
#include <vector>

#include "habanera/blackjack/blackjack.hpp"
#include "habanera/blackjack/players.hpp"
#include "habanera/game/choices.hpp"
#include "habanera/game/late_deal.hpp"
#include "habanera/game/seated.hpp"
#include "habanera/game/trial.hpp"
#include "habanera/watcher/card_check.hpp"
#include "habanera/watcher/silent.hpp"

using namespace habanera;

namespace {

// So many packs of 13 ranks, four of each.
std::vector<Card> shoe_of(std::size_t packs) {
  std::vector<Card> shoe;
  for (std::size_t card = 0; card < 52 * packs; ++card) shoe.push_back(static_cast<Card>(card % 13));
  return shoe;
}

BlackjackRules house(std::size_t seats, std::size_t cards) {
  BlackjackRules rules;
  for (int rank = 0; rank < 13; ++rank) {
    rules.points.push_back(static_cast<std::uint8_t>(rank < 9 ? rank + 1 : 10));
    rules.pairs_with.push_back(rules.points.back());
    rules.side_class.push_back(0);
  }
  rules.seats = seats;
  rules.cards = cards;
  rules.surrender = BlackjackRules::late;
  rules.double_on = BlackjackRules::any_cards;
  rules.resplit_aces = true;
  return rules;
}

Seated<Blackjack>::Rules seated(const BlackjackRules& rules) {
  Seated<Blackjack>::Rules all{rules, {}};
  for (std::size_t seat = 0; seat < rules.seats; ++seat)
    all.players.push_back(std::make_shared<RandomPlayer<Blackjack::View>>());
  return all;
}

}  // namespace

TEST_CASE("a deck that settles late is the whole deal, card by card, however far the trials before it went") {
  const Draw shuffled(DrawSpec{shoe_of(2), 104, false}), afresh(DrawSpec{shoe_of(1), 30, true});
  for (const Draw* draw : {&shuffled, &afresh}) {
    REQUIRE(LateDeal::fits(*draw));
    LateDeal late(*draw);
    Workspace work;
    Silent silent;
    for (std::uint64_t trial = 1; trial <= 300; ++trial) {
      const std::uint64_t seed = 3 + trial / 100;
      std::vector<Card> whole = draw->fresh_table();
      RandomChance chance(seed, trial, lane::deal);
      (*draw)(whole, work, chance, silent);
      late.begin(seed, trial);
      // A few cards, then some more of the same word or of the next; of each fifth trial all.
      for (const std::size_t place : {std::size_t{trial % 3}, std::size_t{trial * 7 % 29}}) {
        const std::size_t ready = late.settle(place);
        CHECK(ready > place);
        CHECK(std::equal(whole.begin(), whole.begin() + static_cast<std::ptrdiff_t>(ready), late.deck().begin()));
      }
      if (trial % 5 != 0) continue;
      CHECK(late.settle(whole.size() - 1) == whole.size());
      CHECK(late.deck() == whole);
    }
  }
}

TEST_CASE("trials counted at a stretch are those that are played one by one") {
  std::vector<std::size_t> columns(Seated<Blackjack>::Outcome::columns().size());
  std::iota(columns.begin(), columns.end(), std::size_t{0});
  for (const std::size_t cut_after : {0, 60}) {
    BlackjackRules rules = house(3, 104);
    rules.cut_after = cut_after;
    const Draw draw(DrawSpec{shoe_of(2), 104, false});
    const GameRunner<Seated<Blackjack>> runner(draw, seated(rules), columns);
    RowTally stretch, one_by_one;
    runner.copy()->count(9, 1, 400, stretch);
    const auto single = runner.copy(), on_whole_decks = runner.copy();
    Workspace work;
    Silent silent;
    for (std::uint64_t trial = 1; trial < 400; ++trial) {
      std::vector<Card> deck = draw.fresh_table();
      RandomChance chance(9, trial, lane::deal);
      draw(deck, work, chance, silent);
      const auto& rows = single->play(9, trial);
      const auto& again = on_whole_decks->play_on(deck, 9, trial);
      CHECK(std::equal(rows.begin(), rows.end(), again.begin(), again.end()));
      for (const RowTally::Row& row : rows) one_by_one.add(row, trial);
    }
    const auto counted = stretch.entries(), added = one_by_one.entries();
    REQUIRE(counted.size() == added.size());
    for (std::size_t i = 0; i < added.size(); ++i) {
      CHECK(counted[i].first == added[i].first);
      CHECK(counted[i].second.n == added[i].second.n);
      CHECK(counted[i].second.example == added[i].second.example);
    }
  }
}

TEST_CASE("no card is lost at the table, and whoever looks on changes nothing") {
  for (const auto hole : {BlackjackRules::checked, BlackjackRules::unchecked_all_lost}) {
    BlackjackRules rules = house(3, 104);
    if (hole != BlackjackRules::checked) rules.surrender = BlackjackRules::early;
    rules.hole_card = hole;
    rules.cut_after = 50;
    rules.burn = 1;
    Seated<Blackjack> game(seated(rules));
    const Draw draw(DrawSpec{shoe_of(2), 104, false});
    LateDeal late(draw);
    Workspace work;
    Silent silent;
    for (std::uint64_t trial = 1; trial <= 200; ++trial) {
      std::vector<Card> deck = draw.fresh_table();
      RandomChance chance(5, trial, lane::deal);
      draw(deck, work, chance, silent);
      SeatLanes luck(5, trial);
      std::vector<std::int64_t> checked, quiet, settled_late;
      CardCheck check;
      check.begins(Pile{deck.data(), deck.size()});
      game.play(deck, chance, luck, check, [&](const auto& outcome) { checked.push_back(outcome.game.net); });
      game.play(deck, chance, luck, silent, [&](const auto& outcome) { quiet.push_back(outcome.game.net); });
      late.begin(5, trial);
      game.play_late(late, luck, silent, [&](const auto& outcome) { settled_late.push_back(outcome.game.net); });
      REQUIRE(checked.size() > 1);
      CHECK(quiet == checked);
      CHECK(settled_late == checked);
    }
  }
}

TEST_CASE("a table settles pairs, totals and what may not be done") {
  const auto pieces = std::make_shared<const BlackjackPieces>(house(1, 312));
  BlackjackHand hand = BlackjackHand::of_card(8);
  hand.add(8);
  hand.pair = true;
  CHECK(pieces->total(hand) == 16);
  CHECK(pieces->may_split(hand, 3));
  CHECK_FALSE(pieces->may_split(hand, 4));
  CHECK(pieces->may_double(hand));
  BlackjackHand soft = BlackjackHand::of_card(1);
  soft.add(6);
  CHECK(pieces->is_soft(soft));
  CHECK(pieces->total(soft) == 17);
  CHECK(pieces->completes_natural(1) == 10);
  CHECK(pieces->completes_natural(10) == 1);
  CHECK(pieces->completes_natural(9) == 0);
  StrategyTable table;
  table.pair[8][6] = {BlackjackPieces::split, BlackjackPieces::split};
  table.hard[16][6] = {BlackjackPieces::double_down, BlackjackPieces::hit};
  CHECK(table.cell(*pieces, hand, true, 6).first == BlackjackPieces::split);
  CHECK(table.cell(*pieces, hand, false, 6).first == BlackjackPieces::double_down);
}

TEST_CASE("a shoe that runs out in the middle of a round is told with its trial") {
  BlackjackRules rules = house(1, 13);
  rules.cards = 13;
  GameRunner<Seated<Blackjack>> runner(Draw(DrawSpec{{9, 9, 0, 0}, 4, false}), seated(rules), {0});
  CHECK_THROWS_AS(([&] {
                    for (std::uint64_t trial = 1; trial <= 100; ++trial) runner.play(1, trial);
                  }()),
                  StockRanOut);
}

TEST_CASE("who errs or insures tells the chances that its luck comes to") {
  const BlackjackRules rules = house(1, 52);
  const Blackjack game(rules);
  const RandomPlayer<Blackjack::View> random;
  const InsuringPlayer insures(random);
  const ErringPlayer errs(random, 0.2), errs_insuring(insures, 0.3);
  Blackjack::Position now = game.start(0);
  std::size_t asked = 0;
  // An ace up, so that insurance comes; then a hand of 5 and 6.
  const std::vector<Card> deck{4, 0, 5, 7, 3, 2, 1, 6, 8};
  for (std::size_t place = 0; game.next(now).what != NextStep::over && asked < 4;) {
    const NextStep next = game.next(now);
    if (next.what == NextStep::deal) game.give(now, next, deck[place++]);
    else if (next.what == NextStep::lay_down) game.laid(now, next, place++);
    else if (next.what == NextStep::look) game.looked(now, next, false);
    else if (next.what == NextStep::turn) game.give(now, next, deck[next.place]);
    if (next.what != NextStep::decide) continue;
    const Moves moves = game.moves(now);
    const Blackjack::View view = game.view(now, 0);
    for (const BlackjackPlayer* player :
         std::initializer_list<const BlackjackPlayer*>{&random, &insures, &errs, &errs_insuring}) {
      const auto told = player->chances(view, moves, {}), walked = walked_chances(*player, view, moves);
      REQUIRE(told.size() == walked.size());
      for (std::size_t i = 0; i < told.size(); ++i) CHECK(told[i] == doctest::Approx(walked[i]).epsilon(1e-12));
    }
    ++asked;
    game.move(now, moves.first());
  }
  CHECK(asked > 1);
}
