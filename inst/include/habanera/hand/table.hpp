#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <limits>
#include <stdexcept>
#include <string>
#include <unordered_map>
#include <vector>

#include "habanera/hand/evaluator.hpp"

namespace habanera {

// The strengths of hands in tables, so that a hand costs a look-up a card. The ranks of a hand, card by card, are a way
// through nodes: each is a number of cards of every rank and of wild ones. What ranks alone make is kept by node, what
// a suit makes by the ranks held in it; a hand is worth the better of the two.
class HandTable {
 public:
  using Node = std::uint32_t;

  static constexpr std::size_t most_nodes = 4000000;

  // For hands of up to so many cards; `copies` is how many cards of a rank there can be, and of wild ones.
  HandTable(HandRules by, std::size_t cards, std::size_t copies, std::size_t wild)
      : evaluate_(std::move(by)), strength_(evaluate_.rules()), cards_(cards), copies_(copies), wild_(wild),
        steps_(evaluate_.rules().ranks + 1) {
    if (rules().dealt_order) throw std::invalid_argument("hands compared as dealt have no table");
    if (rules().ranks > 16) throw std::length_error("hands of more than 16 ranks have no table");
    grow();
    suits_.resize((wild_ + 1) << rules().ranks, unknown);
    suit_categories_.resize(suits_.size(), unknown_category);
  }

  const HandRules& rules() const { return evaluate_.rules(); }
  Node start() const { return 0; }
  // One more card of this rank; or, with the number of ranks, a wild one.
  Node next(Node node, std::size_t rank) const { return next_[node * steps_ + rank]; }
  std::uint64_t by_ranks(Node node) const { return by_ranks_[node]; }
  std::size_t category_by_ranks(Node node) const { return categories_[node]; }

  std::size_t category_by_suit(std::uint32_t ranks, std::size_t wild) {
    std::uint8_t& known = suit_categories_[(wild << rules().ranks) + ranks];
    if (known == unknown_category) known = static_cast<std::uint8_t>(strength_.category(by_suit(ranks, wild)));
    return known;
  }

  // For comparisons by the million: strengths as their places among all there are, in tables of small numbers, where a
  // hand's last card costs one look-up. To be made before they are asked for; of hands without wild cards.
  void make_places() {
    std::vector<std::uint64_t> all = by_ranks_;
    for (std::uint32_t ranks = 0; ranks < std::uint32_t{1} << rules().ranks; ++ranks) all.push_back(by_suit(ranks, 0));
    std::sort(all.begin(), all.end());
    all.erase(std::unique(all.begin(), all.end()), all.end());
    const auto place = [&](std::uint64_t strength) {
      return static_cast<std::uint32_t>(std::lower_bound(all.begin(), all.end(), strength) - all.begin());
    };
    std::vector<std::uint32_t> of_node;
    for (const std::uint64_t strength : by_ranks_) of_node.push_back(place(strength));
    for (const Node node : next_) places_after_.push_back(node == none ? 0 : of_node[node]);
    for (std::uint32_t ranks = 0; ranks < std::uint32_t{1} << rules().ranks; ++ranks)
      suit_places_.push_back(place(by_suit(ranks, 0)));
  }
  // Of a node's cards and one of each rank more.
  const std::uint32_t* places_after(Node node) const { return &places_after_[node * steps_]; }
  std::uint32_t suit_place(std::uint32_t ranks) const { return suit_places_[ranks]; }

  // What the ranks of a suit are worth with so many wild cards beside them; 0 where they make nothing.
  std::uint64_t by_suit(std::uint32_t ranks, std::size_t wild) {
    std::uint64_t& known = suits_[(wild << rules().ranks) + ranks];
    if (known == unknown) known = suit_strength(ranks, wild);
    return known;
  }

 private:
  static constexpr std::uint64_t unknown = std::numeric_limits<std::uint64_t>::max();
  static constexpr std::uint8_t unknown_category = 0xff;
  static constexpr Node none = std::numeric_limits<Node>::max();

  // How many cards of each rank, and of wild ones.
  struct Pattern {
    std::array<std::uint8_t, 17> held{};
    std::uint8_t cards = 0;
  };

  // Node by node, those of fewer cards first.
  void grow() {
    std::vector<Pattern> nodes{Pattern()};
    add(nodes.front());
    for (std::size_t at = 0; at < nodes.size(); ++at) extend(nodes, at);
  }

  void extend(std::vector<Pattern>& nodes, std::size_t at) {
    if (nodes[at].cards == cards_) return;
    for (std::size_t rank = 0; rank < steps_; ++rank) {
      Pattern more = nodes[at];
      if (more.held[rank] == (rank + 1 == steps_ ? wild_ : copies_)) continue;
      ++more.held[rank];
      ++more.cards;
      const auto [found, is_new] = places_.try_emplace(key(more), static_cast<Node>(nodes.size()));
      if (is_new) {
        if (nodes.size() == most_nodes)
          throw std::length_error("hands of so many cards and ranks have more than " + std::to_string(most_nodes) +
                                  " patterns");
        nodes.push_back(more);
        add(more);
      }
      next_[at * steps_ + rank] = found->second;
    }
  }

  void add(const Pattern& pattern) {
    HandParts hand;
    std::copy(pattern.held.begin(), pattern.held.begin() + static_cast<std::ptrdiff_t>(rules().ranks),
              hand.ranks.begin());
    hand.wild = pattern.held[rules().ranks];
    hand.cards = pattern.cards;
    next_.resize(next_.size() + steps_, none);
    const HandWorth worth = evaluate_.best_by_ranks(hand);
    by_ranks_.push_back(strength_(worth));
    categories_.push_back(static_cast<std::uint8_t>(worth.category));
  }

  std::string key(const Pattern& pattern) const {
    return {pattern.held.begin(), pattern.held.begin() + static_cast<std::ptrdiff_t>(steps_)};
  }

  std::uint64_t suit_strength(std::uint32_t ranks, std::size_t wild) const {
    HandParts hand;
    hand.wild = hand.cards = wild;
    for (std::size_t rank = 0; rank < rules().ranks; ++rank)
      if (ranks >> rank & 1) ++hand.suits[0][rank], ++hand.ranks[rank], ++hand.cards;
    const HandWorth worth = evaluate_.best_by_suits(hand);
    return worth.category == 0 ? 0 : strength_(worth);
  }

  HandEvaluator evaluate_;
  HandStrength strength_;
  std::size_t cards_, copies_, wild_, steps_;
  std::unordered_map<std::string, Node> places_;
  std::vector<Node> next_;
  std::vector<std::uint64_t> by_ranks_, suits_;
  std::vector<std::uint8_t> categories_, suit_categories_;
  std::vector<std::uint32_t> places_after_, suit_places_;
};

}  // namespace habanera
