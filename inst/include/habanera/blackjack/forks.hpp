#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <utility>
#include <vector>

#include "habanera/blackjack/blackjack.hpp"
#include "habanera/blackjack/players.hpp"
#include "habanera/count/bettor.hpp"
#include "habanera/count/shoe_count.hpp"
#include "habanera/draw/draw.hpp"
#include "habanera/game/counted_stock.hpp"
#include "habanera/game/late_deal.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/player.hpp"
#include "habanera/stat/trial_sums.hpp"

namespace habanera {

// What single departures of a player bring: wherever another would move otherwise, the round is played out once more
// from there with his move, on the same cards, and goes on as it was. One seat, who bets by the count.
class ForkCounter {
 public:
  // A cell of a table: hard, soft or pair; the total, or the value of the pair; the up card's value.
  enum Kind : std::uint8_t { hard, soft, pair };
  using Cell = std::array<std::uint8_t, 3>;

  struct Plan {
    BlackjackRules rules;
    Bettor bettor;
    std::shared_ptr<const BlackjackPlayer> plays, departs;
    std::vector<Cell> cells;  // of which is told
  };

  ForkCounter(const Draw& draw, const Plan& plan, std::uint64_t seed)
      : game_(plan.rules), bettor_(plan.bettor), plays_(plan.plays->copy()), departs_(plan.departs->copy()),
        late_(draw), seed_(seed), count_(std::make_unique<ShoeCount>(bettor_.system, game_.cards_used())),
        totals_(1 + plan.cells.size()), sums_(1 + plan.cells.size(), {}) {
    for (std::size_t i = 0; i < plan.cells.size(); ++i) place_of_[plan.cells[i]] = i + 1;
    plays_->counts_by(*count_);
    departs_->counts_by(*count_);
  }

  void run(std::uint64_t begin, std::uint64_t end) {
    for (std::uint64_t trial = begin; trial < end; ++trial) {
      std::fill(totals_.begin(), totals_.end(), 0);
      play_shoe(trial);
      sums_.close(totals_, trial);
    }
  }
  void merge(const ForkCounter& other) { sums_.merge(other.sums_); }
  // Of each shoe: how many rounds there were; then, cell by cell, what departures would have brought.
  const TrialSums& sums() const { return sums_; }

 private:
  using Position = Blackjack::Position;
  struct Fork {
    std::size_t cell;
    std::int64_t net;
  };

  void play_shoe(std::uint64_t trial) {
    late_.begin(seed_, trial);
    SeatLanes::Lane luck = SeatLanes(seed_, trial).of(0);
    ShuffledStock stock(late_, game_.burned());
    count_->begin(stock.gone());
    do {
      const std::int64_t bet = bettor_.bet_at(count_->level_for_bets());
      play_round(game_.start(stock.gone()), stock, bet, luck);
      ++totals_[0];
    } while (game_.plays_on(stock.gone()));
  }

  void play_round(Position position, ShuffledStock& stock, std::int64_t bet, PlayerChance& luck) {
    forks_.clear();
    CountedStock counted(stock, *count_);
    const auto choose = [&](std::size_t, const Position& now, Moves moves) {
      const std::size_t move = plays_->choose(game_.view(now, 0), moves, luck);
      if (now.stage == Position::playing) fork(now, stock, moves, move, luck);
      return move;
    };
    play_out(game_, position, counted, choose, [](const auto&, const auto&) {});
    counted.end_round();
    const std::int64_t net = game_.outcome(position).net;
    for (const Fork& other : forks_) totals_[other.cell] += bet * (other.net - net);
  }

  void fork(const Position& now, const ShuffledStock& stock, Moves moves, std::size_t move, PlayerChance& luck) {
    const std::size_t other = departs_->choose(game_.view(now, 0), moves, luck);
    if (other == move) return;
    const auto cell = place_of_.find(cell_of(now));
    if (cell == place_of_.end()) return;
    Position position = now;
    ShuffledStock rest = stock;
    game_.move(position, other);
    play_out(game_, position, rest,
             [&](std::size_t, const Position& then, Moves open) {
               return plays_->choose(game_.view(then, 0), open, luck);
             },
             [](const auto&, const auto&) {});
    forks_.push_back({cell->second, game_.outcome(position).net});
  }

  // Pairs that may be split are cells of their own.
  Cell cell_of(const Position& now) const {
    const BlackjackHand& hand = now.hand[now.at];
    const std::uint8_t up = game_.rules().points[now.up];
    if (hand.pair && hand.cards == 2 && game_.moves(now).has(BlackjackPieces::split)) return {pair, hand.first, up};
    const bool is_soft = game_.pieces().is_soft(hand);
    return {is_soft ? soft : hard, static_cast<std::uint8_t>(game_.pieces().total(hand)), up};
  }

  Blackjack game_;
  Bettor bettor_;
  std::unique_ptr<BlackjackPlayer> plays_, departs_;
  LateDeal late_;
  std::uint64_t seed_;
  std::unique_ptr<ShoeCount> count_;  // the players look at it wherever the counter goes
  std::map<Cell, std::size_t> place_of_;
  std::vector<Fork> forks_;
  std::vector<std::int64_t> totals_;
  TrialSums sums_;
};

}  // namespace habanera
