#include <doctest/doctest.h>

#include <algorithm>
#include <map>
#include <random>
#include <set>
#include <string>
#include <vector>

#include "habanera/hand/category_counts.hpp"
#include "habanera/hand/evaluator.hpp"
#include "habanera/hand/showdown.hpp"

using namespace habanera;

namespace {

using Cards = std::vector<Card>;

// A deck of so many ranks in so many suits: kind = suit * ranks + rank; then so many jokers, which are wild.
HandRules rules_for(std::size_t ranks, std::size_t suits, std::size_t jokers = 0, std::size_t size = 5) {
  HandRules rules;
  rules.ranks = ranks;
  rules.size = size;
  rules.suits = suits;
  rules.low_ace = ranks - 1;
  for (std::size_t kind = 0; kind < ranks * suits + jokers; ++kind) {
    const bool joker = kind >= ranks * suits;
    rules.rank.push_back(joker ? 0 : static_cast<std::uint8_t>(kind % ranks));
    rules.suit.push_back(joker ? HandRules::no_suit : static_cast<std::uint8_t>(kind / ranks));
    rules.wild.push_back(joker);
  }
  using C = HandCategory;
  for (const C category : {C::five_of_a_kind, C::straight_flush, C::four_of_a_kind, C::full_house, C::flush,
                           C::straight, C::three_of_a_kind, C::two_pair, C::one_pair, C::high_card})
    if (cards_needed(category, size) <= size) rules.categories.push_back({category});
  return rules;
}

// The slow and obvious way: every choice of the cards that count, every card that wild ones could be, each category by
// its definition.
class Obvious {
 public:
  explicit Obvious(const HandRules& rules) : rules_(rules) {}

  HandWorth operator()(const Cards& hand) const {
    HandWorth best;
    std::vector<bool> taken(hand.size());
    std::fill(taken.begin(), taken.begin() + static_cast<std::ptrdiff_t>(std::min(hand.size(), rules_.size)), true);
    do {
      std::vector<std::pair<int, int>> cards;
      std::size_t wild = 0;
      for (std::size_t i = 0; i < hand.size(); ++i) {
        if (!taken[i]) continue;
        if (rules_.wild[hand[i]]) ++wild;
        else cards.push_back({rules_.rank[hand[i]], rules_.suit[hand[i]]});
      }
      substitute(cards, wild, best);
    } while (std::prev_permutation(taken.begin(), taken.end()));
    return best;
  }

 private:
  void substitute(std::vector<std::pair<int, int>>& cards, std::size_t wild, HandWorth& best) const {
    if (wild == 0) return judge(cards, best);
    std::set<int> suits;
    for (std::size_t kind = 0; kind < rules_.suit.size(); ++kind)
      if (!rules_.wild[kind]) suits.insert(rules_.suit[kind]);
    for (int rank = 0; rank < static_cast<int>(rules_.ranks); ++rank)
      for (const int suit : suits) {
        cards.push_back({rank, suit});
        substitute(cards, wild - 1, best);
        cards.pop_back();
      }
  }

  void judge(const std::vector<std::pair<int, int>>& cards, HandWorth& best) const {
    std::map<int, int> count;
    std::set<int> suits;
    for (const auto& [rank, suit] : cards) {
      ++count[rank];
      suits.insert(suit);
    }
    std::vector<std::pair<int, int>> groups;  // size, rank
    for (const auto& [rank, n] : count) groups.push_back({n, rank});
    std::sort(groups.rbegin(), groups.rend());
    const bool whole = cards.size() == rules_.size;
    // A flush of two cards alike is none: no wild card is one that is there.
    const bool flush = whole && suits.size() == 1 && count.size() == cards.size();
    int top = -1;
    if (whole && count.size() == cards.size()) {
      const int high = count.rbegin()->first, low = count.begin()->first;
      if (high - low + 1 == static_cast<int>(rules_.size)) top = high;
      const int ace = static_cast<int>(rules_.low_ace);
      if (high == ace && low == 0 && std::next(count.rbegin())->first == static_cast<int>(rules_.size) - 2)
        top = static_cast<int>(rules_.size) - 2;
    }
    const auto at_least = [&](int one, int two) {
      return groups[0].first >= one && (two == 0 || (groups.size() > 1 && groups[1].first >= two));
    };
    for (std::size_t i = 0; i < rules_.categories.size(); ++i) {
      bool holds = true;
      switch (rules_.categories[i].what) {
        case HandCategory::five_of_a_kind: holds = at_least(5, 0); break;
        case HandCategory::royal_flush: holds = flush && top == static_cast<int>(rules_.ranks) - 1; break;
        case HandCategory::straight_flush: holds = flush && top >= 0; break;
        case HandCategory::four_of_a_kind: holds = at_least(4, 0); break;
        case HandCategory::full_house: holds = at_least(3, 2); break;
        case HandCategory::flush: holds = flush; break;
        case HandCategory::straight: holds = top >= 0; break;
        case HandCategory::three_of_a_kind: holds = at_least(3, 0); break;
        case HandCategory::two_pair: holds = at_least(2, 2); break;
        case HandCategory::one_pair: holds = at_least(2, 0); break;
        case HandCategory::high_card: break;
      }
      if (!holds) continue;
      HandWorth worth{rules_.categories.size() - 1 - i, {}};
      std::size_t filled = 0;
      const auto what = rules_.categories[i].what;
      if (what == HandCategory::straight || what == HandCategory::straight_flush) {
        for (int rank = top; rank >= 0 && filled < rules_.size; --rank)
          worth.cards[filled++] = static_cast<std::uint8_t>(rank + 1);
      } else {
        for (const auto& [n, rank] : groups)
          for (int k = 0; k < n; ++k) worth.cards[filled++] = static_cast<std::uint8_t>(rank + 1);
      }
      if (best < worth) best = worth;
      return;
    }
  }

