#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <string>
#include <type_traits>
#include <vector>

#include "habanera/game/play_out.hpp"
#include "habanera/game/player.hpp"
#include "habanera/game/table_event.hpp"
#include "habanera/own/setting.hpp"
#include "habanera/own/stated.hpp"

namespace habanera {

// What comes next in a game of one's own: the top card of the deck goes to a pile, of a seat or of nobody; a seat
// decides; or it is over.
inline NextStep deal_to(std::size_t pile, std::size_t seat = no_seat) { return {NextStep::deal, seat, pile}; }
inline NextStep decision(std::size_t seat) { return {NextStep::decide, seat}; }
inline NextStep game_over() { return {NextStep::over}; }

// Where a card lies: a pile, and whose, where each seat has one.
struct CardPlace {
  std::size_t pile;
  std::size_t seat = no_seat;
};

// One thing that a seat is shown, by its name.
struct Shows {
  std::string name;
  std::vector<double> values;
  bool operator==(const Shows& other) const { return name == other.name && values == other.values; }
};
template <class Values>
Shows shows(const char* name, const Values& values) {
  if constexpr (std::is_arithmetic_v<Values>) {
    return {name, {static_cast<double>(values)}};
  } else {
    Shows all{name, {}};
    for (const auto& value : values) all.values.push_back(static_cast<double>(value));
    return all;
  }
}
using Shown = std::vector<Shows>;

// The values of outcomes, in the order in which they are stated.
template <class... Value>
std::array<std::int64_t, sizeof...(Value)> outcome_values(const Value&... value) {
  return {static_cast<std::int64_t>(value)...};
}

// A text that tells positions apart by all these numbers and lists of numbers.
template <class... Part>
std::string key_of(const Part&... part) {
  std::string all;
  const auto add = [&](const auto& value) {
    if constexpr (std::is_convertible_v<decltype(value), std::int64_t>) {
      all += std::to_string(static_cast<std::int64_t>(value)) + ',';
    } else {
      for (const auto& each : value) all += std::to_string(static_cast<std::int64_t>(each)) + ',';
      all += ';';
    }
  };
  (add(part), ...);
  return all;
}

// What a game of one's own says and does where it does not do so itself. It must have:
//   name, summary        texts; the name in small letters
//   outcomes             an array of what comes of it: outcome_whole() and its kin
//   Position             all that is the case at a moment; as it is made, the game begins
//   Game(const Setting&) the game by its rules
//   next(position)       what comes next: deal_to(), decision(), game_over()
//   give(position, next, card)   a card has come: the number of its kind
//   outcome(position)    values() of the outcomes
// and may have, beside what stands here:
//   choose(player, position, seat, moves, chance)   where it brings players: the move of one of them
//   key(position)        a text, the same for positions from which the same can come with the same outcome (what lies
//                        in the deck is told apart already): exact answers and best play go by it, else deal by deal
//   lies(position, place)   the Place where the card dealt as number `place` (from 0) lies now, where cards move on
//   worth(outcome, seat) what the values of its outcomes are worth to a seat, for players who weigh moves; else the
//                        win, where an outcome is a seat, or its money, where there is one such outcome for each seat
struct OwnGame {
  // The words of a game of one's own.
  using Next = NextStep;
  using Place = CardPlace;
  template <class... Value>
  static std::array<std::int64_t, sizeof...(Value)> values(const Value&... value) { return outcome_values(value...); }

  static constexpr std::array<OwnRule, 0> rules{};
  static constexpr std::array piles{pile_hidden("stock"), pile_open("shown")};  // the first is the deck
  static constexpr std::array<const char*, 0> move_names{};                     // by number, from 0
  static constexpr std::array<OwnPlayer, 0> players{};

  // The same number for cards that are alike to the game.
  std::uint32_t likeness(Card card) const { return card; }
  template <class Position>
  Moves moves(const Position&) const { return {}; }
  template <class Position>
  void move(Position&, std::size_t) const {}
  // What players outside of the game, such as functions of R, are shown.
  template <class Position>
  Shown shown(const Position&, std::size_t) const { return {}; }
};

}  // namespace habanera
