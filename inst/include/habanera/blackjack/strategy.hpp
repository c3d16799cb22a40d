#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <unordered_map>

#include "habanera/blackjack/rules.hpp"
#include "habanera/game/moves.hpp"

namespace habanera {

// What to do by one's own hand and the dealer's up card: a first choice, and another where that is not allowed. Rows
// are of totals and of pairs, and may be of the very cards of a hand, which win over its total, and of such a hand
// after a split, which win over both.
class StrategyTable {
 public:
  struct Cell {
    std::uint8_t first = BlackjackPieces::stand, otherwise = BlackjackPieces::stand;
    [[gnu::always_inline]] std::size_t among(Moves moves) const {
      if (moves.has(first)) return first;
      return moves.has(otherwise) ? otherwise : none;
    }
    bool operator==(const Cell& other) const { return first == other.first && otherwise == other.otherwise; }
  };
  static constexpr std::size_t none = 63;
  static constexpr std::size_t most_total = 32;
  using Row = std::array<Cell, 11>;  // by the value of the up card
  using RowsByCards = std::unordered_map<std::uint64_t, Row>;  // by cards_key()

  std::array<Row, most_total> hard{}, soft{};
  std::array<Row, 11> pair{};  // by the value of its cards
  std::array<bool, 11> plays_pair_by_total{};
  std::shared_ptr<const RowsByCards> by_cards;

  // Of what is held; after a split with the value of the cards that were split.
  static std::uint64_t cards_key(std::uint64_t held, std::uint8_t split_value = 0) {
    return held | static_cast<std::uint64_t>(split_value) << 52;
  }

  [[gnu::always_inline]] std::size_t choose(const BlackjackPieces& pieces, const BlackjackHand& hand, Moves moves,
                                            std::size_t up) const {
    const std::size_t meant = cell(pieces, hand, moves.has(BlackjackPieces::split), up).among(moves);
    if (meant != none) return meant;
    // A pair that should be split and may not is played by its total.
    const std::size_t by_total = total_cell(pieces, hand, up).among(moves);
    return by_total != none ? by_total : std::size_t{BlackjackPieces::stand};
  }

  bool surrenders_early(const BlackjackPieces& pieces, const BlackjackHand& hand, std::size_t hands,
                        std::size_t up) const {
    return cell(pieces, hand, pieces.may_split(hand, hands), up).first == BlackjackPieces::surrender;
  }

  [[gnu::always_inline]] const Cell& cell(const BlackjackPieces& pieces, const BlackjackHand& hand, bool may_split,
                                          std::size_t up) const {
    if (hand.pair && hand.cards == 2 && may_split && !plays_pair_by_total[hand.first]) return pair[hand.first][up];
    const Row* row = hand.from_split ? row_by_cards(cards_key(hand.held, hand.first)) : nullptr;
    if (!row) row = row_by_cards(cards_key(hand.held));
    return row ? (*row)[up] : total_cell(pieces, hand, up);
  }

  [[gnu::always_inline]] const Cell& total_cell(const BlackjackPieces& pieces, const BlackjackHand& hand,
                                                std::size_t up) const {
    return (pieces.is_soft(hand) ? soft : hard)[static_cast<std::size_t>(pieces.total(hand))][up];
  }

 private:
  [[gnu::always_inline]] const Row* row_by_cards(std::uint64_t key) const {
    if (!by_cards) return nullptr;
    const auto found = by_cards->find(key);
    return found == by_cards->end() ? nullptr : &found->second;
  }
};

}  // namespace habanera
