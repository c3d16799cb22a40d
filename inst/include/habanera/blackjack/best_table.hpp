#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <numeric>
#include <utility>
#include <vector>

#include "habanera/blackjack/best_by_cards.hpp"
#include "habanera/blackjack/expected_rows.hpp"
#include "habanera/blackjack/solved.hpp"
#include "habanera/blackjack/table_search.hpp"

namespace habanera {

// What best play knows of a hand.
enum class BestKnows { total, two_cards, all_cards };

// A strategy put together from its columns for each up card.
class BestTable {
 public:
  BestTable(const SolvedBlackjack& house, BestKnows knows) : house_(house), knows_(knows) {
    std::vector<std::unique_ptr<ColumnPolicy>> columns(house.shoe().values().size());
    std::vector<std::unique_ptr<CardsPolicy>> by_cards(columns.size());
    house.each_up_card([&](UpCardPlay& play, std::size_t place) {
      if (knows == BestKnows::all_cards) {
        columns[place] = std::make_unique<ColumnPolicy>(column_of_endless(play, false));
        by_cards[place] = std::make_unique<CardsPolicy>(BestByCards(play).policy());
      } else {
        columns[place] = std::make_unique<ColumnPolicy>(TableSearch(play, knows == BestKnows::two_cards).column());
      }
    });
    for (std::size_t place = 0; place < columns.size(); ++place) {
      const std::uint8_t up = house.shoe().values()[place];
      take_totals(*columns[place], up);
      if (knows == BestKnows::two_cards) take_two_cards(*columns[place], up);
      if (knows == BestKnows::all_cards) take_cards(*by_cards[place], up);
    }
    leave_out_what_totals_say();
    table_.by_cards = std::make_shared<const StrategyTable::RowsByCards>(std::move(rows_));
  }

  const StrategyTable& table() const { return table_; }

 private:
  void take_totals(const ColumnPolicy& column, std::uint8_t up) {
    for (std::size_t total = 0; total < StrategyTable::most_total; ++total) {
      table_.hard[total][up] = column[total];
      table_.soft[total][up] = column[ColumnPolicy::soft_from + total];
    }
    for (std::size_t value = 1; value <= 10; ++value) table_.pair[value][up] = column[ColumnPolicy::pair_from + value];
  }

  void take_two_cards(const ColumnPolicy& column, std::uint8_t up) {
    for (std::size_t at = 0; at < house_.tree().size(); ++at)
      if (house_.tree().hand(at).cards == 2)
        rows_[StrategyTable::cards_key(house_.tree().hand(at).held)][up] = column[ColumnPolicy::two_from + at];
  }

  void take_cards(CardsPolicy& policy, std::uint8_t up) {
    for (std::uint8_t split_value = 0; split_value <= 10; ++split_value) {
      if (!policy.has(split_value)) continue;
      for (std::size_t at = 0; at < house_.tree().size(); ++at) {
        const BlackjackHand& hand = house_.tree().hand(at);
        const bool is_one = split_value == SeatHands::unsplit ||
                            BlackjackHand::count_held(hand.held, split_value) > 0;
        if (hand.cards >= 2 && is_one && !house_.pieces().is_finished(hand, house_.pieces().rules().most_hands))
          rows_[StrategyTable::cards_key(hand.held, split_value)][up] = policy.cells(split_value)[at];
      }
    }
    for (std::uint8_t value = 1; value <= 10; ++value) table_.pair[value][up] = policy.pair(value);
  }

  // A row of cards that says what would be done without it says nothing. Those after a split go before those they fall
  // back to.
  void leave_out_what_totals_say() {
    for (std::uint8_t split_value = 10; split_value > SeatHands::unsplit; --split_value) leave_out(split_value);
    leave_out(SeatHands::unsplit);
  }

  void leave_out(std::uint8_t split_value) {
    const BlackjackPieces& pieces = house_.pieces();
    for (std::size_t at = 0; at < house_.tree().size(); ++at) {
      const BlackjackHand hand = SeatHands::seen_as(house_.tree().hand(at), split_value);
      const auto found = rows_.find(StrategyTable::cards_key(hand.held, split_value));
      if (found == rows_.end()) continue;
      const auto plain = rows_.find(StrategyTable::cards_key(hand.held));
      const bool falls_back_to_cards = split_value != SeatHands::unsplit && plain != rows_.end();
      const auto& totals = pieces.is_soft(hand) ? table_.soft : table_.hard;
      const StrategyTable::Row& without =
          falls_back_to_cards ? plain->second : totals[static_cast<std::size_t>(pieces.total(hand))];
      const Moves moves = pieces.moves(hand, pieces.rules().most_hands);
      const bool says_the_same = std::equal(
          without.begin(), without.end(), found->second.begin(), [&](const auto& one, const auto& other) {
            return one.among(moves) == other.among(moves) &&
                   (one.first == BlackjackPieces::surrender) == (other.first == BlackjackPieces::surrender);
          });
      if (says_the_same) rows_.erase(found);
    }
  }

