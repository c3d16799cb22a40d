#pragma once

// Blackjack from a shoe of six packs, one seat by a table; the dealer stands on 17 and looks for a natural; doubling
// any two cards, after splits too, splits to four hands, one card for split aces. Counted: each card as it is seen, a
// bet by the true count before the round, insurance from 3 on, five decisions by the count.
#include "deals.hpp"

namespace bare {

template <bool Counted>
class Blackjack {
 public:
  // What a round brought, in halves of its bet; `result`: lost, tied, won, won by a natural.
  struct Result {
    int net, staked, result;
  };

  Blackjack() : shoe_(points_of) {
    const char* hard = "HHHHHHHHHH" "HHHHHHHHHH" "HHHHHHHHHH" "HHHHHHHHHH" "HDDDDHHHHH" "DDDDDDDDHH" "DDDDDDDDDH"
                       "HHSSSHHHHH" "SSSSSHHHHH" "SSSSSHHHHH" "SSSSSHHHHH" "SSSSSHHHHH";
    const char* soft = "HHHDDHHHHH" "HHHDDHHHHH" "HHDDDHHHHH" "HHDDDHHHHH" "HDDDDHHHHH" "SddddSSHHH";
    const char* pair = "PPPPPPPPPP" "PPPPPPHHHH" "PPPPPPHHHH" "HHHPPHHHHH" "DDDDDDDDHH" "PPPPPHHHHH" "PPPPPPHHHH"
                       "PPPPPPPPPP" "PPPPPSPPSS" "SSSSSSSSSS";
    for (int total = 0; total < 22; ++total)
      for (int up = 1; up <= 10; ++up) {
        const int column = up == 1 ? 9 : up - 2;
        hard_[total][up] = total < 5 ? 'H' : total > 16 ? 'S' : hard[(total - 5) * 10 + column];
        soft_[total][up] = total < 13 ? 'H' : total > 18 ? 'S' : soft[(total - 13) * 10 + column];
        if (total >= 1 && total <= 10) pair_[total][up] = pair[(total - 1) * 10 + column];
      }
  }

  void begin(std::uint64_t trial) {
    shoe_.begin(trial);
    running_ = 0;
  }
  int dealt() const { return shoe_.drawn(); }
  int level() const {
    const int above = 52 * running_, left = 312 - shoe_.drawn();
    return above / left - (above % left != 0 && above < 0);
  }

  Result round() {
    const int one = draw(), up = draw(), two = draw(), hole = shoe_.draw();
    const bool natural = one + two == 11 && (one == 1 || two == 1), insured = Counted && up == 1 && level() >= 3;
    const bool dealers = up + hole == 11 && (up == 1 || hole == 1);
    Result found;
    if (dealers) found = natural ? Result{0, 2, tied} : Result{-2, 2, lost};
    else if (natural) found = {3, 2, won_by_natural};
    else found = play_out({one + two, 2, 1, one == 1 || two == 1, false, false, one}, one == two, up, hole);
    see(hole);
    if (insured) {
      found.net += dealers ? 2 : -1;
      ++found.staked;
    }
    return found;
  }

 private:
  enum { lost, tied, won, won_by_natural };
  struct Hand {
    int points, cards, bet;
    bool ace, from_split, of_aces;
    int first;
  };

  int draw() {
    const int card = shoe_.draw();
    see(card);
    return card;
  }
  void see(int card) {
    if constexpr (Counted) running_ += tag_[card];
  }

  static void add(Hand& hand, int card) {
    hand.points += card;
    hand.ace |= card == 1;
    ++hand.cards;
  }
  static int total(const Hand& hand) { return hand.points + (hand.ace && hand.points <= 11 ? 10 : 0); }

