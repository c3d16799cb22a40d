#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <limits>
#include <map>
#include <memory>
#include <type_traits>
#include <utility>
#include <vector>

#include "habanera/blackjack/house_shoe.hpp"
#include "habanera/blackjack/rules.hpp"
#include "habanera/blackjack/seat_hands.hpp"
#include "habanera/blackjack/split_patterns.hpp"
#include "habanera/blackjack/strategy.hpp"

namespace habanera {

// A seat's whole play against one up card: its first two cards, its hands alone and its split ones.
class UpCardPlay {
 public:
  UpCardPlay(const BlackjackPieces& pieces, const HandTree& tree, const HouseShoe& shoe, std::uint8_t up,
             LawBook& book)
      : UpCardPlay(UpCard(pieces, tree, up, book.dealer(pieces, up)), shoe, book) {}
  // The same up card, when the seat's cards come from another shoe.
  UpCardPlay(const UpCardPlay& other, const HouseShoe& shoe, LawBook& book) : UpCardPlay(other.up_, shoe, book) {}
  UpCardPlay(const UpCardPlay&) = delete;
  UpCardPlay& operator=(const UpCardPlay&) = delete;

  const UpCard& up() const { return up_; }
  const BlackjackPieces& pieces() const { return up_.pieces; }
  const HandTree& tree() const { return up_.tree; }
  const std::vector<BlackjackOpening>& openings() const { return openings_; }
  const HouseShoe& shoe() const { return shoe_; }

  SeatHands& alone() { return hands(SeatHands::unsplit, 0); }
  // The hands of a split pair of a value, when so many more cards of it went to other hands.
  SeatHands& hands(std::uint8_t split_value, std::size_t also_gone) {
    also_gone = missed(also_gone);
    auto& found = hands_[{split_value, also_gone}];
    if (!found) {
      ValueShoe shoe = left_;
      if (split_value != SeatHands::unsplit) shoe.take(split_value, 1 + static_cast<double>(also_gone));
      found = std::make_unique<SeatHands>(up_, shoe, split_value, book_.laws(up_.value, {split_value, also_gone}));
    }
    return *found;
  }

  // From an endless shoe nothing is.
  std::size_t missed(std::size_t gone) const { return shoe_.endless() ? 0 : gone; }

  BlackjackHand hand(const BlackjackOpening& opening) const {
    BlackjackHand hand = BlackjackHand::of_card(opening.one);
    hand.add(opening.two);
    hand.pair = opening.pair;
    hand.counts_as_natural = pieces().is_natural(hand);
    return hand;
  }
  std::size_t place(const BlackjackOpening& opening) const { return tree().of_two(opening.one, opening.two); }
  // Whether nothing is decided.
  bool is_settled(const BlackjackHand& hand) const { return hand.counts_as_natural || pieces().is_bust(hand); }

  // What a natural of the dealer's costs a seat with these cards, weighed with its chance, where it is settled apart.
  BlackjackWorth settled_apart(const BlackjackHand& hand) {
    BlackjackWorth worth;
    if (!up_.settles_natural_apart()) return worth;
    worth.add(alone().natural(hand), BlackjackWorth::certain(up_.in_stakes(pieces().paid_to_natural(hand)), 1));
    return worth;
  }

  // Giving up before the dealer looks, beside what is settled apart.
  BlackjackWorth given_up_early(BlackjackHand hand) {
    const BlackjackWorth apart = settled_apart(hand);
    hand.surrendered = true;
    BlackjackWorth worth = BlackjackWorth::certain(up_.in_stakes(pieces().paid_to_natural(hand)), 1);
    worth.add(-1, apart);
    return worth;
  }

  // Calls use(r, second card's value, weight) for the hands of a split, each weighed as it counts in the sum over all
  // of them, for `also_gone` r, a second card that may pair, or that may not.
  template <class Use>
  void each_second_card(const BlackjackOpening& opening, Use&& use) {
    const std::uint8_t value = opening.one;
    const bool resplits = value != 1 || pieces().rules().resplit_aces;
    const SplitPatterns& patterns = resplits ? patterns_ : patterns_of_two_;
    const double wear = shoe_.shoe().wear;
    double all_pair = 1;  // that r given cards do
    double pairs = opening.pairs_left, cards = left_.cards - 2 * wear;
    for (std::size_t gone = 0; gone < SplitPatterns::most && all_pair > 0; ++gone) {
      if (patterns.not_pairing[gone] != 0 || patterns.any[gone] != 0) {
        const std::size_t root = tree().with(0, value);
        for (const std::uint8_t second : tree().values()) {
          const double chance = hands(value, gone).chance(root, second);
          const double pairing = second == value ? std::max(0.0, pairs) / cards : 0;
          const double weight =
              all_pair * (patterns.not_pairing[gone] * (chance - pairing) + patterns.any[gone] * chance);
          if (weight != 0) use(gone, second, weight);
        }
      }
      all_pair *= std::max(0.0, pairs) / cards;
      pairs -= wear;
      cards -= wear;
    }
  }

