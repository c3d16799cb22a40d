#include <doctest/doctest.h>

#include <cmath>
#include <memory>
#include <string>
#include <vector>

#include "habanera/blackjack/advice.hpp"
#include "habanera/blackjack/best_table.hpp"
#include "habanera/blackjack/blackjack.hpp"
#include "habanera/blackjack/mistakes.hpp"
#include "habanera/blackjack/players.hpp"
#include "habanera/blackjack/solved.hpp"
#include "habanera/game/enumerating.hpp"
#include "habanera/game/seated.hpp"
#include "habanera/game/solver.hpp"

using namespace habanera;

namespace {

// A small shoe: so many cards of each value, in their order.
struct SmallShoe {
  std::vector<std::uint8_t> values;
  std::vector<double> counts;

  std::vector<Card> deck() const {
    std::vector<Card> all;
    for (std::size_t kind = 0; kind < values.size(); ++kind)
      all.insert(all.end(), static_cast<std::size_t>(counts[kind]), static_cast<Card>(kind));
    return all;
  }
};

BlackjackRules house(const SmallShoe& shoe) {
  BlackjackRules rules;
  rules.points = shoe.values;
  for (std::size_t kind = 0; kind < shoe.values.size(); ++kind) {
    rules.pairs_with.push_back(static_cast<std::uint16_t>(shoe.values[kind]));
    rules.side_class.push_back(0);
  }
  rules.cards = shoe.deck().size();
  rules.insurance = false;
  return rules;
}

// Rules as they come, every one of them toggled; `number` says which.
BlackjackRules any_house(const SmallShoe& shoe, std::uint64_t number) {
  RandomChance chance(71, number, lane::game);
  BlackjackRules rules = house(shoe);
  const auto toss = [&] { return chance.below(2) == 1; };
  rules.bust_over = std::vector<int>{21, 21, 22, 19}[chance.below(4)];
  rules.dealer_stands_on = std::vector<int>{17, 17, 16, 18}[chance.below(4)];
  rules.hits_soft = toss();
  rules.ties_to_dealer = chance.below(4) == 0;
  rules.hole_card = static_cast<BlackjackRules::HoleCard>(chance.below(3));
  rules.double_on = static_cast<BlackjackRules::DoubleOn>(chance.below(5));
  rules.double_after_split = toss();
  rules.most_hands = 1 + chance.below(4);
  rules.split_aces_one_card = toss();
  rules.resplit_aces = toss();
  rules.surrender = static_cast<BlackjackRules::Surrender>(chance.below(3));
  if (rules.surrender == BlackjackRules::late) rules.hole_card = BlackjackRules::checked;
  rules.cards_that_win = chance.below(3) == 0 ? 4 + chance.below(2) : 0;
  rules.natural_pays = std::vector<std::int64_t>{2, 3, 4}[chance.below(3)];
  if (toss()) rules.pairs_with.back() = 99;  // cards of ten that are no pair with the others
  return rules;
}

// The table's game as the plain solver takes it.
class PlainBlackjack : public Blackjack {
 public:
  PlainBlackjack(const BlackjackRules& rules, UnseenCards unseen) : Blackjack(rules), unseen_(std::move(unseen)) {}

  UnseenCards unseen(const Position&) const { return unseen_; }
  double worth(const Position& position, std::size_t) const {
    if (position.stage != Position::over) return 0;
    return static_cast<double>(outcome(position).net) / static_cast<double>(rules().stake);
  }
  std::string key(const Position& position, const UnseenCards& unseen) const { return full_key(position, unseen); }

