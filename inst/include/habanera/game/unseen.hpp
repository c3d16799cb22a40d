#pragma once

#include <cstddef>
#include <cstdint>
#include <map>
#include <numeric>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"

namespace habanera {

using CardSet = std::vector<bool>;  // for each kind of card, whether it is in the set

// What is known of cards that nobody has seen: how many there are of each kind, and of one that was laid face down and
// looked at, which kinds it can be. Every order of the cards that fits is as likely as any other.
class UnseenCards {
 public:
  explicit UnseenCards(std::vector<double> counts) : counts_(std::move(counts)) {}

  // For each kind the number of ways in which it can come next from the top.
  std::vector<double> next_weights() const { return weights(CardSet(), restricted(no_place)); }

  // The next card from the top is this one; or it is laid face down, and nobody sees which it is.
  void deal(Card kind) { known_[next_++] = take(kind); }
  std::size_t lay_down() { return next_++; }

  bool is_known(std::size_t place) const { return known_.count(place) > 0; }
  Card known(std::size_t place) const { return known_.at(place); }

  // For each kind the number of ways in which it can lie at a place that was not turned yet.
  std::vector<double> weights_at(std::size_t place) const {
    const auto found = narrowed_.find(place);
    return weights(found == narrowed_.end() ? CardSet() : found->second, restricted(place));
  }
  void turn(std::size_t place, Card kind) {
    narrowed_.erase(place);
    known_[place] = take(kind);
  }

  // The number of ways in which the card at a place is of the set, and in which it is not.
  std::vector<double> weights_of(std::size_t place, const CardSet& set) const {
    if (is_known(place)) return {set[known(place)] ? 1.0 : 0.0, set[known(place)] ? 0.0 : 1.0};
    std::vector<double> split{0, 0};
    const std::vector<double> each = weights_at(place);
    for (std::size_t kind = 0; kind < each.size(); ++kind) split[set[kind] ? 0 : 1] += each[kind];
    return split;
  }
  // It was looked at and told whether it is of the set.
  void narrow(std::size_t place, const CardSet& set, bool is_in) {
    if (is_known(place)) return;
    CardSet& can_be = narrowed_.try_emplace(place, counts_.size(), true).first->second;
    for (std::size_t kind = 0; kind < can_be.size(); ++kind) can_be[kind] = can_be[kind] && set[kind] == is_in;
  }

  // A deck of so many cards from the top that fits all that is known, any of them as likely: `below(n)` gives a number
  // below n. Cards that are gone from the top have their places in it.
  template <class Below>
  std::vector<Card> any_order(std::size_t size, Below&& below) const {
    UnseenCards left = *this;
    while (!left.narrowed_.empty()) {
      const std::size_t place = left.narrowed_.begin()->first;
      left.turn(place, picked(left.weights_at(place), below));
    }
    std::vector<Card> rest;
    for (std::size_t kind = 0; kind < counts_.size(); ++kind)
      rest.insert(rest.end(), static_cast<std::size_t>(left.counts_[kind]), static_cast<Card>(kind));
    std::vector<Card> deck;
    for (std::size_t place = 0; place < size; ++place) {
      if (left.is_known(place)) {
        deck.push_back(left.known(place));
        continue;
      }
      std::swap(rest[below(rest.size())], rest.back());
      deck.push_back(rest.back());
      rest.pop_back();
    }
    return deck;
  }
  std::size_t next_place() const { return next_; }
  const std::vector<double>& counts() const { return counts_; }

 private:
  static constexpr std::size_t no_place = static_cast<std::size_t>(-1);

  Card take(Card kind) {
    --counts_[kind];
    return kind;
  }

  // What the cards at the narrowed places, but one, can be. Other places say nothing about the cards.
  std::vector<const CardSet*> restricted(std::size_t but) const {
    std::vector<const CardSet*> sets;
    for (const auto& [place, set] : narrowed_)
      if (place != but) sets.push_back(&set);
    return sets;
  }

  std::vector<double> weights(const CardSet& among, const std::vector<const CardSet*>& others) const {
    std::vector<double> left = counts_, all(counts_.size(), 0);
    for (std::size_t kind = 0; kind < left.size(); ++kind) {
      if (left[kind] == 0 || (!among.empty() && !among[kind])) continue;
      --left[kind];
      all[kind] = counts_[kind] * ways(left, others, 0);
      ++left[kind];
    }
    return all;
  }

  // To lay cards of these counts on places of these sets, one after the other.
  static double ways(std::vector<double>& left, const std::vector<const CardSet*>& sets, std::size_t at) {
    if (at == sets.size()) return 1;
    double sum = 0;
    for (std::size_t kind = 0; kind < left.size(); ++kind) {
      if (left[kind] == 0 || !(*sets[at])[kind]) continue;
      --left[kind];
      sum += (left[kind] + 1) * ways(left, sets, at + 1);
      ++left[kind];
    }
    return sum;
  }

  template <class Below>
  static Card picked(const std::vector<double>& weights, Below& below) {
    auto left = static_cast<double>(below(static_cast<std::uint64_t>(
        std::accumulate(weights.begin(), weights.end(), 0.0))));
    std::size_t kind = 0;
    while (left >= weights[kind]) left -= weights[kind++];
    return static_cast<Card>(kind);
  }

  std::vector<double> counts_;
  std::map<std::size_t, Card> known_;
  std::map<std::size_t, CardSet> narrowed_;
  std::size_t next_ = 0;
};

}  // namespace habanera
