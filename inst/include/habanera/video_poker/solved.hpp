#pragma once

#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <utility>
#include <vector>

#include "habanera/chance/work_bound.hpp"
#include "habanera/game/choices.hpp"
#include "habanera/video_poker/keep_rules.hpp"
#include "habanera/video_poker/keep_worth.hpp"
#include "habanera/video_poker/like_hands.hpp"
#include "habanera/video_poker/players.hpp"
#include "habanera/video_poker/video_poker.hpp"

namespace habanera {

// A deck made ready for many pay tables of the same categories: its book, and one of all hands that are alike.
class SolvedDeck {
 public:
  SolvedDeck(const HandRules& rules, std::vector<Card> deck, std::size_t size)
      : book_(std::make_shared<const KeepBook>(rules, std::move(deck), size)) {
    LikeHands(rules, book_->deck(), size).each([&](const KeepBook::Hand& hand, double like) {
      hands_.push_back({hand, like});
    });
  }

  // The mean pay of best play.
  double mean_pay(const std::vector<std::int64_t>& pays, const WorkBound& bound) const {
    const KeepWorth worth(book_, pays);
    WorkClock work(bound.pause);
    double sum = 0;
    for (const auto& [hand, like] : hands_) {
      work.tick();
      const KeepWorth::AllWays ways = worth(hand);
      sum += like * ways[worth.best(ways)];
    }
    return sum / book_->sets().ways(book_->sets().cards(), book_->size());
  }

 private:
  std::shared_ptr<const KeepBook> book_;
  std::vector<std::pair<KeepBook::Hand, double>> hands_;
};

// What a player keeps and what he should, told by the number of the first rule of a list that describes it; where none
// does by the number of rules and of cards kept.
class KeepMistakes {
 public:
  struct Mistake {
    double how_often = 0, loss = 0;
    double dearest = 0;           // the loss of the example
    VideoPoker::Position example;  // with what was kept there
    std::size_t best = 0;
  };
  using Found = std::map<std::pair<std::size_t, std::size_t>, Mistake>;  // by what is kept, and should be

  KeepMistakes(const VideoPokerRules& rules, KeepList described) : game_(rules), rules_(rules), described_(described) {}

  Found operator()(const Player<VideoPoker::View>& player, const WorkBound& bound) {
    const KeepWorth& worth = rules_.worth->get();
    const double all = worth.book().sets().ways(game_.cards_used(), rules_.worth->size());
    WorkClock work(bound.pause);
    Found found;
    game_.each_like_hand([&](const KeepBook::Hand& hand, double like) {
      work.tick();
      const KeepWorth::AllWays ways = worth(hand);
      const std::size_t best = worth.best(ways);
      VideoPoker::Position position = game_.dealt(hand);
      for (const auto& [kept, chance] : chances_of_moves(player, game_.view(position, 0), game_.moves(position))) {
        const double cost = ways[best] - ways[kept];
        if (cost > rounding * static_cast<double>(rules_.stake))
          note(found, position, kept, best, chance * like / all, cost);
      }
    });
    return found;
  }

 private:
  static constexpr double rounding = 1e-9;

  void note(Found& found, const VideoPoker::Position& position, std::size_t kept, std::size_t best, double chance,
            double cost) {
    Mistake& mistake = found[{label(position, kept), label(position, best)}];
    mistake.how_often += chance;
    mistake.loss += chance * cost;
    if (cost <= mistake.dearest) return;
    mistake.dearest = cost;
    mistake.example = position;
    mistake.example.kept = kept;
    mistake.best = best;
  }
  std::size_t label(const VideoPoker::Position& position, std::size_t kept) {
    const std::size_t rule = described_.rule_of(position.dealt, kept);
    return rule < described_.size() ? rule : rule + KeepWorth::count_of(kept);
  }

  VideoPoker game_;
  VideoPokerRules rules_;
  KeepList described_;
};

}  // namespace habanera
