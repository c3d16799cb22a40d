#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/game/moves.hpp"

namespace habanera {

inline constexpr std::size_t most_players = 7;
// What a win is in parts that any number of seats up to these can share.
inline constexpr std::int64_t whole_win = 420;

// What happens next in a position.
struct NextStep {
  enum What { deal, lay_down, look, turn, decide, over };
  What what;
  std::size_t seat = 0;   // that moves
  std::size_t place = 0;  // that is looked at or turned
};

// A game in which cards are laid face down says where they went, and what a look at one has told.
template <class Game, class = void>
inline constexpr bool lays_face_down = false;
template <class Game>
inline constexpr bool lays_face_down<Game, std::void_t<decltype(&Game::laid)>> = true;

// A game in which seats are dealt some hands only may say which, all at once, with their chances: see Openings. None
// where they may be any.
template <class Game, class = void>
inline constexpr bool may_open_with_hands = false;
template <class Game>
inline constexpr bool may_open_with_hands<Game, std::void_t<decltype(&Game::openings)>> = true;

template <class Game>
bool opens_with_hands(const Game& game) {
  if constexpr (may_open_with_hands<Game>) return game.openings() != nullptr;
  return false;
}

// Calls use(position, unseen, chance) for each way in which a game begins.
template <class Game, class Unseen, class Use>
void each_opening(const Game& game, typename Game::Position position, Unseen unseen, Use&& use) {
  if constexpr (may_open_with_hands<Game>) {
    if (const auto* openings = game.openings()) {
      for (std::size_t at = 0; at < openings->size(); ++at) {
        typename Game::Position opened = position;
        Unseen left = unseen;
        game.open_with(opened, at, [&](Card card) { left.deal(game.stands_for(card)); });
        use(opened, left, openings->chance(at));
      }
      return;
    }
  }
  use(position, unseen, 1.0);
}

// How often each seat decided, and how often it had no choice.
struct Decisions {
  std::array<std::int64_t, most_players> made{}, forced{};

  // Of so many seats: those of others stay 0. Mostly there is one; compilers make calls of a loop, which would cost as
  // much as a card.
  void begin(std::size_t seats) {
    made[0] = forced[0] = 0;
    for (std::size_t seat = 1; seat < seats; ++seat) made[seat] = forced[seat] = 0;
  }
  void count(std::size_t seat, Moves moves) {
    ++made[seat];
    forced[seat] += moves.is_one();
  }
  std::string key() const {
    std::string all;
    for (std::size_t seat = 0; seat < most_players; ++seat)
      all += std::to_string(made[seat]) + "," + std::to_string(forced[seat]) + ";";
    return all;
  }
};

// Of a game that has but one round on its deck.
struct OneRound {
  bool holds_rounds() const { return false; }
  std::size_t burned() const { return 0; }
  bool plays_on(std::size_t) const { return false; }
  // In which order the zones of a round are put on the tray, of games that have several.
  std::vector<std::size_t> collected_zones() const { return {}; }
};

// Of a game in which cards fall, and no seat has a move.
struct NobodyDecides {
  std::size_t seats() const { return 0; }
  template <class Position>
  Moves moves(const Position&) const { return {}; }
  template <class Position>
  void move(Position&, std::size_t) const {}
};

// A game that does not end is stopped after so many steps.
inline constexpr std::uint64_t most_steps = 200000;

struct EndlessGame : std::runtime_error {
  using std::runtime_error::runtime_error;
};

// Apart, so that what is done at every step stays short.
[[noreturn, gnu::noinline, gnu::cold]] inline void refuse_no_move(std::size_t seat) {
  throw std::logic_error("seat " + std::to_string(seat + 1) + " has no move");
}
[[noreturn, gnu::noinline, gnu::cold]] inline void refuse_move(std::size_t seat, std::size_t move) {
  throw std::domain_error("seat " + std::to_string(seat + 1) + " made the move " + std::to_string(move) +
                          ", which it may not");
}
[[noreturn, gnu::noinline, gnu::cold]] inline void refuse_endless() {
  throw EndlessGame("does not end in " + std::to_string(most_steps) + " steps");
}

// The one loop that plays any game with decisions, from any position to its end. `choose(seat, position, moves)` is the
// seat's move; `told(next, position)` is called after each step. Decisions are added to those that were counted before.
template <class Game, class Stock, class Choose, class Told>
void play_out(const Game& game, typename Game::Position& position, Stock& stock, Decisions& decisions, Choose&& choose,
              Told&& told) {
  for (std::uint64_t step = 0; step < most_steps; ++step) {
    const NextStep next = game.next(position);
    switch (next.what) {
      case NextStep::over: return;
      case NextStep::deal: game.give(position, next, stock.deal()); break;
      case NextStep::turn: game.give(position, next, stock.turn(next.place)); break;
      case NextStep::lay_down:
        if constexpr (lays_face_down<Game>) game.laid(position, next, stock.lay_down());
        break;
      case NextStep::look:
        if constexpr (lays_face_down<Game>)
          game.looked(position, next, stock.look(next.place, game.looked_for(position)));
        break;
      case NextStep::decide: {
        const Moves moves = game.moves(position);
        if (__builtin_expect(moves.empty(), 0)) refuse_no_move(next.seat);
        decisions.count(next.seat, moves);
        const std::size_t move = choose(next.seat, position, moves);
        if (__builtin_expect(!moves.has(move), 0)) refuse_move(next.seat, move);
        game.move(position, move);
      }
    }
    told(next, position);
  }
  refuse_endless();
}

template <class Game, class Stock, class Choose, class Told>
Decisions play_out(const Game& game, typename Game::Position& position, Stock& stock, Choose&& choose, Told&& told) {
  Decisions decisions;
  play_out(game, position, stock, decisions, choose, told);
  return decisions;
}

}  // namespace habanera
