#pragma once

#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <vector>

#include "habanera/game/dealing.hpp"
#include "habanera/game/vocabulary.hpp"
#include "habanera/run/row_tally.hpp"

namespace habanera {

inline constexpr std::size_t most_seats = 6;

struct WarRules {
  enum class Collect { winner_first, loser_first, seat_order, shuffled };
  enum class Tie { war, split, discard, seat, nothing };
  enum class Repetition { none, seat_1, tied };

  Dealing dealing;                     // a size for each seat
  std::vector<std::uint32_t> ranks;    // for each kind of card; the higher wins
  bool from_bottom = false;            // cards are taken from the bottom of a pile
  bool by_points = false;              // one pass through the piles, a point a round
  Collect collect = Collect::winner_first;
  Tie tie = Tie::war;
  std::size_t tie_seat = 0;            // with Tie::seat
  std::size_t face_down = 3;
  bool short_loses = false;            // a seat that cannot lay the whole war loses; else it turns its last card
  Repetition repetition = Repetition::none;
  bool inner_game = false;
  std::uint64_t max_rounds = 100000;   // those of inner games included
  bool most_cards_at_limit = false;

  std::size_t seats() const { return dealing.sizes.size(); }

  // Whether a position that comes again must come for ever: nothing is left to chance after the deal, and the
  // limit is no rule of the game.
  bool can_be_watched() const {
    return collect != Collect::shuffled && !most_cards_at_limit && repetition == Repetition::none;
  }

  void check() const {
    if (seats() < 2 || seats() > most_seats)
      throw std::invalid_argument("War takes 2 to 6 seats, not " + std::to_string(seats()));
    if (tie_seat >= seats())
      throw std::invalid_argument("there is no seat " + std::to_string(tie_seat + 1) + " to win ties");
  }
};

struct WarOutcome {
  enum Ended : int { out_of_cards, short_of_cards, tied, repetition_ends, never_ends, round_limit };

  std::uint64_t winner = 0;  // a seat from 1, or 0 for nobody
  Ended ended = out_of_cards;
  std::uint64_t rounds = 0, comparisons = 0, ties = 0, longest_war = 0, lead_changes = 0;
  std::uint64_t winner_fewest = 0, margin = 0;
  std::uint64_t inner_games = 0, inner_depth = 0, weighted_pile = 0;
  std::uint64_t points[most_seats] = {};  // rounds won

  bool stopped = false;  // it never ends, or was broken off where the limit is no rule of the game

  static std::vector<Word> endings() {
    return {{out_of_cards, "out_of_cards"}, {short_of_cards, "short_of_cards"}, {tied, "tied"},
            {repetition_ends, "repetition"}, {never_ends, "never_ends"}, {round_limit, "round_limit"}};
  }

  // Of a game that was stopped nothing is known of the course that it would have taken, and of one that nobody won
  // nothing of the winner: then a column has no value.
  static const std::vector<Column<WarOutcome>>& columns() {
    using O = WarOutcome;
    static const std::vector<Column<WarOutcome>> all{
        {"winner", [](const O& o) { return static_cast<std::int64_t>(o.winner); }, {}, true},
        {"ended", [](const O& o) { return static_cast<std::int64_t>(o.ended); }, endings()},
        {"rounds", [](const O& o) { return o.if_ended(o.rounds); }},
        {"comparisons", [](const O& o) { return o.if_ended(o.comparisons); }},
        {"ties", [](const O& o) { return o.if_ended(o.ties); }},
        {"longest_war", [](const O& o) { return o.if_ended(o.longest_war); }},
        {"lead_changes", [](const O& o) { return o.if_ended(o.lead_changes); }},
        {"winner_fewest", [](const O& o) { return o.if_won(o.winner_fewest); }},
        {"margin", [](const O& o) { return o.if_won(o.margin); }},
        {"points_1", [](const O& o) { return o.if_ended(o.points[0]); }},
        {"points_2", [](const O& o) { return o.if_ended(o.points[1]); }},
        {"points_3", [](const O& o) { return o.if_ended(o.points[2]); }},
        {"points_4", [](const O& o) { return o.if_ended(o.points[3]); }},
        {"points_5", [](const O& o) { return o.if_ended(o.points[4]); }},
        {"points_6", [](const O& o) { return o.if_ended(o.points[5]); }},
        {"inner_games", [](const O& o) { return o.if_ended(o.inner_games); }},
        {"inner_depth", [](const O& o) { return o.if_ended(o.inner_depth); }},
        {"weighted_pile", [](const O& o) { return o.if_won(o.weighted_pile); }}};
    return all;
  }

 private:
  std::int64_t if_ended(std::uint64_t value) const { return stopped ? no_value : static_cast<std::int64_t>(value); }
  std::int64_t if_won(std::uint64_t value) const { return winner == 0 ? no_value : static_cast<std::int64_t>(value); }
};

}  // namespace habanera
