#pragma once

#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "habanera/chance/work_bound.hpp"
#include "habanera/draw/classes.hpp"
#include "habanera/question/keeping.hpp"
#include "habanera/question/words.hpp"
#include "habanera/stat/row_law.hpp"

// The exact law of hands, card by card: for each hand that can be, by how many cards of each class it and
// what is out of play hold, its chance. For stages and for the order of cards, where the law of the
// words alone will not do.

namespace habanera {

// A row per hand: its cards by class, the cards out of play by class, then marks (what else must be
// remembered of it).
class HandLaws {
 public:
  using Row = std::vector<RowLaw::Value>;

  HandLaws(std::vector<CardClass> classes, bool replace, const WorkBound& limit)
      : classes_(std::move(classes)), replace_(replace), limit_(limit) {
    for (const CardClass& one : classes_) held_ += one.held;
  }

  std::size_t size() const { return classes_.size(); }

  // The hand before anything is drawn.
  RowLaw start(std::size_t marks) const {
    Row row(2 * size() + marks, 0);
    for (std::size_t i = 0; i < size(); ++i) row[i] = static_cast<RowLaw::Value>(classes_[i].held);
    RowLaw law(row.size(), limit_);
    law.add(row.data(), 1);
    return law;
  }

  // So many cards more for every hand. Mark j is set when the card is the one drawn at places[j].position and
  // is of a kind it holds for.
  RowLaw draw(const RowLaw& law, std::size_t count, const std::vector<Words::Place>& places) const {
    RowLaw owing(law.width() + 1, limit_);
    for (std::size_t i = 0; i < law.size(); ++i) {
      Row row(law.row(i), law.row(i) + law.width());
      row.push_back(static_cast<RowLaw::Value>(count));
      owing.add(row.data(), law.chance(i));
    }
    return deal_owed(std::move(owing), places);
  }

  // One drawn card of each hand goes out of play: any of the kinds that go first, if there is one, each
  // with the same chance; else any.
  RowLaw put_under(const RowLaw& law, const std::vector<std::uint8_t>& under_first) const {
    RowLaw next(law.width(), limit_);
    for (std::size_t i = 0; i < law.size(); ++i) {
      const RowLaw::Value* hand = law.row(i);
      std::size_t first = 0, all = 0;
      for (std::size_t c = 0; c < size(); ++c) {
        const std::size_t drawn = hand[c] - classes_[c].held;
        all += drawn;
        if (under_first[classes_[c].kind]) first += drawn;
      }
      for (std::size_t c = 0; c < size(); ++c) {
        const std::size_t drawn = hand[c] - classes_[c].held;
        if (drawn == 0 || (first > 0 && !under_first[classes_[c].kind])) continue;
        Row moved(hand, hand + law.width());
        --moved[c];
        ++moved[size() + c];
        next.add(moved.data(), law.chance(i) * static_cast<double>(drawn) / static_cast<double>(first ? first : all));
      }
    }
    return next;
  }

  // The hand as cards, one of each class standing for all of it.
  std::vector<Card> hand_of(const RowLaw::Value* row) const {
    std::vector<Card> hand;
    for (std::size_t c = 0; c < size(); ++c) hand.insert(hand.end(), row[c], classes_[c].kind);
    return hand;
  }

  // What each hand keeps, by class.
  std::vector<Row> kept(const RowLaw& law, const std::vector<Keep>& ways) const {
    Keeper keeper;
    std::vector<std::uint8_t> chosen;
    std::vector<Row> kept;
    for (std::size_t i = 0; i < law.size(); ++i) {
      keeper.choose_first(ways, hand_of(law.row(i)), chosen);
      Row counts(size(), 0);
      std::size_t card = 0;
      for (std::size_t c = 0; c < size(); ++c)
        for (std::size_t j = 0; j < law.row(i)[c]; ++j)
          counts[c] = static_cast<RowLaw::Value>(counts[c] + chosen[card++]);
      kept.push_back(std::move(counts));
    }
    return kept;
  }

  // What is not kept goes out of play and is replaced.
  RowLaw exchange(const RowLaw& law, const std::vector<Row>& kept) const {
    RowLaw owing(law.width() + 1, limit_);
    for (std::size_t i = 0; i < law.size(); ++i) {
      Row row(law.row(i), law.row(i) + law.width());
      std::size_t missing = 0;
      for (std::size_t c = 0; c < size(); ++c) {
        const std::size_t gone = row[c] - std::size_t{kept[i][c]};
        missing += gone;
        row[c] = kept[i][c];
        row[size() + c] = static_cast<RowLaw::Value>(row[size() + c] + gone);
      }
      row.push_back(static_cast<RowLaw::Value>(missing));
      owing.add(row.data(), law.chance(i));
    }
    return deal_owed(std::move(owing), {});
  }

  // The words' index of each hand, without the words about places, which the marks tell.
  std::vector<std::uint64_t> indices(const RowLaw& law, const Words& words) const {
    Reading reading(words);
    std::vector<std::uint64_t> found;
    for (std::size_t i = 0; i < law.size(); ++i) {
      reading.begin();
      for (const Card card : hand_of(law.row(i))) reading.hold(card);
      found.push_back(reading.index());
    }
    return found;
  }

 private:
  // The last mark says how many cards a hand is owed; it is gone when all have them.
  RowLaw deal_owed(RowLaw owing, const std::vector<Words::Place>& places) const {
    while (anyone_owed(owing)) owing = draw_one(owing, places);
    RowLaw drawn(owing.width() - 1, limit_);
    for (std::size_t i = 0; i < owing.size(); ++i) drawn.add(owing.row(i), owing.chance(i));
    return drawn;
  }

  static bool anyone_owed(const RowLaw& law) {
    for (std::size_t i = 0; i < law.size(); ++i)
      if (law.row(i)[law.width() - 1] > 0) return true;
    return false;
  }

  RowLaw draw_one(const RowLaw& law, const std::vector<Words::Place>& places) const {
    RowLaw next(law.width(), limit_);
    Row grown(law.width());
    for (std::size_t i = 0; i < law.size(); ++i) {
      const RowLaw::Value* hand = law.row(i);
      if (hand[law.width() - 1] == 0) {
        next.add(hand, law.chance(i));
        continue;
      }
      std::size_t left = 0, in_hand = 0;
      for (std::size_t c = 0; c < size(); ++c) {
        left += in_deck(hand, c);
        in_hand += hand[c];
      }
      for (std::size_t c = 0; c < size(); ++c) {
        const std::size_t cards = in_deck(hand, c);
        if (cards == 0) continue;
        grown.assign(hand, hand + law.width());
        ++grown[c];
        --grown.back();
        for (std::size_t j = 0; j < places.size(); ++j)
          if (places[j].position == in_hand - held_ && places[j].holds[classes_[c].kind]) grown[2 * size() + j] = 1;
        next.add(grown.data(), law.chance(i) * static_cast<double>(cards) / static_cast<double>(left));
      }
    }
    return next;
  }

  std::size_t in_deck(const RowLaw::Value* hand, std::size_t c) const {
    if (replace_) return classes_[c].deck;
    return classes_[c].deck + classes_[c].held - hand[c] - hand[size() + c];
  }

  std::vector<CardClass> classes_;
  bool replace_;
  WorkBound limit_;
  std::size_t held_ = 0;
};

}  // namespace habanera
