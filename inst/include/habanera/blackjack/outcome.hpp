#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "habanera/blackjack/rules.hpp"
#include "habanera/game/vocabulary.hpp"

namespace habanera {

// What came of a round: of the whole table, of each seat, and of the first hand of the first seat that plays.
struct BlackjackOutcome {
  enum Result : int { loss, push, win, natural, surrender, sits_out };
  // Totals as categories: numbers as they are, and these.
  enum Total : std::int64_t { not_drawn = 0, bust = 1, natural_total = 62, most_total = 61 };
  // The first two cards: a hard total as it is, a soft one, a pair of a value, a natural.
  enum Opening : std::int64_t { soft_from = 40, pair_from = 80, natural_opening = 99 };

  static constexpr std::size_t most_side_bets = 8;

  std::int64_t net = 0, staked = 0, insurance_net = 0, hands = 0, cards_used = 0;
  std::int64_t first_hand = 0, up_card = 0, player_total = 0, dealer_total = 0;
  std::array<std::int64_t, most_blackjack_seats> net_of, staked_of, result_of;
  std::array<std::int64_t, most_side_bets> side;

  // One by one: all at once would be slower.
  BlackjackOutcome() {
    for (auto* each : {&net_of, &staked_of, &result_of})
      for (std::int64_t& value : *each) value = 0;
    for (std::int64_t& value : side) value = 0;
  }

  static std::int64_t total_of(const BlackjackPieces& pieces, const BlackjackHand& hand) {
    if (pieces.is_bust(hand)) return bust;
    return pieces.is_natural(hand) ? std::int64_t{natural_total} : pieces.total(hand);
  }

  void opened(const BlackjackPieces& pieces, const std::array<Card, 2>& cards, Card up) {
    const auto& points = pieces.rules().points;
    up_card = points[up];
    first_hand = opening_of(pieces, points[cards[0]], points[cards[1]],
                            pieces.rules().pairs_with[cards[0]] == pieces.rules().pairs_with[cards[1]]);
  }
  // Of two cards by their values.
  static std::int64_t opening_of(const BlackjackPieces& pieces, int one, int two, bool pair) {
    const bool soft = (one == 1 || two == 1) && one + two + 10 <= pieces.rules().bust_over;
    if (soft && one + two + 10 == pieces.rules().bust_over) return natural_opening;
    if (pair) return pair_from + one;
    return soft ? soft_from + one + two + 10 : one + two;
  }

  void add_seat(std::size_t seat, bool is_first, std::int64_t won, std::int64_t bet, std::int64_t count,
                std::int64_t total, Result result) {
    net += won;
    staked += bet;
    hands += count;
    net_of[seat] = won;
    staked_of[seat] = bet;
    result_of[seat] = result;
    if (is_first) player_total = total;
  }

  static constexpr std::size_t column_count = 10 + 3 * most_blackjack_seats + most_side_bets;
  static const std::vector<Column<BlackjackOutcome>>& columns();
};

namespace blackjack_words {

// Names of numbers, which live as long as the program.
inline const char* kept(const std::string& text) {
  static std::vector<std::unique_ptr<std::string>> all;
  all.push_back(std::make_unique<std::string>(text));
  return all.back()->c_str();
}

inline std::string value_name(int value) { return value == 1 ? "A" : std::to_string(value); }

inline std::vector<Word> totals() {
  std::vector<Word> words{{0, "not drawn"}, {1, "bust"}};
  for (int total = 2; total <= static_cast<int>(BlackjackOutcome::most_total); ++total)
    words.push_back({total, kept(std::to_string(total))});
  words.push_back({static_cast<int>(BlackjackOutcome::natural_total), "natural"});
  return words;
}

inline std::vector<Word> openings() {
  std::vector<Word> words;
  for (int total = 2; total <= 20; ++total) words.push_back({total, kept("hard " + std::to_string(total))});
  for (int total = 12; total <= 31; ++total)
    words.push_back({static_cast<int>(BlackjackOutcome::soft_from) + total, kept("soft " + std::to_string(total))});
  for (int value = 1; value <= 10; ++value)
    words.push_back({static_cast<int>(BlackjackOutcome::pair_from) + value, kept("pair " + value_name(value))});
  words.push_back({static_cast<int>(BlackjackOutcome::natural_opening), "natural"});
  return words;
}

inline std::vector<Word> value_words() {
  std::vector<Word> words;
  for (int value = 1; value <= 10; ++value) words.push_back({value, kept(value_name(value))});
  return words;
}

inline std::vector<Word> result_words() {
  using Outcome = BlackjackOutcome;
  return {{Outcome::loss, "loss"}, {Outcome::push, "push"}, {Outcome::win, "win"}, {Outcome::natural, "natural"},
          {Outcome::surrender, "surrender"}, {Outcome::sits_out, "sits out"}};
}

template <std::size_t seat>
void add_seat(std::vector<Column<BlackjackOutcome>>& all) {
  using Outcome = BlackjackOutcome;
  const std::string number = "_" + std::to_string(seat + 1);
  all.push_back({kept("net" + number), [](const Outcome& o) { return o.net_of[seat]; }});
  all.push_back({kept("staked" + number), [](const Outcome& o) { return o.staked_of[seat]; }});
  all.push_back({kept("result" + number), [](const Outcome& o) { return o.result_of[seat]; }, result_words()});
}
template <std::size_t... seat>
void add_seats(std::vector<Column<BlackjackOutcome>>& all, std::index_sequence<seat...>) {
  (add_seat<seat>(all), ...);
}
template <std::size_t... bet>
void add_side_bets(std::vector<Column<BlackjackOutcome>>& all, std::index_sequence<bet...>) {
  (all.push_back({kept("side_" + std::to_string(bet + 1)), [](const BlackjackOutcome& o) { return o.side[bet]; }}),
   ...);
}

inline std::vector<Column<BlackjackOutcome>> all_columns() {
  using Outcome = BlackjackOutcome;
  std::vector<Column<Outcome>> all{
      {"net", [](const Outcome& o) { return o.net; }},
      {"staked", [](const Outcome& o) { return o.staked; }},
      {"result", [](const Outcome& o) { return o.result_of[0]; }, result_words()},
      {"first_hand", [](const Outcome& o) { return o.first_hand; }, openings()},
      {"up_card", [](const Outcome& o) { return o.up_card; }, value_words()},
      {"player_total", [](const Outcome& o) { return o.player_total; }, totals()},
      {"dealer_total", [](const Outcome& o) { return o.dealer_total; }, totals()},
      {"hands", [](const Outcome& o) { return o.hands; }},
      {"cards_used", [](const Outcome& o) { return o.cards_used; }},
      {"insurance_net", [](const Outcome& o) { return o.insurance_net; }}};
  add_seats(all, std::make_index_sequence<most_blackjack_seats>());
  add_side_bets(all, std::make_index_sequence<Outcome::most_side_bets>());
  return all;
}

}  // namespace blackjack_words

inline const std::vector<Column<BlackjackOutcome>>& BlackjackOutcome::columns() {
  static const std::vector<Column<BlackjackOutcome>> all = blackjack_words::all_columns();
  return all;
}

}  // namespace habanera
