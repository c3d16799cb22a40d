#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <string>
#include <type_traits>
#include <unordered_map>
#include <utility>
#include <vector>

#include "habanera/betting/boards.hpp"
#include "habanera/run/blocks.hpp"

namespace habanera {

// Of a board whose last cards are turned without more betting: how often the hands of a row beat those of a row of the
// other side, in all pairs of them, each as likely as it is listed.
struct Runout {
  std::size_t seat_rows = 0, other_rows = 0;
  std::vector<double> wins;  // row by row of the seat
};

// Boards that are the same but for the names of suits, once, and the chance of all of them.
struct WholeBoard {
  std::vector<Card> cards;
  double ways = 0;
};

inline std::vector<WholeBoard> whole_boards(const Boards& boards, const BoardHoldings& from,
                                            const WorkBound::Pause& pause) {
  std::vector<WholeBoard> all;
  std::unordered_map<std::string, std::size_t> known;
  std::size_t looked_at = 0;
  each_set(from.left, boards.to_come(from), [&](const std::vector<Card>& cards, double ways) {
    if ((++looked_at & 0xfff) == 0) pause();
    std::vector<Card> open = from.cards;
    open.insert(open.end(), cards.begin(), cards.end());
    const auto [found, is_new] = known.emplace(boards.told(open, from.cards.size()), all.size());
    if (is_new) all.push_back({open, 0});
    all[found->second].ways += ways;
  });
  return all;
}

// Adds up, board by board, which rows beat which. On a board hands are gone through from the weakest to the best; how
// many of each row are below is kept for each part that a hand can have, so that what cannot be held together drops out
// as in Showing. `Number` counts the hands of a row on one board: whole ones where cards are single and hands have no
// weights.
template <class Number>
class RunoutSums {
 public:
  RunoutSums(const Boards& boards, const BoardHoldings& from, std::size_t seat, const std::vector<WholeBoard>& whole)
      : boards_(boards), list_(boards.hands()), from_(from), own_(*from.sides[seat]), other_(*from.sides[1 - seat]),
        whole_(whole), width_((other_.rows() + lanes - 1) / lanes * lanes), below_(list_.lesser_parts() * width_) {
    // On so many boards the pairs of two rows are less than 2^16.
    most_small_ = std::max<std::size_t>(1, 65535 / (most_in_row(own_) * most_in_row(other_)));
    for (const WholeBoard& board : whole) {
      Sums& sums = sums_[board.ways];
      sums.small.resize(own_.rows() * width_);
      sums.all.resize(own_.rows() * width_);
    }
  }

  void run(std::uint64_t begin, std::uint64_t end) {
    for (std::uint64_t i = begin; i < end; ++i) add(whole_[i]);
    for (auto& [ways, sums] : sums_) settle(sums);
  }
  void merge(const RunoutSums& other) {
    for (auto& [ways, sums] : sums_) {
      const std::vector<double>& more = other.sums_.at(ways).all;
      for (std::size_t i = 0; i < more.size(); ++i) sums.all[i] += more[i];
    }
  }
  // Each board by how often it comes, of `all`.
  Runout total(double all) const {
    Runout runout{own_.rows(), other_.rows(), std::vector<double>(own_.rows() * other_.rows(), 0)};
    for (const auto& [ways, sums] : sums_)
      for (std::size_t row = 0; row < own_.rows(); ++row)
        for (std::size_t other = 0; other < other_.rows(); ++other)
          runout.wins[row * other_.rows() + other] += ways / all * sums.all[row * width_ + other];
    return runout;
  }

 private:
  static constexpr std::size_t lanes = 16;
  static constexpr bool singles = std::is_integral_v<Number>;

  struct Shown {
    std::uint64_t strength;
    std::uint32_t at;  // among the hands of its side
  };
  // Of boards that come as often: of the last ones, and of all before.
  struct Sums {
    std::vector<Number> small;
    std::vector<double> all;
    std::size_t boards = 0;
  };

  void add(const WholeBoard& board) {
    std::fill(below_.begin(), below_.end(), Number{0});
    left_ = from_.left;
    for (std::size_t i = from_.cards.size(); i < board.cards.size(); ++i) --left_[board.cards[i]];
    sort(own_, board, own_shown_);
    if (&own_ != &other_) sort(other_, board, other_shown_);
    const std::vector<Shown>& others = &own_ == &other_ ? own_shown_ : other_shown_;
    Sums& sums = sums_.at(board.ways);
    std::size_t met = 0;
    for (const Shown& shown : own_shown_) {
      for (; met < others.size() && others[met].strength < shown.strength; ++met) put(other_.all[others[met].at]);
      read(own_.all[shown.at], sums.small);
    }
    if (++sums.boards == most_small_) settle(sums);
  }
  static std::size_t most_in_row(const SideHoldings& side) {
    std::vector<std::size_t> hands(side.rows(), 0);
    for (const Holding& holding : side.all) ++hands[holding.row];
    return *std::max_element(hands.begin(), hands.end());
  }
  static void settle(Sums& sums) {
    for (std::size_t i = 0; i < sums.all.size(); ++i) sums.all[i] += static_cast<double>(sums.small[i]);
    std::fill(sums.small.begin(), sums.small.end(), Number{0});
    sums.boards = 0;
  }

