#pragma once

#include <vector>

#include "habanera/game/vocabulary.hpp"

namespace habanera {

// What can happen in a game of War.
struct WarActions {
  enum Action { turns, lays, ties, takes, takes_back, discards, leaves, scores, is_short, is_out, begins_inner,
                ends_inner, wins, draws };
  static std::vector<Word> actions() {
    return {{turns, "turns"}, {lays, "lays"}, {ties, "ties"}, {takes, "takes"}, {takes_back, "takes_back"},
            {discards, "discards"}, {leaves, "leaves"}, {scores, "scores"}, {is_short, "is_short"}, {is_out, "is_out"},
            {begins_inner, "begins_inner"}, {ends_inner, "ends_inner"}, {wins, "wins"}, {draws, "draws"}};
  }
};

}  // namespace habanera
