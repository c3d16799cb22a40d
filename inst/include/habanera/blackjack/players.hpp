#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <utility>
#include <vector>

#include "habanera/blackjack/blackjack.hpp"
#include "habanera/blackjack/strategy.hpp"
#include "habanera/game/player.hpp"

namespace habanera {

using BlackjackPlayer = Player<Blackjack::View>;

// Plays by a table. It takes no insurance.
class TablePlayer : public BlackjackPlayer {
 public:
  TablePlayer(std::shared_ptr<const BlackjackPieces> pieces, StrategyTable table)
      : pieces_(std::move(pieces)), table_(std::move(table)) {}

  std::unique_ptr<BlackjackPlayer> copy() const override { return std::make_unique<TablePlayer>(*this); }

  std::size_t choose(const Blackjack::View& view, Moves moves, PlayerChance&) override {
    using Pieces = BlackjackPieces;
    if (view.stage == BlackjackPosition::insuring) return Pieces::decline;
    const BlackjackHand& hand = view.hand[view.at];
    const std::size_t up = pieces_->rules().points[view.up];
    if (view.stage == BlackjackPosition::early)
      return table_.surrenders_early(*pieces_, hand, view.hands_of[hand.seat], up) ? Pieces::surrender
                                                                                   : Pieces::decline;
    return table_.choose(*pieces_, hand, moves, up);
  }

 private:
  std::shared_ptr<const BlackjackPieces> pieces_;
  StrategyTable table_;
};

// Plays as another, but now and then makes any of the other moves.
class ErringPlayer : public BlackjackPlayer {
 public:
  ErringPlayer(const BlackjackPlayer& player, double how_often) : player_(player.copy()), how_often_(how_often) {}
  ErringPlayer(const ErringPlayer& other) : player_(other.player_->copy()), how_often_(other.how_often_) {}

  std::unique_ptr<BlackjackPlayer> copy() const override { return std::make_unique<ErringPlayer>(*this); }
  void begins() override { player_->begins(); }
  bool decides_by_view() const override { return player_->decides_by_view(); }

  std::size_t choose(const Blackjack::View& view, Moves moves, PlayerChance& chance) override {
    const std::size_t meant = player_->choose(view, moves, chance);
    Moves others = moves;
    others.remove(meant);
    if (others.empty() || !chance.happens(how_often_)) return meant;
    return others.at(static_cast<std::size_t>(chance.below(others.count())));
  }

 private:
  std::unique_ptr<BlackjackPlayer> player_;
  double how_often_;
};

// Plays as another, but takes insurance whenever it is offered.
class InsuringPlayer : public BlackjackPlayer {
 public:
  explicit InsuringPlayer(const BlackjackPlayer& player) : player_(player.copy()) {}
  InsuringPlayer(const InsuringPlayer& other) : player_(other.player_->copy()) {}

  std::unique_ptr<BlackjackPlayer> copy() const override { return std::make_unique<InsuringPlayer>(*this); }
  void begins() override { player_->begins(); }
  bool decides_by_view() const override { return player_->decides_by_view(); }

  std::size_t choose(const Blackjack::View& view, Moves moves, PlayerChance& chance) override {
    return view.stage == BlackjackPosition::insuring ? BlackjackPieces::insure : player_->choose(view, moves, chance);
  }

 private:
  std::unique_ptr<BlackjackPlayer> player_;
};

// A seat in which customers come and go: for each trial one of several sits down, as often as they weigh.
class MixedPlayer : public BlackjackPlayer {
 public:
  MixedPlayer(const std::vector<std::shared_ptr<const BlackjackPlayer>>& players, std::vector<double> up_to)
      : up_to_(std::move(up_to)) {
    for (const auto& player : players) players_.push_back(player->copy());
  }
  MixedPlayer(const MixedPlayer& other) : up_to_(other.up_to_) {
    for (const auto& player : other.players_) players_.push_back(player->copy());
  }

  std::unique_ptr<BlackjackPlayer> copy() const override { return std::make_unique<MixedPlayer>(*this); }
  void begins() override {
    here_ = players_.size();
    for (auto& player : players_) player->begins();
  }
  // Who came first stays.
  bool decides_by_view() const override { return false; }

  std::size_t choose(const Blackjack::View& view, Moves moves, PlayerChance& chance) override {
    if (here_ == players_.size()) {
      here_ = 0;
      // `up_to_` holds the chance that it is this one, given that it is none before.
      while (here_ + 1 < players_.size() && !chance.happens(up_to_[here_])) ++here_;
    }
    return players_[here_]->choose(view, moves, chance);
  }

 private:
  std::vector<std::unique_ptr<BlackjackPlayer>> players_;
  std::vector<double> up_to_;
  std::size_t here_ = 0;
};

}  // namespace habanera