 private:
  UnseenCards unseen_;
};

double mean_net(const std::map<RowTally::Row, double>& chances, const BlackjackRules& rules) {
  double mean = 0;
  for (const auto& [row, chance] : chances) mean += chance * static_cast<double>(row[0]);
  return mean / static_cast<double>(rules.stake);
}

// What a table brings by the code of the game, every course of it followed.
double walked(const SmallShoe& shoe, BlackjackRules rules, const StrategyTable& table) {
  rules.told_by_cards = table.by_cards != nullptr;
  Seated<Blackjack>::Rules seats{rules, {}};
  seats.players.push_back(std::make_shared<TablePlayer>(std::make_shared<const BlackjackPieces>(rules), table));
  const Draw draw(DrawSpec{shoe.deck(), shoe.deck().size(), false});
  return mean_net(walk_games<Seated<Blackjack>>(draw, seats, {0}, 4000000), rules);
}

struct SolvedSum {
  double net = 0, chance = 0;
};
SolvedSum solved(const SolvedBlackjack& house, const StrategyTable& table) {
  std::vector<std::vector<OpeningWorth>> rows(house.shoe().values().size());
  house.each_up_card([&](UpCardPlay& play, std::size_t place) {
    rows[place] = worth_by_opening(play, TablePolicy(table), false);
  });
  SolvedSum sum;
  for (const auto& of_up_card : rows) {
    for (const OpeningWorth& row : of_up_card) {
      sum.net += row.worth.net;
      sum.chance += row.chance;
    }
  }
  return sum;
}

// Entries as they come, a pair split now and then; nothing that any card busts is hit.
StrategyTable any_table(std::uint64_t number) {
  RandomChance chance(72, number, lane::game);
  StrategyTable table;
  const auto& entries = TableEntries::all();
  for (std::size_t total = 0; total < StrategyTable::most_total; ++total)
    for (std::size_t up = 1; up <= 10; ++up) {
      table.hard[total][up] = entries[total < 12 ? 1 + chance.below(2) : total > 17 ? 0 : chance.below(6)];
      table.soft[total][up] = entries[total > 18 ? 0 : chance.below(6)];
    }
  for (std::size_t value = 1; value <= 10; ++value)
    for (std::size_t up = 1; up <= 10; ++up) table.pair[value][up] = entries[chance.below(3) ? 6 + chance.below(2) : 0];
  return table;
}

const SmallShoe small{{1, 4, 6, 10}, {4, 4, 4, 8}};
const SmallShoe two_tens{{1, 5, 9, 10, 10}, {4, 4, 4, 4, 4}};

}  // namespace

TEST_CASE("a table brings what the table's own code brings, split hands with it, by every rule") {
  for (std::uint64_t number = 1; number <= 20; ++number) {
    const SmallShoe& shoe = number % 5 ? small : two_tens;
    const BlackjackRules rules = any_house(shoe, number);
    const StrategyTable table = any_table(number);
    const SolvedSum sum = solved(SolvedBlackjack(rules, shoe.counts, false, 1), table);
    CAPTURE(number);
    CHECK(sum.chance == doctest::Approx(1).epsilon(1e-12));
    CHECK(std::abs(sum.net - walked(shoe, rules, table)) < 1e-12);
  }
}

TEST_CASE("best play without splits is that of the plain solver, state by state and move by move") {
  for (std::uint64_t number = 1; number <= 40; ++number) {
    const SmallShoe& shoe = number % 2 ? small : two_tens;
    BlackjackRules rules = any_house(shoe, number);
    rules.most_hands = 1;
    const SolvedBlackjack quick(rules, shoe.counts, false, 1);
    const PlainBlackjack plain(rules, UnseenCards(shoe.counts));
    Solver<PlainBlackjack> solver(plain, {nullptr}, 0);
    CAPTURE(number);
    CHECK(std::abs(worth_of_best(quick, BestKnows::all_cards) - solver.worth(plain.start(0))) < 1e-12);
  }
}

namespace {

// A round in which these cards came: the seat's two, the up card between them, then what the seat drew.
struct InPlay {
  BlackjackPosition position;
  UnseenCards unseen;
  bool decides = false;
};

InPlay in_play(const Blackjack& game, const SmallShoe& shoe, Card up, const std::vector<Card>& cards) {
  InPlay now{game.start(0), UnseenCards(shoe.counts), false};
  std::vector<Card> coming{cards[0], up};
  coming.insert(coming.end(), cards.begin() + 1, cards.end());
  std::size_t next_card = 0;
  for (;;) {
    const NextStep next = game.next(now.position);
    if (next.what == NextStep::deal && next_card < coming.size() && now.position.stage != BlackjackPosition::dealers_turn) {
      now.unseen.deal(coming[next_card]);
      game.give(now.position, next, coming[next_card++]);
    } else if (next.what == NextStep::lay_down) {
      game.laid(now.position, next, now.unseen.lay_down());
    } else if (next.what == NextStep::look) {
      now.unseen.narrow(next.place, game.looked_for(now.position), false);
      game.looked(now.position, next, false);
    } else if (next.what == NextStep::decide && now.position.stage == BlackjackPosition::early) {
      game.move(now.position, BlackjackPieces::decline);
    } else if (next.what == NextStep::decide && next_card < coming.size()) {
      if (!game.moves(now.position).has(BlackjackPieces::hit)) return now;
      game.move(now.position, BlackjackPieces::hit);
    } else {
      now.decides = next.what == NextStep::decide && next_card == coming.size();
      return now;
    }
  }
}

}  // namespace

