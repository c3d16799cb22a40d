#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>

#include "habanera/game/player.hpp"
#include "habanera/pairs/pairs.hpp"

namespace habanera {

using PairsPlayer = Player<Pairs::View>;

// What one seat knows of the table: which of the cards that lie there it has seen and kept in mind.
class PairsMemory {
 public:
  // Everything seen is kept.
  PairsMemory() = default;
  // Of each card seen it is kept with this chance, and for so many other cards seen. One that was kept before stays so.
  PairsMemory(double recall, std::uint32_t span) : recall_(recall), span_(span) {}

  void begins() {
    kept_.fill(0);
    looked_.fill(0);
  }

  // Reads what was shown since the last look.
  void look(const Pairs::View& view, Moves places, PlayerChance& chance) {
    known_ = Moves();
    pair_ = most_places;
    ++looks_;
    places.each([&](std::size_t place) {
      if (looked_[place] != view.when[place]) {
        if (chance_of_keeping(chance)) kept_[place] = view.when[place];
        looked_[place] = view.when[place];
      }
      if (kept_[place] != 0 && view.sightings - kept_[place] <= span_) know(place, view.seen[place]);
    });
  }

  Moves known() const { return known_; }
  bool forgets() const { return recall_ < 1 || span_ < 0xffffffff; }

  // A known place of this class, or most_places.
  std::size_t mate(std::uint16_t card_class) const {
    return known_at_[card_class].look == looks_ ? known_at_[card_class].place : most_places;
  }
  // A known card whose mate is known, or most_places.
  std::size_t pair() const { return pair_; }

 private:
  // Where a card of a class was known to lie, at which look.
  struct KnownAt {
    std::uint32_t look = 0;
    std::uint8_t place = 0;
  };

  void know(std::size_t place, std::uint16_t card_class) {
    known_.add(place);
    KnownAt& found = known_at_[card_class];
    if (found.look != looks_) {
      found = {looks_, static_cast<std::uint8_t>(place)};
    } else if (pair_ == most_places || found.place < pair_) {
      pair_ = found.place;
    }
  }

  // Perfect recall asks for no luck, so that every path of such a game can be walked.
  bool chance_of_keeping(PlayerChance& chance) const { return recall_ >= 1 || chance.happens(recall_); }

  double recall_ = 1;
  std::uint32_t span_ = 0xffffffff, looks_ = 0;
  std::array<std::uint32_t, most_places> kept_{}, looked_{};  // the last sighting kept, and the last decided on
  std::array<KnownAt, most_places> known_at_{};               // by class
  Moves known_;
  std::size_t pair_ = most_places;
};

// Takes a known pair first; else turns a card it does not know, then its mate if that is known, else another card it
// does not know: or, if careful, one it knows, so that nothing new is shown.
class RememberingPlayer : public PairsPlayer {
 public:
  RememberingPlayer(PairsMemory memory, bool careful) : memory_(memory), careful_(careful) {}

  std::unique_ptr<PairsPlayer> copy() const override { return std::make_unique<RememberingPlayer>(*this); }
  void begins() override { memory_.begins(); }
  bool decides_by_view() const override { return !memory_.forgets(); }

  std::size_t choose(const Pairs::View& view, Moves moves, PlayerChance& chance) override {
    memory_.look(view, moves, chance);
    const Moves known = memory_.known().both(moves), unknown = moves.without(known);
    if (!view.second_card()) {
      const std::size_t pair = memory_.pair();
      if (pair != most_places) return pair;
      return any_of(unknown.empty() ? moves : unknown, chance);
    }
    const std::size_t mate = memory_.mate(view.seen[view.first]);
    if (mate != most_places) return mate;
    if (careful_ && !known.empty()) return known.first();
    return any_of(unknown.empty() ? moves : unknown, chance);
  }

 private:
  // Cards never seen are alike, so that any will do; among those forgotten it is left to luck.
  std::size_t any_of(Moves places, PlayerChance& chance) const {
    if (!memory_.forgets() || places.count() == 1) return places.first();
    return places.at(static_cast<std::size_t>(chance.below(places.count())));
  }

  PairsMemory memory_;
  bool careful_;
};

}  // namespace habanera
