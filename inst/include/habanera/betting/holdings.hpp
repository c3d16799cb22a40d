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
#include "habanera/game/solver.hpp"

namespace habanera {

inline double combinations(double n, std::size_t k) {
  double all = 1;
  for (std::size_t i = 0; i < k; ++i) all *= (n - static_cast<double>(i)) / static_cast<double>(i + 1);
  return all < 0 ? 0 : all;
}

// Calls use(cards, ways) for each set of so many cards, told by their kinds in rising order, of which there are
// `left`; `ways`: how many sets of single cards it stands for.
template <class Use>
void each_set(const std::vector<double>& left, std::size_t size, Use&& use) {
  std::vector<Card> cards;
  const auto add = [&](const auto& again, std::size_t kind, std::size_t need, double ways) -> void {
    if (need == 0) return use(std::as_const(cards), ways);
    if (kind == left.size()) return;
    for (std::size_t many = 0; many <= need && static_cast<double>(many) <= left[kind]; ++many) {
      if (many > 0) cards.push_back(static_cast<Card>(kind));
      again(again, kind + 1, need - many, ways * combinations(left[kind], many));
    }
    cards.resize(cards.size() - std::min(need, static_cast<std::size_t>(left[kind])));
  };
  add(add, 0, size, 1);
}

// All hands that a seat can hold, each once: kinds that no rule tells apart are one. What two seats cannot both hold is
// left out by inclusion and exclusion over the parts of a hand: of all hands of the other those are taken that hold a
// card of it, those put back that hold two, and so on. Of several cards alike a part is taken as often as it can be
// chosen.
class HandList {
 public:
  struct Part {
    std::uint32_t number;  // the same of all hands that have it
    double sign;           // 0: none
  };

  HandList(const std::vector<double>& copies, std::size_t size) : size_(size), parts_each_(std::size_t{1} << size) {
    each_set(copies, size, [&](const std::vector<Card>& cards, double) {
      if (count_ == most) throw OutOfReach("a seat can hold more than " + std::to_string(most) + " hands");
      cards_.insert(cards_.end(), cards.begin(), cards.end());
      part(cards);
      ++count_;
    });
    // Each whole hand is a part of its own, behind all others.
    for (std::size_t hand = 0; hand < count_; ++hand)
      parts_[(hand + 1) * parts_each_ - 1].number = static_cast<std::uint32_t>(numbers_.size() + hand);
  }

  static constexpr std::size_t most = 300000;

  std::size_t size() const { return size_; }
  std::size_t count() const { return count_; }
  const Card* cards(std::size_t hand) const { return &cards_[hand * size_]; }
  std::size_t parts_each() const { return parts_each_; }
  // The last part of each hand is the whole of it, which only this hand has; the others are numbered first.
  std::size_t parts() const { return numbers_.size() + count_; }
  std::size_t lesser_parts() const { return numbers_.size(); }
  const Part* parts(std::size_t hand) const { return &parts_[hand * parts_each_]; }

  // How many sets of single cards a hand stands for, of those left; and how many of them hold one certain set of single
  // cards that is such a part of it.
  double ways(std::size_t hand, const std::vector<double>& left) const { return ways_with(hand, 0, left); }
  double ways_with(std::size_t hand, std::size_t part, const std::vector<double>& left) const {
    double all = 1;
    const Card* held = cards(hand);
    for (std::size_t i = 0; i < size_;) {
      std::size_t many = 0, taken = 0;
      for (const Card card = held[i]; i < size_ && held[i] == card; ++i, ++many) taken += part >> i & 1;
      all *= combinations(left[held[i - 1]] - static_cast<double>(taken), many - taken);
    }
    return all;
  }

 private:
  // The parts of a hand by the places of their cards, as bits; of cards alike the first ones stand for all.
  void part(const std::vector<Card>& cards) {
    for (std::size_t bits = 0; bits < parts_each_; ++bits) {
      const bool is_whole = bits + 1 == parts_each_;
      double sign = 1;
      std::vector<Card> taken;
      for (std::size_t i = 0; i < size_ && sign != 0;) {
        std::size_t many = 0, chosen = 0;
        const Card card = cards[i];
        for (; i < size_ && cards[i] == card; ++i, ++many) {
          if ((bits >> i & 1) == 0) continue;
          if (chosen < many) sign = 0;
          ++chosen;
          taken.push_back(card);
        }
        sign *= combinations(static_cast<double>(many), chosen) * (chosen % 2 == 0 ? 1 : -1);
      }
      std::uint32_t number = 0;
      if (sign != 0 && !is_whole)
        number = numbers_.emplace(taken, static_cast<std::uint32_t>(numbers_.size())).first->second;
      parts_.push_back({number, sign});
    }
  }

  std::size_t size_, parts_each_, count_ = 0;
  std::vector<Card> cards_;
  std::vector<Part> parts_;
  std::map<std::vector<Card>, std::uint32_t> numbers_;
};

// A hand that a seat may hold beside what all see.
struct Holding {
  std::uint32_t hand;       // its number in the list
  std::uint32_t row;        // what it is told as
  double weight;            // of the hands that its seat may be dealt; 1
  double ways;              // see HandList
  std::uint64_t strength;   // where all cards are turned
};

// The same of two single cards, without what these do not need: `twin` is where the other seat may hold the same hand.
struct TwoCards {
  static constexpr std::uint32_t no_twin = ~std::uint32_t{0};
  Card one, other;
  std::uint32_t row, twin;
  double weight;
};

// All that one seat may hold beside some board, the weakest first where all cards are turned.
struct SideHoldings {
  std::vector<Holding> all;
  std::vector<TwoCards> two;            // of hands of two single cards
  std::vector<double> adds;             // of each part of each hand: how often it is added
  std::vector<std::uint32_t> shown_by;  // of each row a hand that is told so
  std::vector<std::uint32_t> before;    // of each row that which it was before the last cards were turned
  std::size_t rows() const { return shown_by.size(); }
};

// Cards that all see, group by group as they are turned, and what both seats may hold beside them. Boards that differ
// only by the names of suits are one.
struct BoardHoldings {
  std::vector<Card> cards;
  std::vector<double> left;  // of each kind: what is not on the board
  std::array<std::shared_ptr<const SideHoldings>, 2> sides;
  struct Next {
    std::uint32_t board;
    double chance;  // that it is turned, both hands being known
  };
  bool is_turned = false;        // whether what comes next is listed
  std::vector<Next> next;
  bool is_whole = false;         // all cards are turned
  bool is_of_two = false;        // hands are two single cards
  // Of both sides where hands of the same strength end, strength by strength.
  std::vector<std::array<std::uint32_t, 2>> levels;
};

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

  // A position in which a seat holds this hand, of a row or not, beside a board.
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
    std::copy_n(list_.cards(hand), list_.size(), position.own.begin() + static_cast<std::ptrdiff_t>(seat * list_.size()));
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
    for (const Holding& holding : made->all)
      for (std::size_t part = 0; part < list_.parts_each(); ++part)
        made->adds.push_back(list_.parts(holding.hand)[part].sign == 0 ? 0 : list_.ways_with(holding.hand, part, board.left));
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
