#pragma once

#include <cstddef>
#include <cstdint>

#include "habanera/blackjack/policies.hpp"
#include "habanera/blackjack/up_card_play.hpp"

namespace habanera {

// The best play against an up card by the very cards of a hand. A hand of a split is played as if it were alone, its
// shoe being without the pair and the up card; what that is worth is then worked out for all hands together.
class BestByCards {
 public:
  explicit BestByCards(UpCardPlay& play) : play_(play), policy_(play.tree().size()) {
    find(SeatHands::unsplit);
    if (play_.pieces().rules().most_hands > 1)
      for (const std::uint8_t value : play_.tree().values()) find(value);
    PlayedUpCard<CardsPolicy> played(play_, policy_);
    std::array<Gains, 11> gains{};
    for (const BlackjackOpening& opening : play_.openings())
      if (opening.pair && !play_.is_settled(play_.hand(opening))) weigh(played, opening, gains[opening.one]);
    for (std::uint8_t value = 1; value <= 10; ++value) policy_.pair(value) = gains[value].best();
  }

  CardsPolicy& policy() { return policy_; }

 private:
  // What each move is worth, of several openings together.
  struct Gains {
    std::array<double, 8> net{};
    Moves moves;
    bool early = false;
    double given_up = 0;

    StrategyTable::Cell best() const {
      StrategyTable::Cell cell;
      if (moves.empty()) return cell;
      std::size_t best = BlackjackPieces::stand, other = best;
      moves.each([&](std::size_t move) {
        if (net[move] > net[best] + as_good) best = move;
        const bool gives_card_or_none = move == BlackjackPieces::hit || move == BlackjackPieces::split;
        if (gives_card_or_none && net[move] > net[other] + as_good) other = move;
      });
      if (early && given_up > net[best] + as_good) return {BlackjackPieces::surrender, static_cast<std::uint8_t>(best)};
      return {static_cast<std::uint8_t>(best), static_cast<std::uint8_t>(other)};
    }
  };

  void find(std::uint8_t split_value) {
    const BestPolicy best;
    PlayedHands<BestPolicy> played(play_.hands(split_value, 0), best);
    std::vector<StrategyTable::Cell>& cells = policy_.cells(split_value);
    for (std::size_t at = play_.tree().size(); at-- > 0;) {
      const BlackjackHand hand = played.hands().hand(at);
      const bool is_one = hand.cards >= 2 && (split_value == SeatHands::unsplit ||
                                              BlackjackHand::count_held(hand.held, split_value) > 0);
      if (!is_one || play_.pieces().is_finished(hand, play_.pieces().rules().most_hands)) continue;
      if (!played.hands().holds(at)) continue;
      Gains gains;
      gains.moves = played.moves(hand);
      gains.moves.each([&](std::size_t move) { gains.net[move] = played.after(move, hand, at).net; });
      if (split_value == SeatHands::unsplit && hand.cards == 2) weigh_early(hand, 1, gains);
      cells[at] = gains.best();
    }
  }

  void weigh(PlayedUpCard<CardsPolicy>& played, const BlackjackOpening& opening, Gains& gains) {
    const BlackjackHand hand = play_.hand(opening);
    gains.moves = play_.pieces().moves(hand, 1);
    gains.moves.each([&](std::size_t move) {
      gains.net[move] += opening.chance * played.after(move, opening).net;
    });
    weigh_early(hand, opening.chance, gains);
  }

  void weigh_early(const BlackjackHand& hand, double chance, Gains& gains) {
    gains.early = play_.pieces().rules().surrender == BlackjackRules::early;
    if (gains.early) gains.given_up += chance * play_.given_up_early(hand).net;
  }

  UpCardPlay& play_;
  CardsPolicy policy_;
};

}  // namespace habanera
