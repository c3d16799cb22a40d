#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "habanera/chance/stop_sign.hpp"
#include "habanera/hand/dealt_hand.hpp"
#include "habanera/hand/table.hpp"
#include "habanera/run/blocks.hpp"

namespace habanera {

// A kind of card in a deck, with its copies.
struct DealtKind {
  Card card;
  std::size_t copies;
};

// Counts the hands of a deck by category, every set of cards once: the ranks of a hand as a way through the table, kind
// by kind, so that hands that begin alike share their beginning.
class CategoryCounter {
 public:
  // `deck` has each kind once.
  CategoryCounter(const HandTable& table, std::vector<DealtKind> deck, std::size_t size)
      : table_(table), evaluate_(table.rules()), deck_(std::move(deck)), size_(size),
        counts_(table.rules().categories.size(), 0) {
    for (const DealtKind& kind : deck_) {
      ways_.push_back(std::vector<std::uint64_t>(std::min(kind.copies, size_) + 1, 1));
      for (std::size_t taken = 1; taken < ways_.back().size(); ++taken)
        ways_.back()[taken] = ways_.back()[taken - 1] * (kind.copies - taken + 1) / taken;
      copies_alike_ = copies_alike_ || kind.copies > 1;
    }
    for (std::size_t from = 0; from <= deck_.size(); ++from) rest_.push_back(rest_from(from));
  }

  void heed(StopSign& sign) { glance_.heed(sign); }
  // Hands whose first kind is one of `begin` to `end - 1`, counted from 1.
  void run(std::uint64_t begin, std::uint64_t end) {
    for (std::uint64_t first = begin; first < end; ++first) {
      DealtHand begun;
      take(begun, static_cast<std::size_t>(first) - 1, size_, 1);
    }
  }
  void merge(const CategoryCounter& other) {
    for (std::size_t i = 0; i < counts_.size(); ++i) counts_[i] += other.counts_[i];
  }
  // By the place of the category, the worst first.
  const std::vector<std::uint64_t>& counts() const { return counts_; }

 private:
  // The ranks of the kinds from one on, with how many cards there are of each; the number of ranks for wild ones.
  std::vector<std::pair<std::size_t, std::size_t>> rest_from(std::size_t from) const {
    const HandRules& rules = table_.rules();
    std::vector<std::size_t> copies(rules.ranks + 1, 0);
    for (std::size_t kind = from; kind < deck_.size(); ++kind)
      copies[rules.wild[deck_[kind].card] ? rules.ranks : rules.rank[deck_[kind].card]] += deck_[kind].copies;
    std::vector<std::pair<std::size_t, std::size_t>> rest;
    for (std::size_t rank = 0; rank < copies.size(); ++rank)
      if (copies[rank] > 0) rest.push_back({rank, copies[rank]});
    return rest;
  }

  // Takes some cards of this kind, and then of those after it.
  void take(const DealtHand& begun, std::size_t kind, std::size_t left, std::uint64_t ways) {
    DealtHand more = begun;
    const std::size_t most = std::min(deck_[kind].copies, left);
    for (std::size_t taken = 1; taken <= most; ++taken) {
      more.add(deck_[kind].card, table_);
      hand_[size_ - left + taken - 1] = deck_[kind].card;
      const std::uint64_t now = ways * ways_[kind][taken];
      if (taken == left) {
        glance_.step();
        counts_[category(more)] += now;
      } else if (left - taken == 1) {
        finish(more, kind + 1, now);
      } else {
        for (std::size_t other = kind + 1; other < deck_.size(); ++other) take(more, other, left - taken, now);
      }
    }
  }

  // One card more of every kind that comes after. Where no suit can make anything, cards of a rank are taken together.
  void finish(const DealtHand& begun, std::size_t from, std::uint64_t ways) {
    glance_.step();
    const HandRules& rules = table_.rules();
    const auto makes = [&](std::size_t suit, std::size_t more) {
      return begun.sizes[suit] + begun.wild + more >= rules.size;
    };
    bool may_flush = false;
    for (std::size_t suit = 0; suit < rules.suits; ++suit) may_flush = may_flush || makes(suit, 1);
    if (!may_flush) {
      for (const auto& [rank, copies] : rest_[from])
        counts_[table_.category_by_ranks(table_.next(begun.node, rank))] += ways * copies;
      return;
    }
    const std::size_t already = copies_alike_ ? 0 : begun.category_by_suits(table_);
    for (std::size_t kind = from; kind < deck_.size(); ++kind) {
      const Card card = deck_[kind].card;
      const std::size_t suit = rules.suit[card];
      std::size_t best = already;
      if (copies_alike_ || rules.wild[card]) {
        DealtHand more = begun;
        more.add(card, table_);
        hand_[size_ - 1] = card;
        best = category(more);
      } else {
        best = std::max(best, table_.category_by_ranks(table_.next(begun.node, rules.rank[card])));
        if (suit != HandRules::no_suit && makes(suit, 1))
          best = std::max(best, table_.category_by_suit(begun.masks[suit] | std::uint32_t{1} << rules.rank[card],
                                                        begun.wild));
      }
      counts_[best] += ways * deck_[kind].copies;
    }
  }

  std::size_t category(const DealtHand& hand) {
    return copies_alike_ ? evaluate_(hand_.data(), size_).category : hand.category(table_);
  }

  HandTable table_;  // a thread's own: what suits make is found when it is asked for
  HandEvaluator evaluate_;
  std::vector<DealtKind> deck_;
  std::size_t size_;
  std::vector<std::vector<std::uint64_t>> ways_;
  std::vector<std::vector<std::pair<std::size_t, std::size_t>>> rest_;
  std::array<Card, most_hand> hand_{};  // as far as it is taken
  bool copies_alike_ = false;
  StopGlance glance_;
  std::vector<std::uint64_t> counts_;
};

inline std::vector<std::uint64_t> count_categories(const HandTable& table, const std::vector<DealtKind>& deck,
                                                   std::size_t size, const Crew& crew) {
  return run_blocks(1, deck.size(), crew, [&] { return CategoryCounter(table, deck, size); }, 1).counts();
}

}  // namespace habanera
