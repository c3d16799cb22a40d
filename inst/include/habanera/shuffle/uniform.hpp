#pragma once

#include <cstddef>
#include <utility>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/size_run.hpp"

namespace habanera {

// The fair shuffle (Fisher & Yates 1938; Durstenfeld 1964, algorithm 235): each place from the top
// takes one of the cards not yet placed. Run from the top, so that the first k places are final
// after k steps, and a draw of k cards is the start of a whole shuffle.
class UniformShuffle {
 public:
  explicit UniformShuffle(std::size_t cards) : choices_(SizeRun::falling(cards)) {}

  // Makes the first `top` places final; the whole deck when `top` is its size.
  template <class Chance, class Watcher>
  void operator()(const Pile& pile, std::size_t top, Chance& chance, Watcher& watcher) const {
    chance.below_each(choices_, top, [&](std::size_t place, std::uint64_t further) {
      const std::size_t other = place + static_cast<std::size_t>(further);
      std::swap(pile.cards[place], pile.cards[other]);
      watcher.swapped(pile, place, other);
    });
  }

  // Whether the first `top` places can be settled out of one random word.
  bool settles_in_one_word(std::size_t top) const {
    return top > 0 && !choices_.batches().empty() && top <= choices_.batches().front().end;
  }

  // The places that the first `Top` cards come from, when settles_in_one_word(Top): the same swaps, followed without
  // moving a card.
  template <std::size_t Top, class Chance>
  [[gnu::always_inline]] void find_top(Chance& chance, std::size_t (&places)[Top]) const {
    std::size_t others[Top];
    chance.template below_first<Top>(choices_, [&](std::size_t place, std::uint64_t further) {
      others[place] = place + static_cast<std::size_t>(further);
    });
    find_all(others, places, std::make_index_sequence<Top>());
  }

 private:
  template <std::size_t Top, std::size_t... Place>
  [[gnu::always_inline]] static void find_all(const std::size_t (&others)[Top], std::size_t (&places)[Top],
                                              std::index_sequence<Place...>) {
    ((places[Place] = find_before<Place>(others[Place], others)), ...);
  }

  // Where the card came from that lay there after so many swaps: a place swapped before holds what was at the place
  // that it was swapped with, and so on back.
  template <std::size_t Swaps, std::size_t Top>
  [[gnu::always_inline]] static std::size_t find_before(std::size_t from, const std::size_t (&others)[Top]) {
    if constexpr (Swaps == 0) {
      return from;
    } else {
      constexpr std::size_t last = Swaps - 1;
      return find_before<last>(from ^ ((from ^ last) & (0 - static_cast<std::size_t>(from == others[last]))), others);
    }
  }

  SizeRun choices_;
};

}  // namespace habanera
