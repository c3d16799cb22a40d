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

// What is done where a seat sees something, by the text of the view: moves with their chances, which sum to one.
struct ChanceTable {
  struct Row {
    std::size_t move;
    double chance;
  };
  std::unordered_map<std::string, std::vector<Row>> rows;
};

// There is no row for what a seat sees, or it tells of a move that is not open.
struct NoSuchRow : std::runtime_error {
  using std::runtime_error::runtime_error;
};

// Plays by a table of chances.
template <class View>
class ChanceTablePlayer : public Player<View> {
 public:
  explicit ChanceTablePlayer(std::shared_ptr<const ChanceTable> table) : table_(std::move(table)) {}

  std::unique_ptr<Player<View>> copy() const override { return std::make_unique<ChanceTablePlayer>(*this); }

  std::size_t choose(const View& view, Moves moves, PlayerChance& chance) override {
    double left = 1;
    std::size_t last = moves.first();
    for (const ChanceTable::Row& row : rows_for(view, moves)) {
      if (row.chance <= 0) continue;
      last = row.move;
      // The last is sure, up to rounding.
      if (row.chance >= left * (1 - 1e-12) || chance.happens(row.chance / left)) return row.move;
      left -= row.chance;
    }
    return last;
  }

  bool tells_chances() const override { return true; }
  std::vector<double> chances(const View& view, Moves moves, const Past<View>&) const override {
    std::vector<double> all(moves.count(), 0);
    for (const ChanceTable::Row& row : rows_for(view, moves)) all[moves.place_of(row.move)] += row.chance;
    return all;
  }

 private:
  const std::vector<ChanceTable::Row>& rows_for(const View& view, Moves moves) const {
    const std::string sees = view.text();
    const auto found = table_->rows.find(sees);
    if (found == table_->rows.end()) throw NoSuchRow("the table has no row for \"" + sees + "\"");
    for (const ChanceTable::Row& row : found->second)
      if (row.chance > 0 && !moves.has(row.move))
        throw NoSuchRow("where \"" + sees + "\" is seen, the table has a move that is not open");
    return found->second;
  }

  std::shared_ptr<const ChanceTable> table_;
};

}  // namespace habanera
