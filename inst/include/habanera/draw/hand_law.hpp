#pragma once

#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "habanera/draw/classes.hpp"
#include "habanera/draw/keeping.hpp"
#include "habanera/draw/words.hpp"
#include "habanera/stat/exact_sum.hpp"

// The exact law of hands, card by card: for each hand that can be, by how many cards of each class it and
// what is out of play hold, its chance. For stages and for the order of cards, where the law of the
// words alone will not do.

namespace habanera {

// A row per hand: its cards by class, the cards out of play by class, then `marks` (what else must be
// remembered of it).
struct HandLaw {
  std::size_t classes, marks;
  std::vector<std::vector<std::uint16_t>> rows;
  std::vector<double> chances;
};

class HandLaws {
 public:
  HandLaws(std::vector<CardClass> classes, bool replace, std::size_t state_limit)
      : classes_(std::move(classes)), replace_(replace), state_limit_(state_limit) {
    for (const CardClass& one : classes_) held_ += one.held;
  }

  std::size_t size() const { return classes_.size(); }

  // The hand before anything is drawn.
  HandLaw start(std::size_t marks) const {
    HandLaw law{size(), marks, {std::vector<std::uint16_t>(2 * size() + marks, 0)}, {1.0}};
    for (std::size_t i = 0; i < size(); ++i) law.rows[0][i] = static_cast<std::uint16_t>(classes_[i].held);
    return law;
  }

  // A card for every hand that is owed one; `owed` says how many, row by row. Mark j is set when the card
  // is the one drawn at places[j].position and is of a kind it holds for.
  HandLaw draw(const HandLaw& law, std::vector<std::size_t> owed,
               const std::vector<Words::Place>& places) const {
    // The cards owed are a last mark while they are drawn.
    HandLaw now = law;
    ++now.marks;
    for (std::size_t row = 0; row < now.rows.size(); ++row)
      now.rows[row].push_back(static_cast<std::uint16_t>(owed[row]));
    while (anyone_owed(now)) now = draw_one(now, places);
    --now.marks;
    for (auto& row : now.rows) row.pop_back();
    return now;
  }

  // One drawn card of each hand goes out of play: any of the kinds that go first, if there is one, each
  // with the same chance; else any.
  HandLaw put_under(const HandLaw& law, const std::vector<std::uint8_t>& under_first) const {
    Builder next(*this, law);
    for (std::size_t row = 0; row < law.rows.size(); ++row) {
      const auto& hand = law.rows[row];
      std::size_t first = 0, all = 0;
      for (std::size_t i = 0; i < size(); ++i) {
        const std::size_t drawn = hand[i] - classes_[i].held;
        all += drawn;
        if (under_first[classes_[i].kind]) first += drawn;
      }
      for (std::size_t i = 0; i < size(); ++i) {
        const std::size_t drawn = hand[i] - classes_[i].held;
        if (drawn == 0 || (first > 0 && !under_first[classes_[i].kind])) continue;
        auto moved = hand;
        --moved[i];
        ++moved[size() + i];
        next.add(moved, law.chances[row] * static_cast<double>(drawn) / static_cast<double>(first ? first : all));
      }
    }
    return next.take();
  }

  // The hands as cards, one of each class standing for all of it.
  std::vector<Card> hand_of(const std::vector<std::uint16_t>& row) const {
    std::vector<Card> hand;
    for (std::size_t i = 0; i < size(); ++i)
      hand.insert(hand.end(), row[i], classes_[i].kind);
    return hand;
  }

  // What each hand keeps, by class.
  std::vector<std::vector<std::uint16_t>> kept(const HandLaw& law, const std::vector<Keep>& ways) const {
    Keeper keeper;
    std::vector<std::uint8_t> chosen;
    std::vector<std::vector<std::uint16_t>> kept;
    for (const auto& row : law.rows) {
      keeper.choose_first(ways, hand_of(row), chosen);
      std::vector<std::uint16_t> counts(size(), 0);
      std::size_t card = 0;
      for (std::size_t i = 0; i < size(); ++i)
        for (std::size_t j = 0; j < row[i]; ++j) counts[i] = static_cast<std::uint16_t>(counts[i] + chosen[card++]);
      kept.push_back(std::move(counts));
    }
    return kept;
  }

