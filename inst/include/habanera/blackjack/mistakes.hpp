#pragma once

#include <cstddef>
#include <cstdint>
#include <map>
#include <tuple>
#include <vector>

#include "habanera/blackjack/table_row.hpp"
#include "habanera/blackjack/up_card_play.hpp"

namespace habanera {

// What a move costs against a reference, by row of the table.
struct MistakeRow {
  TableRow row;
  std::int64_t up;
  std::size_t played, best;
  double how_often = 0, loss = 0;
};

// The decisions in which a player's move is not the reference's, each priced with the reference's play afterwards and
// weighed by how often the player comes to it: their sum is exactly the difference of the two edges (as in Kakade &
// Langford 2002, Approximately optimal approximate reinforcement learning, lemma 6.1).
template <class Player, class Reference>
std::vector<MistakeRow> mistakes(UpCardPlay& play, const Player& player, const Reference& reference) {
  PlayedUpCard<Reference> played(play, reference);
  const DecisionWorth told(play);
  std::map<std::tuple<TableRow, std::size_t, std::size_t>, MistakeRow> all;
  each_decision(play, player, [&](const BlackjackDecision& decision) {
    std::size_t move, best;
    double lost;
    const auto move_of = [&](const auto& policy) {
      return policy.choose(decision.hands, decision.hand, decision.at, decision.moves);
    };
    const auto net = [&](std::size_t of) { return worth_of(played, decision, of).net; };
    if (decision.early) {
      const bool gives_up = player.surrenders_early(decision.hands, decision.hand, decision.at);
      if (gives_up == reference.surrenders_early(decision.hands, decision.hand, decision.at)) return;
      const double play_on = net(move_of(reference)), give_up = play.given_up_early(decision.hand).net;
      move = gives_up ? BlackjackPieces::surrender : BlackjackPieces::decline;
      best = gives_up ? BlackjackPieces::decline : BlackjackPieces::surrender;
      lost = gives_up ? play_on - give_up : give_up - play_on;
    } else {
      move = move_of(player);
      best = move_of(reference);
      if (move == best) return;
      lost = net(best) - net(move);
    }
    const bool may_split = decision.moves.has(BlackjackPieces::split);
    const TableRow row = TableRow::by_total(play.pieces(), decision.hand, may_split, decision.early);
    MistakeRow& found = all[{row, move, best}];
    found.row = row;
    found.up = play.up().value;
    found.played = move;
    found.best = best;
    found.how_often += told.how_often(decision);
    found.loss += decision.weight * lost;
  });
  std::vector<MistakeRow> rows;
  for (const auto& [key, row] : all) rows.push_back(row);
  return rows;
}

}  // namespace habanera