 private:
  UpCardPlay(const UpCard& up, const HouseShoe& shoe, LawBook& book)
      : up_(up), shoe_(shoe), book_(book), left_(shoe.beside(up.value)), openings_(shoe.openings(up.value)),
        patterns_(std::max<std::size_t>(2, up.pieces.rules().most_hands)), patterns_of_two_(2) {}

  UpCard up_;
  const HouseShoe& shoe_;
  LawBook& book_;
  ValueShoe left_;  // without the up card
  std::vector<BlackjackOpening> openings_;
  SplitPatterns patterns_, patterns_of_two_;
  std::map<std::pair<std::uint8_t, std::size_t>, std::unique_ptr<SeatHands>> hands_;
};

// A seat's play when all cards come afresh from a shoe of the same cards, so that what is held tells nothing of what
// comes.
class EndlessPlay {
 public:
  explicit EndlessPlay(const UpCardPlay& play) : shoe_(play.shoe().made_endless()), play_(play, shoe_, book_) {}
  EndlessPlay(const EndlessPlay&) = delete;
  EndlessPlay& operator=(const EndlessPlay&) = delete;

  UpCardPlay& play() { return play_; }

 private:
  HouseShoe shoe_;
  LawBook book_;
  UpCardPlay play_;
};

// What the play of one policy is worth against an up card: of its hands alone, of those after splits.
template <class Policy>
class PlayedUpCard {
 public:
  PlayedUpCard(UpCardPlay& play, const Policy& policy) : play_(play), policy_(policy) {}

  UpCardPlay& play() { return play_; }
  const Policy& policy() const { return policy_; }
  PlayedHands<Policy>& alone() { return hands(SeatHands::unsplit, 0); }
  PlayedHands<Policy>& hands(std::uint8_t split_value, std::size_t also_gone) {
    also_gone = play_.missed(also_gone);
    auto& found = played_[{split_value, also_gone}];
    if (!found) found = std::make_unique<PlayedHands<Policy>>(play_.hands(split_value, also_gone), policy_);
    return *found;
  }

  // All hands that a pair is split to.
  BlackjackWorth split(const BlackjackOpening& opening) {
    const std::uint8_t value = opening.one;
    BlackjackWorth sum;
    play_.each_second_card(opening, [&](std::size_t gone, std::uint8_t second, double weight) {
      PlayedHands<Policy>& played = hands(value, gone);
      const std::size_t root = play_.tree().with(0, value);
      BlackjackHand hand = played.hands().hand(root);
      hand.add(second);
      sum.add(weight, played.got(hand, play_.tree().with(root, second)));
    });
    // Whole results of several hands hang together by more than this tells.
    sum.square = sum.won = std::numeric_limits<double>::quiet_NaN();
    return sum;
  }

  // An opening, beside what is settled apart; `move` tells what was done first.
  BlackjackWorth opened(const BlackjackOpening& opening, std::size_t& move) {
    const BlackjackHand hand = play_.hand(opening);
    const std::size_t at = play_.place(opening);
    move = StrategyTable::none;
    if (play_.is_settled(hand)) return play_.alone().ended(hand, at);
    const Moves moves = play_.pieces().moves(hand, 1);
    const bool may_give_up = play_.pieces().rules().surrender == BlackjackRules::early;
    if (may_give_up && policy_.surrenders_early(play_.alone(), hand, at)) {
      move = BlackjackPieces::surrender;
      return play_.given_up_early(hand);
    }
    move = policy_.choose(play_.alone(), hand, at, moves);
    return after(move, opening);
  }

  // A first move, then the policy's.
  BlackjackWorth after(std::size_t move, const BlackjackOpening& opening) {
    if (move == BlackjackPieces::split) return split(opening);
    return alone().after(move, play_.hand(opening), play_.place(opening));
  }

