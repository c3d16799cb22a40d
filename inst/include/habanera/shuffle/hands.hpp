#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/size_run.hpp"
#include "habanera/shuffle/loops.hpp"
#include "habanera/shuffle/workspace.hpp"

// What dealers' hands, and the shuffling machine, do. Steps as in loops.hpp.

namespace habanera {

// How likely each size of the upper packet is when hands cut near the middle: a normal law with this
// spread (standard deviation, in cards) taken at whole numbers; spread 0 is as near as can be.
inline std::vector<double> cut_weights(std::size_t cards, double spread) {
  std::vector<double> weights(cards + 1);
  const double middle = static_cast<double>(cards) / 2;
  for (std::size_t k = 0; k <= cards; ++k) {
    const double off = std::fabs(static_cast<double>(k) - middle);
    weights[k] = spread > 0 ? std::exp(-off * off / (2 * spread * spread)) : off < 0.75 ? 1 : 0;
  }
  return weights;
}

// A cut: the upper packet, of random size, goes under.
struct Cut {
  double spread;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance& chance, Watcher& watcher) const {
    if (pile.size == 0) return;
    work.reset_order(pile.size);
    const std::size_t upper = chance.pick(cut_weights(pile.size, spread));
    std::rotate(work.order.begin(), work.order.begin() + static_cast<std::ptrdiff_t>(upper),
                work.order.end());
    lay_in_order(pile, work);
    watcher.rearranged(pile);
  }
  double paths(std::size_t n) const { return static_cast<double>(n) + 1; }
};

// The riffle of Gilbert, Shannon & Reeds (Bayer & Diaconis 1992, p. 294): a binomial cut, packets
// drop in proportion to what is left; that is, each card of the result comes from either packet by a
// fair coin.
struct FairRiffle {
  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance& chance, Watcher& watcher) const {
    std::size_t upper = pile.size;
    work.keys.clear();
    for (std::size_t i = 0; i < pile.size; i += coins_at_once) {
      work.keys.push_back(chance.bits(static_cast<unsigned>(std::min(coins_at_once, pile.size - i))));
      upper -= static_cast<std::size_t>(__builtin_popcountll(work.keys.back()));
    }
    drop_cards(pile, upper, work);
    watcher.rearranged(pile);
  }
  double paths(std::size_t n) const { return power(2, n); }

 private:
  static constexpr std::size_t coins_at_once = 32;

  // A coin of 1 takes the next card of the lower packet. No branch on the coins: they cannot be foretold.
  static void drop_cards(const Pile& pile, std::size_t upper, Workspace& work) {
    work.old_cards.assign(pile.cards, pile.cards + pile.size);
    const Card* old = work.old_cards.data();
    std::size_t next = 0, to_lower = upper;  // of the upper packet, and from it to the next of the lower
    for (std::size_t begin = 0; begin < pile.size; begin += coins_at_once) {
      std::uint64_t coins = work.keys[begin / coins_at_once];
      const std::size_t end = std::min(begin + coins_at_once, pile.size);
      for (std::size_t i = begin; i < end; ++i, coins >>= 1) {
        const std::size_t lower = coins & 1;
        pile.cards[i] = old[next + (to_lower & (0 - lower))];
        next += 1 - lower;
        to_lower += 2 * lower - 1;
      }
    }
  }
};

