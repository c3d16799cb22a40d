#pragma once

#include <cstddef>
#include <vector>

#include "habanera/blackjack/rules.hpp"
#include "habanera/game/vocabulary.hpp"

namespace habanera {

// What happens in a round, and the moves, by name.
struct BlackjackVocabulary {
  using Move = BlackjackPieces::Move;

  enum Action : int {
    seat_gets, dealer_shows, dealer_hides, dealer_looks, dealer_has_natural, dealer_turns, dealer_draws, hits,
    stands, doubles, splits, surrenders, insures, declines, seats_win, seats_lose, nobody_wins
  };
  static std::vector<Word> actions() {
    return {{seat_gets, "seat_gets"},       {dealer_shows, "dealer_shows"},
            {dealer_hides, "dealer_hides"}, {dealer_looks, "dealer_looks"},
            {dealer_has_natural, "dealer_has_natural"},
            {dealer_turns, "dealer_turns"}, {dealer_draws, "dealer_draws"},
            {hits, "hits"},                 {stands, "stands"},
            {doubles, "doubles"},           {splits, "splits"},
            {surrenders, "surrenders"},     {insures, "insures"},
            {declines, "declines"},         {seats_win, "seats_win"},
            {seats_lose, "seats_lose"},     {nobody_wins, "nobody_wins"}};
  }
  static std::vector<Word> move_words() {
    const auto word = [](Move move, const char* name) { return Word{static_cast<int>(move), name}; };
    return {word(BlackjackPieces::hit, "hit"),           word(BlackjackPieces::stand, "stand"),
            word(BlackjackPieces::double_down, "double"), word(BlackjackPieces::split, "split"),
            word(BlackjackPieces::surrender, "surrender"), word(BlackjackPieces::insure, "insure"),
            word(BlackjackPieces::decline, "decline")};
  }
  static std::vector<Zone> zones_for(std::size_t seats) {
    std::vector<Zone> all{{"shoe"}, {"dealer"}};
    for (std::size_t seat = 0; seat < seats; ++seat) all.push_back({"hand", seat});
    all.push_back({"discards"});
    return all;
  }
  // What was put away during a round lies lowest, then each seat's hands, the dealer's on top.
  static std::vector<std::size_t> collected_for(std::size_t seats) {
    std::vector<std::size_t> order{seats + 2};
    for (std::size_t seat = 0; seat < seats; ++seat) order.push_back(seat + 2);
    order.push_back(1);
    return order;
  }
};

}  // namespace habanera
