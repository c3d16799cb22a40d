#pragma once

#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/random.hpp"
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
        deck_(draw.fresh_table()) {}

  // The deal of a trial, of which nothing is settled yet.
  void begin(std::uint64_t seed, std::uint64_t trial) {
    chance_ = RandomChance(seed, trial, lane::deal);
    batch_ = 0;
    if (!replace_) deck_ = whole_;
    settled_ = sizes_.batches().empty() ? deck_.size() : 0;
  }

  const std::vector<Card>& deck() const { return deck_; }

  // Settles the card at a place of the deck, and a few after it; returns how many are settled.
  std::size_t settle(std::size_t place) {
    const auto& batches = sizes_.batches();
    while (settled_ <= place && batch_ < batches.size()) {
      const SizeRun::Batch& batch = batches[batch_++];
      chance_.below_batch(sizes_, batch, batch.end, [&](std::size_t i, std::uint64_t number) {
        const auto further = static_cast<std::size_t>(number);
        if (replace_) deck_[i] = whole_[further];
        else std::swap(deck_[i], deck_[i + further]);
      });
      // Of the last two cards of a shuffle the first leaves the other its place.
      settled_ = batch_ == batches.size() ? deck_.size() : batch.end;
    }
    return settled_;
  }

 private:
  std::vector<Card> whole_;
  bool replace_;
  SizeRun sizes_;
  std::vector<Card> deck_;
  RandomChance chance_{0, 0};
  std::size_t batch_ = 0, settled_ = 0;
};

}  // namespace habanera
