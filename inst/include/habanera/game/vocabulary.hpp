#pragma once

#include <cstddef>
#include <cstdint>
#include <string>
#include <vector>

#include "habanera/watcher/table_event.hpp"

namespace habanera {

// What a number of a game's own stands for: an action, or the value of a category. Interfaces take these words from the
// game and match them by name.
struct Word {
  int number;
  const char* name;
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

template <class Game>
Vocabulary vocabulary_of(const Game& game) {
  Vocabulary all{{}, Game::actions(), game.zones()};
  for (const auto& column : Game::Outcome::columns())
    all.outcomes.push_back({column.name, column.words, column.is_seat});
  return all;
}

}  // namespace habanera
