#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <utility>
#include <vector>

#include "habanera/blackjack/policies.hpp"
#include "habanera/blackjack/up_card_play.hpp"

namespace habanera {

// The column of a table for one up card: a cell for each total, hard and soft, for each pair, and where two cards
// decide what is done with them, for each hand of two cards.
class ColumnPolicy {
 public:
  using Cell = StrategyTable::Cell;
  static constexpr bool plays_alike = true;
  static constexpr std::size_t soft_from = StrategyTable::most_total, pair_from = 2 * soft_from,
                               two_from = pair_from + 11;

  ColumnPolicy(const HandTree& tree, bool by_two_cards)
      : by_two_cards_(by_two_cards), cells_(two_from + (by_two_cards ? tree.size() : 0)) {}

  std::size_t size() const { return cells_.size(); }
  Cell& operator[](std::size_t cell) { return cells_[cell]; }
  const Cell& operator[](std::size_t cell) const { return cells_[cell]; }

  std::size_t cell_of(const BlackjackPieces& pieces, const BlackjackHand& hand, std::size_t at, bool may_split) const {
    if (hand.pair && may_split) return pair_from + hand.first;
    if (by_two_cards_ && hand.cards == 2) return two_from + at;
    return (pieces.is_soft(hand) ? soft_from : 0) + static_cast<std::size_t>(pieces.total(hand));
  }

  std::size_t choose(const SeatHands& hands, const BlackjackHand& hand, std::size_t at, Moves moves) const {
    return cells_[cell_of(hands.pieces(), hand, at, moves.has(BlackjackPieces::split))].among(moves);
  }
  template <class Played>
  BlackjackWorth worth(Played& played, const BlackjackHand& hand, std::size_t at, Moves moves) const {
    return played.after(choose(played.hands(), hand, at, moves), hand, at);
  }
  bool surrenders_early(const SeatHands& hands, const BlackjackHand& hand, std::size_t at) const {
    const std::size_t cell = cell_of(hands.pieces(), hand, at, hands.pieces().may_split(hand, 1));
    return cells_[cell].first == BlackjackPieces::surrender;
  }

 private:
  bool by_two_cards_;
  std::vector<Cell> cells_;
};

// The entries that a cell of a table can have; any of them holds a move that is always open.
class TableEntries {
 public:
  using Cell = StrategyTable::Cell;
  using Sums = std::array<double, 8>;

  static const std::array<Cell, 8>& all() {
    using P = BlackjackPieces;
    static const std::array<Cell, 8> entries{{{P::stand, P::stand}, {P::hit, P::hit}, {P::double_down, P::hit},
                                              {P::double_down, P::stand}, {P::surrender, P::hit},
                                              {P::surrender, P::stand}, {P::split, P::split},
                                              {P::surrender, P::split}}};
    return entries;
  }
  static std::size_t place_of(const Cell& cell) {
    for (std::size_t i = 0; i < all().size(); ++i)
      if (all()[i].first == cell.first && all()[i].otherwise == cell.otherwise) return i;
    return 0;
  }
};

// What every entry of every cell is worth against an up card, the rest of a table being as it is.
class CellGains {
 public:
  explicit CellGains(const ColumnPolicy& column) : column_(column), sums_(column.size()), met_(column.size()) {}

  template <class Policy>
  void add(UpCardPlay& play, PlayedUpCard<Policy>& played, const BlackjackDecision& decision) {
    const BlackjackPieces& pieces = play.pieces();
    // The same cell says whether two cards are given up early and how they are played otherwise: the first has it all.
    const bool was_early = pieces.rules().surrender == BlackjackRules::early && decision.hand.cards == 2 &&
                           !decision.hand.from_split && !decision.early;
    if (was_early) return;
    const bool may_split = decision.early ? pieces.may_split(decision.hand, 1)
                                          : decision.moves.has(BlackjackPieces::split);
    const std::size_t cell = column_.cell_of(pieces, decision.hand, decision.at, may_split);
    met_[cell] = true;
    std::array<double, StrategyTable::none + 1> worth{};
    decision.moves.each([&](std::size_t move) {
      worth[move] = decision.weight * worth_of(played, decision, move).net;
    });
    const double given_up = decision.early ? decision.weight * play.given_up_early(decision.hand).net : 0;
    for (std::size_t i = 0; i < sums_[cell].size(); ++i) {
      const StrategyTable::Cell& entry = TableEntries::all()[i];
      const std::size_t move = entry.among(decision.moves);
      if (decision.early && entry.first == BlackjackPieces::surrender) sums_[cell][i] += given_up;
      else sums_[cell][i] += move == StrategyTable::none ? impossible : worth[move];
    }
  }

