#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>

#include "habanera/hand/table.hpp"

namespace habanera {

// A hand as far as it is dealt, read through a table. No natural card is in it twice.
struct DealtHand {
  HandTable::Node node = 0;
  std::size_t wild = 0;
  std::array<std::uint32_t, most_suits> masks{};
  std::array<std::uint8_t, most_suits> sizes{};

  void add(Card card, const HandTable& table) {
    const HandRules& rules = table.rules();
    if (rules.wild[card]) {
      ++wild;
      node = table.next(node, rules.ranks);
      return;
    }
    const std::size_t rank = rules.rank[card], suit = rules.suit[card];
    node = table.next(node, rank);
    if (suit == HandRules::no_suit) return;
    masks[suit] |= std::uint32_t{1} << rank;
    ++sizes[suit];
  }

  std::size_t category(HandTable& table) const {
    return std::max(table.category_by_ranks(node), category_by_suits(table));
  }
  std::size_t category_by_suits(HandTable& table) const {
    std::size_t best = 0;
    for (std::size_t suit = 0; suit < table.rules().suits; ++suit)
      if (sizes[suit] + wild >= table.rules().size)
        best = std::max(best, table.category_by_suit(masks[suit], wild));
    return best;
  }
};

}  // namespace habanera
