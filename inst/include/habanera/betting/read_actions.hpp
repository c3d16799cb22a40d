#pragma once

#include <cstddef>
#include <string>
#include <vector>

#include "habanera/betting/betting.hpp"

namespace habanera {

// What moves that somebody wrote down lead to.
struct ReadActions {
  std::size_t seat = 0;             // who speaks next, from 1; 0: nobody
  std::size_t turned = 0;           // how many cards all see by then
  std::vector<std::string> open;    // what may be done
  std::string text;                 // the moves as the game tells them
  std::string wrong;                // from where on the text is no move; empty where all of it is
};

// Moves as text, from the start: "check bet call / bet". Strokes may be left out.
inline ReadActions read_actions(const Betting& game, const std::string& text) {
  ReadActions read;
  Betting::Position position = game.start();
  const auto words = [&](auto&& use) {
    const auto view = game.view(position, game.chips_of(position).turn);
    game.moves(position).each([&](std::size_t move) { use(move, game.move_text(view, move)); });
  };
  for (std::size_t at = text.find_first_not_of(" /"); at != std::string::npos; at = text.find_first_not_of(" /", at)) {
    std::size_t best = 64, length = 0;
    if (!game.chips_of(position).is_over()) {
      words([&](std::size_t move, const std::string& word) {
        const std::size_t end = at + word.size();
        if (text.compare(at, word.size(), word) != 0 || word.size() <= length) return;
        if (end < text.size() && text[end] != ' ' && text[end] != '/') return;
        best = move;
        length = word.size();
      });
    }
    if (best == 64) {
      read.wrong = text.substr(at);
      return read;
    }
    game.move(position, best);
    at += length;
  }
  read.text = game.actions_text(position);
  read.turned = game.rules().board.size() + game.chips().shared_by(game.chips_of(position).street);
  if (game.chips_of(position).is_over()) return read;
  read.seat = game.chips_of(position).turn + std::size_t{1};
  words([&](std::size_t, const std::string& word) { read.open.push_back(word); });
  return read;
}

}  // namespace habanera
