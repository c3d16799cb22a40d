#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <tuple>
#include <utility>
#include <vector>

#include "habanera/baccarat/rules.hpp"
#include "habanera/baccarat/side_bets.hpp"

namespace habanera {

// The law of a round from a shuffled shoe: openings by the values and classes of their cards, then third cards by
// value. Chances are sums of whole numbers of ways to lay six cards, which up to eight packs of 52 is exact.
class BaccaratLaw {
 public:
  BaccaratLaw(const BaccaratRules& rules, const BaccaratSideBets& side_bets)
      : rules_(rules), side_bets_(side_bets), player_classes_(side_bets.player_classes().example.size()),
        banker_classes_(side_bets.banker_classes().example.size()),
        ways_(player_classes_ * banker_classes_ * BaccaratResult::count, 0) {}

  // `counts` of each kind of card there are; calls `use(result, player_pair, banker_pair, chance)`, the openings being
  // examples of their classes.
  template <class Use>
  void operator()(const std::vector<double>& counts, Use&& use) {
    count_values(counts);
    for (const auto& [opening, ways] : openings(counts)) complete(opening, ways);
    double all = 1;
    for (std::size_t card = 0; card < 6; ++card) all *= cards_ - static_cast<double>(card);
    for (std::size_t place = 0; place < ways_.size(); ++place) {
      if (ways_[place] == 0) continue;
      const std::size_t classes = place / BaccaratResult::count;
      use(result_of(place % BaccaratResult::count), side_bets_.player_classes().example[classes / banker_classes_],
          side_bets_.banker_classes().example[classes % banker_classes_], ways_[place] / all);
    }
  }

 private:
  using Values = std::array<double, baccarat_totals>;
  // The values of two cards, the lower first, and the class of the opening.
  struct Two {
    std::uint8_t low, high;
    std::uint32_t class_of;
    bool operator<(const Two& other) const {
      return std::tie(low, high, class_of) < std::tie(other.low, other.high, other.class_of);
    }
  };
  struct Opening {
    Two player, banker;
  };

  void count_values(const std::vector<double>& counts) {
    for (std::size_t kind = 0; kind < counts.size(); ++kind) {
      values_[rules_.values[kind]] += counts[kind];
      cards_ += counts[kind];
    }
  }

  // Two cards of kinds that there are, numbered by what they are.
  struct Pairs {
    std::map<Two, std::size_t> number;
    std::vector<Two> all;
    std::size_t of(const Two& two) {
      const auto [found, is_new] = number.try_emplace(two, all.size());
      if (is_new) all.push_back(two);
      return found->second;
    }
  };
  Two two(Card first, Card second, const BaccaratSideBets::Classes& classes) const {
    const std::uint8_t a = rules_.values[first], b = rules_.values[second];
    return {std::min(a, b), std::max(a, b), classes.of_pair[side_bets_.pair(first, second)]};
  }

  // In how many ways four cards in a row make each opening.
  std::vector<std::pair<Opening, double>> openings(const std::vector<double>& counts) const {
    std::vector<Card> kinds;
    for (std::size_t kind = 0; kind < counts.size(); ++kind)
      if (counts[kind] > 0) kinds.push_back(static_cast<Card>(kind));
    Pairs players, bankers;
    std::vector<std::size_t> player_number, banker_number;
    for (const Card first : kinds) {
      for (const Card second : kinds) {
        player_number.push_back(players.of(two(first, second, side_bets_.player_classes())));
        banker_number.push_back(bankers.of(two(first, second, side_bets_.banker_classes())));
      }
    }
    std::vector<double> ways(players.all.size() * bankers.all.size(), 0);
    std::vector<double> left;
    for (const Card kind : kinds) left.push_back(counts[kind]);
    for (std::size_t pair = 0; pair < player_number.size(); ++pair) {
      double dealt = take(left, pair / kinds.size());
      dealt *= take(left, pair % kinds.size());
      if (dealt > 0) add_bankers(left, dealt, banker_number, &ways[player_number[pair] * bankers.all.size()]);
      ++left[pair / kinds.size()];
      ++left[pair % kinds.size()];
    }
    std::vector<std::pair<Opening, double>> all;
    for (std::size_t place = 0; place < ways.size(); ++place)
      if (ways[place] > 0)
        all.push_back({{players.all[place / bankers.all.size()], bankers.all[place % bankers.all.size()]},
                       ways[place]});
    return all;
  }
  static double take(std::vector<double>& left, std::size_t kind) { return left[kind]--; }

  static void add_bankers(std::vector<double>& left, double dealt, const std::vector<std::size_t>& number,
                          double* ways) {
    std::size_t pair = 0;
    for (std::size_t first = 0; first < left.size(); ++first) {
      const double begun = dealt * take(left, first);
      for (std::size_t second = 0; second < left.size(); ++second, ++pair)
        if (begun > 0 && left[second] > 0) ways[number[pair]] += begun * left[second];
      ++left[first];
    }
  }

  // Third cards by the rules. A round of fewer than six cards stands for all ways to lay those that do not come.
  void complete(const Opening& opening, double ways) {
    Values left = values_;
    for (const Two* two : {&opening.player, &opening.banker}) {
      --left[two->low];
      --left[two->high];
    }
    double* here = &ways_[(opening.player.class_of * banker_classes_ + opening.banker.class_of) *
                          BaccaratResult::count];
    BaccaratResult result{total(opening.player), total(opening.banker)};
    if (rules_.is_natural(result.player, result.banker)) {
      here[result.number()] += ways * (cards_ - 4) * (cards_ - 5);
    } else if (!rules_.player_draws[result.player]) {
      banker_acts(result, left, cards_ - 4, baccarat_totals, ways * (cards_ - 5), here);
    } else {
      result.player_draws = true;
      const std::uint8_t begun = result.player;
      for (std::size_t third = 0; third < baccarat_totals; ++third) {
        if (left[third] <= 0) continue;
        result.player = static_cast<std::uint8_t>((begun + third) % baccarat_totals);
        const double now = ways * left[third]--;
        banker_acts(result, left, cards_ - 5, third, now, here);
        ++left[third];
      }
    }
  }
  static std::uint8_t total(const Two& two) {
    return static_cast<std::uint8_t>((two.low + two.high) % baccarat_totals);
  }

  void banker_acts(BaccaratResult result, const Values& left, double cards, std::size_t third, double ways,
                   double* here) const {
    const std::uint8_t begun = result.banker;
    if (!rules_.banker_draws[begun][third]) {
      here[result.number()] += ways * cards;
      return;
    }
    result.banker_draws = true;
    for (std::size_t value = 0; value < baccarat_totals; ++value) {
      if (left[value] <= 0) continue;
      result.banker = static_cast<std::uint8_t>((begun + value) % baccarat_totals);
      here[result.number()] += ways * left[value];
    }
  }

  static BaccaratResult result_of(std::size_t number) {
    BaccaratResult result;
    result.banker_draws = number % 2;
    result.player_draws = number / 2 % 2;
    result.banker = static_cast<std::uint8_t>(number / 4 % baccarat_totals);
    result.player = static_cast<std::uint8_t>(number / 4 / baccarat_totals);
    return result;
  }

  const BaccaratRules& rules_;
  const BaccaratSideBets& side_bets_;
  std::size_t player_classes_, banker_classes_;
  Values values_{};
  double cards_ = 0;
  std::vector<double> ways_;  // by the classes of the openings and the result
};

}  // namespace habanera