  // What is not kept goes out of play and is replaced.
  HandLaw exchange(const HandLaw& law, const std::vector<std::vector<std::uint16_t>>& kept) const {
    HandLaw now = law;
    std::vector<std::size_t> owed(law.rows.size(), 0);
    for (std::size_t row = 0; row < law.rows.size(); ++row)
      for (std::size_t i = 0; i < size(); ++i) {
        const std::size_t gone = law.rows[row][i] - kept[row][i];
        owed[row] += gone;
        now.rows[row][i] = kept[row][i];
        now.rows[row][size() + i] = static_cast<std::uint16_t>(now.rows[row][size() + i] + gone);
      }
    return draw(now, owed, {});
  }

  // The words' index of each hand, without the words about places, which the marks tell.
  std::vector<std::uint64_t> indices(const HandLaw& law, const Words& words) const {
    Reading reading(words);
    std::vector<std::uint64_t> found;
    for (const auto& row : law.rows) {
      reading.begin();
      for (const Card card : hand_of(row)) reading.hold(card);
      found.push_back(reading.index());
    }
    return found;
  }

 private:
  struct RowHash {
    std::size_t operator()(const std::vector<std::uint16_t>& row) const {
      std::uint64_t hash = 0xcbf29ce484222325ULL;
      for (const std::uint16_t value : row) hash = (hash ^ value) * 0x100000001b3ULL;
      return static_cast<std::size_t>(hash ^ (hash >> 31));
    }
  };

  // Adds up the chances of like rows, which stay in the order they first came in.
  class Builder {
   public:
    Builder(const HandLaws& laws, const HandLaw& like)
        : limit_(laws.state_limit_), law_{like.classes, like.marks, {}, {}} {}

    void add(const std::vector<std::uint16_t>& row, double chance) {
      const auto [found, is_new] = place_.try_emplace(row, sums_.size());
      if (is_new) {
        if (sums_.size() == limit_)
          throw std::length_error("more than " + std::to_string(limit_) + " different hands");
        sums_.emplace_back();
        law_.rows.push_back(row);
      }
      sums_[found->second].add(chance);
    }
    HandLaw take() {
      for (const ExactSum& sum : sums_) law_.chances.push_back(sum.value());
      return std::move(law_);
    }

   private:
    std::size_t limit_;
    HandLaw law_;
    std::vector<ExactSum> sums_;
    std::unordered_map<std::vector<std::uint16_t>, std::size_t, RowHash> place_;
  };

  static bool anyone_owed(const HandLaw& law) {
    for (const auto& row : law.rows)
      if (row.back() > 0) return true;
    return false;
  }

  HandLaw draw_one(const HandLaw& law, const std::vector<Words::Place>& places) const {
    Builder next(*this, law);
    for (std::size_t row = 0; row < law.rows.size(); ++row) {
      const auto& hand = law.rows[row];
      if (hand.back() == 0) {
        next.add(hand, law.chances[row]);
        continue;
      }
      std::size_t left = 0, drawn = 0;
      for (std::size_t i = 0; i < size(); ++i) {
        left += in_deck(hand, i);
        drawn += hand[i];
      }
      for (std::size_t i = 0; i < size(); ++i) {
        const std::size_t cards = in_deck(hand, i);
        if (cards == 0) continue;
        auto grown = hand;
        ++grown[i];
        --grown.back();
        for (std::size_t j = 0; j < places.size(); ++j)
          if (places[j].position == drawn - held_ && places[j].holds[classes_[i].kind]) grown[2 * size() + j] = 1;
        next.add(grown, law.chances[row] * static_cast<double>(cards) / static_cast<double>(left));
      }
    }
    return next.take();
  }

  std::size_t in_deck(const std::vector<std::uint16_t>& hand, std::size_t i) const {
    if (replace_) return classes_[i].deck;
    return classes_[i].deck + classes_[i].held - hand[i] - hand[size() + i];
  }

  std::vector<CardClass> classes_;
  bool replace_;
  std::size_t state_limit_;
  std::size_t held_ = 0;
};

}  // namespace habanera
