#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <map>
#include <vector>

#include "habanera/question/class_law.hpp"
#include "habanera/question/combination_law.hpp"
#include "habanera/question/counting.hpp"
#include "habanera/question/enumerating.hpp"
#include "habanera/question/hand_law.hpp"
#include "habanera/watcher/card_check.hpp"

using namespace habanera;

namespace {

// Kinds 0 to 5 in suits 0 0 1 1 2 2, worth -1 0 2 3 1 1; so many cards, the kinds in turn.
const std::vector<std::uint16_t> suits{0, 0, 1, 1, 2, 2};

std::vector<Card> deck_of(std::size_t cards) {
  std::vector<Card> deck;
  for (std::size_t i = 0; i < cards; ++i) deck.push_back(static_cast<Card>(i % 6));
  return deck;
}

// Count of suit 0 (below 8), sum of worth plus 8 (below 32), suits held (below 4), largest suit (below 8).
Words words_of_all(bool with_places) {
  Words words;
  words.start = 8 * 8;
  const std::vector<int> worth{-1, 0, 2, 3, 1, 1};
  for (std::size_t kind = 0; kind < 6; ++kind)
    words.added.push_back((suits[kind] == 0 ? 1u : 0u) + static_cast<std::uint64_t>(8 * static_cast<std::int64_t>(worth[kind])));
  words.groups = {{suits, 3, 256, 4, false}, {suits, 3, 1024, 8, true}};
  words.cells = 8192;
  if (with_places) {
    words.places = {{1, 8192, {1, 1, 0, 0, 0, 0}}};
    words.cells = 16384;
  }
  return words;
}

// The same index by looking at the whole hand at once.
std::uint64_t slow_index(const std::vector<Card>& hand, std::size_t held, bool with_places) {
  const std::vector<int> worth{-1, 0, 2, 3, 1, 1};
  std::uint64_t count = 0;
  int sum = 8;
  std::map<std::uint16_t, std::uint64_t> sizes;
  for (const Card card : hand) {
    count += suits[card] == 0;
    sum += worth[card];
    ++sizes[suits[card]];
  }
  std::uint64_t largest = 0;
  for (const auto& [suit, size] : sizes) largest = std::max(largest, size);
  const bool second = with_places && hand.size() > held + 1 && suits[hand[held + 1]] == 0;
  return count + 8 * static_cast<std::uint64_t>(sum) + 256 * sizes.size() + 1024 * largest + (second ? 8192 : 0);
}

Question question_of(std::size_t size, std::vector<Card> held, bool with_places) {
  Question question{std::move(held), size, {}, 0, 0, words_of_all(with_places), {}, 0};
  question.cells = question.words.cells;
  return question;
}

// Whether the hand holds no card of suit 0.
Condition none_of_suit_0() {
  Condition condition{words_of_all(false), {}};
  for (std::uint64_t index = 0; index < condition.words.cells; ++index)
    condition.holds.push_back(index % 8 == 0);
  return condition;
}

std::map<std::uint64_t, std::uint64_t> as_map(const SparseTally& tally) {
  std::map<std::uint64_t, std::uint64_t> found;
  for (const auto& entry : tally.entries()) found[entry.outcome] = entry.n;
  return found;
}

}  // namespace

TEST_CASE("the fast loops count what slow looking at each trial counts, on any number of threads") {
  struct Case {
    std::size_t cards, size;
    bool replace, places;
    std::vector<Card> held;
  };
  const std::vector<Case> cases{{30, 3, false, false, {}}, {30, 3, false, true, {2}}, {12, 7, false, false, {}},
                                {12, 5, true, false, {0, 1}}, {200, 2, false, true, {}}, {8, 8, false, true, {}}};
  for (const Case& c : cases) {
    const Question question = question_of(c.size, c.held, c.places);
    const Draw draw({deck_of(c.cards), c.size, c.replace});
    std::map<std::uint64_t, std::uint64_t> slow, examples;
    for (std::uint64_t trial = 5; trial < 5 + 5000; ++trial) {
      RandomChance chance(3, trial);
      Silent silent;
      std::vector<Card> table = draw.fresh_table();
      Workspace work;
      draw(table, work, chance, silent);
      std::vector<Card> hand = c.held;
      hand.insert(hand.end(), table.begin(), table.begin() + static_cast<std::ptrdiff_t>(c.size));
      const std::uint64_t index = slow_index(hand, c.held.size(), c.places);
      if (!slow[index]++) examples[index] = trial;
    }
    for (const unsigned threads : {1u, 2u, 3u}) {
      const SparseTally fast = count_question(draw, question, 3, 5, 5000, threads);
      CHECK(as_map(fast) == slow);
      for (const auto& entry : fast.entries()) CHECK(entry.example == examples[entry.outcome]);
    }
  }
}

