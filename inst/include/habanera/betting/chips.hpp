#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <string>
#include <utility>
#include <vector>

#include "habanera/betting/street.hpp"
#include "habanera/game/moves.hpp"

namespace habanera {

// The chips of a hand that is bet on, and whose turn it is: all of it but the cards.
struct Chips {
  using BySeat = std::array<std::int64_t, most_betting_seats>;
  static constexpr std::size_t nobody = most_betting_seats;

  BySeat left, put, bet;  // put: in all, but antes; bet: on this street
  std::int64_t dead = 0;                     // in the pot, and nobody's bet
  std::int64_t owed = 0;                     // what all must have bet on this street to stay in
  std::int64_t raise = 0;                    // the last bet or raise, which the next may not be below
  std::uint8_t in = 0, spoken = 0;           // seats: not folded; that spoke since the last full bet or raise
  std::uint8_t street = 0, bets = 0;         // bets: how many on this street
  std::uint8_t turn = nobody;                // who speaks
  bool folded = false;                       // it is over: all but one have folded

  bool is_in(std::size_t seat) const { return in >> seat & 1; }
  bool has_spoken(std::size_t seat) const { return spoken >> seat & 1; }
  bool is_over() const { return turn == nobody; }
  std::int64_t to_call(std::size_t seat) const { return std::min(owed - bet[seat], left[seat]); }
};

// A move that was made, with what is needed to tell it.
struct MoveMade {
  std::uint8_t move, street;
  std::uint8_t first_bet;  // no bet was made on this street before
  std::uint8_t on_top;     // something was bet, if only a blind
  std::uint8_t all_in;     // it is a bet or raise of all that was left
};

// What a seat may do: moves by number.
struct BettingMove {
  static constexpr std::size_t fold = 0, check = 1, call = 2, first_size = 3;
};

// How chips move, by the rules. What is done here is long, and mostly done once (see PublicTree): so that it is not
// written out wherever a whole hand is one function, it stays apart.
class ChipRules {
 public:
  using BySeat = Chips::BySeat;

  explicit ChipRules(BettingRules rules) : rules_(std::move(rules)) {
    std::size_t shared = 0;
    for (const Street& street : rules_.streets) shared_by_.push_back(shared += street.shared);
  }
  const BettingRules& rules() const { return rules_; }

  [[gnu::noinline]] Chips start() const {
    Chips chips;
    chips.dead = rules_.pot;
    for (std::size_t seat = 0; seat < rules_.seats; ++seat) {
      const std::int64_t blind = seat < rules_.blinds.size() ? rules_.blinds[seat] : 0;
      chips.left[seat] = rules_.stacks[seat] - rules_.ante - blind;
      chips.put[seat] = chips.bet[seat] = blind;
      chips.dead += rules_.ante;
      chips.owed = std::max(chips.owed, blind);
    }
    chips.raise = chips.owed;
    chips.in = static_cast<std::uint8_t>((1u << rules_.seats) - 1);
    seek_turn(chips, rules_.first_to_speak(0));
    return chips;
  }

  // How many cards are turned by the betting of a street.
  std::size_t shared_by(std::size_t street) const { return shared_by_[street]; }

  [[gnu::noinline]] Moves moves(const Chips& chips) const {
    Moves all;
    const std::size_t seat = chips.turn;
    const Street& street = rules_.streets[chips.street];
    if (chips.owed > chips.bet[seat]) {
      all.add(BettingMove::fold);
      const bool merely = street.only_all_in && chips.bets == 0 && chips.left[seat] > chips.to_call(seat);
      if (!merely) all.add(BettingMove::call);
    } else {
      all.add(BettingMove::check);
    }
    if (!may_bet(chips, seat)) return all;
    // Sizes that come to the same are one, told as the last of them: that which was lifted least.
    const std::vector<BetSize>& sizes = sizes_now(chips);
    std::array<std::int64_t, 64> before;
    std::size_t open = 0;
    for (std::size_t i = sizes.size(); i-- > 0;) {
      const std::int64_t amount = amount_of(chips, sizes[i]);
      if (std::find(before.begin(), before.begin() + open, amount) != before.begin() + open) continue;
      before[open++] = amount;
      all.add(BettingMove::first_size + i);
    }
    return all;
  }

