#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <type_traits>
#include <utility>

#include "habanera/own/stated.hpp"

namespace habanera {

// What a game of one's own may have, beside what it must.

template <class G, class = void>
inline constexpr bool has_own_key = false;
template <class G>
inline constexpr bool has_own_key<G, std::void_t<decltype(&G::key)>> = true;

template <class G, class = void>
inline constexpr bool moves_cards_on = false;
template <class G>
inline constexpr bool moves_cards_on<G, std::void_t<decltype(&G::lies)>> = true;

template <class G, class = void>
inline constexpr bool tells_worth = false;
template <class G>
inline constexpr bool tells_worth<G, std::void_t<decltype(std::declval<const G&>().worth(
                                          std::array<std::int64_t, G::outcomes.size()>{}, std::size_t{}))>> = true;

// A game whose moves have amounts tells them.
template <class G, class = void>
inline constexpr bool tells_amounts = false;
template <class G>
inline constexpr bool tells_amounts<G, std::void_t<decltype(static_cast<OwnMove>(std::declval<const G&>().told(
                                            std::declval<const typename G::Position&>(), std::size_t{})))>> = true;

}  // namespace habanera
