#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <utility>
#include <vector>

#include "habanera/chance/random.hpp"
#include "habanera/chance/stop_sign.hpp"
#include "habanera/chance/words.hpp"
#include "habanera/hand/evaluator.hpp"
#include "habanera/hand/table.hpp"
#include "habanera/run/blocks.hpp"

namespace habanera {

inline constexpr std::size_t most_showdown_seats = 10;
// A pot in parts that any number of seats can share.
inline constexpr std::uint64_t whole_pot = 2520;

// Who has what before it comes to a showdown: the cards that are known, how many more each seat and the board have, and
// the cards that these can be.
struct ShowdownSpec {
  std::vector<std::vector<Card>> seats;
  std::vector<std::size_t> unknown;  // of each seat
  std::vector<Card> board;
  std::size_t board_unknown = 0;
  std::vector<Card> rest;
  std::size_t own_cards = 0;  // so many of a seat's own count, the others are the board's; 0: any
};

// What came of boards: of each seat how often it won alone, shared, and lost, and its shares of the pot, and their
// squares, in parts of whole_pot.
struct ShowdownTally {
  std::array<std::uint64_t, most_showdown_seats> win{}, tie{}, lose{}, share{}, squares{};
  std::uint64_t boards = 0;

  // So many boards on which the seats had these strengths.
  template <class Strengths>
  void add(const Strengths& strength, std::size_t seats, std::uint64_t times = 1) {
    boards += times;
    auto best = strength[0];
    for (std::size_t seat = 0; seat < seats; ++seat) best = std::max(best, strength[seat]);
    std::uint64_t winners = 0;
    for (std::size_t seat = 0; seat < seats; ++seat) winners += strength[seat] == best;
    const std::uint64_t part = whole_pot / winners;
    for (std::size_t seat = 0; seat < seats; ++seat) {
      if (strength[seat] != best) {
        lose[seat] += times;
        continue;
      }
      (winners == 1 ? win : tie)[seat] += times;
      share[seat] += part * times;
      squares[seat] += part * part * times;
    }
  }
  void merge(const ShowdownTally& other) {
    for (std::size_t seat = 0; seat < most_showdown_seats; ++seat) {
      win[seat] += other.win[seat];
      tie[seat] += other.tie[seat];
      lose[seat] += other.lose[seat];
      share[seat] += other.share[seat];
      squares[seat] += other.squares[seat];
    }
    boards += other.boards;
  }
};

// Strength of hands of single cards (no two alike, none wild) from tables, else by the evaluator.
class StrengthReader {
 public:
  StrengthReader(const HandRules& rules, std::size_t cards, bool singles)
      : evaluate_(rules), strength_(rules), at_least_(rules.size) {
    if (singles && !rules.dealt_order && rules.ranks <= 16)
      table_ = std::make_shared<HandTable>(rules, cards, std::min(cards, most_of_a_rank(rules)), 0);
    if (table_) table_->make_places();
  }

  // With tables of its own, for another thread: what suits make is found when it is asked for.
  StrengthReader copy() const {
    StrengthReader other = *this;
    if (table_) other.table_ = std::make_shared<HandTable>(*table_);
    return other;
  }

  bool has_table() const { return table_ != nullptr; }
  HandTable& table() { return *table_; }
  std::size_t rank(Card card) const { return evaluate_.rules().rank[card]; }
  std::size_t suit(Card card) const { return evaluate_.rules().suit[card]; }
  std::size_t size() const { return at_least_; }

  std::uint64_t operator()(const Card* cards, std::size_t count) {
    if (!table_) return strength_(evaluate_(cards, count));
    HandTable::Node node = table_->start();
    for (std::size_t i = 0; i < count; ++i) node = table_->next(node, rank(cards[i]));
    return std::max(table_->by_ranks(node), by_suits(cards, count));
  }

  // The best that a suit makes, as a strength or as its place; of tables.
  std::uint64_t by_suits(const Card* cards, std::size_t count) {
    std::uint64_t best = 0;
    each_suit(cards, count, [&](std::uint32_t ranks) { best = std::max(best, table_->by_suit(ranks, 0)); });
    return best;
  }
  std::uint32_t suit_place(const Card* cards, std::size_t count) const {
    std::uint32_t best = 0;
    each_suit(cards, count, [&](std::uint32_t ranks) { best = std::max(best, table_->suit_place(ranks)); });
    return best;
  }