  void sort(const SideHoldings& side, const WholeBoard& board, std::vector<Shown>& shown) const {
    shown.clear();
    for (std::uint32_t at = 0; at < side.all.size(); ++at)
      if (can_be_held(side.all[at].hand)) shown.push_back({boards_.strength(side.all[at].hand, board.cards), at});
    std::sort(shown.begin(), shown.end(),
              [](const Shown& one, const Shown& other) { return one.strength < other.strength; });
  }
  bool can_be_held(std::uint32_t hand) const {
    if (!singles) return list_.ways(hand, left_) > 0;
    const Card* cards = list_.cards(hand);
    for (std::size_t i = 0; i < list_.size(); ++i)
      if (left_[cards[i]] == 0) return false;
    return true;
  }

  void put(const Holding& holding) {
    const HandList::Part* parts = list_.parts(holding.hand);
    for (std::size_t i = 0; i + 1 < list_.parts_each(); ++i) {
      if (parts[i].sign == 0) continue;
      Number& below = below_[parts[i].number * width_ + holding.row];
      if constexpr (singles) ++below;
      else below += holding.weight * list_.ways_with(holding.hand, i, left_);
    }
  }
  // Of hands below none is the same hand, so that the whole of it is no part of them.
  void read(const Holding& holding, std::vector<Number>& sums) const {
    const HandList::Part* parts = list_.parts(holding.hand);
    Number* to = &sums[holding.row * width_];
    double each = 1;
    if constexpr (!singles) each = holding.weight * list_.ways(holding.hand, left_);
    for (std::size_t at = 0; at < width_; at += lanes) {
      std::array<Number, lanes> met{};
      for (std::size_t i = 0; i + 1 < list_.parts_each(); ++i)
        add_times(each * parts[i].sign, &below_[parts[i].number * width_ + at], met.data());
      for (std::size_t lane = 0; lane < lanes; ++lane) to[at + lane] = static_cast<Number>(to[at + lane] + met[lane]);
    }
  }
  // Of single cards a part counts once, or is taken away once.
  static void add_times(double factor, const Number* from, Number* to) {
    if constexpr (!singles) {
      for (std::size_t lane = 0; lane < lanes; ++lane) to[lane] += factor * from[lane];
    } else if (factor > 0) {
      for (std::size_t lane = 0; lane < lanes; ++lane) to[lane] = static_cast<Number>(to[lane] + from[lane]);
    } else {
      for (std::size_t lane = 0; lane < lanes; ++lane) to[lane] = static_cast<Number>(to[lane] - from[lane]);
    }
  }

  const Boards& boards_;
  const HandList& list_;
  const BoardHoldings& from_;
  const SideHoldings& own_;
  const SideHoldings& other_;
  const std::vector<WholeBoard>& whole_;
  std::size_t width_, most_small_ = 1;
  std::vector<Number> below_;
  std::vector<double> left_;
  std::vector<Shown> own_shown_, other_shown_;
  std::map<double, Sums> sums_;
};

// How often rows of a seat beat those of the other, the last cards being turned at once.
inline Runout run_out(const Boards& boards, const BoardHoldings& from, std::size_t seat, const Crew& crew) {
  const std::vector<WholeBoard> whole = whole_boards(boards, from, crew.pause);
  const double all = combinations(boards.cards_left(from), boards.to_come(from));
  const bool singles = std::all_of(from.left.begin(), from.left.end(), [](double left) { return left <= 1; });
  const auto is_plain = [](const Holding& holding) { return holding.weight == 1; };
  const bool plain = std::all_of(from.sides[0]->all.begin(), from.sides[0]->all.end(), is_plain) &&
                     std::all_of(from.sides[1]->all.begin(), from.sides[1]->all.end(), is_plain);
  constexpr std::uint64_t block = 16;
  if (singles && plain && whole.size() < 1000000) {
    using Whole = RunoutSums<std::uint16_t>;
    return run_blocks(0, whole.size(), crew, [&] { return Whole(boards, from, seat, whole); }, block).total(all);
  }
  // Sums of what is no whole number hang on their order.
  const Crew alone(1, crew.pause);
  using Weighted = RunoutSums<double>;
  return run_blocks(0, whole.size(), alone, [&] { return Weighted(boards, from, seat, whole); }, block).total(all);
}

}  // namespace habanera
