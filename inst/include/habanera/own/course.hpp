#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>

#include "habanera/cards/pile.hpp"

namespace habanera {

// A list with room for so many, of which only what it holds is copied.
template <class Value, std::size_t room>
class ShortList {
 public:
  ShortList() {}  // what it does not hold has no value yet
  ShortList(const ShortList& other) : size_(other.size_) { std::copy_n(other.values_.begin(), size_, values_.begin()); }
  ShortList& operator=(const ShortList& other) {
    size_ = other.size_;
    std::copy_n(other.values_.begin(), size_, values_.begin());
    return *this;
  }

  bool is_full() const { return size_ == room; }
  void add(Value value) { values_[size_++] = value; }
  std::size_t size() const { return size_; }
  Value operator[](std::size_t at) const { return values_[at]; }

 private:
  std::array<Value, room> values_;
  std::size_t size_ = 0;
};

inline constexpr std::size_t most_own_cards = 832;  // sixteen packs
inline constexpr std::size_t most_own_moves = 1000;

// How a game came to where it is: which cards were dealt and to which zone, and which moves were made.
struct Course {
  struct Dealt {
    Card card;
    std::uint16_t zone;
  };
  ShortList<Dealt, most_own_cards> dealt;
  ShortList<std::uint8_t, most_own_moves> moves;
  bool whole = true;  // all moves are held

  void deal(Card card, std::size_t zone) { dealt.add({card, static_cast<std::uint16_t>(zone)}); }
  void make(std::size_t move) {
    if (moves.is_full()) whole = false;
    else moves.add(static_cast<std::uint8_t>(move));
  }
};

}  // namespace habanera
