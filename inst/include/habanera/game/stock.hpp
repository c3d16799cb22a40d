#pragma once

#include <algorithm>
#include <cstddef>
#include <stdexcept>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/game/late_deal.hpp"
#include "habanera/game/unseen.hpp"

namespace habanera {

// Where cards come from while a game is played: dealt from the top, laid face down, looked at (which only tells whether
// the card is of some set) and turned. A card's place counts from the top of the deck.

// There is no card left to deal.
struct StockRanOut : std::runtime_error {
  using std::runtime_error::runtime_error;
};

// The cards in an order that is settled, or settles as they are needed; the first `gone` of them are no longer there.
class ShuffledStock {
 public:
  explicit ShuffledStock(const std::vector<Card>& deck, std::size_t gone = 0)
      : cards_(deck.data()), size_(deck.size()), next_(gone), ready_(deck.size()) {}
  explicit ShuffledStock(LateDeal& late, std::size_t gone = 0)
      : cards_(late.deck().data()), size_(late.deck().size()), next_(gone), late_(&late) {}

  // So many cards come now, one after the other: to make them ready together is quicker. Fewer may come.
  [[gnu::always_inline]] void expect(std::size_t cards) {
    const std::size_t end = std::min(next_ + cards, size_);
    if (end > ready_) ready_ = late_->settle(end - 1);
  }
  [[gnu::always_inline]] Card deal() { return card_at(next_++); }
  // The card that comes next; it stays there.
  bool has_next() const { return next_ < size_; }
  Card peek() { return card_at(next_); }
  [[gnu::always_inline]] std::size_t lay_down() {
    card_at(next_);
    return next_++;
  }
  [[gnu::always_inline]] bool look(std::size_t place, const CardSet& set) { return set[card_at(place)]; }
  [[gnu::always_inline]] Card turn(std::size_t place) { return card_at(place); }
  std::size_t gone() const { return next_; }
  void end_round() {}

 private:
  [[gnu::always_inline]] Card card_at(std::size_t place) {
    if (place >= ready_) make_ready(place);
    return cards_[place];
  }
  void make_ready(std::size_t place) {
    if (__builtin_expect(place >= size_, 0)) refuse();
    ready_ = late_->settle(place);
  }
  [[noreturn, gnu::noinline, gnu::cold]] static void refuse() {
    throw StockRanOut("needs more cards than there are");
  }

  const Card* cards_;
  std::size_t size_, next_, ready_ = 0;
  LateDeal* late_ = nullptr;
};

// Only how many cards of each kind nobody has seen: what a card is, is picked when it is dealt or turned, and a look
// only narrows it down. The law is that of a shuffled deck, since no unseen card is likelier in one place than in
// another.
template <class Chance>
class UnseenStock {
 public:
  UnseenStock(UnseenCards cards, Chance& chance) : cards_(std::move(cards)), chance_(chance) {}
  Card deal() {
    const auto kind = static_cast<Card>(chance_.pick(cards_.next_weights()));
    cards_.deal(kind);
    return kind;
  }
  std::size_t lay_down() { return cards_.lay_down(); }
  bool look(std::size_t place, const CardSet& set) {
    const bool is_in = chance_.pick(cards_.weights_of(place, set)) == 0;
    cards_.narrow(place, set, is_in);
    return is_in;
  }
  // What was turned before is what it was.
  Card turn(std::size_t place) {
    if (!cards_.is_known(place)) cards_.turn(place, static_cast<Card>(chance_.pick(cards_.weights_at(place))));
    return cards_.known(place);
  }

 private:
  UnseenCards cards_;
  Chance& chance_;
};

}  // namespace habanera