// A riffle by human hands: the cut has a spread (NaN: binomial), and the next card comes from the
// packet of the last one with chance `clump` (0: perfect interleave; NaN: in proportion to what is
// left) while both packets last.
struct HandRiffle {
  double spread, clump;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance& chance, Watcher& watcher) const {
    const std::size_t n = pile.size;
    const std::size_t upper = upper_packet(n, chance);
    std::size_t next[2] = {0, upper}, end[2] = {upper, n};
    const std::vector<double> in_proportion;
    const std::vector<double> stay_or_change = std::isnan(clump) ? in_proportion : std::vector{clump, 1 - clump};
    work.order.resize(n);
    std::size_t packet = 0;
    for (std::size_t i = 0; i < n; ++i) {
      packet = next_packet(next, end, i == 0 ? in_proportion : stay_or_change, packet, chance);
      work.order[i] = static_cast<std::uint16_t>(next[packet]++);
    }
    lay_in_order(pile, work);
    watcher.rearranged(pile);
  }
  double paths(std::size_t n) const { return (static_cast<double>(n) + 1) * power(2, n); }

 private:
  template <class Chance>
  std::size_t upper_packet(std::size_t n, Chance& chance) const {
    if (!std::isnan(spread)) return chance.pick(cut_weights(n, spread));
    std::size_t upper = 0;
    for (std::size_t i = 0; i < n; ++i) upper += static_cast<std::size_t>(chance.bits(1));
    return upper;
  }

  // Without weights for staying with the last packet or changing, in proportion to what is left.
  template <class Chance>
  static std::size_t next_packet(const std::size_t* next, const std::size_t* end,
                                 const std::vector<double>& stay_or_change, std::size_t last, Chance& chance) {
    const std::size_t left[2] = {end[0] - next[0], end[1] - next[1]};
    if (left[0] == 0) return 1;
    if (left[1] == 0) return 0;
    if (stay_or_change.empty()) return chance.below(left[0] + left[1]) < left[0] ? 0 : 1;
    return chance.pick(stay_or_change) == 0 ? last : 1 - last;
  }
};

// The perfect interleave. Out keeps the top card on top, in sends it one down. Of an odd deck the
// packet whose card comes first has one card more.
struct Faro {
  bool in;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance&, Watcher& watcher) const {
    const std::size_t n = pile.size;
    const std::size_t upper = in ? n / 2 : (n + 1) / 2;
    work.order.resize(n);
    for (std::size_t i = 0; i < n; ++i) {
      const bool from_lower = (i % 2 == 1) != in;
      work.order[i] = static_cast<std::uint16_t>(from_lower ? upper + i / 2 : i / 2);
    }
    lay_in_order(pile, work);
    watcher.rearranged(pile);
  }
  double paths(std::size_t) const { return 1; }
};

// Packets from the top, one upon the other: they end in reverse order. `starts` are the places where
// packets begin, rising from 0.
inline void reverse_packets(std::vector<std::uint16_t>& order, const std::vector<std::uint64_t>& starts,
                            std::size_t n) {
  order.clear();
  std::size_t end = n;
  for (std::size_t packet = starts.size(); packet-- > 0;) {
    for (std::size_t i = starts[packet]; i < end; ++i) order.push_back(static_cast<std::uint16_t>(i));
    end = starts[packet];
  }
}

// Overhand: after every card the hand lets go with chance 1/packet (Pemantle 1989, "Randomization
// time for the overhand shuffle"), so that `packet` is the mean size of a packet.
struct Overhand {
  double packet;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance& chance, Watcher& watcher) const {
    const std::vector<double> weights{1 - 1 / packet, 1 / packet};
    work.keys.assign(pile.size > 0 ? 1 : 0, 0);
    for (std::size_t i = 1; i < pile.size; ++i)
      if (chance.pick(weights) == 1) work.keys.push_back(i);
    reverse_packets(work.order, work.keys, pile.size);
    lay_in_order(pile, work);
    watcher.rearranged(pile);
  }
  double paths(std::size_t n) const { return power(2, n > 0 ? n - 1 : 0); }
};

// Strip cuts: a set number of packets (at most one per card), any places for the cuts equally likely.
struct Strip {
  std::size_t packets;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance& chance, Watcher& watcher) const {
    std::size_t wanted = std::min(packets, pile.size);
    work.keys.assign(pile.size > 0 ? 1 : 0, 0);
    if (wanted > 0) --wanted;
    for (std::size_t i = 1; i < pile.size; ++i) {
      if (wanted > 0 && chance.below(pile.size - i) < wanted) {
        work.keys.push_back(i);
        --wanted;
      }
    }
    reverse_packets(work.order, work.keys, pile.size);
    lay_in_order(pile, work);
    watcher.rearranged(pile);
  }
  double paths(std::size_t n) const { return FairRiffle().paths(n) * static_cast<double>(n + 1); }
};

