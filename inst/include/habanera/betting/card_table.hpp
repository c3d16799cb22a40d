#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <string>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/hand/rules.hpp"

namespace habanera {

// The kinds of cards as those who bet on them tell them. Kinds that no rule tells apart are told as one; where suits
// are alike to all rules, hands that differ only by the names of suits are told as one, too: by those in which the
// highest cards are of the first suits. Suits of which other ranks lie on the board from the start are not alike.
struct BettingCards {
  std::vector<double> copies;               // how many of each kind are dealt from
  std::vector<std::string> names;           // as they are told
  std::vector<std::string> codes;           // each by itself
  std::vector<Card> stands_for;             // of the kinds alike to it the first
  std::vector<std::uint8_t> rank, suit;     // suit: HandRules::no_suit where it has none
  bool suits_alike = false;
  std::vector<std::vector<Card>> of_suit;   // where suits are alike: the kind of each suit and rank
  std::vector<std::uint8_t> like_suit;      // of each suit the first that is alike to it

  // In how many ways the names of suits can be exchanged.
  double exchanges() const {
    double all = 1;
    for (auto each = like_suit.begin(); each != like_suit.end(); ++each)
      all *= static_cast<double>(std::count(like_suit.begin(), each + 1, *each));
    return all;
  }

  // Highest ranks first, then the first suits.
  bool comes_before(Card one, Card other) const {
    if (rank[one] != rank[other]) return rank[one] > rank[other];
    return suit[one] != suit[other] ? suit[one] < suit[other] : one < other;
  }
};

// Cards that a seat sees, group by group (its own, and those of each street), as they are told.
class ToldCards {
 public:
  static constexpr std::size_t most = 16;

  explicit ToldCards(const BettingCards& table) : table_(table) {}

  void begin_group() { ends_[groups_++] = size_; }
  void add(Card card) {
    cards_[size_++] = card;
    ends_[groups_ - 1] = size_;
  }

  // As they are told; in each group in order.
  void tell() {
    if (table_.suits_alike) rename_suits();
    else
      for (std::size_t i = 0; i < size_; ++i) cards_[i] = table_.stands_for[cards_[i]];
    std::size_t from = 0;
    for (std::size_t group = 0; group < groups_; ++group) {
      sort(from, ends_[group]);
      from = ends_[group];
    }
  }

  std::size_t size() const { return size_; }
  Card card(std::size_t i) const { return cards_[i]; }
  std::string text(std::size_t from, std::size_t to) const {
    std::string all;
    for (std::size_t i = from; i < to; ++i) all += (i > from ? " " : "") + table_.names[cards_[i]];
    return all;
  }

 private:
  // Suits by the ranks that are held in them, group by group, the highest first.
  void rename_suits() {
    std::array<std::array<std::uint32_t, most>, most_suits> held{};
    const std::size_t suits = table_.of_suit.size();
    for (std::size_t i = 0, group = 0; i < size_; ++i) {
      while (i >= ends_[group]) ++group;
      held[table_.suit[cards_[i]]][group] |= std::uint32_t{1} << table_.rank[cards_[i]];
    }
    // Those alike to each other in order; each then has the name of the next of them.
    std::array<std::uint8_t, most_suits> order, told;
    const std::vector<std::uint8_t>& like = table_.like_suit;
    for (std::size_t suit = 0; suit < suits; ++suit) order[suit] = static_cast<std::uint8_t>(suit);
    for (std::size_t at = 1; at < suits; ++at)
      for (std::size_t i = at; i > 0 && held[order[i - 1]] < held[order[i]]; --i) std::swap(order[i - 1], order[i]);
    std::array<std::uint8_t, most_suits> next{};
    for (std::size_t place = 0; place < suits; ++place) {
      const std::uint8_t first = like[order[place]];
      std::uint8_t name = std::max(next[first], first);
      while (like[name] != first) ++name;
      told[order[place]] = name;
      next[first] = static_cast<std::uint8_t>(name + 1);
    }
    for (std::size_t i = 0; i < size_; ++i)
      cards_[i] = table_.of_suit[told[table_.suit[cards_[i]]]][table_.rank[cards_[i]]];
  }
  void sort(std::size_t from, std::size_t to) {
    for (std::size_t at = from + 1; at < to; ++at)
      for (std::size_t i = at; i > from && table_.comes_before(cards_[i], cards_[i - 1]); --i)
        std::swap(cards_[i - 1], cards_[i]);
  }

  const BettingCards& table_;
  std::array<Card, most> cards_;
  std::array<std::size_t, most> ends_;
  std::size_t size_ = 0, groups_ = 0;
};

}  // namespace habanera
