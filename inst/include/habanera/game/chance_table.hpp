#pragma once

#include <cstddef>
#include <memory>
#include <stdexcept>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "habanera/game/player.hpp"

namespace habanera {

// What is done where a seat sees something, by the text of the view: moves, as the game tells them, with their chances,
// which sum to one.
struct ChanceTable {
  struct Row {
    std::string move;
    double chance;
  };
  std::unordered_map<std::string, std::vector<Row>> rows;
};

// There is no row for what a seat sees, or it tells of a move that is not open.
struct NoSuchRow : std::runtime_error {
  using std::runtime_error::runtime_error;
};

// One of the moves, by the chances of all in their order.
inline std::size_t chosen_by(const std::vector<double>& chances, Moves moves, PlayerChance& chance) {
  double left = 1;
  std::size_t last = 0;
  for (std::size_t i = 0; i < chances.size(); ++i) {
    if (chances[i] <= 0) continue;
    last = i;
    // The last is sure, up to rounding.
    if (chances[i] >= left * (1 - 1e-12) || chance.happens(chances[i] / left)) break;
    left -= chances[i];
  }
  return moves.at(last);
}

// Plays by a table of chances; where there is one move it needs no row.
template <class Game>
class ChanceTablePlayer : public Player<typename Game::View> {
 public:
  using View = typename Game::View;
  ChanceTablePlayer(std::shared_ptr<const Game> game, std::shared_ptr<const ChanceTable> table)
      : game_(std::move(game)), table_(std::move(table)) {}

  std::unique_ptr<Player<View>> copy() const override { return std::make_unique<ChanceTablePlayer>(*this); }

  std::size_t choose(const View& view, Moves moves, PlayerChance& chance) override {
    return chosen_by(chances(view, moves, {}), moves, chance);
  }

  bool tells_chances() const override { return true; }
  std::vector<double> chances(const View& view, Moves moves, const Past<View>&) const override {
    if (moves.is_one()) return {1};
    const std::string sees = view.text();
    const auto found = table_->rows.find(sees);
    if (found == table_->rows.end()) throw NoSuchRow("the table has no row for \"" + sees + "\"");
    std::vector<double> all;
    double sum = 0;
    moves.each([&](std::size_t move) {
      all.push_back(chance_of(found->second, game_->move_text(view, move)));
      sum += all.back();
    });
    if (sum < 1 - 1e-6) throw NoSuchRow("where \"" + sees + "\" is seen, the table has a move that is not open");
    return all;
  }

 private:
  static double chance_of(const std::vector<ChanceTable::Row>& rows, const std::string& move) {
    for (const ChanceTable::Row& row : rows)
      if (row.move == move) return row.chance;
    return 0;
  }

  std::shared_ptr<const Game> game_;  // for its words alone
  std::shared_ptr<const ChanceTable> table_;
};

}  // namespace habanera
