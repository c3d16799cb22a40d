#pragma once

#include <cstddef>
#include <memory>
#include <string>
#include <utility>
#include <vector>
#include <vector>

#include "habanera/chance/random.hpp"
#include "habanera/own/own.hpp"
#include "habanera/own/player.hpp"

namespace habanera {

// What a test of whether a game shows a seat only what it may see has found: how many choices were held against another
// deal, and the first (from 1) at which the seat was shown, or a player of the game did, something else there.
struct HidingFound {
  std::size_t asked = 0, choice = 0, seat = 0;
  // Of each choice what the seat saw, and what it saw and did before.
  std::vector<std::string> sees, before;
  bool leaks() const { return choice > 0; }
};

// Sits in a seat for somebody, and looks at each choice whether the same would be shown and chosen where the cards that
// the seat has not seen lie otherwise.
template <class G>
class HidingTest : public Player<typename Own<G>::View> {
 public:
  using Game = Own<G>;
  using View = typename Game::View;

  HidingTest(Game game, std::shared_ptr<const Player<View>> sits, std::uint64_t seed, HidingFound& found,
             std::size_t& choices)
      : game_(std::move(game)), sits_(sits->copy()), seed_(seed), found_(found), choices_(choices) {}
  HidingTest(const HidingTest& other)
      : Player<View>(other), game_(other.game_), sits_(other.sits_->copy()), seed_(other.seed_), found_(other.found_),
        choices_(other.choices_) {}

  std::unique_ptr<Player<View>> copy() const override { return std::make_unique<HidingTest>(*this); }
  void begins() override {
    sits_->begins();
    before_.clear();
  }

  std::size_t choose(const View& view, Moves moves, PlayerChance& chance) override {
    ++choices_;
    if (!found_.leaks()) test(view, moves);
    const std::size_t move = sits_->choose(view, moves, chance);
    const std::string sees = std::to_string(view.seat() + 1) + ": " + view.text();
    found_.sees.push_back(sees);
    found_.before.push_back(before_);
    before_ += sees + " > " + std::to_string(move) + "\n";
    return move;
  }

 private:
  void test(const View& view, Moves moves) {
    RandomChance other(seed_, choices_, lane::game);
    const auto deck = game_.unseen(view).any_order(game_.cards_used(),
                                                   [&](std::uint64_t size) { return other.below(size); });
    const auto again = game_.replayed(view, deck);
    if (!again) return;
    const NextStep next = game_.next(*again);
    const std::size_t seat = view.seat();
    if (next.what != NextStep::decide || next.seat != seat || game_.moves(*again).bits() != moves.bits()) return;
    ++found_.asked;
    const View seen = game_.view(*again, seat);
    if (seen == view && chosen(view, moves) == chosen(seen, moves)) return;
    found_.choice = choices_;
    found_.seat = seat;
  }

  // What a player of the game does; others see what is shown alone.
  std::size_t chosen(const View& view, Moves moves) const {
    const auto own = dynamic_cast<const OwnGamePlayer<G>*>(sits_.get());
    if (!own) return 0;
    RandomChance chance(seed_, choices_, lane::deal);
    SharedLuck<RandomChance>::Lane luck(chance);
    return own->copy()->choose(view, moves, luck);
  }

  Game game_;
  std::unique_ptr<Player<View>> sits_;
  std::uint64_t seed_;
  HidingFound& found_;
  std::size_t& choices_;
  std::string before_;
};

}  // namespace habanera
