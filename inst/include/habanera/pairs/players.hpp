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
  PairsMemory(double recall, std::uint32_t span)
      : recall_(recall), span_(span), forgets_(recall < 1 || span < 0xffffffff) {}

  void begins() {
    known_ = paired_ = Moves();
    read_ = 0;
    of_class_.fill(Moves());
    if (!forgets()) return;
    kept_.fill(0);
    looked_.fill(0);
  }

  // Reads what was shown since the last look.
  void look(const Pairs::View& view, Moves places, PlayerChance& chance) {
    if (!forgets()) return read(view);
    known_ = paired_ = Moves();
    of_class_.fill(Moves());
    places.each([&](std::size_t place) {
      if (looked_[place] != view.when(place)) {
        if (chance_of_keeping(chance)) kept_[place] = view.when(place);
        looked_[place] = view.when(place);
      }
      if (kept_[place] != 0 && view.sightings() - kept_[place] <= span_) know(place, view.seen(place));
    });
  }

  Moves known() const { return known_; }
  bool forgets() const { return forgets_; }

  // The first known of these places with a card of this class, or most_places.
  std::size_t mate(std::uint16_t card_class, Moves places) const {
    const Moves found = of_class_[card_class].both(places);
    return found.empty() ? most_places : found.first();
  }
  // The first of these places whose card and its mate are known, or most_places.
  std::size_t pair(const Pairs::View& view, Moves places) {
    for (Moves left = paired_.both(places); !left.empty(); left.remove(left.first())) {
      const std::size_t place = left.first();
      if (of_class_[view.seen(place)].both(places).is_many()) return place;
      paired_.remove(place);
    }
    return most_places;
  }

 private:
  // Who forgets nothing reads each sighting once.
  void read(const Pairs::View& view) {
    if (view.sightings() - read_ > Pairs::Position::kept_sightings) {
      for (std::size_t place = 0; place < most_places; ++place)
        if (view.seen(place) != Pairs::nobody_knows) know(place, view.seen(place));
      read_ = view.sightings();
    }
    while (read_ != view.sightings()) {
      const std::size_t place = view.place_of(++read_);
      know(place, view.seen(place));
    }
  }

  void know(std::size_t place, std::uint16_t card_class) {
    Moves& alike = of_class_[card_class];
    known_.add(place);
    alike.add(place);
    if (alike.is_many()) paired_ = paired_.with(alike);
  }

  // Perfect recall asks for no luck, so that every path of such a game can be walked.
  bool chance_of_keeping(PlayerChance& chance) const { return recall_ >= 1 || chance.happens(recall_); }

  double recall_ = 1;
  std::uint32_t span_ = 0xffffffff, read_ = 0;
  bool forgets_ = false;
  std::array<std::uint32_t, most_places> kept_{}, looked_{};  // of who forgets: the last sighting kept, and decided on
  std::array<Moves, most_places> of_class_{};                 // where cards of a class are known to be
  Moves known_, paired_;                                      // paired_: those with a mate known, and some others
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
      const std::size_t pair = memory_.pair(view, moves);
      if (pair != most_places) return pair;
      return any_of(unknown.empty() ? moves : unknown, chance);
    }
    const std::size_t mate = memory_.mate(view.seen(view.first()), known);
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