  // What a bet or raise of some size comes to, on top of the call.
  std::int64_t amount_of(const Chips& chips, std::size_t move) const {
    return amount_of(chips, sizes_now(chips)[move - BettingMove::first_size]);
  }
  bool is_all_in(const Chips& chips, std::size_t move) const {
    return amount_of(chips, move) == left_after_call(chips);
  }
  [[gnu::noinline]] MoveMade made(const Chips& chips, std::size_t move) const {
    return {static_cast<std::uint8_t>(move), chips.street, chips.bets == 0, chips.owed > 0,
            move >= BettingMove::first_size && is_all_in(chips, move)};
  }
  // "check", "raise 1/2 pot": a size is told where there are several.
  [[gnu::noinline]] std::string word_of(const MoveMade& made) const {
    if (made.move == BettingMove::fold) return "fold";
    if (made.move == BettingMove::check) return "check";
    if (made.move == BettingMove::call) return "call";
    if (made.all_in) return "all in";
    const Street& street = rules_.streets[made.street];
    const std::vector<BetSize>& sizes = made.first_bet ? street.bets : street.raises;
    const std::string word = made.on_top ? "raise" : "bet";
    return sizes.size() == 1 ? word : word + " " + sizes[made.move - BettingMove::first_size].name;
  }
  // The sizes that the next bet or raise may have.
  const std::vector<BetSize>& sizes_now(const Chips& chips) const {
    const Street& street = rules_.streets[chips.street];
    return chips.bets == 0 ? street.bets : street.raises;
  }
  std::int64_t pot(const Chips& chips) const {
    std::int64_t all = chips.dead;
    for (std::size_t seat = 0; seat < rules_.seats; ++seat) all += chips.put[seat];
    return all;
  }

  [[gnu::noinline]] void move(Chips& chips, std::size_t move) const {
    const std::size_t seat = chips.turn;
    if (move == BettingMove::fold) {
      chips.in = static_cast<std::uint8_t>(chips.in & ~(1u << seat));
      if ((chips.in & (chips.in - 1)) == 0) {
        chips.folded = true;
        chips.turn = Chips::nobody;
        return;
      }
    } else if (move == BettingMove::call) {
      pay(chips, seat, chips.to_call(seat));
    } else if (move >= BettingMove::first_size) {
      const std::int64_t amount = amount_of(chips, move);
      pay(chips, seat, chips.owed - chips.bet[seat] + amount);
      chips.owed += amount;
      ++chips.bets;
      // An all in below the last bet or raise leaves those who have spoken with a call.
      if (amount >= chips.raise) {
        chips.raise = amount;
        chips.spoken = 0;
      }
    }
    chips.spoken = static_cast<std::uint8_t>(chips.spoken | 1u << seat);
    seek_turn(chips, rules_.after(seat));
  }

  // What each seat has of it in the end, less what it put in, by the strength of its hand; where all but one have
  // folded nobody's is asked. `played` is the pot without a bet that nobody called. Who has the main pot alone, or
  // nobody.
  template <class Strength>
  [[gnu::noinline]] std::size_t settle(const Chips& chips, Strength&& strength, BySeat& net,
                                       std::int64_t& played) const {
    BySeat put = chips.put;
    give_back(put);
    played = chips.dead;
    for (std::size_t seat = 0; seat < rules_.seats; ++seat) {
      net[seat] = -put[seat] - rules_.ante;
      played += put[seat];
    }
    if (chips.folded) {
      std::size_t left = 0;
      while (!chips.is_in(left)) ++left;
      net[left] += played;
      return left;
    }
    std::array<std::uint64_t, most_betting_seats> worth{};
    for (std::size_t seat = 0; seat < rules_.seats; ++seat)
      if (chips.is_in(seat)) worth[seat] = strength(seat);
    std::size_t winner = Chips::nobody;
    std::int64_t below = -1;
    for (bool main = true;; main = false) {
      // A pot ends where the least of those who are in for more than the last has nothing more in.
      std::int64_t level = -1;
      for (std::size_t seat = 0; seat < rules_.seats; ++seat)
        if (chips.is_in(seat) && put[seat] > below && (level < 0 || put[seat] < level)) level = put[seat];
      if (level < 0) return winner;
      std::int64_t pot = main ? chips.dead : 0;
      for (std::size_t seat = 0; seat < rules_.seats; ++seat)
        pot += std::min(put[seat], level) - std::min(put[seat], std::max<std::int64_t>(below, 0));
      const std::size_t alone = share(chips, put, level, pot, worth, net);
      if (main) winner = alone;
      below = level;
    }
  }

