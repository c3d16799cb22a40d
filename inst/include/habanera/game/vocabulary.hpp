#pragma once

#include <cstddef>
#include <cstdint>
#include <string>
#include <type_traits>
#include <vector>

#include "habanera/game/table_event.hpp"

namespace habanera {

// What a number of a game's own stands for: an action, or the value of a category. Interfaces take these words from the
// game and match them by name.
struct Word {
  int number;
  std::string name;
};

// A recorded outcome: a whole number; or, where there are words, a category; or a seat, counted from 1, 0 being nobody.
template <class Outcome>
struct Column {
  const char* name;
  std::int64_t (*read)(const Outcome&);
  std::vector<Word> words{};
  bool is_seat = false;
};

// A place where cards lie: of a seat, or of nobody (no_seat).
struct Zone {
  const char* name;
  std::size_t seat = no_seat;
};

// All words of a game with its rules.
struct Vocabulary {
  struct Outcome {
    std::string name;
    std::vector<Word> words;
    bool is_seat;
  };
  std::vector<Outcome> outcomes;
  std::vector<Word> actions;
  std::vector<Zone> zones;
};

// A game whose categories are named by its rules tells their words itself: none of an outcome that is a number.
template <class Game, class = void>
inline constexpr bool has_own_words = false;
template <class Game>
inline constexpr bool has_own_words<Game, std::void_t<decltype(&Game::own_words)>> = true;

template <class Game>
std::vector<Word> words_of(const Game& game, const char* column, const std::vector<Word>& usual) {
  if constexpr (has_own_words<Game>) {
    const std::vector<Word> own = game.own_words(column);
    if (!own.empty()) return own;
  }
  return usual;
}

template <class Game>
Vocabulary vocabulary_of(const Game& game) {
  Vocabulary all{{}, Game::actions(), game.zones()};
  for (const auto& column : Game::Outcome::columns())
    all.outcomes.push_back({column.name, words_of(game, column.name, column.words), column.is_seat});
  return all;
}

}  // namespace habanera
