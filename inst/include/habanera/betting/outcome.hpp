#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <string>
#include <utility>
#include <vector>

#include "habanera/betting/street.hpp"
#include "habanera/game/vocabulary.hpp"

namespace habanera {

// What came of a hand, in chips.
struct BettingOutcome {
  enum Ended : std::int64_t { fold, showdown };
  using BySeat = std::array<std::int64_t, most_betting_seats>;
  // Moves and holdings are told by numbers below this, which R holds exactly.
  static constexpr std::uint64_t most_code = std::uint64_t{1} << 53;
  static constexpr std::int64_t no_code = -1;

  BySeat net{};
  std::int64_t winner = 0;   // who won the main pot alone
  std::int64_t ended = fold, street = 1, pot = 0;
  std::int64_t actions = 0;
  BySeat folded{}, all_in{}, holding = untold();  // holding: where the game tells it

  static constexpr std::size_t column_count = 5 + 4 * most_betting_seats;
  static const std::vector<Column<BettingOutcome>>& columns() {
    static const std::vector<Column<BettingOutcome>> all = all_columns();
    return all;
  }

 private:
  static BySeat untold() {
    BySeat all;
    all.fill(no_code);
    return all;
  }
  using All = std::vector<Column<BettingOutcome>>;
  template <BySeat BettingOutcome::*numbers, std::size_t... seat>
  static void add_by_seat(All& all, const std::string& what, std::vector<Word> words, std::index_sequence<seat...>) {
    static const std::array<std::string, most_betting_seats> names{(what + "_" + std::to_string(seat + 1))...};
    (all.push_back({names[seat].c_str(), [](const BettingOutcome& o) { return (o.*numbers)[seat]; }, words}), ...);
  }
  static All all_columns() {
    const auto seats = std::make_index_sequence<most_betting_seats>();
    const std::vector<Word> truth{{0, "no"}, {1, "yes"}};
    All all{{"winner", [](const BettingOutcome& o) { return o.winner; }, {}, true},
            {"ended", [](const BettingOutcome& o) { return o.ended; }, {{fold, "fold"}, {showdown, "showdown"}}},
            {"street", [](const BettingOutcome& o) { return o.street; }},
            {"pot", [](const BettingOutcome& o) { return o.pot; }},
            {"actions", [](const BettingOutcome& o) { return o.actions; }}};
    add_by_seat<&BettingOutcome::net>(all, "net", {}, seats);
    add_by_seat<&BettingOutcome::folded>(all, "folded", truth, seats);
    add_by_seat<&BettingOutcome::all_in>(all, "all_in", truth, seats);
    add_by_seat<&BettingOutcome::holding>(all, "holding", {}, seats);
    return all;
  }
};

}  // namespace habanera