 private:
  // The ranks of each suit of which as many are held as count.
  template <class Use>
  void each_suit(const Card* cards, std::size_t count, Use&& use) const {
    std::array<std::uint32_t, most_suits> masks{};
    std::array<std::uint8_t, most_suits> sizes{};
    for (std::size_t i = 0; i < count; ++i) {
      if (suit(cards[i]) == HandRules::no_suit) continue;
      masks[suit(cards[i])] |= std::uint32_t{1} << rank(cards[i]);
      ++sizes[suit(cards[i])];
    }
    for (std::size_t at = 0; at < evaluate_.rules().suits; ++at)
      if (sizes[at] >= at_least_) use(masks[at]);
  }

  // Of single cards there is one in each suit, and those without a suit.
  static std::size_t most_of_a_rank(const HandRules& rules) {
    std::vector<std::size_t> cards(rules.ranks, 0);
    for (std::size_t kind = 0; kind < rules.rank.size(); ++kind)
      if (!rules.wild[kind] && rules.rank[kind] < rules.ranks) ++cards[rules.rank[kind]];
    return *std::max_element(cards.begin(), cards.end());
  }

  HandEvaluator evaluate_;
  HandStrength strength_;
  std::size_t at_least_;
  std::shared_ptr<HandTable> table_;
};

// Calls use(hand, filled) for each choice of `left` more of these cards, put into the hand behind those `filled`.
template <class Hand, class Use>
void each_choice_into(Hand& hand, const std::vector<Card>& cards, std::size_t left, std::size_t from,
                      std::size_t filled, Use&& use) {
  if (left == 0) return use(filled);
  for (std::size_t i = from; i + left <= cards.size(); ++i) {
    hand[filled] = cards[i];
    each_choice_into(hand, cards, left - 1, i + 1, filled + 1, use);
  }
}

// The strength of the best hand of so many own cards with the others from the board.
inline std::uint64_t best_of_own(StrengthReader& read, std::size_t own_cards, const std::vector<Card>& own,
                                 const std::vector<Card>& board) {
  std::array<Card, 32> hand{};
  std::uint64_t best = 0;
  const std::size_t others = std::min(read.size() - own_cards, board.size());
  each_choice_into(hand, own, own_cards, 0, 0, [&](std::size_t filled) {
    each_choice_into(hand, board, others, 0, filled,
                     [&](std::size_t all) { best = std::max(best, read(hand.data(), all)); });
  });
  return best;
}

// Deals what is unknown, and compares the seats.
class Showdown {
 public:
  Showdown(ShowdownSpec spec, StrengthReader reader)
      : spec_(std::move(spec)), read_(std::move(reader)), taken_(spec_.rest.size(), false) {
    for (std::size_t seat = 0; seat < spec_.seats.size(); ++seat) {
      own_[seat] = spec_.seats[seat];
      own_[seat].resize(own_[seat].size() + spec_.unknown[seat]);
    }
    board_ = spec_.board;
    board_.resize(board_.size() + spec_.board_unknown);
  }

  // Looks at the sign while it works.
  void heed(StopSign& sign) { glance_.heed(sign); }

  // Every way to deal what is unknown, once.
  const ShowdownTally& every() {
    deal_seat(0, 0, spec_.unknown.empty() ? 0 : spec_.unknown[0]);
    if (spec_.seats.size() == 2) add_two();
    return tally_;
  }

  // Trials of the cards dealt at random.
  void run(std::uint64_t seed, std::uint64_t begin, std::uint64_t end) {
    std::vector<Card> rest = spec_.rest;
    for (std::uint64_t trial = begin; trial < end; ++trial) {
      RandomChance chance(seed, trial, lane::deal);
      rest = spec_.rest;
      std::size_t next = 0;
      const auto draw = [&] {
        std::swap(rest[next], rest[next + static_cast<std::size_t>(chance.below(rest.size() - next))]);
        return rest[next++];
      };
      for (std::size_t seat = 0; seat < spec_.seats.size(); ++seat)
        for (std::size_t i = spec_.seats[seat].size(); i < own_[seat].size(); ++i) own_[seat][i] = draw();
      for (std::size_t i = spec_.board.size(); i < board_.size(); ++i) board_[i] = draw();
      compare();
    }
  }
  const ShowdownTally& tally() const { return tally_; }

