#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

#include "habanera/blackjack/blackjack.hpp"
#include "habanera/blackjack/strategy.hpp"
#include "habanera/count/shoe_count.hpp"
#include "habanera/game/player.hpp"

namespace habanera {

using BlackjackPlayer = Player<Blackjack::View>;

// Plays by a table. It takes no insurance.
class TablePlayer : public BlackjackPlayer {
 public:
  TablePlayer(std::shared_ptr<const BlackjackPieces> pieces, StrategyTable table)
      : pieces_(std::move(pieces)), table_(std::move(table)) {
    // No row at all need not be looked for.
    if (table_.by_cards && table_.by_cards->empty()) table_.by_cards.reset();
  }

  std::unique_ptr<BlackjackPlayer> copy() const override { return std::make_unique<TablePlayer>(*this); }

  std::size_t choose(const Blackjack::View& view, Moves moves, PlayerChance&) override {
    using Pieces = BlackjackPieces;
    if (view.stage == BlackjackPosition::insuring) return Pieces::decline;
    const BlackjackHand& hand = view.hand[view.at];
    const std::size_t up = pieces_->rules().points[view.up];
    if (view.stage == BlackjackPosition::early)
      return table_.surrenders_early(*pieces_, hand, view.hands_of[hand.chair], up) ? Pieces::surrender
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
  void counts_by(const ShoeCount& count) override { player_->counts_by(count); }
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
  void counts_by(const ShoeCount& count) override { player_->counts_by(count); }
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
  void counts_by(const ShoeCount& count) override {
    for (auto& player : players_) player->counts_by(count);
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

// Plays as one or another by the count, and insures by it.
class CountingPlayer : public BlackjackPlayer {
 public:
  // `from` rises; below its first, too, the first of `players` plays. Who never insures has no `insures_from`.
  CountingPlayer(std::vector<std::int64_t> from, const std::vector<std::shared_ptr<const BlackjackPlayer>>& players,
                 std::optional<std::int64_t> insures_from)
      : from_(std::move(from)), insures_from_(insures_from) {
    for (const auto& player : players) players_.push_back(player->copy());
  }
  CountingPlayer(const CountingPlayer& other)
      : from_(other.from_), insures_from_(other.insures_from_), count_(other.count_) {
    for (const auto& player : other.players_) players_.push_back(player->copy());
  }

  std::unique_ptr<BlackjackPlayer> copy() const override { return std::make_unique<CountingPlayer>(*this); }
  void begins() override {
    for (auto& player : players_) player->begins();
  }
  void counts_by(const ShoeCount& count) override { count_ = &count; }
  bool decides_by_view() const override { return false; }

  std::size_t choose(const Blackjack::View& view, Moves moves, PlayerChance& chance) override {
    if (view.stage == BlackjackPosition::insuring && insures_from_)
      return count_->level() >= *insures_from_ ? BlackjackPieces::insure : BlackjackPieces::decline;
    return players_[now()]->choose(view, moves, chance);
  }

 private:
  std::size_t now() const {
    if (players_.size() == 1) return 0;
    const std::int64_t level = count_->level();
    std::size_t i = 0;
    while (i + 1 < from_.size() && from_[i + 1] <= level) ++i;
    return i;
  }

  std::vector<std::int64_t> from_;
  std::vector<std::unique_ptr<BlackjackPlayer>> players_;
  std::optional<std::int64_t> insures_from_;
  const ShoeCount* count_ = nullptr;
};

}  // namespace habanera