  const HandRules& rules_;
};

std::vector<std::uint64_t> count_fives(const HandRules& rules) {
  const HandEvaluator evaluate(rules);
  std::vector<std::uint64_t> counts(rules.categories.size(), 0);
  const auto n = static_cast<Card>(rules.rank.size());
  Card hand[5];
  for (hand[0] = 0; hand[0] < n; ++hand[0])
    for (hand[1] = hand[0] + 1; hand[1] < n; ++hand[1])
      for (hand[2] = hand[1] + 1; hand[2] < n; ++hand[2])
        for (hand[3] = hand[2] + 1; hand[3] < n; ++hand[3])
          for (hand[4] = hand[3] + 1; hand[4] < n; ++hand[4]) ++counts[evaluate(hand, 5).category];
  return counts;
}

}  // namespace

TEST_CASE("hands of all sizes are worth what the obvious way finds") {
  std::mt19937 random(5);
  struct Case {
    std::size_t ranks, suits, jokers, size, held;
    int hands;
  };
  const std::vector<Case> cases{{13, 4, 0, 5, 5, 4000}, {13, 4, 0, 5, 7, 1500}, {9, 4, 0, 5, 6, 1500},
                                {13, 4, 0, 3, 3, 3000},
                                {13, 4, 2, 5, 5, 400},  {6, 3, 1, 3, 4, 1500},  {13, 4, 0, 5, 3, 500}};
  for (const Case& one : cases) {
    const HandRules rules = rules_for(one.ranks, one.suits, one.jokers, one.size);
    const HandEvaluator evaluate(rules);
    const Obvious obvious(rules);
    Cards deck(rules.rank.size());
    for (std::size_t i = 0; i < deck.size(); ++i) deck[i] = static_cast<Card>(i);
    for (int i = 0; i < one.hands; ++i) {
      // Of a few suits and ranks more often, so that rare categories come.
      std::shuffle(deck.begin(), deck.end(), random);
      Cards hand(deck.begin(), deck.begin() + static_cast<std::ptrdiff_t>(one.held));
      if (i % 3 == 0)
        for (Card& card : hand)
          if (!rules.wild[card]) card = static_cast<Card>(card % one.ranks);
      if (i % 3 == 0) std::sort(hand.begin(), hand.end());
      if (i % 3 == 0) hand.erase(std::unique(hand.begin(), hand.end()), hand.end());
      CHECK(evaluate(hand.data(), hand.size()) == obvious(hand));
    }
  }
}

TEST_CASE("the counts of all five-card hands are those of the textbooks") {
  // Five of a kind, straight flush, four of a kind, full house, flush, straight, three of a kind, two pair, one pair,
  // none (Packel 2006, "The Mathematics of Games and Gambling", table 3.2; straight flushes with the royal ones).
  const auto counts = count_fives(rules_for(13, 4));
  CHECK(counts == std::vector<std::uint64_t>{1302540, 1098240, 123552, 54912, 10200, 5108, 3744, 624, 40, 0});
}

