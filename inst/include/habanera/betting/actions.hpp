#pragma once

#include <vector>

#include "habanera/betting/chips.hpp"
#include "habanera/game/vocabulary.hpp"

namespace habanera {

// What can happen in a hand that is bet on, for those who look on.
struct BettingAction {
  enum What : int { gets, is_turned, folds, checks, calls, bets, raises, goes_all_in, takes_it, wins, shares };

  static std::vector<Word> words() {
    return {{gets, "gets"}, {is_turned, "is_turned"}, {folds, "folds"}, {checks, "checks"}, {calls, "calls"},
            {bets, "bets"}, {raises, "raises"}, {goes_all_in, "goes_all_in"}, {takes_it, "takes_it"}, {wins, "wins"},
            {shares, "shares"}};
  }
  static What of(const MoveMade& made) {
    if (made.move == BettingMove::fold) return folds;
    if (made.move == BettingMove::check) return checks;
    if (made.move == BettingMove::call) return calls;
    return made.all_in ? goes_all_in : made.on_top ? raises : bets;
  }
};

}  // namespace habanera
