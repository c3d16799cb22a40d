#pragma once

#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <utility>
#include <vector>

#include "habanera/blackjack/best_by_cards.hpp"
#include "habanera/blackjack/solved.hpp"

namespace habanera {

// A hand in play against an up card: on its own, or of a pair that was split.
struct StatedHand {
  std::vector<std::uint8_t> values;
  std::uint8_t up;
  std::uint8_t split_value = SeatHands::unsplit;
  bool pair = false;
  double pairs_left = 0;    // cards of the pair in the shoe, without the hand and the up card
  std::size_t hands = 1;    // of the seat, this one among them; the others hold a card of the pair each
};

// What each move of a stated hand is worth with the best play by its cards afterwards, and what it ends in.
class BlackjackAdvice {
 public:
  struct Ending {
    std::size_t move;
    std::int64_t total;  // BlackjackOutcome::bust where it is bust
    double chance = 0, win = 0, push = 0, loss = 0;
  };
  struct Worth {
    std::size_t move;
    double expected;
  };

  // `house` has neither the other hands' cards nor other dead ones in its shoe.
  BlackjackAdvice(const SolvedBlackjack& house, const StatedHand& stated)
      : play_(house.pieces(), house.tree(), house.shoe(), stated.up, house.book()),
        hands_(play_.up(), house.shoe().beside(stated.up), stated.split_value, laws_), played_(hands_, best_) {
    std::size_t at = 0;
    for (const std::uint8_t value : stated.values) at = at == HandTree::bust ? at : house.tree().with(at, value);
    if (at == HandTree::bust) throw std::invalid_argument("the hand is bust");
    BlackjackHand hand = hands_.hand(at);
    hand.pair = stated.pair;
    hand.counts_as_natural = house.pieces().is_natural(hand);
    advise(hand, at, stated);
  }

  const std::vector<Worth>& moves() const { return moves_; }
  const std::vector<Ending>& endings() const { return endings_; }

 private:
  void advise(const BlackjackHand& hand, std::size_t at, const StatedHand& stated) {
    const BlackjackPieces& pieces = play_.pieces();
    if (hand.counts_as_natural || pieces.is_finished(hand, stated.hands))
      throw std::invalid_argument("nothing is left to decide for this hand");
    const double looked = play_.up().decides_after_look() ? hands_.weight(hand) : 1;
    const double apart = play_.up().decides_after_look() ? 0 : play_.settled_apart(hand).net;
    pieces.moves(hand, stated.hands).each([&](std::size_t move) {
      const double net = move == BlackjackPieces::split ? split(stated) : played_.after(move, hand, at).net;
      moves_.push_back({move, (net + apart) / looked});
      if (move != BlackjackPieces::split) follow(move, hand, at, looked);
    });
    const bool early = pieces.rules().surrender == BlackjackRules::early && hand.cards == 2 && !hand.from_split;
    if (early) moves_.push_back({BlackjackPieces::surrender, play_.given_up_early(hand).net + apart});
  }

  double split(const StatedHand& stated) {
    BestByCards best(play_);
    PlayedUpCard<CardsPolicy> played(play_, best.policy());
    return played.split({stated.values[0], stated.values[1], true, stated.pairs_left, 1}).net;
  }

  void follow(std::size_t move, const BlackjackHand& hand, std::size_t at, double looked) {
    std::map<std::int64_t, Ending> found;
    BlackjackHand moved = hand;
    moved.doubled = move == BlackjackPieces::double_down;
    moved.surrendered = move == BlackjackPieces::surrender;
    if (move == BlackjackPieces::hit || moved.doubled) draw(found, moved, at, 1 / looked);
    else end(found, moved, at, 1 / looked);
    for (auto& [total, ending] : found) {
      ending.move = move;
      endings_.push_back(ending);
    }
  }

  void draw(std::map<std::int64_t, Ending>& found, const BlackjackHand& hand, std::size_t at, double weight) {
    for (const std::uint8_t value : play_.tree().values()) {
      const double chance = hands_.chance(at, value);
      if (chance == 0) continue;
      BlackjackHand longer = hand;
      longer.add(value);
      const std::size_t then = play_.tree().with(at, value);
      if (play_.pieces().is_finished(longer, play_.pieces().rules().most_hands)) {
        end(found, longer, then, weight * chance);
        continue;
      }
      if (best_.choose_in(played_, longer, then, played_.moves(longer)) == BlackjackPieces::hit)
        draw(found, longer, then, weight * chance);
      else
        end(found, longer, then, weight * chance);
    }
  }

  void end(std::map<std::int64_t, Ending>& found, const BlackjackHand& hand, std::size_t at, double weight) {
    const std::int64_t total = BlackjackOutcome::total_of(play_.pieces(), hand);
    Ending& ending = found[total];
    ending.total = total;
    hands_.each_result(hand, at, [&](double net, double chance) {
      ending.chance += weight * chance;
      (net > 0 ? ending.win : net < 0 ? ending.loss : ending.push) += weight * chance;
    });
  }

  UpCardPlay play_;
  DealerLaws laws_;
  SeatHands hands_;
  BestPolicy best_;
  PlayedHands<BestPolicy> played_;
  std::vector<Worth> moves_;
  std::vector<Ending> endings_;
};

}  // namespace habanera
