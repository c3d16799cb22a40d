#pragma once

#include <cstddef>
#include <cstdint>
#include <utility>
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
        deck_(draw.fresh_table()), swapped_(whole_.size()) {}

  // The deal of a trial, of which nothing is settled yet.
  void begin(std::uint64_t seed, std::uint64_t trial) {
    if (seed != seed_) mixed_seed_ = mix64(seed_ = seed);
    chance_ = RandomChance(MixedSeed{mixed_seed_}, trial, lane::deal);
    if (!replace_) lay_anew();
    at_ = batch_end_ = 0;
    batch_ = sizes_.batches().data();
    left_ = whole_.size();
  }

  const std::vector<Card>& deck() const { return deck_; }

  // Settles the cards as far as a place of the deck; returns how many are settled.
  [[gnu::always_inline]] std::size_t settle(std::size_t place) {
    while (at_ <= place) {
      if (at_ == batch_end_ && !open_batch()) return deck_.size();
      const std::size_t other = at_ + static_cast<std::size_t>(Split64::take(word_, left_));
      Card* const cards = deck_.data();
      if (replace_) {
        cards[at_] = whole_[other - at_];
      } else {
        --left_;
        swapped_[at_] = static_cast<Card>(other);
        const Card card = cards[other];
        cards[other] = cards[at_];
        cards[at_] = card;
      }
      ++at_;
    }
    return at_;
  }

 private:
  // Of the last two cards of a shuffle the first leaves the other its place: then there is no batch left.
  [[gnu::noinline]] bool open_batch() {
    if (at_ == sizes_.count()) return false;
    batch_end_ = batch_->end;
    word_ = chance_.even_word(*batch_++);
    return true;
  }

  // Of a deck of which a few cards were settled, only those places are laid anew that were touched.
  void lay_anew() {
    if (8 * at_ > deck_.size()) {
      deck_ = whole_;
      return;
    }
    Card* const cards = deck_.data();
    const Card *const whole = whole_.data(), *const swapped = swapped_.data();
    for (std::size_t at = 0; at < at_; ++at) {
      cards[at] = whole[at];
      cards[swapped[at]] = whole[swapped[at]];
    }
  }

  std::vector<Card> whole_;
  bool replace_;
  SizeRun sizes_;
  std::vector<Card> deck_, swapped_;
  std::uint64_t seed_ = 0, mixed_seed_ = mix64(0);
  RandomChance chance_{0, 0};
  std::uint64_t word_ = 0, left_ = 0;  // what is left of the batch's word, and among how many cards the next is chosen
  const SizeRun::Batch* batch_ = nullptr;  // the next
  std::size_t at_ = 0, batch_end_ = 0;     // how many are settled, and as far as where the word goes
};

}  // namespace habanera