 private:
  using Nodes = std::array<HandTable::Node, most_showdown_seats>;
  using Suits = std::array<std::uint64_t, most_showdown_seats>;  // four bits for each suit

  // The unknown cards of a seat, from one place of the rest on; then those of the next; then the board.
  void deal_seat(std::size_t seat, std::size_t from, std::size_t left) {
    if (seat == spec_.seats.size()) return deal_board();
    if (left == 0) return deal_seat(seat + 1, 0, seat + 1 < spec_.seats.size() ? spec_.unknown[seat + 1] : 0);
    for (std::size_t place = from; place < spec_.rest.size(); ++place) {
      if (taken_[place]) continue;
      taken_[place] = true;
      own_[seat][own_[seat].size() - left] = spec_.rest[place];
      deal_seat(seat, place + 1, left - 1);
      taken_[place] = false;
    }
  }

  void deal_board() {
    open_.clear();
    for (std::size_t place = 0; place < spec_.rest.size(); ++place)
      if (!taken_[place]) open_.push_back(spec_.rest[place]);
    // Four bits hold a suit of nine cards with what is added to find as many as count, but for a single one.
    if (!read_.has_table() || read_.size() < 2 || spec_.own_cards > 0 || spec_.board_unknown == 0)
      return slow_board(0, spec_.board_unknown);
    sort_open();
    Nodes nodes{};
    Suits suits{};
    for (std::size_t seat = 0; seat < own_.size() && seat < spec_.seats.size(); ++seat) {
      nodes[seat] = read_.table().start();
      for (const Card card : own_[seat]) advance(nodes[seat], suits[seat], card);
      for (const Card card : spec_.board) advance(nodes[seat], suits[seat], card);
    }
    board(0, spec_.board_unknown, nodes, suits);
  }

  // Cards of a rank side by side, and from each place on how many there are of each rank.
  void sort_open() {
    std::stable_sort(open_.begin(), open_.end(), [&](Card a, Card b) { return read_.rank(a) < read_.rank(b); });
    rest_by_rank_.assign(open_.size() + 1, {});
    for (std::size_t from = open_.size(); from-- > 0;) {
      rest_by_rank_[from] = rest_by_rank_[from + 1];
      auto& rest = rest_by_rank_[from];
      if (rest.empty() || rest.back().first != read_.rank(open_[from])) rest.push_back({read_.rank(open_[from]), 0});
      ++rest.back().second;
    }
  }

  void slow_board(std::size_t from, std::size_t left) {
    if (left == 0) return compare();
    for (std::size_t place = from; place < open_.size(); ++place) {
      board_[board_.size() - left] = open_[place];
      slow_board(place + 1, left - 1);
    }
  }

  static std::uint64_t nibble(std::size_t suit) {
    return suit == HandRules::no_suit ? 0 : std::uint64_t{1} << 4 * suit;
  }
  void advance(HandTable::Node& node, std::uint64_t& suits, Card card) {
    node = read_.table().next(node, read_.rank(card));
    suits += nibble(read_.suit(card));
  }

  // Card by card, all seats at once, so that boards that begin alike share their beginnings.
  void board(std::size_t from, std::size_t left, const Nodes& nodes, const Suits& suits) {
    if (left == 1) return last_card(from, nodes, suits);
    for (std::size_t place = from; place + left <= open_.size(); ++place) {
      board_[board_.size() - left] = open_[place];
      Nodes more;
      Suits held;
      for (std::size_t seat = 0; seat < spec_.seats.size(); ++seat) {
        more[seat] = nodes[seat];
        held[seat] = suits[seat];
        advance(more[seat], held[seat], open_[place]);
      }
      board(place + 1, left - 1, more, held);
    }
  }

