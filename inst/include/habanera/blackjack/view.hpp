#pragma once

#include <cstddef>
#include <vector>

#include "habanera/blackjack/position.hpp"
#include "habanera/game/view.hpp"

namespace habanera {

// What a seat sees of a round of blackjack: all hands, the dealer's up card, and how many cards are gone from the shoe.
class BlackjackView : public Sight<BlackjackView> {
 public:
  bool insures() const { return round_->stage == BlackjackPosition::insuring; }
  bool is_early() const { return round_->stage == BlackjackPosition::early; }
  // The hand at play, and its number among all.
  const BlackjackHand& hand() const { return round_->hand[round_->at]; }
  std::size_t at() const { return round_->at; }
  std::size_t hands() const { return round_->hands; }
  const BlackjackHand& hand(std::size_t number) const { return round_->hand[number]; }
  // How many hands the seat of the hand at play has.
  std::size_t own_hands() const { return round_->hands_of[hand().chair]; }
  std::size_t seat() const { return round_->seat_of(hand().chair); }
  Card up() const { return round_->up; }
  std::size_t cards_gone() const { return round_->first_place + round_->used; }

  Shown shown() const {
    std::vector<double> held, chairs;
    for (std::size_t i = 0; i < hands(); ++i) {
      held.push_back(static_cast<double>(hand(i).held));
      chairs.push_back(hand(i).chair);
    }
    return {shows("stage", static_cast<int>(round_->stage)), shows("at", at()),     shows("held", held),
            shows("chairs", chairs),                         shows("first", hand().first),
            shows("up", up()),                               shows("cards_gone", cards_gone())};
  }

 private:
  friend class Blackjack;
  explicit BlackjackView(const BlackjackPosition& round) : round_(&round) {}
  const BlackjackPosition* round_;
};

}  // namespace habanera
