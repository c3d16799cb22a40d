#pragma once

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

  // Node by node, those of fewer cards first.
  void grow() {
    std::vector<HandParts> nodes{HandParts()};
    add(nodes.front());
    for (std::size_t at = 0; at < nodes.size(); ++at) extend(nodes, at);
  }

  void extend(std::vector<HandParts>& nodes, std::size_t at) {
    if (nodes[at].cards == cards_) return;
    for (std::size_t rank = 0; rank < steps_; ++rank) {
      HandParts more = nodes[at];
      std::uint8_t wild = static_cast<std::uint8_t>(more.wild);
      std::uint8_t& held = rank + 1 == steps_ ? wild : more.ranks[rank];
      if (held == (rank + 1 == steps_ ? wild_ : copies_)) continue;
      ++held;
      more.wild = wild;
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

  void add(const HandParts& hand) {
    next_.resize(next_.size() + steps_, none);
    const HandWorth worth = evaluate_.best_by_ranks(hand);
    by_ranks_.push_back(strength_(worth));
    categories_.push_back(static_cast<std::uint8_t>(worth.category));
  }

  std::string key(const HandParts& hand) const {
    std::string all(hand.ranks.begin(), hand.ranks.begin() + static_cast<std::ptrdiff_t>(rules().ranks));
    return all + static_cast<char>(hand.wild);
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
};

}  // namespace habanera
