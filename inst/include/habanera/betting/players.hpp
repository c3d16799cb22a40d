#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "habanera/betting/betting.hpp"
#include "habanera/game/chance_table.hpp"
#include "habanera/game/player.hpp"

namespace habanera {

// Calls whatever is bet, and bets nothing itself.
class CallsAllPlayer : public Player<BettingView> {
 public:
  std::unique_ptr<Player<BettingView>> copy() const override { return std::make_unique<CallsAllPlayer>(*this); }
  std::size_t choose(const BettingView&, Moves moves, PlayerChance&) override { return chosen(moves); }
  bool tells_chances() const override { return true; }
  std::vector<double> chances(const BettingView&, Moves moves, const Past<BettingView>&) const override {
    std::vector<double> all(moves.count(), 0);
    all[moves.place_of(chosen(moves))] = 1;
    return all;
  }

 private:
  // Where a blind may not merely be called it folds.
  static std::size_t chosen(Moves moves) {
    if (moves.has(BettingMove::check)) return BettingMove::check;
    return moves.has(BettingMove::call) ? BettingMove::call : BettingMove::fold;
  }
};

// Plays by a table of chances. What was looked up once is kept by numbers: texts cost far more than a hand.
class BettingTablePlayer : public Player<BettingView> {
 public:
  BettingTablePlayer(const std::shared_ptr<const Betting>& game, std::shared_ptr<const ChanceTable> table)
      : slow_(game, std::move(table)), kinds_(game->table().copies.size()), has_tree_(game->has_tree()) {
    const bool is_small = has_tree_ && game->own_cards() == 1 && !game->turns_cards() &&
                          game->courses() * kinds_ <= most_listed;
    if (is_small) by_place_.resize(game->courses() * kinds_);
  }

  std::unique_ptr<Player<BettingView>> copy() const override { return std::make_unique<BettingTablePlayer>(*this); }

  std::size_t choose(const BettingView& view, Moves moves, PlayerChance& chance) override {
    if (moves.is_one()) return moves.first();
    std::vector<double>* row = known_row(view);
    if (!row) return slow_.choose(view, moves, chance);
    if (row->empty()) *row = slow_.chances(view, moves, {});
    return chosen_by(*row, moves, chance);
  }

  bool tells_chances() const override { return true; }
  std::vector<double> chances(const BettingView& view, Moves moves, const Past<BettingView>& past) const override {
    return slow_.chances(view, moves, past);
  }

 private:
  static constexpr std::size_t most_listed = 1000000;
  struct Key {
    std::uint64_t cards, moves;
    bool operator==(const Key& other) const { return cards == other.cards && moves == other.moves; }
  };
  struct Hash {
    std::size_t operator()(const Key& key) const { return mix64(key.cards * 0x9e3779b97f4a7c15 + key.moves); }
  };

  // Where the chances are kept, which may not have been looked up yet; none where no numbers tell what is seen.
  std::vector<double>* known_row(const BettingView& view) {
    if (!by_place_.empty()) return &by_place_[view.node() * kinds_ + view.only_card()];
    std::uint64_t cards = 0, moves = view.node();
    if (!packed(view, cards)) return nullptr;
    if (!has_tree_) {
      if (view.code().base == 0) return nullptr;
      moves = view.code().code | std::uint64_t{view.moves_made()} << 53;
    }
    return &known_[{cards, moves}];
  }
  // What is seen of cards as one number; false where it does not hold them.
  bool packed(const BettingView& view, std::uint64_t& all) const {
    const ToldCards told = view.told_cards();
    std::uint64_t base = 1;
    for (std::size_t i = 0; i < told.size(); ++i) {
      if (base > ~std::uint64_t{0} / (kinds_ + 1)) return false;
      all += base * (told.card(i) + std::uint64_t{1});
      base *= kinds_ + 1;
    }
    return true;
  }

  ChanceTablePlayer<Betting> slow_;
  std::uint64_t kinds_;
  bool has_tree_;
  std::vector<std::vector<double>> by_place_;
  std::unordered_map<Key, std::vector<double>, Hash> known_;
};

}  // namespace habanera
