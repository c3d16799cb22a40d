#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "habanera/betting/betting.hpp"
#include "habanera/betting/hand_list.hpp"
#include "habanera/betting/holdings.hpp"

namespace habanera {

// The boards that can come, made as they are asked for.
class Boards {
 public:
  explicit Boards(const Betting& game) : game_(game), list_(alike(game), game.own_cards()) {
    for (const Street& street : game.chips().rules().streets)
      if (street.shared > 0) groups_.push_back(street.shared);
    weigh();
    all_.push_back(made(game.rules().board, alike(game), nullptr));
  }

  const HandList& hands() const { return list_; }
  std::size_t size() const { return all_.size(); }
  const BoardHoldings& at(std::size_t board) const { return *all_[board]; }
  std::size_t open(std::size_t board) const { return all_[board]->cards.size(); }

  // What can be turned next beside a board.
  const std::vector<BoardHoldings::Next>& next(std::uint32_t number) {
    BoardHoldings& board = *all_[number];
    if (board.is_turned) return board.next;
    board.is_turned = true;
    std::unordered_map<std::string, std::size_t> known;
    const std::size_t size = next_group(board);
    const double all = combinations(cards_left(board), size);
    each_set(board.left, size, [&](const std::vector<Card>& cards, double ways) {
      std::vector<Card> open = board.cards;
      open.insert(open.end(), cards.begin(), cards.end());
      const auto [found, is_new] = known.emplace(told(open, board.cards.size()), board.next.size());
      if (is_new) {
        board.next.push_back({static_cast<std::uint32_t>(all_.size()), 0});
        std::vector<double> left = board.left;
        for (const Card card : cards) --left[card];
        all_.push_back(made(open, left, &board));
      }
      board.next[found->second].chance += ways / all;
    });
    return board.next;
  }

  // How many more cards come with the next group; and in all.
  std::size_t next_group(const BoardHoldings& board) const {
    std::size_t open = game_.rules().board.size();
    for (const std::size_t group : groups_) {
      if (open == board.cards.size()) return group;
      open += group;
    }
    return 0;
  }
  std::size_t to_come(const BoardHoldings& board) const {
    return game_.rules().board.size() + game_.cards_used() - game_.cards_at_first() - board.cards.size();
  }
  // Cards that are neither held nor on the board.
  double cards_left(const BoardHoldings& board) const {
    double all = 0;
    for (const double copies : board.left) all += copies;
    return all - static_cast<double>(2 * game_.own_cards());
  }

  // A position in which a seat holds this hand beside a board, after some course of moves.
  BettingPosition position(std::uint32_t board, std::uint32_t hand, std::size_t seat, std::uint32_t course) const {
    BettingPosition made = game_.start();
    set_hand(made, hand, seat);
    const std::vector<Card>& open = all_[board]->cards;
    made.open = static_cast<std::uint8_t>(open.size());
    std::copy(open.begin(), open.end(), made.shared.begin());
    made.node = course;
    for (std::uint32_t at = course; at != 0; at = game_.rules().tree->node(at).before) ++made.moves;
    return made;
  }

  // As a board is told by itself, the same for all that differ by the names of suits: its first cards in the groups in
  // which they were turned, the others as one.
  std::string told(const std::vector<Card>& open, std::size_t turned) const {
    ToldCards cards(game_.table());
    std::size_t at = 0;
    const auto add_group = [&](std::size_t end) {
      cards.begin_group();
      while (at < end) cards.add(open[at++]);
    };
    if (!game_.rules().board.empty()) add_group(game_.rules().board.size());
    for (std::size_t group = 0; at < turned; ++group) add_group(at + groups_[group]);
    add_group(open.size());
    cards.tell();
    return text_of(cards);
  }
  std::uint64_t strength(std::uint32_t hand, const std::vector<Card>& open) const {
    return game_.rules().strength(list_.cards(hand), list_.size(), open.data(), open.size());
  }

 private:
  static std::vector<double> alike(const Betting& game) {
    std::vector<double> all(game.table().copies.size(), 0);
    for (std::size_t kind = 0; kind < all.size(); ++kind)
      all[game.table().stands_for[kind]] += game.table().copies[kind];
    return all;
  }
  static std::string text_of(const ToldCards& cards) {
    std::string all;
    for (std::size_t i = 0; i < cards.size(); ++i) {
      all += static_cast<char>(cards.card(i) & 0xff);
      all += static_cast<char>(cards.card(i) >> 8);
    }
    return all;
  }
  void set_hand(BettingPosition& position, std::uint32_t hand, std::size_t seat) const {
    std::copy_n(list_.cards(hand), list_.size(),
                position.own.begin() + static_cast<std::ptrdiff_t>(seat * list_.size()));
    position.dealt = static_cast<std::uint8_t>(game_.cards_at_first());
  }

