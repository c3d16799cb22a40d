#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/random.hpp"
#include "habanera/shuffle/uniform.hpp"
#include "habanera/shuffle/workspace.hpp"
#include "habanera/watcher/silent.hpp"

// Programmers' loops: fair ones, and the slips that are made in them. Each step is called with the
// pile, a workspace, chance and a watcher, and has paths(): how many ways its choices can go.

namespace habanera {

template <class Watcher>
inline void swap_and_tell(const Pile& pile, std::size_t from, std::size_t to, Watcher& watcher) {
  std::swap(pile.cards[from], pile.cards[to]);
  watcher.swapped(pile, from, to);
}

inline double power(double base, std::size_t exponent) {
  double value = 1;
  while (exponent-- > 0) value *= base;
  return value;
}

// Play the deck as it lies.
struct NoShuffle {
  template <class Chance, class Watcher>
  void operator()(const Pile&, Workspace&, Chance&, Watcher&) const {}
  double paths(std::size_t) const { return 1; }
};

// Each place in turn swaps with any place of the whole deck; the loop may end early.
struct NaiveSwap {
  std::size_t skip_last;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace&, Chance& chance, Watcher& watcher) const {
    for (std::size_t i = 0; i + skip_last < pile.size; ++i)
      swap_and_tell(pile, i, static_cast<std::size_t>(chance.below(pile.size)), watcher);
  }
  double paths(std::size_t n) const {
    return power(static_cast<double>(n), n > skip_last ? n - skip_last : 0);
  }
};

// The partner is always strictly lower, so that every result is one cycle (Sattolo 1986, "An
// algorithm to generate a random cyclic permutation").
struct OneCycle {
  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace&, Chance& chance, Watcher& watcher) const {
    for (std::size_t i = pile.size; i-- > 1;)
      swap_and_tell(pile, i, static_cast<std::size_t>(chance.below(i)), watcher);
  }
  double paths(std::size_t n) const {
    double ways = 1;
    for (std::size_t i = 2; i < n; ++i) ways *= static_cast<double>(i);
    return ways;
  }
};

// Two places drawn independently, which may coincide, change places.
struct Transposition {
  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace&, Chance& chance, Watcher& watcher) const {
    if (pile.size == 0) return;
    const auto one = static_cast<std::size_t>(chance.below(pile.size));
    swap_and_tell(pile, one, static_cast<std::size_t>(chance.below(pile.size)), watcher);
  }
  double paths(std::size_t n) const { return n == 0 ? 1 : power(static_cast<double>(n), 2); }
};

// Sorts by random keys that take only so many values; ties stay in their old order.
struct RandomKeys {
  std::uint64_t values;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance& chance, Watcher& watcher) const {
    work.keys.resize(pile.size);
    for (std::uint64_t& key : work.keys) key = chance.below(values);
    lay_by_keys(pile, work);
    watcher.rearranged(pile);
  }
  double paths(std::size_t n) const { return power(static_cast<double>(values), n); }
};

// An insertion sort whose comparison tosses a coin.
struct CoinInsertion {
  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace&, Chance& chance, Watcher& watcher) const {
    for (std::size_t i = 1; i < pile.size; ++i)
      for (std::size_t j = i; j > 0 && chance.bits(1) == 1; --j)
        swap_and_tell(pile, j, j - 1, watcher);
  }
  // The card at place i goes up 0 to i places.
  double paths(std::size_t n) const {
    double ways = 1;
    for (std::size_t i = 2; i <= n; ++i) ways *= static_cast<double>(i);
    return ways;
  }
};

// A merge sort whose comparison tosses a coin.
struct CoinMerge {
  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance& chance, Watcher& watcher) const {
    work.reset_order(pile.size);
    std::vector<std::uint16_t> merged;
    sort(work.order, merged, 0, pile.size, chance);
    lay_in_order(pile, work);
    watcher.rearranged(pile);
  }
  // At most a coin for every card of every merge.
  double paths(std::size_t n) const {
    if (n < 2) return 1;
    return paths(n / 2) * paths(n - n / 2) * ways_to_merge(n / 2, n - n / 2);
  }

 private:
  static double ways_to_merge(std::size_t a, std::size_t b) {
    double ways = 1;
    for (std::size_t i = 1; i <= a; ++i)
      ways *= static_cast<double>(b + i) / static_cast<double>(i);
    return ways;
  }

  template <class Chance>
  static void sort(std::vector<std::uint16_t>& order, std::vector<std::uint16_t>& merged,
                   std::size_t begin, std::size_t end, Chance& chance) {
    if (end - begin < 2) return;
    const std::size_t middle = begin + (end - begin) / 2;
    sort(order, merged, begin, middle, chance);
    sort(order, merged, middle, end, chance);
    merged.clear();
    std::size_t left = begin, right = middle;
    while (left < middle && right < end)
      merged.push_back(chance.bits(1) == 0 ? order[left++] : order[right++]);
    while (left < middle) merged.push_back(order[left++]);
    while (right < end) merged.push_back(order[right++]);
    std::copy(merged.begin(), merged.end(), order.begin() + static_cast<std::ptrdiff_t>(begin));
  }
};

// The fair loop, with a random number of too few bits reduced by remainder.
struct ModuloLoop {
  unsigned bits;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace&, Chance& chance, Watcher& watcher) const {
    for (std::size_t i = 0; i + 1 < pile.size; ++i) {
      const std::uint64_t size = pile.size - i;
      swap_and_tell(pile, i, i + static_cast<std::size_t>(chance.bits(bits) % size), watcher);
    }
  }
  double paths(std::size_t n) const { return power(power(2, bits), n > 1 ? n - 1 : 0); }
};

// A fair loop whose generator has only 2^bits starting points.
struct SmallSeed {
  unsigned bits;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace&, Chance& chance, Watcher& watcher) const {
    RandomChance small(0, chance.bits(bits));
    UniformShuffle(pile.size)(pile, pile.size, small, watcher);
  }
  double paths(std::size_t) const { return power(2, bits); }
};

// Draws random card numbers until an unused one comes up, place by place. There is no end of paths.
struct RetryLoop {
  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace& work, Chance& chance, Watcher& watcher) const {
    work.reset_order(pile.size);
    work.keys.assign(pile.size, 0);
    for (std::uint16_t& from : work.order) {
      do {
        from = static_cast<std::uint16_t>(chance.below(pile.size));
        watcher.asked();
      } while (work.keys[from] != 0);
      work.keys[from] = 1;
    }
    lay_in_order(pile, work);
    watcher.rearranged(pile);
  }
  double paths(std::size_t n) const { return n < 2 ? 1 : HUGE_VAL; }
};

// The swap that forgets to keep the first card, with a place from it on or with any: not a shuffle.
struct Overwriting {
  bool from_all;

  template <class Chance, class Watcher>
  void operator()(const Pile& pile, Workspace&, Chance& chance, Watcher& watcher) const {
    for (std::size_t i = 0; i + !from_all < pile.size; ++i) {
      const std::size_t first = from_all ? 0 : i;
      const std::size_t other = first + static_cast<std::size_t>(chance.below(pile.size - first));
      pile.cards[i] = pile.cards[other];
      watcher.swapped(pile, i, other);
    }
  }
  double paths(std::size_t n) const { return from_all ? NaiveSwap{0}.paths(n) : CoinInsertion().paths(n); }
};

}  // namespace habanera
