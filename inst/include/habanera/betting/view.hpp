#pragma once

#include <cstddef>
#include <cstdint>
#include <string>
#include <vector>

#include "habanera/betting/card_table.hpp"
#include "habanera/betting/position.hpp"
#include "habanera/game/view.hpp"

namespace habanera {

class Betting;

// What a seat sees of a hand: its own cards, those that all see, and all moves so far; from these follow the pot and
// what is to be called. Cards are shown as they are told: see BettingCards.
class BettingView : public Sight<BettingView> {
 public:
  std::size_t seat() const { return seat_; }
  Shown shown() const;
  // What follows from it, in chips.
  Shown facts() const;

  ToldCards told_cards() const;
  std::string actions() const;
  std::size_t own_cards() const;
  // Where the moves so far lead in the tree of all courses, of a game that has one.
  std::size_t node() const { return position_->node; }
  std::size_t moves_made() const { return position_->moves; }
  // The moves as a number, where one holds them.
  const MoveCode& code() const;
  // Of one card and none that all see: as it is told.
  Card only_card() const;

  // As they were dealt.
  std::vector<Card> holding() const;
  std::vector<Card> shared() const;

 private:
  friend class Betting;
  BettingView(const Betting& game, const BettingPosition& position, std::size_t seat)
      : game_(&game), position_(&position), seat_(seat) {}
  const Betting* game_;
  const BettingPosition* position_;
  std::size_t seat_;
};

}  // namespace habanera