TEST_CASE("every state that best play visits is worth what the plain solver finds from there") {
  std::size_t states = 0;
  for (std::uint64_t number = 1; number <= 8; ++number) {
    BlackjackRules rules = any_house(small, number);
    rules.most_hands = 1;
    const SolvedBlackjack quick(rules, small.counts, false, 1);
    quick.each_up_card([&](UpCardPlay& play, std::size_t) {
      for (const ExpectedRow& row : ExpectedOfBest(play, BestKnows::all_cards).rows()) {
        if (row.row.kind != TableRow::cards || row.row.early) continue;
        std::vector<Card> cards;
        for (std::size_t kind = 0; kind < small.values.size(); ++kind)
          cards.insert(cards.end(),
                       static_cast<std::size_t>(BlackjackHand::count_held(row.row.value, small.values[kind])),
                       static_cast<Card>(kind));
        const auto up = static_cast<Card>(std::find(small.values.begin(), small.values.end(), play.up().value) -
                                          small.values.begin());
        const Blackjack game(rules);
        const InPlay now = in_play(game, small, up, cards);
        // Some hands cannot be reached in this order, since they would have won before.
        if (!now.decides) continue;
        const PlainBlackjack plain(rules, now.unseen);
        Solver<PlainBlackjack> solver(plain, {nullptr}, 0);
        Moves move;
        move.add(row.move);
        const double worth = solver.worth_of_moves(now.position, move)[0];
        CHECK(std::abs(worth - row.expected) < 1e-12);
        ++states;
      }
    });
  }
  CHECK(states > 2000);
}

TEST_CASE("best play with splits is played as it is told") {
  for (std::uint64_t number = 1; number <= 40; ++number) {
    const SmallShoe& shoe = number % 2 ? small : two_tens;
    const BlackjackRules rules = any_house(shoe, number);
    const SolvedBlackjack quick(rules, shoe.counts, false, 2);
    CAPTURE(number);
    double least = -10;
    for (const BestKnows knows : {BestKnows::total, BestKnows::two_cards, BestKnows::all_cards}) {
      const BestTable best(quick, knows);
      const double worth = worth_of_best(quick, knows);
      CHECK(std::abs(worth - solved(quick, best.table()).net) < 1e-12);
      if (number <= 5) CHECK(std::abs(worth - walked(shoe, rules, best.table())) < 1e-12);
      if (rules.most_hands == 1) CHECK(worth > least - 1e-12);
      least = worth;
    }
  }
}

TEST_CASE("who sees all hands of a split does no worse than best play of each alone") {
  for (std::uint64_t number = 1; number <= 2; ++number) {
    BlackjackRules rules = any_house(small, number);
    rules.most_hands = 2;
    rules.surrender = BlackjackRules::no_surrender;
    const PlainBlackjack plain(rules, UnseenCards(small.counts));
    Solver<PlainBlackjack> solver(plain, {nullptr}, 0);
    const double quick = worth_of_best(SolvedBlackjack(rules, small.counts, false, 2), BestKnows::all_cards);
    const double all = solver.worth(plain.start(0));
    CAPTURE(number);
    CHECK(all > quick - 1e-12);
  }
}

TEST_CASE("no other entry in a cell improves the table that is best by totals, nor two at once in a small shoe") {
  for (std::uint64_t number = 1; number <= 6; ++number) {
    const SmallShoe& shoe = number % 2 ? small : two_tens;
    const BlackjackRules rules = any_house(shoe, number);
    const SolvedBlackjack quick(rules, shoe.counts, false, 1);
    CAPTURE(number);
    std::size_t tried = 0;
    quick.each_up_card([&](UpCardPlay& play, std::size_t) {
      const TableSearch search(play, false);
      const double best = worth_of_play(play, search.column());
      CAPTURE(+play.up().value);
      std::vector<std::size_t> met;
      CellGains gains(search.column());
      PlayedUpCard<ColumnPolicy> played(play, search.column());
      each_decision(play, search.column(),
                    [&](const BlackjackDecision& decision) { gains.add(play, played, decision); });
      for (std::size_t cell = 0; cell < search.column().size(); ++cell)
        if (gains.is_met(cell)) met.push_back(cell);
      for (const std::size_t one : met) {
        for (const std::size_t two : met) {
          if (two < one || (two != one && play.up().value != 10)) continue;
          for (const auto& entry : TableEntries::all()) {
            for (const auto& other : TableEntries::all()) {
              ColumnPolicy changed = search.column();
              changed[one] = entry;
              changed[two] = other;
              const bool splits_totals =
                  (one < ColumnPolicy::pair_from && entry.otherwise == BlackjackPieces::split) ||
                  (two < ColumnPolicy::pair_from && other.otherwise == BlackjackPieces::split);
              if (splits_totals || (one == two && !(entry == other))) continue;
              CHECK(worth_of_play(play, changed) < best + 1e-11);
              ++tried;
            }
          }
        }
      }
    });
    CHECK(tried > 500);
  }
}

