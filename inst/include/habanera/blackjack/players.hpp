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
#include "habanera/game/choices.hpp"
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
    if (view.insures()) return Pieces::decline;
    const BlackjackHand& hand = view.hand();
    const std::size_t up = pieces_->rules().points[view.up()];
    if (view.is_early())
      return table_.surrenders_early(*pieces_, hand, view.own_hands(), up) ? Pieces::surrender : Pieces::decline;
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

  bool tells_chances() const override { return has_chances(*player_); }
  std::vector<double> chances(const Blackjack::View& view, Moves moves,
                              const Past<Blackjack::View>& past) const override {
    std::vector<double> all = chances_of(*player_, view, moves, past);
    if (all.size() == 1) return all;
    // One move is meant, and another made of the rest, each as likely.
    const double each = how_often_ / static_cast<double>(all.size() - 1);
    for (double& chance : all) chance = chance * (1 - how_often_) + (1 - chance) * each;
    return all;
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
    return view.insures() ? BlackjackPieces::insure : player_->choose(view, moves, chance);
  }
  bool tells_chances() const override { return has_chances(*player_); }
  std::vector<double> chances(const Blackjack::View& view, Moves moves,
                              const Past<Blackjack::View>& past) const override {
    if (!view.insures()) return chances_of(*player_, view, moves, past);
    std::vector<double> all(moves.count(), 0);
    all[moves.place_of(BlackjackPieces::insure)] = 1;
    return all;
  }

 private:
  std::unique_ptr<BlackjackPlayer> player_;
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
    if (view.insures() && insures_from_)
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
