#pragma once

#include <cstddef>
#include <functional>
#include <memory>
#include <stdexcept>
#include <utility>
#include <vector>

#include "habanera/game/player.hpp"

namespace habanera {

// What was open at a choice, and what each of these moves was worth.
struct Judgement {
  Moves moves;
  std::vector<double> worth;
};

// The moves of a seat have all been judged.
struct AllJudged : std::runtime_error {
  using std::runtime_error::runtime_error;
};

// Makes moves that were made before, and asks somebody else what each was worth.
template <class View>
class JudgedPlayer : public Player<View> {
 public:
  using Judge = std::function<std::vector<double>(const View&, Moves, PlayerChance&)>;

  JudgedPlayer(std::vector<std::size_t> made, Judge judge, std::vector<Judgement>& judgements)
      : made_(std::move(made)), judge_(std::move(judge)), judgements_(judgements) {}

  std::unique_ptr<Player<View>> copy() const override { return std::make_unique<JudgedPlayer>(*this); }
  bool decides_by_view() const override { return false; }

  std::size_t choose(const View& view, Moves moves, PlayerChance& chance) override {
    if (judgements_.size() == made_.size()) throw AllJudged("all moves are judged");
    const std::size_t move = made_[judgements_.size()];
    judgements_.push_back({moves, moves.count() == 1 ? std::vector<double>{0} : judge_(view, moves, chance)});
    if (!moves.has(move)) throw AllJudged("the moves end here: this one may not be made");
    return move;
  }

 private:
  std::vector<std::size_t> made_;
  Judge judge_;
  std::vector<Judgement>& judgements_;
};

}  // namespace habanera
