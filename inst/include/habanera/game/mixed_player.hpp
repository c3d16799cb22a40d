#pragma once

#include <algorithm>
#include <cstddef>
#include <memory>
#include <utility>
#include <vector>

#include "habanera/game/choices.hpp"
#include "habanera/game/player.hpp"

namespace habanera {

// A seat in which players come and go: for each trial one of several sits down, as often as they weigh.
template <class View>
class MixedPlayer : public Player<View> {
 public:
  // `up_to` holds the chance that it is this one, given that it is none before.
  MixedPlayer(const std::vector<std::shared_ptr<const Player<View>>>& players, std::vector<double> up_to)
      : up_to_(std::move(up_to)) {
    for (const auto& player : players) players_.push_back(player->copy());
  }
  MixedPlayer(const MixedPlayer& other) : Player<View>(other), up_to_(other.up_to_) {
    for (const auto& player : other.players_) players_.push_back(player->copy());
  }

  std::unique_ptr<Player<View>> copy() const override { return std::make_unique<MixedPlayer>(*this); }
  void begins() override {
    here_ = players_.size();
    for (auto& player : players_) player->begins();
  }
  void counts_by(const ShoeCount& count) override {
    for (auto& player : players_) player->counts_by(count);
  }
  // Who came first stays.
  bool decides_by_view() const override { return false; }

  std::size_t choose(const View& view, Moves moves, PlayerChance& chance) override {
    if (here_ == players_.size()) {
      here_ = 0;
      while (here_ + 1 < players_.size() && !chance.happens(up_to_[here_])) ++here_;
    }
    return players_[here_]->choose(view, moves, chance);
  }

  std::size_t line() const override { return here_ < players_.size() ? players_[here_]->line() : 0; }

  bool tells_chances() const override {
    return std::all_of(players_.begin(), players_.end(), [](const auto& player) { return has_chances(*player); });
  }
  // What the seat did before tells how likely each of them sits there.
  std::vector<double> chances(const View& view, Moves moves, const Past<View>& past) const override {
    std::vector<double> sits;
    double left = 1, all = 0;
    for (std::size_t i = 0; i < players_.size(); ++i) {
      const double weight = i + 1 < players_.size() ? left * up_to_[i] : left;
      left -= weight;
      sits.push_back(weight * chance_of_past(*players_[i], past));
      all += sits.back();
    }
    std::vector<double> chances(moves.count(), 0);
    for (std::size_t i = 0; i < players_.size(); ++i) {
      // What none of them does tells nothing.
      const double share = all > 0 ? sits[i] / all : 1 / static_cast<double>(players_.size());
      if (share == 0) continue;
      const std::vector<double> each = chances_of(*players_[i], view, moves, past);
      for (std::size_t move = 0; move < each.size(); ++move) chances[move] += share * each[move];
    }
    return chances;
  }

 private:
  static double chance_of_past(const Player<View>& player, const Past<View>& past) {
    double chance = 1;
    Past<View> before;
    for (const Decided<View>& decided : past) {
      const std::vector<double> each = chances_of(player, decided.view, decided.moves, before);
      chance *= each[decided.moves.place_of(decided.move)];
      before.push_back(decided);
    }
    return chance;
  }

  std::vector<std::unique_ptr<Player<View>>> players_;
  std::vector<double> up_to_;
  std::size_t here_ = 0;
};

}  // namespace habanera
