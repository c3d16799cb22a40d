#include <doctest/doctest.h>

#include <array>
#include <cmath>
#include <map>
#include <memory>
#include <vector>

#include "habanera/blackjack/best_table.hpp"
#include "habanera/blackjack/solved.hpp"

using namespace habanera;

namespace {

const Crew one_thread{1, [] {}};

BlackjackRules house(const std::vector<std::uint8_t>& values) {
  BlackjackRules rules;
  rules.points = values;
  for (const std::uint8_t value : values) rules.pairs_with.push_back(value);
  rules.side_class.assign(values.size(), 0);
  return rules;
}

// What the dealer ends on, followed card by card: the plain judge of DealerLaw.
void follow(const BlackjackPieces& pieces, const BlackjackHand& dealer, ValueShoe shoe, double chance,
            std::map<int, double>& found) {
  for (int value = 1; value <= 10; ++value) {
    const double next = shoe.chance(value, 0, 0);
    if (next == 0) continue;
    const BlackjackHand longer = HandTree::extended(dealer, static_cast<std::uint8_t>(value));
    ValueShoe left = shoe;
    left.take(value);
    if (pieces.is_natural(longer)) found[0] += chance * next;
    else if (pieces.is_bust(longer)) found[1] += chance * next;
    else if (!pieces.dealer_draws(longer)) found[pieces.total(longer)] += chance * next;
    else follow(pieces, longer, left, chance * next, found);
  }
}

// The largest difference of a law from what is followed, over some hands of the tree and all up cards. Sums of some
// hundred products of at most ten rounded factors: 1e-13 is a hundred times what rounding does.
double largest_difference(const BlackjackRules& rules, const std::vector<double>& counts, bool endless) {
  const BlackjackPieces pieces(rules);
  const SolvedBlackjack solved(rules, counts, endless, one_thread);
  double worst = 0;
  solved.each_up_card([&](UpCardPlay& play, std::size_t) {
    for (std::size_t at = 0; at < solved.tree().size(); at += 97) {
      const BlackjackHand hand = solved.tree().hand(at);
      if (!play.alone().holds(at)) continue;
      ValueShoe shoe = solved.shoe().beside(play.up().value);
      for (int value = 1; value <= 10; ++value) shoe.take(value, BlackjackHand::count_held(hand.held, value));
      std::map<int, double> expected, found;
      follow(pieces, BlackjackHand::of_card(play.up().value), shoe, 1, expected);
      play.alone().law(at, [&](std::size_t outcome, double chance) {
        const bool is_total = outcome >= DealerLaw::first_total;
        found[is_total ? rules.dealer_stands_on + static_cast<int>(outcome - DealerLaw::first_total)
                       : static_cast<int>(outcome)] += chance;
      });
      for (const auto& [outcome, chance] : expected) worst = std::max(worst, std::abs(chance - found[outcome]));
      for (const auto& [outcome, chance] : found) worst = std::max(worst, std::abs(chance - expected[outcome]));
    }
  });
  return worst;
}

std::vector<double> worths(const BlackjackRules& rules, const std::vector<double>& counts,
                           const std::shared_ptr<LawBook>& book) {
  const SolvedBlackjack solved(rules, counts, false, one_thread, book);
  return {worth_of_best(solved, BestKnows::total), worth_of_best(solved, BestKnows::all_cards)};
}

}  // namespace

TEST_CASE("what the dealer ends on is what it is card by card, where cards run out and where none can") {
  BlackjackRules rules = house({1, 2, 3, 4, 5, 6, 7, 8, 9, 10});
  const std::vector<double> pack{4, 4, 4, 4, 4, 4, 4, 4, 4, 16}, shoe{24, 24, 24, 24, 24, 24, 24, 24, 24, 96};
  CHECK(largest_difference(rules, pack, false) < 1e-13);
  CHECK(largest_difference(rules, shoe, false) < 1e-13);
  CHECK(largest_difference(rules, shoe, true) < 1e-13);
  rules.hits_soft = true;
  rules.dealer_stands_on = 16;
  CHECK(largest_difference(rules, {9.3, 8.25, 11, 7.5, 8, 9, 6.125, 10, 8, 33.6}, false) < 1e-13);
  // Of aces and twos he is never bust.
  CHECK(largest_difference(house({1, 2}), {12, 12}, false) < 1e-13);
}

TEST_CASE("what is kept of a shoe serves houses that differ in other rules, and no others") {
  const std::vector<std::uint8_t> values{1, 2, 4, 5, 7, 8, 10};
  const std::vector<double> counts{6, 6, 6, 6, 6, 6, 18}, other{6, 6, 5, 6, 6, 6, 18};
  BlackjackRules rules = house(values), hits = rules, gives_up = rules, short_hands = rules, high = rules;
  hits.hits_soft = true;
  gives_up.surrender = BlackjackRules::late;
  short_hands.cards_that_win = 4;
  high.bust_over = 22;
  const auto book = std::make_shared<LawBook>();
  for (int again = 0; again < 2; ++again) {
    for (const BlackjackRules& each : {rules, gives_up, hits, short_hands, high}) {
      for (const std::vector<double>& shoe : {counts, other})
        CHECK(worths(each, shoe, book) == worths(each, shoe, std::make_shared<LawBook>()));
    }
  }
}

TEST_CASE("in an endless shoe hands that are alike are worth the same, by their totals and by their cards") {
  BlackjackRules rules = house({1, 2, 3, 5, 6, 9, 10});
  rules.cards_that_win = 5;
  rules.double_on = BlackjackRules::any_cards;
  const SolvedBlackjack solved(rules, {4, 4, 4, 4, 4, 4, 16}, true, one_thread);
  solved.each_up_card([&](UpCardPlay& play, std::size_t) {
    const HandTree& tree = play.tree();
    BestByCards by_cards(play);
    const BestPolicy best;
    PlayedHands<CardsPolicy> each(play.alone(), by_cards.policy());
    PlayedHands<BestPolicy> alike(play.alone(), best);
    for (std::size_t at = 0; at < tree.size(); ++at) {
      const BlackjackHand &hand = tree.hand(at), &like = tree.hand(tree.alike(at));
      CHECK(hand.points == like.points);
      CHECK(hand.ace == like.ace);
      if (hand.cards <= 2) CHECK(tree.alike(at) == at);
      if (hand.cards < 2 || play.pieces().is_finished(hand, rules.most_hands)) continue;
      // CardsPolicy looks at every hand by itself.
      CHECK(each.worth(at).net == doctest::Approx(alike.worth(at).net).epsilon(1e-12));
    }
  });
}