TEST_CASE("wild cards in ties, dealt order and qualified pairs") {
  HandRules rules = rules_for(13, 4, 1);
  rules.wild_lowest = true;
  const HandEvaluator lowest(rules);
  const Card joker = 52;
  const auto card = [](int rank, int suit) { return static_cast<Card>(suit * 13 + rank); };
  const auto worth = [](const HandEvaluator& by, Cards hand) { return by(hand.data(), hand.size()); };
  // A pair of aces with the joker is a pair of aces, but loses to two natural ones.
  const Cards helped{card(12, 0), joker, card(8, 1), card(6, 2), card(3, 3)};
  const Cards natural{card(12, 1), card(12, 2), card(7, 1), card(6, 0), card(3, 2)};
  CHECK(worth(lowest, helped).category == worth(lowest, natural).category);
  CHECK(worth(lowest, helped) < worth(lowest, natural));
  const HandEvaluator substitute(rules_for(13, 4, 1));
  CHECK(worth(substitute, natural) < worth(substitute, helped));

  rules = rules_for(13, 4, 1);
  rules.dealt_order = true;
  const HandEvaluator dealt(rules);
  // Both two pair; the first card decides.
  CHECK(worth(dealt, {card(2, 0), card(2, 1), card(11, 0), card(11, 1), card(12, 0)}) <
        worth(dealt, {card(3, 0), card(3, 1), card(4, 0), card(4, 1), card(0, 0)}));
  // The joker is a king here, since that makes three of them.
  CHECK(worth(dealt, {joker, card(11, 0), card(11, 1), card(4, 1), card(0, 0)}).cards[0] == 12);

  rules = rules_for(13, 4);
  rules.categories = {{HandCategory::one_pair, 9}, {HandCategory::high_card}};
  const HandEvaluator jacks(rules);
  CHECK(worth(jacks, {card(9, 0), card(9, 1), card(2, 0)}).category == 1);
  CHECK(worth(jacks, {card(8, 0), card(8, 1), card(2, 0)}).category == 0);
}

TEST_CASE("strength orders hands as their worth does") {
  const HandRules rules = rules_for(13, 4, 2);
  const HandEvaluator evaluate(rules);
  const HandStrength strength(rules);
  std::mt19937 random(9);
  Cards deck(54);
  for (std::size_t i = 0; i < deck.size(); ++i) deck[i] = static_cast<Card>(i);
  for (int i = 0; i < 2000; ++i) {
    std::shuffle(deck.begin(), deck.end(), random);
    const HandWorth a = evaluate(deck.data(), 7), b = evaluate(deck.data() + 7, 7);
    CHECK((a < b) == (strength(a) < strength(b)));
  }
}

TEST_CASE("rules that cannot be are refused") {
  HandRules rules = rules_for(13, 4, 0, 3);
  rules.categories.insert(rules.categories.begin(), {HandCategory::full_house});
  CHECK_THROWS_AS(HandEvaluator{rules}, std::invalid_argument);
  rules = rules_for(13, 4);
  rules.categories.pop_back();
  CHECK_THROWS_AS(HandEvaluator{rules}, std::invalid_argument);
  CHECK_THROWS_AS(HandEvaluator{rules_for(13, 4, 0, 10)}, std::invalid_argument);
}

TEST_CASE("tables give the strengths that the evaluator finds") {
  const HandRules rules = rules_for(13, 4);
  const HandEvaluator evaluate(rules);
  const HandStrength strength(rules);
  StrengthReader read(rules, 7, true);
  std::mt19937 random(11);
  Cards deck(52);
  for (std::size_t i = 0; i < deck.size(); ++i) deck[i] = static_cast<Card>(i);
  for (int i = 0; i < 20000; ++i) {
    std::shuffle(deck.begin(), deck.end(), random);
    // Of few suits every third time, so that flushes come.
    if (i % 3 == 0) std::stable_partition(deck.begin(), deck.end(), [](Card card) { return card < 16; });
    const std::size_t size = static_cast<std::size_t>(1 + i % 7);
    CHECK(read(deck.data(), size) == strength(evaluate(deck.data(), size)));
  }
}

TEST_CASE("counts by tables are the counts of all hands, on any number of threads") {
  for (const std::size_t jokers : {0u, 2u}) {
    const HandRules rules = rules_for(6, 3, jokers);
    std::vector<DealtKind> deck;
    for (std::size_t i = 0; i < rules.rank.size(); ++i) deck.push_back({static_cast<Card>(i), 1});
    const HandTable table(rules, 5, 3, jokers);
    CHECK(count_categories(table, deck, 5, 1) == count_fives(rules));
    CHECK(count_categories(table, deck, 5, 2) == count_fives(rules));
  }
}

TEST_CASE("a showdown by tables is that of the evaluator, board by board") {
  const HandRules rules = rules_for(7, 4);
  ShowdownSpec spec;
  spec.seats = {{6, 5}, {9, 16}, {27}};
  spec.unknown = {0, 0, 1};
  spec.board = {20};
  spec.board_unknown = 3;
  for (Card card = 0; card < 28; ++card)
    if (std::set<Card>{6, 5, 9, 16, 27, 20}.count(card) == 0) spec.rest.push_back(card);
  Showdown quick(spec, StrengthReader(rules, 6, true)), slow(spec, StrengthReader(rules, 6, false));
  const ShowdownTally a = quick.every(), b = slow.every();
  CHECK(a.boards == 22 * 1330);  // the third seat's other card, then three of 21
  CHECK(a.boards == b.boards);
  CHECK(a.win == b.win);
  CHECK(a.tie == b.tie);
  CHECK(a.share == b.share);
  CHECK(a.squares == b.squares);
}