  const SolvedBlackjack& house_;
  BestKnows knows_;
  StrategyTable table_;
  StrategyTable::RowsByCards rows_;
};

// What the best play brings the player.
inline double worth_of_best(const SolvedBlackjack& house, BestKnows knows) {
  std::vector<double> worth(house.shoe().values().size());
  house.each_up_card([&](UpCardPlay& play, std::size_t place) {
    worth[place] = knows == BestKnows::all_cards
                       ? worth_of_play(play, BestByCards(play).policy())
                       : TableSearch(play, knows == BestKnows::two_cards).worth();
  });
  return std::accumulate(worth.begin(), worth.end(), 0.0);
}

// What each move is worth, by row of the strategy that is best.
class ExpectedOfBest {
 public:
  ExpectedOfBest(UpCardPlay& play, BestKnows knows) : play_(play), rows_(play) {
    if (knows == BestKnows::all_cards) by_cards();
    else by_table(knows == BestKnows::two_cards);
  }
  std::vector<ExpectedRow> rows() const { return rows_.rows(); }

 private:
  void by_table(bool two_cards) {
    TableSearch search(play_, two_cards);
    const ColumnPolicy& column = search.column();
    each_decision(play_, column, [&](const BlackjackDecision& decision) {
      rows_.add(row_of(decision, two_cards), search.played(), decision, gives_up(column, decision));
    });
    // What this play never comes to, by an endless shoe.
    EndlessPlay afresh(play_);
    PlayedUpCard<ColumnPolicy> played_afresh(afresh.play(), column);
    ExpectedRows others(afresh.play());
    each_hand(afresh.play(), [&](const BlackjackDecision& decision) {
      const TableRow row = row_of(decision, two_cards);
      if (!rows_.has(row)) others.add(row, played_afresh, decision, gives_up(column, decision));
    });
    rows_.take(others);
  }

  void by_cards() {
    BestByCards best(play_);
    PlayedUpCard<CardsPolicy> played(play_, best.policy());
    for (const BlackjackOpening& opening : play_.openings()) {
      const BlackjackHand hand = play_.hand(opening);
      if (play_.is_settled(hand)) continue;
      const Moves moves = play_.pieces().moves(hand, 1);
      for (const bool early : {true, false}) {
        if (early ? play_.pieces().rules().surrender != BlackjackRules::early : !opening.pair) continue;
        const BlackjackDecision decision{play_.alone(), 0, play_.place(opening), hand, moves, opening.chance, &opening,
                                         early};
        TableRow row = row_of(decision, true);
        rows_.add(row, played, decision, gives_up(best.policy(), decision));
      }
    }
    for (std::uint8_t split_value = 0; split_value <= 10; ++split_value)
      if (best.policy().has(split_value)) by_cards_of(split_value, played);
  }

  void by_cards_of(std::uint8_t split_value, PlayedUpCard<CardsPolicy>& played) {
    SeatHands& hands = play_.hands(split_value, 0);
    const std::size_t most_hands = play_.pieces().rules().most_hands;
    for (const std::size_t at : play_.tree().holding(split_value).hands) {
      const BlackjackHand hand = hands.hand(at);
      if (hand.cards < 2 || !hands.holds(at) || play_.pieces().is_finished(hand, most_hands)) continue;
      const BlackjackDecision decision{hands, 0, at, hand, play_.pieces().moves(hand, most_hands), 1, nullptr, false};
      rows_.add({TableRow::cards, hand.held, split_value, false}, played, decision, false);
    }
  }

  TableRow row_of(const BlackjackDecision& decision, bool two_cards) const {
    const bool may_split = decision.early ? play_.pieces().may_split(decision.hand, 1)
                                          : decision.moves.has(BlackjackPieces::split);
    const TableRow row = TableRow::by_total(play_.pieces(), decision.hand, may_split, decision.early);
    if (!two_cards || row.kind == TableRow::pair || decision.hand.cards != 2) return row;
    return {TableRow::cards, decision.hand.held, SeatHands::unsplit, decision.early};
  }

  template <class Policy>
  static bool gives_up(const Policy& policy, const BlackjackDecision& decision) {
    return decision.early && policy.surrenders_early(decision.hands, decision.hand, decision.at);
  }

  UpCardPlay& play_;
  ExpectedRows rows_;
};

}  // namespace habanera
