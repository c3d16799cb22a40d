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
#include "habanera/game/view.hpp"
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
//   View, view(position, seat)   what a seat sees, all that a player is ever handed: see below
//   choose(player, view, moves, chance)   where it brings players: the move of one of them
//   key(position)        a text, the same for positions from which the same can come with the same outcome (what lies
//                        in the deck is told apart already): exact answers and best play go by it, else deal by deal
//   told(position, move) the OwnMove that a move there stands for, where moves have amounts: {bet, 20}; else its number
//                        is its place in move_names
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
  // What a seat sees. A game with players says it by a View of its own, whose shown() tells all that is in it:
  //   struct View : Sight<View> {
  //     std::int64_t card, pot;
  //     Shown shown() const { return {shows("card", card), shows("pot", pot)}; }
  //   };
  //   View view(const Position& now, std::size_t seat) const { return {{}, now.card[seat], now.pot}; }
  // Where seats hide cards from each other, what a seat saw and did before must be in it; or the game says that it is
  // not: static constexpr bool view_forgets = true.
  using View = NothingSeen;
  template <class Position>
  NothingSeen view(const Position&, std::size_t) const { return {}; }
};

}  // namespace habanera
