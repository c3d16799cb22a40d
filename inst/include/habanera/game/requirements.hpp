#pragma once

#include <cstdint>
#include <type_traits>
#include <utility>
#include <vector>

#include "habanera/chance/random.hpp"
#include "habanera/game/player.hpp"
#include "habanera/game/vocabulary.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// What a game must have, each told by its name where it is missing.
template <class Game>
class GameRequirements {
  template <template <class> class Part, class = void>
  struct Has : std::false_type {};
  template <template <class> class Part>
  struct Has<Part, std::void_t<Part<Game>>> : std::true_type {};

  template <class G> using Rules = typename G::Rules;
  template <class G> using Outcome = typename G::Outcome;
  template <class G> using Columns =
      decltype(G::Outcome::columns().front().read(std::declval<const typename G::Outcome&>()));
  template <class G> using Actions = decltype(std::vector<Word>(G::actions()));
  template <class G> using Zones = decltype(std::vector<Zone>(std::declval<const G&>().zones()));
  template <class G> using Made = decltype(G(std::declval<typename G::Rules>()));
  template <class G> using Kept = decltype(static_cast<const typename G::Rules&>(std::declval<const G&>().rules()));
  template <class G> using Likeness = decltype(static_cast<std::uint32_t>(std::declval<const G&>().likeness(Card{})));
  template <class G> using Play = decltype(std::declval<G&>().play(
      std::declval<const std::vector<Card>&>(), std::declval<RandomChance&>(), std::declval<SeatLanes&>(),
      std::declval<Silent&>()));
  template <class G> using HoldsRounds = decltype(std::declval<const G&>().holds_rounds());

 public:
  static constexpr bool check() {
    static_assert(Has<Rules>::value, "a game needs a type Rules");
    static_assert(Has<Outcome>::value, "a game needs a type Outcome");
    static_assert(Has<Columns>::value, "Outcome needs columns(): a list of Column<Outcome>, each with name and read()");
    static_assert(Has<Actions>::value, "a game needs a static actions(): a Word for each thing that can happen");
    static_assert(Has<Zones>::value, "a game needs zones(): where its cards can lie");
    static_assert(Has<Made>::value, "a game is made from its Rules alone");
    static_assert(Has<Kept>::value, "a game needs rules(): the Rules that it was made from");
    static_assert(Has<Likeness>::value, "a game needs likeness(card): the same number for cards alike to it");
    static_assert(Has<Play>::value || Has<HoldsRounds>::value,
                  "a game needs play(deck, chance, luck, watcher), which returns its Outcome");
    return true;
  }
};

}  // namespace habanera
