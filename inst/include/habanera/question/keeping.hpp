#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

// Which cards of a hand are kept when the others are exchanged. Each kind has a value (a rank, a suit,
// whether it is wanted), `no_value` for a kind that has none. Among like choices the smallest value
// wins, and among cards of one value the kind that comes first in the catalogue.
struct Keep {
  enum class What {
    where,   // cards of value 1
    groups,  // cards whose value another card shares
    suit,    // the cards of the commonest value, when at least so many
    run      // one card of each value of the longest run of values, when at least so many
  };
  static constexpr std::uint16_t no_value = 0xffff;

  What what;
  std::vector<std::uint16_t> value;  // of each kind
  std::size_t values;                // they lie below this
  std::size_t at_least;
};

// Marks the cards that one way of keeping keeps, and says whether there is any.
class Keeper {
 public:
  bool choose(const Keep& keep, const std::vector<Card>& hand, std::vector<std::uint8_t>& kept) {
    kept.assign(hand.size(), 0);
    counts_.assign(keep.values, 0);
    for (const Card card : hand)
      if (keep.value[card] != Keep::no_value) ++counts_[keep.value[card]];
    switch (keep.what) {
      case Keep::What::where:
        return mark(keep, hand, kept, [](std::size_t value) { return value == 1; });
      case Keep::What::groups:
        return mark(keep, hand, kept, [&](std::size_t value) { return counts_[value] >= 2; });
      case Keep::What::suit:
        return keep_commonest(keep, hand, kept);
      case Keep::What::run:
        return keep_run(keep, hand, kept);
    }
    return false;
  }

  // The first way that keeps a card decides.
  void choose_first(const std::vector<Keep>& ways, const std::vector<Card>& hand,
                    std::vector<std::uint8_t>& kept) {
    kept.assign(hand.size(), 0);
    for (const Keep& keep : ways)
      if (choose(keep, hand, kept)) return;
  }

 private:
  template <class Wanted>
  bool mark(const Keep& keep, const std::vector<Card>& hand, std::vector<std::uint8_t>& kept,
            Wanted&& wanted) {
    bool any = false;
    for (std::size_t i = 0; i < hand.size(); ++i) {
      const std::size_t value = keep.value[hand[i]];
      kept[i] = value != Keep::no_value && wanted(value);
      any = any || kept[i];
    }
    return any;
  }

  bool keep_commonest(const Keep& keep, const std::vector<Card>& hand, std::vector<std::uint8_t>& kept) {
    std::size_t best = 0;
    for (std::size_t value = 1; value < keep.values; ++value)
      if (counts_[value] > counts_[best]) best = value;
    if (keep.values == 0 || counts_[best] < keep.at_least) return false;
    return mark(keep, hand, kept, [&](std::size_t value) { return value == best; });
  }

  bool keep_run(const Keep& keep, const std::vector<Card>& hand, std::vector<std::uint8_t>& kept) {
    std::size_t best_begin = 0, best_length = 0, length = 0;
    for (std::size_t value = 0; value < keep.values; ++value) {
      length = counts_[value] ? length + 1 : 0;
      if (length > best_length) {
        best_length = length;
        best_begin = value + 1 - length;
      }
    }
    if (best_length == 0 || best_length < keep.at_least) return false;
    for (std::size_t value = best_begin; value < best_begin + best_length; ++value) {
      std::size_t first = hand.size();
      for (std::size_t i = 0; i < hand.size(); ++i)
        if (keep.value[hand[i]] == value && (first == hand.size() || hand[i] < hand[first])) first = i;
      kept[first] = 1;
    }
    return true;
  }

  std::vector<std::size_t> counts_;
};

}  // namespace habanera
