#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <type_traits>
#include <utility>

#include "habanera/game/play_out.hpp"
#include "habanera/game/view.hpp"
#include "habanera/own/setting.hpp"
#include "habanera/own/stated.hpp"

namespace habanera {

// What a game of one's own must have, each told by its name where it is missing, of the game itself.
template <class G>
class OwnRequirements {
  template <template <class> class Part, class = void>
  struct Has : std::false_type {};
  template <template <class> class Part>
  struct Has<Part, std::void_t<Part<G>>> : std::true_type {};

  template <class T> using Name = decltype(static_cast<const char*>(T::name));
  template <class T> using Summary = decltype(static_cast<const char*>(T::summary));
  template <class T> using Outcomes = decltype(static_cast<const OwnOutcome&>(T::outcomes[0]));
  template <class T> using Position = decltype(typename T::Position{});
  template <class T> using Made = decltype(T(std::declval<const Setting&>()));
  template <class T> using Comes =
      decltype(static_cast<NextStep>(std::declval<const T&>().next(std::declval<const typename T::Position&>())));
  template <class T> using Give = decltype(std::declval<const T&>().give(
      std::declval<typename T::Position&>(), std::declval<const NextStep&>(), Card{}));
  template <class T> using Result =
      decltype(std::declval<const T&>().outcome(std::declval<const typename T::Position&>()));
  template <class T> using Sees = std::enable_if_t<std::is_same_v<
      typename T::View, decltype(std::declval<const T&>().view(std::declval<const typename T::Position&>(), 0))>>;
  // As games said it before they had views.
  template <class T> using ShownPosition =
      decltype(std::declval<const T&>().shown(std::declval<const typename T::Position&>(), std::size_t{}));

 public:
  static constexpr bool check() {
    static_assert(Has<Name>::value, "Game needs `static constexpr const char* name`");
    static_assert(Has<Summary>::value, "Game needs `static constexpr const char* summary`");
    static_assert(Has<Outcomes>::value, "Game needs `static constexpr std::array outcomes{...}`");
    static_assert(Has<Position>::value, "Game needs a struct `Position`, made without arguments");
    static_assert(Has<Made>::value, "Game needs a constructor `explicit Game(const Setting&)`");
    static_assert(Has<Comes>::value, "Game needs `Next next(const Position&) const`");
    static_assert(Has<Give>::value, "Game needs `void give(Position&, const Next&, Card) const`");
    static_assert(Has<Result>::value, "Game needs `auto outcome(const Position&) const`, which returns values(...)");
    static_assert(!Has<ShownPosition>::value, "what a seat is shown is its View, which has shown(); see ?hidden_cards");
    static_assert(Has<Sees>::value, "Game needs `View view(const Position&, std::size_t seat) const` for its View");
    static_assert(is_view<typename G::View>, "View needs to be a Sight<View> with `Shown shown() const`");
    static_assert(keeps_from<typename G::View, typename G::Position>, "View must have no way to the position");
    return true;
  }
};

}  // namespace habanera