  // Of each seat the weights of the hands that it may be dealt; none where it may be any.
  void weigh() {
    if (!game_.openings()) return;
    std::map<std::vector<Card>, std::uint32_t> numbers;
    for (std::uint32_t hand = 0; hand < list_.count(); ++hand)
      numbers.emplace(std::vector<Card>(list_.cards(hand), list_.cards(hand) + list_.size()), hand);
    for (std::size_t seat = 0; seat < 2; ++seat) {
      const std::vector<WeightedHand>& listed = game_.openings()->listed()[seat];
      if (listed.empty()) continue;
      weights_[seat].assign(list_.count(), 0);
      for (WeightedHand hand : listed) {
        std::sort(hand.cards.begin(), hand.cards.end());
        weights_[seat][numbers.at(hand.cards)] += hand.weight;
      }
    }
  }

  std::shared_ptr<BoardHoldings> made(const std::vector<Card>& open, const std::vector<double>& left,
                                      const BoardHoldings* before) const {
    auto board = std::make_shared<BoardHoldings>();
    board->cards = open;
    board->left = left;
    board->is_whole = to_come(*board) == 0;
    board->is_of_two = list_.size() == 2 &&
                       std::all_of(left.begin(), left.end(), [](double copies) { return copies <= 1; });
    const auto one = side(*board, 0, before);
    const auto other = weights_[0].empty() && weights_[1].empty() ? one : side(*board, 1, before);
    if (board->is_of_two) {
      list_two(*one, *other);
      if (other != one) list_two(*other, *one);
    }
    board->sides = {one, other};
    if (board->is_whole) find_levels(*board);
    return board;
  }

  std::shared_ptr<SideHoldings> side(const BoardHoldings& board, std::size_t seat, const BoardHoldings* before) const {
    auto made = std::make_shared<SideHoldings>();
    std::unordered_map<std::string, std::uint32_t> known;
    std::vector<std::uint32_t> row_before(before ? list_.count() : 0, 0);
    if (before)
      for (const Holding& holding : before->sides[seat]->all) row_before[holding.hand] = holding.row;
    BettingPosition position = game_.start();
    position.open = static_cast<std::uint8_t>(board.cards.size());
    std::copy(board.cards.begin(), board.cards.end(), position.shared.begin());
    for (std::uint32_t hand = 0; hand < list_.count(); ++hand) {
      const double weight = weights_[seat].empty() ? 1 : weights_[seat][hand], ways = list_.ways(hand, board.left);
      if (weight == 0 || ways == 0) continue;
      set_hand(position, hand, seat);
      const auto [row, is_new] = known.emplace(text_of(game_.view(position, seat).told_cards()),
                                               static_cast<std::uint32_t>(made->rows()));
      if (is_new) {
        made->shown_by.push_back(hand);
        made->before.push_back(before ? row_before[hand] : 0);
      }
      made->all.push_back({hand, row->second, weight, ways, board.is_whole ? strength(hand, board.cards) : 0});
    }
    if (board.is_whole)
      std::stable_sort(made->all.begin(), made->all.end(),
                       [](const Holding& one, const Holding& other) { return one.strength < other.strength; });
    // Two single cards are met without.
    if (board.is_of_two) return made;
    for (const Holding& holding : made->all)
      for (std::size_t part = 0; part < list_.parts_each(); ++part)
        made->adds.push_back(list_.parts(holding.hand)[part].sign == 0
                                 ? 0 : list_.ways_with(holding.hand, part, board.left));
    return made;
  }

  void list_two(SideHoldings& side, const SideHoldings& other) const {
    std::vector<std::uint32_t> twins(list_.count(), TwoCards::no_twin);
    for (std::uint32_t at = 0; at < other.all.size(); ++at) twins[other.all[at].hand] = at;
    for (const Holding& holding : side.all) {
      const Card* cards = list_.cards(holding.hand);
      side.two.push_back({cards[0], cards[1], holding.row, twins[holding.hand], holding.weight});
    }
  }

  static void find_levels(BoardHoldings& board) {
    std::array<std::uint32_t, 2> at{};
    const auto& one = board.sides[0]->all;
    const auto& other = board.sides[1]->all;
    while (at[0] < one.size() || at[1] < other.size()) {
      const std::uint64_t none = ~std::uint64_t{0};
      const std::uint64_t level = std::min(at[0] < one.size() ? one[at[0]].strength : none,
                                           at[1] < other.size() ? other[at[1]].strength : none);
      while (at[0] < one.size() && one[at[0]].strength == level) ++at[0];
      while (at[1] < other.size() && other[at[1]].strength == level) ++at[1];
      board.levels.push_back(at);
    }
  }

  const Betting& game_;
  HandList list_;
  std::vector<std::size_t> groups_;
  std::array<std::vector<double>, 2> weights_;
  std::vector<std::shared_ptr<BoardHoldings>> all_;
};

}  // namespace habanera
