#pragma once

#include <cstddef>
#include <cstdint>
#include <cstring>
#include <limits>
#include <numeric>

#include "habanera/cards/pile.hpp"
#include "habanera/shuffle/lanes.hpp"

namespace habanera {

// Lanes hold cards as 16-bit numbers with a sign, and sums over a row of them must not overflow.
inline constexpr std::size_t most_audited_cards = 4096;

// One arrangement of cards 0, 1, ..., n - 1 and what can be read off it: which card lies at each place,
// and at which place each card lies.
class Standing {
 public:
  explicit Standing(std::size_t cards)
      : n_(cards), at_(cards, padding), place_(cards, padding), in_order_(cards, padding),
        twice_(2 * cards + lane_count, padding), spliced_at_(cards, padding), spliced_place_(cards, padding) {
    std::iota(in_order_.data(), in_order_.data() + n_, std::int16_t{0});
  }

  // False when the cards are no rearrangement; nothing may then be asked of it.
  bool read(const Card* cards) {
    if (n_ == 0) return true;
    std::memcpy(at_.data(), cards, n_ * sizeof *cards);
    std::memset(place_.data(), -1, n_ * sizeof *cards);
    for (std::size_t i = 0; i < n_; ++i) {
      if (cards[i] >= n_) return false;
      place_[cards[i]] = static_cast<std::int16_t>(i);
    }
    Lanes none{};
    for (std::size_t b = 0; b < n_; b += lane_count) none |= load_lanes(&place_.data()[b]) < 0;
    return lane_sum(none) == 0;
  }

  std::size_t size() const { return n_; }
  std::size_t at(std::size_t place) const { return static_cast<std::size_t>(at_[place]); }
  const LaneRow& places() const { return place_; }

  // Cards at the place they started from.
  std::size_t stayed_put() const {
    Lanes equal{};
    for (std::size_t b = 0; b < n_; b += lane_count)
      equal -= load_lanes(&at_.data()[b]) == load_lanes(&in_order_.data()[b]);
    return static_cast<std::size_t>(lane_sum(equal)) - (lane_blocks(n_) * lane_count - n_);
  }

  // Cards followed by the one that followed them at the start.
  std::size_t still_together() const {
    Lanes joined{};
    for (std::size_t b = 0; b < n_; b += lane_count)
      joined -= load_lanes(&at_.data()[b + 1]) - load_lanes(&at_.data()[b]) == 1;
    return static_cast<std::size_t>(lane_sum(joined));
  }

  // Runs of cards that still lie in their old order from the top down, taken from the first card on.
  std::size_t rising_sequences() const {
    Lanes breaks{};
    for (std::size_t b = 0; b < n_; b += lane_count)
      breaks -= load_lanes(&place_.data()[b + 1]) < load_lanes(&place_.data()[b]);
    return static_cast<std::size_t>(lane_sum(breaks)) + (n_ > 0 ? 1 : 0);
  }

  // Pairs of cards whose order was turned round. Blocks of cards are compared with every later block, and
  // with themselves, turned by 0 to 7 places; so that each pair is met once.
  std::uint64_t inversions() {
    std::uint64_t turned = 0;
    for (std::size_t b = 0; b < n_; b += lane_count) {
      const Lanes block = load_lanes(&at_.data()[b]);
      store_lanes(&twice_.data()[2 * b], block);
      store_lanes(&twice_.data()[2 * b + lane_count], block);
    }
    for (std::size_t c = 0; c < n_; c += lane_count) {
      const std::int16_t* later = &twice_.data()[2 * c];
      Lanes larger{};
      for (std::size_t b = 0; b < c; b += lane_count) {
        const Lanes earlier = load_lanes(&at_.data()[b]);
#pragma GCC unroll 8
        for (std::size_t turn = 0; turn < lane_count; ++turn) larger -= earlier > load_lanes(later + turn);
      }
#pragma GCC unroll 8
      for (std::size_t turn = 1; turn < lane_count; ++turn)
        larger -= (load_lanes(later) > load_lanes(later + turn)) & lanes_before(lane_count - turn);
      turned += static_cast<std::uint64_t>(lane_sum(larger));
    }
    return turned;
  }

  // Cycles of "the card at place i started at place j".
  std::size_t cycles() { return n_ <= 64 ? cycles_by_walking() : cycles_by_splicing(); }

  // The sum over all cards of how many places they moved.
  std::uint64_t total_distance() const {
    std::uint64_t sum = 0;
    Lanes moved{};
    std::size_t added = 0;
    for (std::size_t b = 0; b < n_; b += lane_count) {
      const Lanes away = load_lanes(&at_.data()[b]) - load_lanes(&in_order_.data()[b]), back = away < 0;
      moved += (away ^ back) - back;
      // Every block may add n to a lane, which holds up to 32,767.
      added += n_;
      if (added + n_ <= static_cast<std::size_t>(padding) && b + lane_count < n_) continue;
      sum += static_cast<std::uint64_t>(lane_sum(moved));
      moved = Lanes{};
      added = 0;
    }
    return sum;
  }

  // The sum over all cards of the product of their places, from 0, in this arrangement and another.
  std::uint64_t product_of_places(const LaneRow& other) const {
    std::uint64_t sum = 0;
    for (std::size_t c = 0; c < n_; ++c) {
      sum += static_cast<std::uint64_t>(static_cast<std::int32_t>(place_[c]) * other[c]);
    }
    return sum;
  }

 private:
  // Each cycle is walked both ways at once until the ways meet, so that one step need not wait for the
  // other; the places not seen yet are the bits of a word.
  std::size_t cycles_by_walking() const {
    std::uint64_t unseen = n_ == 0 ? 0 : ~std::uint64_t{0} >> (64 - n_);
    const auto see = [&](std::size_t place) { unseen &= ~(std::uint64_t{1} << place); };
    std::size_t found = 0;
    while (unseen != 0) {
      const auto first = static_cast<std::size_t>(__builtin_ctzll(unseen));
      ++found;
      see(first);
      auto ahead = static_cast<std::size_t>(at_[first]), behind = static_cast<std::size_t>(place_[first]);
      while ((unseen >> ahead & 1) != 0) {
        see(ahead);
        see(behind);
        ahead = static_cast<std::size_t>(at_[ahead]);
        behind = static_cast<std::size_t>(place_[behind]);
      }
    }
    return found;
  }

  // Place after place is spliced out of its cycle; the last of a cycle points to itself.
  std::size_t cycles_by_splicing() {
    spliced_at_ = at_;
    spliced_place_ = place_;
    std::size_t found = 0;
    for (std::size_t i = 0; i < n_; ++i) {
      const std::int16_t card = spliced_at_[i], from = spliced_place_[i];
      found += card == static_cast<std::int16_t>(i);
      spliced_at_[static_cast<std::size_t>(from)] = card;
      spliced_place_[static_cast<std::size_t>(card)] = from;
    }
    return found;
  }

  static constexpr std::int16_t padding = std::numeric_limits<std::int16_t>::max();

  std::size_t n_;
  LaneRow at_, place_, in_order_, twice_, spliced_at_, spliced_place_;
};

}  // namespace habanera
