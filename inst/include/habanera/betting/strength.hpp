#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <stdexcept>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/hand/showdown.hpp"

namespace habanera {

// What the hands at a showdown are worth: the higher the better, and none is below 0.
class BettingStrength {
 public:
  using Table = std::map<std::vector<Card>, std::uint64_t>;

  // Of one card of each seat and none that all see: by its kind.
  static BettingStrength of_ranks(std::vector<std::uint64_t> by_kind) {
    BettingStrength made;
    made.by_kind_ = std::move(by_kind);
    return made;
  }
  // By rules for hands; `own_cards`: how many of a seat's own count, 0: any.
  // Its tables are whole when it is made and change no more, so that all threads may read them.
  static BettingStrength of_hands(std::shared_ptr<StrengthReader> reader, std::size_t own_cards) {
    BettingStrength made;
    made.reader_ = std::move(reader);
    made.own_cards_ = own_cards;
    return made;
  }
  // By a table: of a seat's own cards in rising order, then those that all see, in rising order.
  static BettingStrength of_table(std::shared_ptr<const Table> table) {
    BettingStrength made;
    made.table_ = std::move(table);
    return made;
  }

  std::uint64_t operator()(const Card* own, std::size_t held, const Card* shared, std::size_t open) const {
    return by_kind_.empty() ? of_all(own, held, shared, open) : by_kind_[own[0]];
  }

 private:
  [[gnu::noinline]] std::uint64_t of_all(const Card* own, std::size_t held, const Card* shared,
                                         std::size_t open) const {
    if (table_) return of_listed(own, held, shared, open);
    if (own_cards_ > 0)
      return best_of_own(*reader_, own_cards_, {own, own + held}, {shared, shared + open});
    std::array<Card, 32> hand;
    std::copy(own, own + held, hand.begin());
    std::copy(shared, shared + open, hand.begin() + held);
    return (*reader_)(hand.data(), held + open);
  }
  std::uint64_t of_listed(const Card* own, std::size_t held, const Card* shared, std::size_t open) const {
    std::vector<Card> key(own, own + held);
    std::sort(key.begin(), key.end());
    key.insert(key.end(), shared, shared + open);
    std::sort(key.begin() + static_cast<std::ptrdiff_t>(held), key.end());
    const auto found = table_->find(key);
    if (found == table_->end()) throw std::logic_error("the strength of a hand is not told");
    return found->second;
  }

  std::vector<std::uint64_t> by_kind_;
  std::shared_ptr<StrengthReader> reader_;
  std::size_t own_cards_ = 0;
  std::shared_ptr<const Table> table_;
};

}  // namespace habanera
