#pragma once

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstdio>
#include <functional>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

namespace habanera {

// One thing that a seat sees, by its name: a number, several, or words.
struct Shows {
  std::string name;
  std::vector<double> values;
  std::vector<std::string> words;
  bool in_words = false;
  bool operator==(const Shows& other) const {
    return name == other.name && values == other.values && words == other.words;
  }
};
template <class Values>
Shows shows(const char* name, const Values& values) {
  Shows all;
  all.name = name;
  if constexpr (std::is_arithmetic_v<Values>)
    all.values.push_back(static_cast<double>(values));
  else
    for (const auto& value : values) all.values.push_back(static_cast<double>(value));
  return all;
}
// Words, such as moves that were made.
inline Shows shows_words(const char* name, std::vector<std::string> words) {
  Shows all;
  all.name = name;
  all.words = std::move(words);
  all.in_words = true;
  return all;
}
using Shown = std::vector<Shows>;

// As text: "card: 7; made: check, bet". Different values have different texts.
inline std::string text_of(const Shown& shown) {
  const auto digits = [](double value) {
    char text[32];
    const bool whole = value == std::floor(value) && std::abs(value) < 1e15;
    std::snprintf(text, sizeof text, whole ? "%.0f" : "%.17g", value);
    return std::string(text);
  };
  std::string all;
  for (const Shows& each : shown) {
    all += (all.empty() ? "" : "; ") + each.name + ":";
    const char* before = " ";
    const auto add = [&](const std::string& text) {
      all += before + text;
      before = ", ";
    };
    for (const double value : each.values) add(digits(value));
    for (const std::string& word : each.words) add(word);
  }
  return all;
}

// What a seat sees of a position, and all that a player is ever handed: a type of the game's own that has no way to
// the position. Its shown() tells, thing by thing, all that is in it; equality, hash and text are made of that when
// they are asked for, and of nothing else. What a seat remembers of what it saw and did before is part of it.
template <class View>
struct Sight {
  std::string text() const { return text_of(static_cast<const View&>(*this).shown()); }
  std::size_t hash() const { return std::hash<std::string>()(text()); }
  friend bool operator==(const View& one, const View& other) { return one.shown() == other.shown(); }
  friend bool operator!=(const View& one, const View& other) { return !(one == other); }
};

// Of a game in which no seat decides.
struct NothingSeen : Sight<NothingSeen> {
  Shown shown() const { return {}; }
};

template <class View, class = void>
inline constexpr bool is_view = false;
template <class View>
inline constexpr bool is_view<View, std::void_t<decltype(static_cast<Shown>(std::declval<const View&>().shown()))>> =
    std::is_base_of_v<Sight<View>, View>;

// Whether a view keeps a position from whoever holds it.
template <class View, class Position>
inline constexpr bool keeps_from = !std::is_same_v<View, Position> && !std::is_base_of_v<Position, View> &&
                                   !std::is_convertible_v<const View&, const Position&> &&
                                   !std::is_convertible_v<const View&, const Position*>;

// A game whose view of a seat is less than all that it was shown and did says so: what it sees is then not enough to
// find its best play by.
template <class Game, class = void>
inline constexpr bool view_forgets = false;
template <class Game>
inline constexpr bool view_forgets<Game, std::void_t<decltype(Game::view_forgets)>> = Game::view_forgets;

}  // namespace habanera
