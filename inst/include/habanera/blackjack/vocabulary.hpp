#pragma once

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
};

}  // namespace habanera
