#pragma once

#include <cstddef>
#include <utility>

#include "habanera/game/view.hpp"

namespace habanera {

template <class G>
class Own;

// What a seat sees of a game of one's own: the game's view of it. What it knows of the position it keeps for itself.
template <class G>
class OwnView : public Sight<OwnView<G>> {
 public:
  const typename G::View& own() const { return own_; }
  std::size_t seat() const { return seat_; }
  Shown shown() const { return own_.shown(); }

 private:
  friend class Own<G>;
  using Position = typename Own<G>::Position;
  OwnView(typename G::View own, std::size_t seat, const Position& position)
      : own_(std::move(own)), seat_(seat), position_(&position) {}
  typename G::View own_;
  std::size_t seat_;
  const Position* position_;
};

}  // namespace habanera
