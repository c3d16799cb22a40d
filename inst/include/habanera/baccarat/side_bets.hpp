#pragma once

#include <cstddef>
#include <cstdint>
#include <initializer_list>
#include <map>
#include <optional>
#include <utility>
#include <vector>

#include "habanera/baccarat/rules.hpp"

namespace habanera {

// What side bets bring. Two cards of an opening that no bet tells apart are of one class.
class BaccaratSideBets {
 public:
  explicit BaccaratSideBets(const BaccaratRules& rules)
      : bets_(rules.side_bets), kinds_(rules.values.size()),
        player_classes_(classes(&BaccaratSideBet::player_opening)),
        banker_classes_(classes(&BaccaratSideBet::banker_opening)) {
    for (const BaccaratSideBet& bet : bets_)
      readings_.push_back({reading(bet.player_cards), reading(bet.banker_cards), reading(bet.all_cards)});
  }

  std::size_t size() const { return bets_.size(); }

  struct Classes {
    std::vector<std::uint32_t> of_pair;   // by two kinds
    std::vector<std::size_t> example;     // two kinds of each class
  };
  std::size_t pair(Card first, Card second) const { return first * kinds_ + second; }
  const Classes& player_classes() const { return player_classes_; }
  const Classes& banker_classes() const { return banker_classes_; }

  // What a bet that looks at openings and results brings: each opening by two kinds.
  std::int64_t net(std::size_t bet, const BaccaratResult& result, std::size_t player_pair,
                   std::size_t banker_pair) const {
    return bets_[bet].net[index(bet, result, player_pair, banker_pair)];
  }

  // What any bet brings.
  [[gnu::noinline]] std::int64_t net(std::size_t bet, const BaccaratResult& result, const BaccaratHand& player,
                                     const BaccaratHand& banker) const {
    std::size_t at = index(bet, result, pair(player[0], player[1]), pair(banker[0], banker[1]));
    Readings& asked = readings_[bet];
    at += read(asked.player, {&player}) + read(asked.banker, {&banker}) + read(asked.all, {&player, &banker});
    return bets_[bet].net[at];
  }

 private:
  // A game is of one thread, so that what reads its hands is, too.
  using MaybeReading = std::optional<Reading>;
  struct Readings {
    MaybeReading player, banker, all;
  };
  static MaybeReading reading(const std::optional<Words>& words) {
    return words ? MaybeReading(Reading(*words)) : std::nullopt;
  }
  static std::size_t read(MaybeReading& reading, std::initializer_list<const BaccaratHand*> hands) {
    if (!reading) return 0;
    reading->begin();
    for (const auto* hand : hands)
      for (const Card card : *hand) reading->draw(card);
    return reading->index();
  }

  std::size_t index(std::size_t bet, const BaccaratResult& result, std::size_t player_pair,
                    std::size_t banker_pair) const {
    const BaccaratSideBet& asked = bets_[bet];
    return at(asked.by_result, result.number()) + at(asked.player_opening, player_pair) +
           at(asked.banker_opening, banker_pair);
  }
  static std::size_t at(const std::vector<std::uint32_t>& steps, std::size_t place) {
    return steps.empty() ? 0 : steps[place];
  }

  Classes classes(std::vector<std::uint32_t> BaccaratSideBet::*opening) const {
    std::map<std::vector<std::uint32_t>, std::uint32_t> known;
    Classes all;
    for (std::size_t pair = 0; pair < kinds_ * kinds_; ++pair) {
      std::vector<std::uint32_t> told;
      for (const BaccaratSideBet& bet : bets_)
        if (!(bet.*opening).empty()) told.push_back((bet.*opening)[pair]);
      const auto [found, is_new] = known.try_emplace(told, static_cast<std::uint32_t>(known.size()));
      if (is_new) all.example.push_back(pair);
      all.of_pair.push_back(found->second);
    }
    return all;
  }

  std::vector<BaccaratSideBet> bets_;
  std::size_t kinds_;
  Classes player_classes_, banker_classes_;
  mutable std::vector<Readings> readings_;
};

}  // namespace habanera
