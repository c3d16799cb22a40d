#pragma once

#include <cstddef>
#include <cstdint>

namespace habanera {

// What a seat may do: a set of numbers below 64, whose meaning is the game's own.
class Moves {
 public:
  void add(std::size_t move) { bits_ |= std::uint64_t{1} << move; }
  bool has(std::size_t move) const { return move < 64 && (bits_ >> move & 1) != 0; }
  bool empty() const { return bits_ == 0; }
  std::size_t count() const { return static_cast<std::size_t>(__builtin_popcountll(bits_)); }
  bool is_one() const { return bits_ != 0 && (bits_ & (bits_ - 1)) == 0; }
  std::size_t first() const { return static_cast<std::size_t>(__builtin_ctzll(bits_)); }

  // The one so many after the first.
  std::size_t at(std::size_t place) const {
    std::uint64_t left = bits_;
    while (place-- > 0) left &= left - 1;
    return static_cast<std::size_t>(__builtin_ctzll(left));
  }

  // How many of them come before this one.
  std::size_t place_of(std::size_t move) const {
    return static_cast<std::size_t>(__builtin_popcountll(bits_ & ((std::uint64_t{1} << move) - 1)));
  }

  // Calls use(move) for each, in rising order.
  template <class Use>
  void each(Use&& use) const {
    for (std::uint64_t left = bits_; left != 0; left &= left - 1) use(static_cast<std::size_t>(__builtin_ctzll(left)));
  }

  // As one number, a bit for each move.
  std::uint64_t bits() const { return bits_; }

  void remove(std::size_t move) { bits_ &= ~(std::uint64_t{1} << move); }
  // All moves below this number.
  static Moves below(std::size_t end) { return Moves(end >= 64 ? ~std::uint64_t{0} : (std::uint64_t{1} << end) - 1); }

  bool is_many() const { return (bits_ & (bits_ - 1)) != 0; }
  Moves with(Moves other) const { return Moves(bits_ | other.bits_); }
  Moves both(Moves other) const { return Moves(bits_ & other.bits_); }
  Moves without(Moves other) const { return Moves(bits_ & ~other.bits_); }

  Moves() = default;

 private:
  explicit Moves(std::uint64_t bits) : bits_(bits) {}
  std::uint64_t bits_ = 0;
};

}  // namespace habanera
