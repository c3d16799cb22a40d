#pragma once

#include <cstddef>
#include <cstdint>
#include <map>
#include <utility>
#include <vector>

#include "habanera/blackjack/table_row.hpp"
#include "habanera/blackjack/up_card_play.hpp"

namespace habanera {

// What each move of a row is worth.
struct ExpectedRow {
  TableRow row;
  std::int64_t up;
  std::size_t move;
  double expected;
  bool best;
};

// Gathers what moves are worth, row by row.
class ExpectedRows {
 public:
  explicit ExpectedRows(UpCardPlay& play) : play_(play), told_(play) {}

  template <class Policy>
  void add(const TableRow& row, PlayedUpCard<Policy>& played, const BlackjackDecision& decision, bool gives_up_early) {
    if (decision.early) {
      const double play_on =
          worth_of(played, decision, played.policy().choose(decision.hands, decision.hand, decision.at, decision.moves))
              .net;
      sum(row, BlackjackPieces::surrender, decision, play_.given_up_early(decision.hand).net, gives_up_early);
      sum(row, BlackjackPieces::decline, decision, play_on, !gives_up_early);
      return;
    }
    const std::size_t best = played.policy().choose(decision.hands, decision.hand, decision.at, decision.moves);
    decision.moves.each([&](std::size_t move) {
      sum(row, move, decision, worth_of(played, decision, move).net, move == best);
    });
  }

  // Those of another, which has none that are here.
  void take(const ExpectedRows& others) { sums_.insert(others.sums_.begin(), others.sums_.end()); }

  std::vector<ExpectedRow> rows() const {
    std::vector<ExpectedRow> all;
    for (const auto& [key, found] : sums_)
      if (found.how_often > 1e-15)
        all.push_back({key.first, play_.up().value, key.second, found.net / found.how_often, found.best});
    return all;
  }
  bool has(const TableRow& row) const {
    const auto found = sums_.lower_bound({row, 0});
    return found != sums_.end() && !(row < found->first.first) && found->second.how_often > 1e-15;
  }

 private:
  struct Sum {
    double net = 0, how_often = 0;
    bool best = false;
  };

  void sum(const TableRow& row, std::size_t move, const BlackjackDecision& decision, double net, bool best) {
    Sum& found = sums_[{row, move}];
    found.net += told_.told(decision, net);
    found.how_often += told_.how_often(decision);
    found.best = found.best || best;
  }

  UpCardPlay& play_;
  DecisionWorth told_;
  std::map<std::pair<TableRow, std::size_t>, Sum> sums_;
};

}  // namespace habanera
