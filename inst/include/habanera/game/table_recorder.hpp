#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/game/table_event.hpp"

namespace habanera {

// Writes the trace of a game: each move with the sizes of all zones after it, and, of one step, where every card
// lay then.
class TableRecorder {
 public:
  struct Step {
    std::size_t depth;  // 0, or how deep within other games
    std::uint64_t round;
    std::size_t seat;
    int action;
    std::vector<Card> cards;
    std::vector<std::size_t> sizes;
    std::int64_t value;
    Moves open;
    std::int64_t owed, pot;
    std::size_t line;
    std::int64_t running_count;
    double true_count;
  };
  static constexpr int laying_out = -1;  // the action of the first step of a table

  // Keeps the zones as they lay after step `kept`, counted from 1.
  explicit TableRecorder(std::size_t kept = 0) : kept_(kept) {}

  template <class Table>
  void laid_out(const std::vector<Card>&, std::size_t, const Table& table) {
    rounds_.push_back(0);
    happened(table, {no_seat, laying_out});
  }
  void round_begins(std::uint64_t round) { rounds_.back() = round; }

  template <class Table>
  void happened(const Table& table, const TableEvent& event) {
    steps_.push_back({rounds_.size() - 1, rounds_.back(), event.seat, event.action,
                      std::vector<Card>(event.cards, event.cards + event.count), zones_of(table),
                      event.value, event.open, event.owed, event.pot, event.line, event.running_count,
                      event.true_count});
    if (steps_.size() != kept_) return;
    for (std::size_t zone = 0; zone < table.zones(); ++zone) {
      zones_.emplace_back();
      table.each_card(zone, [&](Card card) { zones_.back().push_back(card); });
    }
  }
  void cleared() { rounds_.pop_back(); }

  const std::vector<Step>& steps() const { return steps_; }
  const std::vector<std::vector<Card>>& zones() const { return zones_; }

 private:
  template <class Table>
  static std::vector<std::size_t> zones_of(const Table& table) {
    std::vector<std::size_t> sizes(table.zones(), 0);
    for (std::size_t zone = 0; zone < table.zones(); ++zone)
      table.each_card(zone, [&](Card) { ++sizes[zone]; });
    return sizes;
  }

  std::size_t kept_;
  std::vector<std::uint64_t> rounds_;  // of the game and the games within it
  std::vector<Step> steps_;
  std::vector<std::vector<Card>> zones_;
};

}  // namespace habanera
