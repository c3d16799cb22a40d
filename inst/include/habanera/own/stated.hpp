#pragma once

#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace habanera {

// What a game of one's own says of itself, as constants: its rules, outcomes, piles and players. Interfaces read them.

struct OwnRule {
  enum Type { whole, fraction, flag, choice };
  Type type;
  const char* name;
  double usual, from, to;
  const char* choices;  // divided by commas, the first is the default
  const char* meaning;
};

constexpr OwnRule rule_whole(const char* name, double usual, double from, double to, const char* meaning) {
  return {OwnRule::whole, name, usual, from, to, "", meaning};
}
constexpr OwnRule rule_fraction(const char* name, double usual, double from, double to, const char* meaning) {
  return {OwnRule::fraction, name, usual, from, to, "", meaning};
}
constexpr OwnRule rule_flag(const char* name, const char* meaning, bool usual = false) {
  return {OwnRule::flag, name, usual ? 1.0 : 0.0, 0, 1, "", meaning};
}
constexpr OwnRule rule_choice(const char* name, const char* choices, const char* meaning) {
  return {OwnRule::choice, name, 0, 0, 0, choices, meaning};
}

// Values are whole: money counts its coins, a choice its place in the list (from 0), a flag 0 or 1, a seat from 1 (0
// being nobody).
struct OwnOutcome {
  enum Type { whole, money, flag, choice, seat };
  Type type;
  const char* name;
  const char* meaning;
  const char* choices;
  double coin;
};

constexpr OwnOutcome outcome_whole(const char* name, const char* meaning) {
  return {OwnOutcome::whole, name, meaning, "", 1};
}
constexpr OwnOutcome outcome_money(const char* name, const char* meaning, double coin = 0.01) {
  return {OwnOutcome::money, name, meaning, "", coin};
}
constexpr OwnOutcome outcome_flag(const char* name, const char* meaning) {
  return {OwnOutcome::flag, name, meaning, "no,yes", 1};
}
constexpr OwnOutcome outcome_choice(const char* name, const char* choices, const char* meaning) {
  return {OwnOutcome::choice, name, meaning, choices, 1};
}
constexpr OwnOutcome outcome_seat(const char* name, const char* meaning) {
  return {OwnOutcome::seat, name, meaning, "", 1};
}

// Who sees the cards in a pile: nobody, everybody, or the seat that it belongs to (there is one for each seat).
struct OwnPile {
  enum Sight { hidden, open, own };
  Sight sight;
  const char* name;
};
constexpr OwnPile pile_hidden(const char* name) { return {OwnPile::hidden, name}; }
constexpr OwnPile pile_open(const char* name) { return {OwnPile::open, name}; }
constexpr OwnPile pile_own(const char* name) { return {OwnPile::own, name}; }

// A move as it is told: which of move_names, and an amount, where it has one.
struct OwnMove {
  std::size_t what;
  std::optional<std::int64_t> amount{};
  template <class Names>
  std::string text(const Names& names) const {
    std::string all = what < names.size() ? std::string(names[what]) : std::to_string(what + 1);
    return amount ? all + " " + std::to_string(*amount) : all;
  }
};

// A player that the game brings.
struct OwnPlayer {
  const char* name;
  const char* meaning;
};

// What stands between commas, without the blanks around it.
namespace detail {
inline std::vector<std::string> listed(const std::string& text) {
  std::vector<std::string> parts;
  for (std::size_t at = 0; at <= text.size();) {
    const std::size_t comma = text.find(',', at);
    const std::size_t end = comma == std::string::npos ? text.size() : comma;
    const std::size_t first = text.find_first_not_of(' ', at);
    if (first < end) parts.push_back(text.substr(first, text.find_last_not_of(' ', end - 1) + 1 - first));
    at = end + 1;
  }
  return parts;
}
}  // namespace detail

}  // namespace habanera
