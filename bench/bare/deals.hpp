#pragma once

// What all bare loops deal by: random words by the address of a trial, several choices out of one word, cards swapped
// to their places. The words, batches and swaps are those of the package, so that trial t is the same deal here as
// there. Sources: Steele, Lea & Flood 2014 (the mixing), Brackett-Rozinsky & Lemire 2024 (the batches).
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <vector>

namespace bare {

__extension__ typedef unsigned __int128 Wide;
using Tally = std::vector<std::uint32_t>;
inline constexpr std::uint64_t golden = 0x9e3779b97f4a7c15ULL;

inline constexpr std::uint64_t mix(std::uint64_t z) {
  z = (z ^ (z >> 30)) * 0xbf58476d1ce4e5b9ULL;
  z = (z ^ (z >> 27)) * 0x94d049bb133111ebULL;
  return z ^ (z >> 31);
}

// The words of a trial of seed 1.
class Words {
 public:
  explicit Words(std::uint64_t trial) : state_(mix(mix(mix(1) + trial * 0xd1342543de82ef95ULL))) {}
  // Those of the player in a seat, from 0.
  Words(std::uint64_t trial, std::uint64_t seat)
      : state_(mix(mix(mix(1) + trial * 0xd1342543de82ef95ULL) + (seat + 2) * 0xaef17502108ef2d9ULL)) {}
  std::uint64_t operator()() { return mix(state_ += golden); }

 private:
  std::uint64_t state_;
};

// The next number below `size` out of a word, which keeps the rest.
inline std::uint64_t take(std::uint64_t& word, std::uint64_t size) {
  const Wide both = static_cast<Wide>(word) * size;
  word = static_cast<std::uint64_t>(both);
  return static_cast<std::uint64_t>(both >> 64);
}

// As far as where a word goes whose first choice is that of place `from`, and the product of its sizes.
inline constexpr int batch_end(int cards, int from) {
  std::uint64_t all = 1;
  int to = from;
  while (to < cards - 1 && all <= (1ULL << 57) / static_cast<std::uint64_t>(cards - to))
    all *= static_cast<std::uint64_t>(cards - to++);
  return to;
}
inline constexpr std::uint64_t batch_product(int cards, int from, int to) {
  std::uint64_t all = 1;
  for (int i = from; i < to; ++i) all *= static_cast<std::uint64_t>(cards - i);
  return all;
}
// A word from which the choices of a batch come evenly.
inline std::uint64_t even_word(Words& next, std::uint64_t product, std::uint64_t bound) {
  std::uint64_t word = next();
  while (word * product < bound) word = next();
  return word;
}

// Cards swapped into place From to To - 1 out of one word, each told as it is settled.
template <int Cards, int From, int To, class Settled>
inline void settle(std::uint16_t* deck, Words& next, Settled&& settled) {
  constexpr std::uint64_t product = batch_product(Cards, From, batch_end(Cards, From));
  std::uint64_t word = even_word(next, product, (0 - product) % product);
#pragma GCC unroll 16
  for (int i = From; i < To; ++i) {
    const int other = i + static_cast<int>(take(word, static_cast<std::uint64_t>(Cards - i)));
    const std::uint16_t card = deck[other];
    deck[other] = deck[i];
    deck[i] = card;
    settled(i, card);
  }
}
template <int Cards, int From, class Settled>
inline void settle_all(std::uint16_t* deck, Words& next, Settled&& settled) {
  if constexpr (From < Cards - 1) {
    constexpr int to = batch_end(Cards, From);
    settle<Cards, From, to>(deck, next, settled);
    settle_all<Cards, to>(deck, next, settled);
  } else {
    settled(From, deck[From]);
  }
}

// A deck whose cards are settled one by one as they are needed, and swapped back after the trial. Of each card it holds
// what a game reads of it.
template <int Cards>
class LateDeck {
 public:
  template <class Read>
  explicit LateDeck(Read&& read) {
    for (int i = 0; i < Cards; ++i) fresh_[i] = cards_[i] = static_cast<std::uint8_t>(read(i));
    for (int from = 0; from < Cards - 1; from = batch_end(Cards, from)) {
      const std::uint64_t product = batch_product(Cards, from, batch_end(Cards, from));
      batches_.push_back({batch_end(Cards, from), product, (0 - product) % product});
    }
  }

  void begin(std::uint64_t trial) {
    for (int i = 0; i < at_; ++i) {
      cards_[i] = fresh_[i];
      cards_[swapped_[i]] = fresh_[swapped_[i]];
    }
    at_ = end_ = 0;
    batch_ = batches_.data();
    words_ = Words(trial);
  }

  int draw() {
    if (at_ == end_) {
      if (at_ == Cards - 1) return last_card();
      end_ = batch_->end;
      word_ = even_word(words_, batch_->product, batch_->bound);
      ++batch_;
    }
    const int other = at_ + static_cast<int>(take(word_, static_cast<std::uint64_t>(Cards - at_)));
    const std::uint8_t card = cards_[other];
    cards_[other] = cards_[at_];
    cards_[at_] = card;
    swapped_[at_++] = static_cast<std::uint16_t>(other);
    return card;
  }
  int drawn() const { return at_; }

 private:
  // It has its place without a choice.
  int last_card() {
    swapped_[at_] = static_cast<std::uint16_t>(at_);
    end_ = ++at_;
    return cards_[Cards - 1];
  }

  struct Batch {
    int end;
    std::uint64_t product, bound;
  };
  std::vector<Batch> batches_;
  const Batch* batch_ = nullptr;
  std::uint8_t fresh_[Cards], cards_[Cards];
  std::uint16_t swapped_[Cards];
  int at_ = 0, end_ = 0;
  std::uint64_t word_ = 0;
  Words words_{0};
};

// Of cards as the standard deck has them: suit by suit, from the 2 to the ace.
inline constexpr int rank_of(int card) { return card % 13; }
inline constexpr int ace = 12;
// As 21 counts them, with 1 for an ace; and as baccarat does.
inline constexpr int points_of(int card) {
  return rank_of(card) == ace ? 1 : rank_of(card) < 8 ? rank_of(card) + 2 : 10;
}

}  // namespace bare
