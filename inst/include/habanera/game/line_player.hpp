#pragma once

#include <cstddef>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "habanera/game/chance_table.hpp"
#include "habanera/game/condition.hpp"
#include "habanera/game/player.hpp"

namespace habanera {

// "If condition then move, with chance".
struct PlayLine {
  std::optional<SeenCondition> condition;  // none: always
  std::vector<std::string> moves;      // of these the first that is open, as the game tells it, or its first words
  double chance = 1;
};

// Goes down a list of lines: the first whose condition holds and whose move is open is played, or with its chance; else
// the list goes on.
template <class View>
class LinePlayer : public Player<View> {
 public:
  using See = std::function<SeenThings(const View&)>;
  using Word = std::function<std::string(const View&, std::size_t)>;  // what a move is called

  LinePlayer(std::vector<PlayLine> lines, See see, Word word)
      : lines_(std::make_shared<const std::vector<PlayLine>>(std::move(lines))), see_(std::move(see)),
        word_(std::move(word)) {}

  std::unique_ptr<Player<View>> copy() const override { return std::make_unique<LinePlayer>(*this); }

  std::size_t choose(const View& view, Moves moves, PlayerChance& chance) override {
    std::size_t chosen = none;
    each_that_fits(view, moves, [&](std::size_t line, std::size_t move, double how_often) {
      if (how_often < 1 && !chance.happens(how_often)) return true;
      chosen = move;
      line_ = line + 1;
      return false;
    });
    if (chosen == none) refuse();
    return chosen;
  }
  std::size_t line() const override { return line_; }

  bool tells_chances() const override { return true; }
  std::vector<double> chances(const View& view, Moves moves, const Past<View>&) const override {
    std::vector<double> all(moves.count(), 0);
    double left = 1;
    each_that_fits(view, moves, [&](std::size_t, std::size_t move, double how_often) {
      all[moves.place_of(move)] += left * how_often;
      left *= 1 - how_often;
      return left > 0;
    });
    if (left > 1e-12) refuse();
    return all;
  }

 private:
  static constexpr std::size_t none = 64;

  // Calls use(line, move, chance) for each line that fits, so long as it returns true.
  template <class Use>
  void each_that_fits(const View& view, Moves moves, Use&& use) const {
    std::optional<SeenThings> seen;
    std::vector<std::string> words;
    moves.each([&](std::size_t move) { words.push_back(word_(view, move)); });
    for (std::size_t line = 0; line < lines_->size(); ++line) {
      const PlayLine& each = (*lines_)[line];
      const std::size_t move = move_called(each.moves, words, moves);
      if (move == none) continue;
      if (each.condition) {
        if (!seen) seen = see_(view);
        if (!each.condition->holds(*seen)) continue;
      }
      if (!use(line, move, each.chance)) return;
    }
  }
  // The move of this name; of "bet" the first that begins so, where it has sizes.
  static std::size_t move_called(const std::vector<std::string>& names, const std::vector<std::string>& words,
                                 Moves moves) {
    for (const std::string& name : names) {
      const std::size_t found = move_called(name, words, moves);
      if (found != none) return found;
    }
    return none;
  }
  static std::size_t move_called(const std::string& name, const std::vector<std::string>& words, Moves moves) {
    std::size_t found = none;
    for (std::size_t i = 0; i < words.size(); ++i) {
      if (words[i] == name) return moves.at(i);
      if (found == none && words[i].compare(0, name.size() + 1, name + " ") == 0) found = moves.at(i);
    }
    return found;
  }
  [[noreturn]] static void refuse() {
    throw NoSuchRow("no line of the rules that it plays by fits what is seen; end them with \"else\"");
  }

  std::shared_ptr<const std::vector<PlayLine>> lines_;
  See see_;
  Word word_;
  std::size_t line_ = 0;
};

}  // namespace habanera
