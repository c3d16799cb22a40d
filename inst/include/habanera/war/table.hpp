#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/chance/words.hpp"
#include "habanera/game/repeats.hpp"
#include "habanera/game/ring_pile.hpp"
#include "habanera/game/vocabulary.hpp"
#include "habanera/war/pot.hpp"
#include "habanera/war/rules.hpp"

namespace habanera {

// The cards that seats turned, in the order of the seats.
struct FaceUp {
  std::array<std::size_t, most_seats> seat;
  std::array<Card, most_seats> card;
  std::size_t count = 0;

  // The next card, of `place` before it.
  void turn(std::size_t place, std::size_t who, Card turned) {
    seat[place] = who;
    card[place] = turned;
    count = place + 1;
  }
};

// Where the cards of a game of War lie: a pile for each seat, the pot, and what has left the game.
class WarTable {
 public:
  void lay_out(const std::vector<Card>& deck, const Dealing& dealing) {
    const std::size_t cards = cards_ = dealing.cards();
    seats_ = dealing.sizes.size();
    if (cards > room_) {
      for (RingPile& pile : piles) pile = RingPile(cards);
      pot.make_room(cards);
      room_ = cards;
    }
    for (RingPile& pile : piles) pile.clear();
    turned.count = 0;
    pot.clear();
    aside.clear();
    dealing(deck, [&](std::size_t seat, Card card) { piles[seat].put_under(card); });
  }

  std::size_t seats() const { return seats_; }
  // Calls use(card) for each card of each zone: the seats' piles, the pot, and what has left the game.
  template <class Use>
  void each_card(std::size_t zone, Use&& use) const {
    if (zone < seats_)
      for (std::size_t i = 0; i < piles[zone].size(); ++i) use(piles[zone].at(i));
    else if (zone == seats_)
      each_on_table(use);
    else
      for (const Card card : aside) use(card);
  }
  std::size_t zones() const { return seats_ + 2; }
  // Their names in this order.
  static std::vector<Zone> zones_for(std::size_t seats) {
    std::vector<Zone> all;
    for (std::size_t seat = 0; seat < seats; ++seat) all.push_back({"pile", seat});
    all.push_back({"pot"});
    all.push_back({"aside"});
    return all;
  }

  // Those that have not left the game.
  std::size_t playing_cards() const { return cards_ - aside.size(); }

  // The cards turned lie in the pot from when they have to.
  void move_turned_to_pot() {
    const auto layer = static_cast<std::uint16_t>(pot.layers());
    for (std::size_t i = 0; i < turned.count; ++i) pot.lay(turned.seat[i], turned.card[i], layer);
    turned.count = 0;
  }

  std::array<RingPile, most_seats> piles;
  FaceUp turned;
  Pot pot;
  std::vector<Card> aside;

 private:
  template <class Use>
  void each_on_table(Use&& use) const {
    pot.each([&](std::size_t, Card card) { use(card); });
    for (std::size_t i = 0; i < turned.count; ++i) use(turned.card[i]);
  }

  std::size_t seats_ = 0, cards_ = 0, room_ = 0;
};

// How piles and pot lay at some time, for finding that they lie so again. Cards of one rank are alike: a game goes
// on from them in the same way.
class WarPosition {
 public:
  using Ranks = std::vector<std::uint32_t>;

  void keep(const WarTable& table, const Ranks& ranks) {
    ends_.resize(table.seats());
    cards_.resize(table.playing_cards());
    std::size_t next = 0;
    for (std::size_t zone = 0; zone <= table.seats(); ++zone) {
      table.each_card(zone, [&](Card card) { cards_[next++] = ranks[card]; });
      if (zone < table.seats()) ends_[zone] = next;
    }
  }

  bool is(const WarTable& table, const Ranks& ranks) const {
    std::size_t next = 0;
    for (std::size_t seat = 0; seat < table.seats(); ++seat) {
      const RingPile& pile = table.piles[seat];
      if (next + pile.size() != ends_[seat]) return false;
      for (std::size_t i = 0; i < pile.size(); ++i)
        if (ranks[pile.at(i)] != cards_[next + i]) return false;
      next += pile.size();
    }
    if (table.playing_cards() != cards_.size()) return false;
    bool same = true;
    table.pot.each([&](std::size_t, Card card) { same = ranks[card] == cards_[next++] && same; });
    return same;
  }

  // What tells two positions of two seats apart at a glance: the size of the first pile, and both top ranks.
  struct Heads {
    std::size_t size_one;
    std::uint32_t rank_one, rank_two;
  };
  Heads heads() const { return {ends_[0], cards_[0], cards_[ends_[0]]}; }

  bool operator==(const WarPosition& other) const { return ends_ == other.ends_ && cards_ == other.cards_; }

  std::uint64_t hash() const {
    std::uint64_t all = 0;
    for (const std::size_t end : ends_) all = mix64(all + end + golden_step);
    for (const std::uint32_t rank : cards_) all = mix64(all + rank + golden_step);
    return all;
  }

 private:
  std::vector<std::size_t> ends_;  // where each pile ends among the cards
  std::vector<std::uint32_t> cards_;  // their ranks
};

// A game of War, or a game within the game: its table and what is remembered of its course.
struct WarLevel {
  WarTable table;
  CycleWatch<WarPosition> watch;
  Memory<WarPosition> memory;
  std::vector<Card> copied;  // the deck of the next inner game
  WarOutcome outcome;
  std::size_t leader;
  std::array<std::size_t, most_seats> fewest;  // the smallest pile of each seat
};

}  // namespace habanera