TEST_CASE("whole plays conserve cards and count like plain draws when nothing is done with the hand") {
  const Question question = question_of(4, {1}, true);
  const Draw draw({deck_of(15), 4, false});
  const SparseTally plain = count_question(draw, question, 8, 1, 4000, 2);
  CHECK(as_map(count_plays(draw, QuestionTrial(question), question.cells, 8, 1, 4000, 2)) == as_map(plain));

  Question staged = question_of(4, {1}, false);
  staged.stages = {Redraw{none_of_suit_0(), {5, 4}, {1, 0}, {0, 0, 0, 0, 1, 1}},
                   Exchange{{{Keep::What::groups, suits, 3, 1}}, 1}};
  const Draw longer({deck_of(15), 10, false});
  const std::vector<Card> deck = deck_of(15);
  for (std::uint64_t trial = 1; trial <= 500; ++trial) {
    RandomChance chance(8, trial);
    std::vector<Card> table = deck;
    CardCheck check;
    check.begins(Pile{table.data(), table.size()});
    Workspace work;
    QuestionPlay play(staged);
    play(table, [&] { longer(table, work, chance, check); }, [](std::size_t, std::uint64_t) {});
    CHECK(play.hand().size() == 5);
    // Of no kind does it hold more than the deck and the held card have.
    for (Card kind = 0; kind < 6; ++kind)
      CHECK(std::count(play.hand().begin(), play.hand().end(), kind) <=
            std::count(deck.begin(), deck.end(), kind) + (kind == 1));
    std::sort(table.begin(), table.end());
    std::vector<Card> sorted = deck;
    std::sort(sorted.begin(), sorted.end());
    CHECK(table == sorted);
  }
}

TEST_CASE("class by class, the law is what walking every path gives") {
  const Words words = words_of_all(false);
  for (const bool replace : {false, true}) {
    for (const std::size_t size : {0u, 1u, 3u}) {
      const Question question = question_of(size, {2}, false);
      std::vector<CardClass> classes;
      for (Card kind = 0; kind < 6; ++kind) classes.push_back({kind, kind < 2 ? 2u : 1u, kind == 2 ? 1u : 0u});
      const IndexLaw law = ClassLaw(words, classes, replace, 100000)(size);
      const auto walked = walk_plays(Draw({deck_of(8), size, replace}), QuestionTrial(question), 100000);
      REQUIRE(law.size() == walked.size());
      for (const auto& [index, chance] : walked) CHECK(law.at(index) == doctest::Approx(chance).epsilon(1e-13));
    }
  }
  CHECK_THROWS_AS(ClassLaw(words, {{0, 20, 0}, {2, 20, 0}, {4, 20, 0}}, false, 50)(20), std::length_error);
}

TEST_CASE("set by set, the law is that of the classes") {
  const Words words = words_of_all(false);
  const std::vector<CardClass> classes{{0, 3, 0}, {2, 2, 1}, {4, 4, 0}, {5, 0, 1}};
  for (const bool replace : {false, true}) {
    for (const std::size_t size : {0u, 1u, 4u}) {
      const IndexLaw law = CombinationLaw(words, classes, replace, 100000)(size);
      const IndexLaw by_class = ClassLaw(words, classes, replace, 100000)(size);
      REQUIRE(law.size() == by_class.size());
      for (const auto& [index, chance] : by_class) CHECK(law.at(index) == doctest::Approx(chance).epsilon(1e-13));
    }
  }
  // Four of 3, 2 and 4 alike are 11 hands, and of three kinds that go back C(6, 2) = 15: so many may be, and no fewer.
  for (const auto& [replace, hands] : {std::pair{false, 11}, std::pair{true, 15}}) {
    CHECK_NOTHROW(CombinationLaw(words, classes, replace, static_cast<std::uint64_t>(hands))(4));
    CHECK_THROWS_AS(CombinationLaw(words, classes, replace, static_cast<std::uint64_t>(hands - 1))(4), std::length_error);
  }
}

TEST_CASE("card by card, the law of hands is that of the classes") {
  const std::vector<CardClass> classes{{0, 3, 0}, {2, 2, 1}, {4, 4, 0}};
  const HandLaws laws(classes, false, 1000);
  RowLaw law = laws.draw(laws.start(0), 4, {});
  double total = 0;
  const auto choose = [](int n, int k) {
    return std::round(std::exp(std::lgamma(n + 1) - std::lgamma(k + 1) - std::lgamma(n - k + 1)));
  };
  for (std::size_t i = 0; i < law.size(); ++i) {
    const RowLaw::Value* hand = law.row(i);
    const double ways = choose(3, hand[0]) * choose(2, hand[1] - 1) * choose(4, hand[2]);
    CHECK(law.chance(i) == doctest::Approx(ways / choose(9, 4)).epsilon(1e-12));
    total += law.chance(i);
  }
  CHECK(total == doctest::Approx(1).epsilon(1e-14));
  law = laws.put_under(law, {0, 0, 0, 0, 1, 1});
  for (std::size_t i = 0; i < law.size(); ++i) {
    CHECK(law.row(i)[0] + law.row(i)[1] + law.row(i)[2] == 4);
    CHECK(law.row(i)[3] + law.row(i)[4] + law.row(i)[5] == 1);
  }
  CHECK_THROWS_AS(HandLaws(classes, false, 3).draw(laws.start(0), 4, {}), std::length_error);
}

