#pragma once

// Games in which seats bet on one card each, for tests.

#include <doctest/doctest.h>

#include <cstdint>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "habanera/betting/betting.hpp"

namespace habanera_test {

using namespace habanera;

inline BetSize chips_of(std::int64_t chips) { return {BetSize::chips, chips, 1, 1, std::to_string(chips)}; }
inline BetSize half_pot() { return {BetSize::share_of_pot, 0, 1, 2, "1/2 pot"}; }
inline BetSize whole_pot_size() { return {BetSize::share_of_pot, 0, 1, 1, "pot"}; }
inline BetSize everything() { return {BetSize::all_in, 0, 1, 1, "all in"}; }

inline Street street_of(std::size_t shared, std::vector<BetSize> sizes, std::size_t most_bets) {
  Street street;
  street.shared = shared;
  street.bets = street.raises = std::move(sizes);
  street.most_bets = most_bets;
  return street;
}

// Seats with one card each, the higher kind wins.
inline Betting::Rules ranks_game(std::size_t kinds, BettingRules chips) {
  Betting::Rules rules;
  rules.chips = std::move(chips);
  auto cards = std::make_shared<BettingCards>();
  std::vector<std::uint64_t> worth;
  for (std::size_t kind = 0; kind < kinds; ++kind) {
    cards->copies.push_back(1);
    cards->names.push_back(std::to_string(kind + 1));
    cards->codes.push_back(cards->names.back());
    cards->stands_for.push_back(static_cast<Card>(kind));
    cards->rank.push_back(static_cast<std::uint8_t>(kind));
    cards->suit.push_back(HandRules::no_suit);
    worth.push_back(kind + 1);
  }
  rules.cards = cards;
  rules.strength = BettingStrength::of_ranks(worth);
  return rules;
}

inline BettingRules one_bet() {
  BettingRules rules;
  rules.ante = 1;
  rules.stacks = {100, 100};
  rules.streets = {street_of(0, {chips_of(1)}, 1)};
  return rules;
}

// Plays moves by their words from a dealt position; refuses what is not open.
inline void make_moves(const Betting& game, Betting::Position& position, const std::vector<std::string>& words) {
  for (const std::string& word : words) {
    const std::size_t seat = game.next(position).seat;
    const auto view = game.view(position, seat);
    bool made = false;
    game.moves(position).each([&](std::size_t move) {
      if (made || game.move_text(view, move) != word) return;
      made = true;
      game.move(position, move);
    });
    REQUIRE_MESSAGE(made, word);
  }
}

inline std::vector<std::string> open_words(const Betting& game, const Betting::Position& position) {
  std::vector<std::string> all;
  const auto view = game.view(position, game.next(position).seat);
  game.moves(position).each([&](std::size_t move) { all.push_back(game.move_text(view, move)); });
  return all;
}

// Kinds that the seats hold, one each.
inline Betting::Position dealt(const Betting& game, const std::vector<Card>& holding) {
  Betting::Position position = game.start();
  while (game.next(position).what == NextStep::deal && position.dealt < holding.size())
    game.give(position, game.next(position), holding[game.next(position).seat]);
  return position;
}

inline std::vector<std::int64_t> nets(const Betting& game, const Betting::Position& position) {
  CHECK(game.next(position).what == NextStep::over);
  const auto outcome = game.outcome(position);
  return {outcome.net.begin(), outcome.net.begin() + static_cast<std::ptrdiff_t>(game.seats())};
}

using Nets = std::vector<std::int64_t>;
using Words = std::vector<std::string>;

}  // namespace habanera_test