  Result play_out(const Hand& first, bool pair, int up, int hole) {
    hands_[0] = first;
    count_ = 1;
    bool live = false;
    for (int at = 0; at < count_; ++at) live |= play_hand(at, at == 0 && pair, up);
    Hand dealer{up + hole, 2, 0, up == 1 || hole == 1, false, false, up};
    if (live)
      while (total(dealer) < 17) add(dealer, draw());
    const int theirs = total(dealer);
    Result found{0, 0, tied};
    for (int at = 0; at < count_; ++at) {
      const Hand& hand = hands_[at];
      const int mine = total(hand);
      found.staked += 2 * hand.bet;
      if (mine > 21) found.net -= 2 * hand.bet;
      else if (theirs > 21 || mine > theirs) found.net += 2 * hand.bet;
      else if (mine < theirs) found.net -= 2 * hand.bet;
    }
    found.result = found.net < 0 ? lost : found.net > 0 ? won : tied;
    return found;
  }

  // Whether the hand is still to be compared.
  bool play_hand(int at, bool pair, int up) {
    Hand& hand = hands_[at];
    for (;;) {
      if (hand.cards == 1) {
        const int card = draw();
        pair = card == hand.first;
        add(hand, card);
        if (hand.of_aces) return true;
      }
      const int now = total(hand);
      if (now > 21) return false;
      char entry = pair && hand.cards == 2 && count_ < 4 && hand.first != 5 ? pair_[hand.first][up]
                   : now != hand.points                 ? soft_[now][up]
                                                        : hard_entry(now, up);
      if (entry == 'P') {
        hand = {hand.first, 1, 1, hand.first == 1, true, hand.first == 1, hand.first};
        for (int i = count_; i > at + 1; --i) hands_[i] = hands_[i - 1];
        hands_[at + 1] = hand;
        ++count_;
        continue;
      }
      if (hand.cards > 2) entry = entry == 'D' ? 'H' : entry == 'd' ? 'S' : entry;
      if (entry == 'S') return true;
      add(hand, draw());
      if (entry == 'H') continue;
      hand.bet = 2;
      return hand.points <= 21;
    }
  }

  char hard_entry(int total, int up) const {
    if constexpr (Counted) {
      if (up == 10) {
        if (total == 16) return level() >= 0 ? 'S' : 'H';
        if (total == 15) return level() >= 4 ? 'S' : 'H';
        if (total == 10) return level() >= 4 ? 'D' : 'H';
      } else if (total == 12) {
        if (up == 4) return level() < 0 ? 'H' : 'S';
        if (up == 3) return level() >= 2 ? 'S' : 'H';
      }
    }
    return hard_[total][up];
  }

  static constexpr int tag_[11] = {0, -1, 1, 1, 1, 1, 1, 0, 0, 0, -1};
  LateDeck<312> shoe_;
  char hard_[22][11], soft_[22][11], pair_[11][11];
  Hand hands_[4];
  int count_ = 0, running_ = 0;
};

// What rounds bring, by net result and stake in halves, and by how it came.
inline constexpr int most_halves = 20;
inline constexpr std::size_t results = (2 * most_halves + 1) * most_halves * 4;
template <class Result>
std::size_t place_of(const Result& found) {
  return static_cast<std::size_t>(((found.net + most_halves) * most_halves + found.staked) * 4 + found.result);
}

inline void blackjack312(std::uint64_t first, std::uint64_t end, Tally& counts) {
  Blackjack<false> table;
  for (std::uint64_t trial = first; trial < end; ++trial) {
    table.begin(trial);
    ++counts[place_of(table.round())];
  }
}

// Whole shoes to the 234th card.
inline void shoes312(std::uint64_t first, std::uint64_t end, Tally& counts) {
  Blackjack<false> table;
  for (std::uint64_t trial = first; trial < end; ++trial) {
    table.begin(trial);
    while (table.dealt() < 234) ++counts[place_of(table.round())];
  }
}

// The same counted; results by the true count before the round, from which the bet follows.
inline constexpr int most_count = 60;
inline void counted312(std::uint64_t first, std::uint64_t end, Tally& counts) {
  Blackjack<true> table;
  for (std::uint64_t trial = first; trial < end; ++trial) {
    table.begin(trial);
    while (table.dealt() < 234) {
      const int level = table.level();
      ++counts[static_cast<std::size_t>(level + most_count) * results + place_of(table.round())];
    }
  }
}
inline constexpr std::size_t counted_results = (2 * most_count + 1) * results;

}  // namespace bare
