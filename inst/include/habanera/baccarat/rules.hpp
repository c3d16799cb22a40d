#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <stdexcept>
#include <string>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/question/words.hpp"

namespace habanera {

// A total is the last digit of a sum.
inline constexpr std::size_t baccarat_totals = 10;
inline constexpr std::size_t most_baccarat_side_bets = 8;

// Two or three cards in the order dealt.
class BaccaratHand {
 public:
  void add(Card card) { cards_[size_++] = card; }
  std::size_t size() const { return size_; }
  Card operator[](std::size_t place) const { return cards_[place]; }
  const Card* begin() const { return cards_.data(); }
  const Card* end() const { return cards_.data() + size_; }

 private:
  std::array<Card, 3> cards_{};
  std::uint8_t size_ = 0;
};

// What the hands of a round come to.
struct BaccaratResult {
  std::uint8_t player = 0, banker = 0;                      // totals
  bool player_draws = false, banker_draws = false;

  static constexpr std::size_t count = 4 * baccarat_totals * baccarat_totals;
  std::size_t number() const {
    return ((player * baccarat_totals + banker) * 2 + player_draws) * 2 + banker_draws;
  }
  std::size_t cards() const { return 4u + player_draws + banker_draws; }
};

// A bet beside the table. What it asks has an index of its own, and all of them add up to one.
struct BaccaratSideBet {
  std::vector<std::uint32_t> by_result;         // by the number of the result; none: not asked for
  std::vector<std::uint32_t> player_opening, banker_opening;  // by two kinds of card in the order dealt
  std::optional<Words> player_cards, banker_cards, all_cards;  // by all cards of a hand, or of both
  std::vector<std::int64_t> net;                // by index

  bool asks_all_cards() const { return player_cards || banker_cards || all_cards; }
};

// Money is whole, in the unit that makes every payment whole.
struct BaccaratRules {
  enum Bet : std::size_t { on_player, on_banker, on_tie, on_side };

  std::vector<std::uint8_t> values;   // of each kind of card, below ten
  std::vector<std::uint32_t> alike;   // the same for kinds that nothing in the rules tells apart
  std::size_t cards = 0;              // in the shoe
  std::size_t cut_after = 0;          // rounds begin while fewer cards are gone; 0: one round
  std::size_t burn = 0;
  std::size_t natural_from = 8;       // a total of two cards with which nobody draws
  std::array<bool, baccarat_totals> player_draws{};  // by his total
  // By the banker's total and the value of the player's third card; in the last place where he has none.
  std::array<std::array<bool, baccarat_totals + 1>, baccarat_totals> banker_draws{};
  std::int64_t stake = 1;
  std::int64_t player_wins = 1, tie_wins = 8;
  std::array<std::int64_t, baccarat_totals> banker_wins{};  // by the total that he wins with
  std::vector<BaccaratSideBet> side_bets;
  std::size_t bet_on = on_banker;     // which bet the seat is said to lay; from on_side the side bets

  std::uint8_t total(const BaccaratHand& hand) const {
    std::size_t sum = 0;
    for (const Card card : hand) sum += values[card];
    return static_cast<std::uint8_t>(sum % baccarat_totals);
  }
  // A total with one more card.
  std::uint8_t with(std::uint8_t total, Card card) const {
    const std::size_t sum = total + std::size_t{values[card]};
    return static_cast<std::uint8_t>(sum < baccarat_totals ? sum : sum - baccarat_totals);
  }
  bool is_natural(std::size_t player, std::size_t banker) const {
    return player >= natural_from || banker >= natural_from;
  }

  std::int64_t net_player(const BaccaratResult& result) const {
    return result.player == result.banker ? 0 : result.player > result.banker ? player_wins : -stake;
  }
  std::int64_t net_banker(const BaccaratResult& result) const {
    return result.player == result.banker ? 0 : result.player < result.banker ? banker_wins[result.banker] : -stake;
  }
  std::int64_t net_tie(const BaccaratResult& result) const {
    return result.player == result.banker ? tie_wins : -stake;
  }
};

inline void check_baccarat_rules(const BaccaratRules& rules) {
  if (rules.cards < rules.burn + 6)
    throw std::invalid_argument("a shoe of " + std::to_string(rules.cards) + " cards, " +
                                std::to_string(rules.burn) + " of them burned, is too small for a round");
  if (rules.side_bets.size() > most_baccarat_side_bets) throw std::invalid_argument("there are too many side bets");
}

}  // namespace habanera