 private:
  std::int64_t left_after_call(const Chips& chips) const {
    return chips.left[chips.turn] - (chips.owed - chips.bet[chips.turn]);
  }
  std::int64_t amount_of(const Chips& chips, const BetSize& size) const {
    const std::int64_t left = left_after_call(chips);
    if (size.how == BetSize::all_in) return left;
    std::int64_t amount = size.amount;
    if (size.how == BetSize::share_of_pot)
      amount = (pot(chips) + chips.owed - chips.bet[chips.turn]) * size.over / size.under;
    return std::min(left, std::max(amount, std::max<std::int64_t>(chips.raise, 1)));
  }

  // Who has spoken since the last full bet or raise may not; nor who could not be called.
  bool may_bet(const Chips& chips, std::size_t seat) const {
    return chips.bets < rules_.streets[chips.street].most_bets && !chips.has_spoken(seat) &&
           left_after_call(chips) > 0 && others_have_chips(chips, seat);
  }
  bool others_have_chips(const Chips& chips, std::size_t seat) const {
    for (std::size_t other = 0; other < rules_.seats; ++other)
      if (other != seat && chips.is_in(other) && chips.left[other] > 0) return true;
    return false;
  }
  bool must_speak(const Chips& chips, std::size_t seat) const {
    if (!chips.is_in(seat) || chips.left[seat] == 0) return false;
    return chips.owed > chips.bet[seat] || (!chips.has_spoken(seat) && others_have_chips(chips, seat));
  }

  // The first from here on who has something to say; on a later street, where nobody has on this one.
  void seek_turn(Chips& chips, std::size_t from) const {
    for (;;) {
      for (std::size_t i = 0, seat = from; i < rules_.seats; ++i, seat = rules_.after(seat)) {
        if (!must_speak(chips, seat)) continue;
        chips.turn = static_cast<std::uint8_t>(seat);
        return;
      }
      chips.turn = Chips::nobody;
      if (chips.street + std::size_t{1} == rules_.streets.size()) return;
      ++chips.street;
      chips.bet.fill(0);
      chips.owed = chips.raise = 0;
      chips.bets = chips.spoken = 0;
      from = rules_.first_to_speak(chips.street);
    }
  }

  static void pay(Chips& chips, std::size_t seat, std::int64_t amount) {
    chips.left[seat] -= amount;
    chips.put[seat] += amount;
    chips.bet[seat] += amount;
  }

  // What somebody has in above all others goes back.
  void give_back(BySeat& put) const {
    std::size_t most = 0;
    for (std::size_t seat = 1; seat < rules_.seats; ++seat)
      if (put[seat] > put[most]) most = seat;
    std::int64_t second = 0;
    for (std::size_t seat = 0; seat < rules_.seats; ++seat)
      if (seat != most) second = std::max(second, put[seat]);
    put[most] = second;
  }

  // A pot goes to the best hands among those who are in for all of it; its odd chips one by one to the first of them
  // after the dealer. Who had it alone, or nobody.
  std::size_t share(const Chips& chips, const BySeat& put, std::int64_t level,
                    std::int64_t pot, const std::array<std::uint64_t, most_betting_seats>& worth,
                    BySeat& net) const {
    const auto plays = [&](std::size_t seat) { return chips.is_in(seat) && put[seat] >= level; };
    std::uint64_t best = 0;
    std::int64_t winners = 0;
    for (std::size_t seat = 0; seat < rules_.seats; ++seat) {
      if (!plays(seat) || (winners > 0 && worth[seat] < best)) continue;
      winners = winners > 0 && worth[seat] == best ? winners + 1 : 1;
      best = worth[seat];
    }
    std::int64_t odd = pot % winners;
    std::size_t last = Chips::nobody;
    for (std::size_t i = 0, seat = rules_.after(rules_.dealer()); i < rules_.seats; ++i, seat = rules_.after(seat)) {
      if (!plays(seat) || worth[seat] != best) continue;
      net[seat] += pot / winners + (odd-- > 0 ? 1 : 0);
      last = seat;
    }
    return winners == 1 ? last : Chips::nobody;
  }

  BettingRules rules_;
  std::vector<std::size_t> shared_by_;  // the end of each street
};

}  // namespace habanera