 private:
  UpCardPlay& play_;
  const Policy& policy_;
  std::map<std::pair<std::uint8_t, std::size_t>, std::unique_ptr<PlayedHands<Policy>>> played_;
};

// The player's result of all rounds against an up card, weighed with how often it comes.
template <class Policy>
double worth_of_all(PlayedUpCard<Policy>& played) {
  UpCardPlay& play = played.play();
  double sum = 0;
  std::size_t move;
  for (const BlackjackOpening& opening : play.openings())
    sum += opening.chance * (played.opened(opening, move).net + play.settled_apart(play.hand(opening)).net);
  return sum;
}
template <class Policy>
double worth_of_play(UpCardPlay& play, const Policy& policy) {
  PlayedUpCard<Policy> played(play, policy);
  return worth_of_all(played);
}

// A decision that comes up, weighed with how often it does. The first of a pair has its opening, since it may be split.
struct BlackjackDecision {
  SeatHands& hands;
  std::size_t gone;  // cards of the pair that went to other hands of the split
  std::size_t at;
  BlackjackHand hand;
  Moves moves;
  double weight;
  const BlackjackOpening* opening;
  bool early;  // whether to give up before the dealer looks
};

// What a move of a decision is worth with a policy's play afterwards.
template <class Policy>
BlackjackWorth worth_of(PlayedUpCard<Policy>& played, const BlackjackDecision& decision, std::size_t move) {
  if (decision.opening) return played.after(move, *decision.opening);
  return played.hands(decision.hands.split_value(), decision.gone).after(move, decision.hand, decision.at);
}

// Calls use(decision) for every decision to which a policy comes, which goes on by `policy.choose(hands, hand, at,
// moves)` and `policy.surrenders_early(hands, hand, at)`.
template <class Policy, class Use>
class EachDecision {
 public:
  EachDecision(UpCardPlay& play, const Policy& policy, Use& use) : play_(play), policy_(policy), use_(use) {
    for (const BlackjackOpening& opening : play_.openings()) begin(opening);
    go_on(SeatHands::unsplit, 0);
    for (auto& [split, weights] : weights_)
      if (split.first != SeatHands::unsplit) go_on(split.first, split.second);
  }

 private:
  using Split = std::pair<std::uint8_t, std::size_t>;

  void begin(const BlackjackOpening& opening) {
    const BlackjackHand hand = play_.hand(opening);
    if (play_.is_settled(hand)) return;
    const std::size_t at = play_.place(opening);
    SeatHands& alone = play_.alone();
    const Moves moves = play_.pieces().moves(hand, 1);
    if (play_.pieces().rules().surrender == BlackjackRules::early) {
      use_(BlackjackDecision{alone, 0, at, hand, moves, opening.chance, &opening, true});
      if (policy_.surrenders_early(alone, hand, at)) return;
    }
    if (!opening.pair) {
      weights(SeatHands::unsplit, 0)[at] += opening.chance;
      return;
    }
    use_(BlackjackDecision{alone, 0, at, hand, moves, opening.chance, &opening, false});
    const std::size_t move = policy_.choose(alone, hand, at, moves);
    if (move == BlackjackPieces::hit) draw(alone, 0, hand, at, opening.chance);
    if (move != BlackjackPieces::split) return;
    play_.each_second_card(opening, [&](std::size_t gone, std::uint8_t second, double weight) {
      SeatHands& hands = play_.hands(opening.one, gone);
      const std::size_t root = play_.tree().with(0, opening.one);
      BlackjackHand got = hands.hand(root);
      got.add(second);
      reach(hands, gone, got, play_.tree().with(root, second), opening.chance * weight);
    });
  }

  void reach(SeatHands& hands, std::size_t gone, const BlackjackHand& hand, std::size_t at, double weight) {
    if (play_.pieces().is_finished(hand, play_.pieces().rules().most_hands)) return;
    if (plays_alike<Policy> && hands.is_endless()) at = play_.tree().alike(at);
    weights(hands.split_value(), gone)[at] += weight;
  }

  void draw(SeatHands& hands, std::size_t gone, const BlackjackHand& hand, std::size_t at, double weight) {
    for (const std::uint8_t value : play_.tree().values()) {
      const double chance = hands.chance(at, value);
      if (chance == 0) continue;
      BlackjackHand longer = hand;
      longer.add(value);
      reach(hands, gone, longer, play_.tree().with(at, value), weight * chance);
    }
  }

  void go_on(std::uint8_t split_value, std::size_t gone) {
    SeatHands& hands = play_.hands(split_value, gone);
    std::vector<double>& all = weights(split_value, gone);
    for (const std::size_t at : play_.tree().by_points()) {
      if (all[at] == 0) continue;
      const BlackjackHand hand = hands.hand(at);
      const Moves moves = play_.pieces().moves(hand, play_.pieces().rules().most_hands);
      use_(BlackjackDecision{hands, gone, at, hand, moves, all[at], nullptr, false});
      if (policy_.choose(hands, hand, at, moves) == BlackjackPieces::hit) draw(hands, gone, hand, at, all[at]);
    }
  }

  std::vector<double>& weights(std::uint8_t split_value, std::size_t gone) {
    auto& found = weights_[{split_value, play_.missed(gone)}];
    if (found.empty()) found.assign(play_.tree().size(), 0);
    return found;
  }

  UpCardPlay& play_;
  const Policy& policy_;
  Use& use_;
  std::map<Split, std::vector<double>> weights_;
};

template <class Policy, class Use>
void each_decision(UpCardPlay& play, const Policy& policy, Use&& use) {
  EachDecision<Policy, std::remove_reference_t<Use>>(play, policy, use);
}

}  // namespace habanera