TEST_CASE("like rows of a law add up, also past many growths of its table") {
  RowLaw law(2, 3000);
  for (int round = 0; round < 2; ++round)
    for (RowLaw::Value i = 0; i < 3000; ++i) {
      const RowLaw::Value row[] = {i, static_cast<RowLaw::Value>(i % 7)};
      law.add(row, i);
    }
  REQUIRE(law.size() == 3000);
  for (std::size_t i = 0; i < law.size(); ++i) CHECK((law.row(i)[0] == i && law.chance(i) == 2.0 * static_cast<double>(i)));
  const RowLaw::Value one_more[] = {0, 1};
  CHECK_THROWS_AS(law.add(one_more, 1), std::length_error);
}

TEST_CASE("hypergeometric and binomial laws by hand, and far from overflowing") {
  const std::vector<double> two = hypergeometric_law(4, 48, 5);
  CHECK(two[2] == doctest::Approx(6.0 * 17296 / 2598960).epsilon(1e-14));
  CHECK(hypergeometric_law(3, 0, 2) == std::vector<double>{0, 0, 1});
  CHECK(hypergeometric_law(0, 7, 3) == std::vector<double>{1});
  CHECK(hypergeometric_law(3, 2, 4)[2] == doctest::Approx(3.0 / 5).epsilon(1e-14));
  CHECK(binomial_law(1, 5, 2)[1] == doctest::Approx(10.0 / 36).epsilon(1e-14));
  CHECK(binomial_law(3, 0, 2) == std::vector<double>{0, 0, 1});
  // A chain of 20,000 products, each rounded a few times, is off by less than 20,000 x 4 x 1.2e-16.
  double mean = 0;
  const std::vector<double> large = hypergeometric_law(20000, 45535, 30000);
  for (std::size_t c = 0; c < large.size(); ++c) mean += large[c] * static_cast<double>(c);
  CHECK(mean == doctest::Approx(30000.0 * 20000 / 65535).epsilon(1e-10));
}

TEST_CASE("what each way of keeping keeps") {
  const std::vector<Card> hand{5, 0, 3, 1, 2};
  const auto kept = [&](const Keep& keep) {
    std::vector<std::uint8_t> marks;
    Keeper().choose(keep, hand, marks);
    return marks;
  };
  using Marks = std::vector<std::uint8_t>;
  CHECK(kept({Keep::What::where, {1, 0, 0, 0, 0, 1}, 2, 1}) == Marks{1, 1, 0, 0, 0});
  CHECK(kept({Keep::What::groups, suits, 3, 1}) == Marks{0, 1, 1, 1, 1});
  CHECK(kept({Keep::What::suit, suits, 3, 2}) == Marks{0, 1, 0, 1, 0});
  CHECK(kept({Keep::What::suit, suits, 3, 3}) == Marks{0, 0, 0, 0, 0});
  // Runs: ranks 0 1 1 2 and 4 by kind; of the two with rank 1 the first kind stays.
  const Keep run{Keep::What::run, {0, 1, 1, 2, Keep::no_value, 4}, 5, 3};
  CHECK(kept(run) == Marks{0, 1, 1, 1, 0});
  Marks marks;
  Keeper().choose_first({{Keep::What::suit, suits, 3, 4}, run}, hand, marks);
  CHECK(marks == Marks{0, 1, 1, 1, 0});
}

TEST_CASE("outcomes beyond the table are counted and merged all the same, up to a limit") {
  SparseTally one(4), two(4);
  one.add(2, 7);
  one.add(1000, 8);
  one.add(1000, 9);
  two.add(2, 3);
  two.add(1000, 4);
  two.add(50, 5);
  one.merge(two);
  const auto entries = one.entries();
  REQUIRE(entries.size() == 3);
  CHECK((entries[0].outcome == 2 && entries[0].n == 2 && entries[0].example == 3));
  CHECK((entries[1].outcome == 50 && entries[1].n == 1 && entries[1].example == 5));
  CHECK((entries[2].outcome == 1000 && entries[2].n == 3 && entries[2].example == 4));
  SparseTally full(0);
  for (std::uint64_t i = 0; i < most_outcomes; ++i) full.add(i, i);
  CHECK_THROWS_AS(full.add(most_outcomes, 1), std::length_error);
}

TEST_CASE("turning until: the number turned and whether it came to pass") {
  const Until until{3, none_of_suit_0()};
  Until first = until;
  for (auto& holds : first.condition.holds) holds = !holds;
  Reading reading(first.condition.words);
  CHECK(first({4, 2, 0, 1}, reading) == std::pair<std::size_t, bool>{3, true});
  CHECK(first({4, 2, 3, 0}, reading) == std::pair<std::size_t, bool>{3, false});
  CHECK(until({4, 2, 3, 0}, reading) == std::pair<std::size_t, bool>{0, true});
}