  void last_card(std::size_t from, const Nodes& nodes, const Suits& suits) {
    const std::size_t seats = spec_.seats.size();
    // Eight or more in four bits: as many of a suit as count.
    const std::uint64_t bias = 0x1111111111111111ULL * (8 - read_.size()), high = 0x8888888888888888ULL;
    std::array<const std::uint32_t*, most_showdown_seats> after;
    for (std::size_t seat = 0; seat < seats; ++seat) after[seat] = read_.table().places_after(nodes[seat]);
    std::array<std::uint32_t, most_showdown_seats> place;
    // Where no suit can make anything, cards of a rank are taken together.
    std::uint64_t may_flush = 0;
    for (std::size_t seat = 0; seat < seats; ++seat)
      may_flush |= (suits[seat] + bias + 0x1111111111111111ULL) & high;
    if (may_flush == 0) {
      for (const auto& [rank, copies] : rest_by_rank_[from]) {
        for (std::size_t seat = 0; seat < seats; ++seat) place[seat] = after[seat][rank];
        count(place, copies);
      }
      return glance_.step();
    }
    for (std::size_t at = from; at < open_.size(); ++at) {
      const Card card = open_[at];
      const std::size_t rank = read_.rank(card);
      const std::uint64_t suit = nibble(read_.suit(card));
      for (std::size_t seat = 0; seat < seats; ++seat) {
        place[seat] = after[seat][rank];
        if ((suits[seat] + suit + bias) & high) {
          board_.back() = card;
          place[seat] = std::max(place[seat], suited(seat));
        }
      }
      count(place, 1);
    }
    glance_.step();
  }

  void count(const std::array<std::uint32_t, most_showdown_seats>& place, std::size_t times) {
    if (spec_.seats.size() == 2) {
      of_two_[(place[0] > place[1]) + 2 * (place[0] == place[1])] += times;
    } else {
      tally_.add(place, spec_.seats.size(), times);
    }
  }

  // What came of two seats is counted apart and added up once: the first has lost, won, or shared.
  void add_two() {
    const std::array<std::uint64_t, 2> lost{0, 1}, won{1, 0}, shared{1, 1};
    tally_.add(lost, 2, of_two_[0]);
    tally_.add(won, 2, of_two_[1]);
    tally_.add(shared, 2, of_two_[2]);
    of_two_ = {};
  }

  std::uint32_t suited(std::size_t seat) {
    const std::size_t count = whole_hand(seat);
    return read_.suit_place(hand_.data(), count);
  }
  std::size_t whole_hand(std::size_t seat) {
    std::copy(own_[seat].begin(), own_[seat].end(), hand_.begin());
    std::copy(board_.begin(), board_.end(), hand_.begin() + static_cast<std::ptrdiff_t>(own_[seat].size()));
    return own_[seat].size() + board_.size();
  }

  void compare() {
    std::array<std::uint64_t, most_showdown_seats> strength;
    for (std::size_t seat = 0; seat < spec_.seats.size(); ++seat)
      strength[seat] = spec_.own_cards == 0 ? read_(hand_.data(), whole_hand(seat))
                                             : best_of_own(read_, spec_.own_cards, own_[seat], board_);
    tally_.add(strength, spec_.seats.size());
    glance_.step();
  }

  ShowdownSpec spec_;
  StrengthReader read_;
  StopGlance glance_;
  std::vector<bool> taken_;
  std::array<std::vector<Card>, most_showdown_seats> own_;
  std::vector<Card> board_, open_;
  std::vector<std::vector<std::pair<std::size_t, std::size_t>>> rest_by_rank_;
  std::array<Card, 32> hand_{};
  std::array<std::uint64_t, 3> of_two_{};
  ShowdownTally tally_;
};

// Trials first to first + count - 1.
inline ShowdownTally play_showdowns(const ShowdownSpec& spec, const StrengthReader& reader, std::uint64_t seed,
                                    std::uint64_t first, std::uint64_t count, const Crew& crew) {
  struct Worker {
    Showdown showdown;
    std::uint64_t seed;
    ShowdownTally merged{};
    void heed(StopSign& sign) { showdown.heed(sign); }
    void run(std::uint64_t begin, std::uint64_t end) { showdown.run(seed, begin, end); }
    void merge(const Worker& other) { merged.merge(other.all()); }
    ShowdownTally all() const {
      ShowdownTally sum = merged;
      sum.merge(showdown.tally());
      return sum;
    }
  };
  return run_blocks(first, count, crew, [&] {
           return Worker{Showdown(spec, reader.copy()), seed};
         }).all();
}

}  // namespace habanera
