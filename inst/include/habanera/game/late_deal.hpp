#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/random.hpp"
#include "habanera/chance/size_run.hpp"
#include "habanera/draw/draw.hpp"

namespace habanera {

// A deck whose cards are settled as they are needed, in the order and by the words of the whole deal: a round that
// needs six cards of a shoe pays for six. For a fair shuffle, and for cards each from the whole deck.
class LateDeal {
 public:
  static bool fits(const Draw& draw) { return draw.spec().replace || draw.by_swaps() != nullptr; }

  explicit LateDeal(const Draw& draw)
      : whole_(draw.spec().deck), replace_(draw.spec().replace),
        sizes_(replace_ ? SizeRun::repeated(whole_.size(), draw.spec().size) : SizeRun::falling(whole_.size())),
        cards_(whole_.size()), deck_(draw.fresh_table()), swapped_(cards_) {}

  // The deal of a trial, of which nothing is settled yet.
  [[gnu::always_inline]] void begin(std::uint64_t seed, std::uint64_t trial) {
    if (seed != seed_) mixed_seed_ = mix64(seed_ = seed);
    chance_ = RandomChance(MixedSeed{mixed_seed_}, trial, lane::deal);
    if (!replace_) lay_anew();
    settled_ = batch_end_ = batch_ = 0;
  }

  const std::vector<Card>& deck() const { return deck_; }

  // Settles the cards as far as a place of the deck; returns how many are settled.
  [[gnu::always_inline]] std::size_t settle(std::size_t place) {
    while (settled_ <= place) {
      if (settled_ == batch_end_ && !open_batch()) return deck_.size();
      const std::size_t end = std::min(place + 1, batch_end_);
      replace_ ? choose(end) : swap(end);
    }
    return settled_;
  }

 private:
  // Of the last two cards of a shuffle the first leaves the other its place: then there is no batch left.
  [[gnu::always_inline]] bool open_batch() {
    if (settled_ == sizes_.count()) return false;
    const SizeRun::Batch& batch = sizes_.batches()[batch_++];
    batch_end_ = batch.end;
    word_ = chance_.even_word(batch);
    return true;
  }

  // The places before `end` are settled out of what is left of the batch's word.
  [[gnu::always_inline]] void swap(std::size_t end) {
    Card *const cards = deck_.data(), *const swapped = swapped_.data();
    std::uint64_t word = word_;
    std::size_t at = settled_;
    for (; at < end; ++at) {
      const std::size_t other = at + static_cast<std::size_t>(Split64::take(word, cards_ - at));
      const Card card = cards[other];
      cards[other] = cards[at];
      cards[at] = card;
      swapped[at] = static_cast<Card>(other);
    }
    word_ = word;
    settled_ = at;
  }
  void choose(std::size_t end) {
    for (; settled_ < end; ++settled_)
      deck_[settled_] = whole_[static_cast<std::size_t>(Split64::take(word_, cards_))];
  }

  // Of a deck of which a few cards were settled, only those places are laid anew that were touched.
  [[gnu::always_inline]] void lay_anew() {
    if (8 * settled_ > cards_) {
      deck_ = whole_;
      return;
    }
    Card* const cards = deck_.data();
    const Card *const whole = whole_.data(), *const swapped = swapped_.data();
    for (std::size_t at = 0; at < settled_; ++at) {
      cards[at] = whole[at];
      cards[swapped[at]] = whole[swapped[at]];
    }
  }

  std::vector<Card> whole_;
  bool replace_;
  SizeRun sizes_;
  std::size_t cards_;  // in the whole deck
  std::vector<Card> deck_, swapped_;  // swapped_: with which place each settled one was
  std::uint64_t seed_ = 0, mixed_seed_ = mix64(0);
  RandomChance chance_{0, 0};
  std::uint64_t word_ = 0;  // what is left of the batch's
  std::size_t settled_ = 0, batch_end_ = 0, batch_ = 0;  // batch_: the next
};

}  // namespace habanera