  bool is_met(std::size_t cell) const { return met_[cell]; }
  // How much the best entry of a cell gains on another.
  double gain(std::size_t cell, std::size_t entry) const {
    return sums_[cell][best(cell)] - sums_[cell][entry];
  }
  // The first of those that are as good.
  std::size_t best(std::size_t cell) const {
    std::size_t best = 0;
    for (std::size_t i = 1; i < sums_[cell].size(); ++i)
      if (sums_[cell][i] > sums_[cell][best] + as_good) best = i;
    return best;
  }

 private:
  static constexpr double impossible = -1e6;

  const ColumnPolicy& column_;
  std::vector<TableEntries::Sums> sums_;
  std::vector<char> met_;
};

// Hits whatever it holds, so that every hand comes up.
struct AlwaysHits {
  static constexpr bool plays_alike = true;
  static std::size_t choose(const SeatHands&, const BlackjackHand& hand, std::size_t, Moves moves) {
    if (hand.pair && moves.has(BlackjackPieces::split)) return BlackjackPieces::hit;
    return moves.has(BlackjackPieces::hit) ? BlackjackPieces::hit : BlackjackPieces::stand;
  }
  static bool surrenders_early(const SeatHands&, const BlackjackHand&, std::size_t) { return false; }
};

// Calls use(decision) for every hand that can come up, however it is played; pairs also as hands that may not be split.
template <class Use>
void each_hand(UpCardPlay& play, Use&& use) {
  each_decision(play, AlwaysHits(), use);
  for (const BlackjackOpening& opening : play.openings()) {
    BlackjackHand hand = play.hand(opening);
    if (!opening.pair || play.is_settled(hand)) continue;
    hand.pair = false;
    use(BlackjackDecision{play.alone(), 0, play.place(opening), hand, play.pieces().moves(hand, 1), opening.chance,
                          nullptr, false});
  }
}

// What is best on average over the hands of each cell in an endless shoe of the same cards, where what is held tells
// nothing of what comes.
inline ColumnPolicy column_of_endless(const UpCardPlay& play, bool by_two_cards) {
  ColumnPolicy column(play.tree(), by_two_cards);
  EndlessPlay afresh(play);
  const BestPolicy best;
  PlayedUpCard<BestPolicy> played(afresh.play(), best);
  CellGains gains(column);
  each_hand(afresh.play(), [&](const BlackjackDecision& decision) { gains.add(afresh.play(), played, decision); });
  for (std::size_t cell = 0; cell < column.size(); ++cell)
    if (gains.is_met(cell)) column[cell] = TableEntries::all()[gains.best(cell)];
  return column;
}

// The best column of a table for one up card: none that differs in a single cell is better. It begins with that of
// an endless shoe, and changes cells as long as that gains.
class TableSearch {
 public:
  TableSearch(UpCardPlay& play, bool by_two_cards)
      : play_(play), best_(std::make_unique<Tried>(play, column_of_endless(play, by_two_cards))) {
    improve();
  }
  const ColumnPolicy& column() const { return best_->column; }
  PlayedUpCard<ColumnPolicy>& played() { return best_->played; }
  double worth() const { return best_->worth; }

 private:
  static constexpr std::size_t most_rounds = 200;

  struct Tried {
    ColumnPolicy column;
    PlayedUpCard<ColumnPolicy> played;
    double worth;

    Tried(UpCardPlay& play, ColumnPolicy by) : column(std::move(by)), played(play, column), worth(worth_of_all(played)) {}
    Tried(const Tried&) = delete;
    Tried& operator=(const Tried&) = delete;
  };

  void improve() {
    for (std::size_t round = 0; round < most_rounds; ++round) {
      const ColumnPolicy& column = best_->column;
      CellGains gains(column);
      each_decision(play_, column,
                    [&](const BlackjackDecision& decision) { gains.add(play_, best_->played, decision); });
      ColumnPolicy changed = column, changed_once = column;
      std::size_t dearest = 0;
      double most = 0;
      for (std::size_t cell = 0; cell < column.size(); ++cell) {
        const double gain = gains.gain(cell, TableEntries::place_of(column[cell]));
        if (gain <= as_good) continue;
        changed[cell] = TableEntries::all()[gains.best(cell)];
        if (gain > most) {
          most = gain;
          dearest = cell;
        }
      }
      if (most == 0) return;
      auto tried = std::make_unique<Tried>(play_, changed);
      // Together they may not gain what each does alone.
      if (tried->worth <= best_->worth + as_good) {
        changed_once[dearest] = changed[dearest];
        tried = std::make_unique<Tried>(play_, changed_once);
      }
      best_ = std::move(tried);
    }
  }

  UpCardPlay& play_;
  std::unique_ptr<Tried> best_;
};

}  // namespace habanera