TEST_CASE("mistakes add up to the difference of the edges") {
  for (std::uint64_t number = 1; number <= 30; ++number) {
    const SmallShoe& shoe = number % 2 ? small : two_tens;
    const BlackjackRules rules = any_house(shoe, number);
    const SolvedBlackjack quick(rules, shoe.counts, false, 1);
    const StrategyTable player = any_table(number), reference = BestTable(quick, BestKnows::total).table();
    double lost = 0;
    std::size_t made = 0;
    quick.each_up_card([&](UpCardPlay& play, std::size_t) {
      for (const MistakeRow& row : mistakes(play, TablePolicy(player), TablePolicy(reference))) {
        lost += row.loss;
        CHECK(row.how_often > -1e-12);
        ++made;
      }
    });
    CHECK(made > 5);
    CHECK(std::abs(lost - (solved(quick, reference).net - solved(quick, player).net)) < 1e-12);
  }
}

TEST_CASE("advice is what the best strategy expects") {
  const SmallShoe pack{{1, 2, 3, 4, 5, 6, 7, 8, 9, 10}, {4, 4, 4, 4, 4, 4, 4, 4, 4, 16}};
  const SolvedBlackjack quick(house(pack), pack.counts, false, 1);
  const auto advised = [&](const StatedHand& stated) {
    BlackjackAdvice advice(quick, stated);
    std::map<std::size_t, double> all;
    for (const auto& move : advice.moves()) all[move.move] = move.expected;
    for (const auto& [move, expected] : all) {
      if (move == BlackjackPieces::split) continue;
      double chance = 0, net = 0;
      for (const auto& ending : advice.endings()) {
        if (ending.move != move) continue;
        chance += ending.chance;
        net += (move == BlackjackPieces::double_down ? 2 : 1) * (ending.win - ending.loss);
        CHECK(ending.win + ending.push + ending.loss == doctest::Approx(ending.chance));
      }
      CHECK(chance == doctest::Approx(1).epsilon(1e-12));
      CHECK(net == doctest::Approx(expected).epsilon(1e-12));
    }
    return all;
  };
  quick.each_up_card([&](UpCardPlay& play, std::size_t) {
    if (play.up().value != 10) return;
    for (const ExpectedRow& row : ExpectedOfBest(play, BestKnows::all_cards).rows()) {
      if (row.row.kind == TableRow::pair && row.row.value == 8) {
        CHECK(advised({{8, 8}, 10, SeatHands::unsplit, true, 2})[row.move] == doctest::Approx(row.expected));
      }
      const std::uint64_t ten_six = BlackjackHand::held_of(10) + BlackjackHand::held_of(6);
      if (row.row.kind == TableRow::cards && row.row.split_value == 0 && row.row.value == ten_six)
        CHECK(advised({{10, 6}, 10})[row.move] == doctest::Approx(row.expected));
    }
  });
  CHECK_THROWS_WITH_AS(BlackjackAdvice(quick, {{10, 6, 9}, 5}), "the hand is bust", std::invalid_argument);
  CHECK_THROWS_AS(BlackjackAdvice(quick, {{1, 10}, 5}), std::invalid_argument);
}

TEST_CASE("what all hands of a split come to does not hang on how their patterns are counted") {
  // With every second card drawn afresh the number of hands is had by hand: each pairs with chance p, at most four.
  for (const double p : {0.0, 1.0 / 13, 0.3, 1.0}) {
    const SplitPatterns patterns(4);
    double hands = 0, power = 1;
    for (std::size_t r = 0; r < SplitPatterns::most; ++r, power *= p)
      hands += power * (patterns.not_pairing[r] * (1 - p) + patterns.any[r]);
    // Three hands: a card pairs first or second; four: then one of three again.
    const double third = 1 - (1 - p) * (1 - p), two_first = p, two_second = (1 - p) * p;
    const double fourth = two_first * (1 - std::pow(1 - p, 3)) + two_second * (1 - std::pow(1 - p, 2));
    CHECK(hands == doctest::Approx(2 + third + fourth).epsilon(1e-12));
  }
}
