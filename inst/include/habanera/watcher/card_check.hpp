#pragma once

#include <algorithm>
#include <cstddef>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

struct TableEvent;  // of games

// Verifies after every move that no card was lost, doubled or invented.
class CardCheck {
 public:
  void begins(const Pile& pile) {
    expected_ = count(pile);
    moves_ = 0;
  }
  void step_begins(std::size_t) {}
  void swapped(const Pile& pile, std::size_t, std::size_t) { verify(count(pile)); }

  void rearranged(const Pile& pile) { verify(count(pile)); }
  void asked() {}

  // The cards of a table: those on top of the deck that it was laid out with, and no others.
  template <class Table>
  void laid_out(const std::vector<Card>& deck, std::size_t dealt, const Table& table) {
    outer_.push_back(std::move(expected_));
    expected_.clear();
    for (std::size_t i = 0; i < dealt; ++i) add(deck[i], expected_);
    verify(count_table(table));
  }
  void round_begins(std::uint64_t) {}
  template <class Table>
  void happened(const Table& table, const TableEvent&) { verify(count_table(table)); }
  void cleared() {
    expected_ = std::move(outer_.back());
    outer_.pop_back();
  }

  std::size_t moves() const { return moves_; }

 private:
  static void add(Card card, std::vector<long>& copies) {
    if (card >= copies.size()) copies.resize(card + std::size_t{1}, 0);
    ++copies[card];
  }

  static std::vector<long> count(const Pile& pile) {
    std::vector<long> copies;
    for (std::size_t i = 0; i < pile.size; ++i) add(pile.cards[i], copies);
    return copies;
  }

  template <class Table>
  static std::vector<long> count_table(const Table& table) {
    std::vector<long> copies;
    for (std::size_t zone = 0; zone < table.zones(); ++zone)
      table.each_card(zone, [&](Card card) { add(card, copies); });
    return copies;
  }

  void verify(std::vector<long> found) {
    ++moves_;
    const std::size_t kinds = std::max(found.size(), expected_.size());
    found.resize(kinds, 0);
    expected_.resize(kinds, 0);
    for (std::size_t card = 0; card < kinds; ++card)
      if (found[card] != expected_[card])
        throw std::logic_error("after move " + std::to_string(moves_) + " card " +
                               std::to_string(card) + " is there " + std::to_string(found[card]) +
                               " times, not " + std::to_string(expected_[card]));
  }

  std::vector<long> expected_;
  std::vector<std::vector<long>> outer_;  // of the tables that this one is a game within
  std::size_t moves_ = 0;
};

}  // namespace habanera
