#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <tuple>
#include <utility>
#include <vector>

#include "habanera/game/player.hpp"
#include "habanera/video_poker/keep_rules.hpp"
#include "habanera/video_poker/keep_worth.hpp"
#include "habanera/video_poker/video_poker.hpp"

namespace habanera {

// Hands by the places of their cards in the deck, as a book has them.
class HandPlaces {
 public:
  explicit HandPlaces(const std::vector<Card>& deck) {
    for (std::size_t place = 0; place < deck.size(); ++place) places_[deck[place]].push_back(place);
  }

  // The hand with its places rising, and for each of them which card of the hand lies there.
  struct Placed {
    KeepBook::Hand hand{};
    std::array<std::size_t, most_kept> card{};
  };
  Placed operator()(const std::array<Card, most_kept>& cards, std::size_t size) const {
    std::vector<std::pair<std::size_t, std::size_t>> found;
    for (std::size_t i = 0; i < size; ++i) {
      std::size_t before = 0;
      for (std::size_t j = 0; j < i; ++j) before += cards[j] == cards[i];
      found.push_back({places_.at(cards[i])[before], i});
    }
    std::sort(found.begin(), found.end());
    Placed placed;
    for (std::size_t i = 0; i < size; ++i) std::tie(placed.hand[i], placed.card[i]) = found[i];
    return placed;
  }

 private:
  std::map<Card, std::vector<std::size_t>> places_;
};

// Keeps what is worth most.
class BestKeeper : public Player<VideoPoker::View> {
 public:
  explicit BestKeeper(std::shared_ptr<const WorthOnDemand> worth)
      : worth_(std::move(worth)), places_(std::make_shared<const HandPlaces>(worth_->deck())) {}

  std::unique_ptr<Player> copy() const override { return std::make_unique<BestKeeper>(*this); }
  std::size_t choose(const VideoPoker::View& view, Moves, PlayerChance&) override {
    const auto placed = (*places_)(view.dealt(), worth_->size());
    return moved(worth_->get().best(worth_->get()(placed.hand)), placed);
  }

  // What each move is worth, in units of money.
  std::vector<double> worth_of_moves(const std::array<Card, most_kept>& hand) const {
    const auto placed = (*places_)(hand, worth_->size());
    const KeepWorth::AllWays worth = worth_->get()(placed.hand);
    std::vector<double> of_moves(std::size_t{1} << worth_->size());
    for (std::size_t kept = 0; kept < of_moves.size(); ++kept) of_moves[moved(kept, placed)] = worth[kept];
    return of_moves;
  }

 private:
  // From bits of places to bits of the cards as dealt.
  std::size_t moved(std::size_t kept, const HandPlaces::Placed& placed) const {
    std::size_t move = 0;
    for (std::size_t i = 0; i < worth_->size(); ++i)
      if (kept >> i & 1) move |= std::size_t{1} << placed.card[i];
    return move;
  }

  std::shared_ptr<const WorthOnDemand> worth_;
  std::shared_ptr<const HandPlaces> places_;
};

// Keeps by a list.
class ListKeeper : public Player<VideoPoker::View> {
 public:
  explicit ListKeeper(KeepList list) : list_(std::move(list)) {}
  std::unique_ptr<Player> copy() const override { return std::make_unique<ListKeeper>(*this); }
  std::size_t choose(const VideoPoker::View& view, Moves, PlayerChance&) override { return list_(view.dealt()).cards; }

 private:
  KeepList list_;
};

}  // namespace habanera