enum class PickUp { in_order, reversed, random };

// Deals the deck into piles, card by card, each card on top of the last, and picks the piles up: the
// first picked up is on top.
struct Piles {
  std::size_t piles;
  PickUp pick_up;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance& chance, Watcher& watcher) const {
    if (piles < 1) throw std::invalid_argument("cards are dealt into at least 1 pile, not 0");
    work.keys.resize(piles);
    for (std::size_t i = 0; i < piles; ++i) work.keys[i] = pick_up == PickUp::reversed ? piles - 1 - i : i;
    if (pick_up == PickUp::random)
      for (std::size_t i = 0; i + 1 < piles; ++i)
        std::swap(work.keys[i], work.keys[i + static_cast<std::size_t>(chance.below(piles - i))]);
    work.order.clear();
    for (const std::uint64_t which : work.keys) {
      const std::size_t held = (pile.size + piles - 1 - which) / piles;
      for (std::size_t i = held; i-- > 0;)
        work.order.push_back(static_cast<std::uint16_t>(which + i * piles));
    }
    lay_in_order(pile, work);
    watcher.rearranged(pile);
  }
  double paths(std::size_t) const { return pick_up == PickUp::random ? CoinInsertion().paths(piles) : 1; }
};

// The top card goes anywhere in the deck, each of the n places equally likely.
struct TopToRandom {
  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance& chance, Watcher& watcher) const {
    if (pile.size == 0) return;
    work.reset_order(pile.size);
    const auto to = static_cast<std::ptrdiff_t>(chance.below(pile.size));
    std::rotate(work.order.begin(), work.order.begin() + 1, work.order.begin() + to + 1);
    lay_in_order(pile, work);
    watcher.rearranged(pile);
  }
  double paths(std::size_t n) const { return n == 0 ? 1 : static_cast<double>(n); }
};

// A wash: every card slides down by 0 to `reach` places, each equally likely; the cards are gathered
// in the order they then lie in, ties as they were.
struct Wash {
  std::size_t reach;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance& chance, Watcher& watcher) const {
    work.keys.resize(pile.size);
    for (std::size_t i = 0; i < pile.size; ++i) work.keys[i] = i + chance.below(reach + 1);
    lay_by_keys(pile, work);
    watcher.rearranged(pile);
  }
  double paths(std::size_t n) const { return power(static_cast<double>(reach + 1), n); }
};

// The shelf machine (Diaconis, Fulman & Holmes 2013, "Analysis of casino shelf shuffling machines"):
// from the top each card goes to a random shelf, on top of what lies there or beneath it; the
// shelves are stacked in order, the first on top.
struct Shelves {
  std::size_t shelves;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance& chance, Watcher& watcher) const {
    work.keys.resize(pile.size);
    for (std::uint64_t& key : work.keys) key = chance.below(2 * shelves);
    work.order.clear();
    for (std::uint64_t shelf = 0; shelf < shelves; ++shelf) {
      // On top, the last card first; beneath, the first card first.
      for (std::size_t i = pile.size; i-- > 0;)
        if (work.keys[i] == 2 * shelf) work.order.push_back(static_cast<std::uint16_t>(i));
      for (std::size_t i = 0; i < pile.size; ++i)
        if (work.keys[i] == 2 * shelf + 1) work.order.push_back(static_cast<std::uint16_t>(i));
    }
    lay_in_order(pile, work);
    watcher.rearranged(pile);
  }
  double paths(std::size_t n) const { return power(2 * static_cast<double>(shelves), n); }
};

}  // namespace habanera
