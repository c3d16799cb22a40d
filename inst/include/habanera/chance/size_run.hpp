#pragma once

#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <vector>

// A run of sizes from each of which one whole number is to be drawn: 52, 51, ..., 2 for a shuffle.
// Several such numbers come out of one random word (Brackett-Rozinsky & Lemire 2024, "Batched ranged
// random integer generation", algorithm 3). The plan of batches depends on the sizes alone, so the
// first few numbers of a run are the same however many are asked for: a draw of five is the top of
// the shuffle with the same address.

namespace habanera {

// How a word of some width is split without bias. A template, so that the rule can be checked over
// every 16-bit word there is.
template <class Word, class Wide>
struct WordSplit {
  static constexpr int width = 8 * sizeof(Word);

  // Words whose last remainder falls below this are refused; the rest are shared out evenly.
  static constexpr Word refusal_bound(Word product) {
    return static_cast<Word>(static_cast<Word>(0 - product) % product);
  }
  // The remainder left after all sizes of a batch, in one multiplication.
  static constexpr bool is_even(Word word, Word product, Word bound) {
    return static_cast<Word>(word * product) >= bound;
  }
  // Takes the next number below `size` out of the word and leaves the remainder in it.
  static constexpr Word take(Word& word, Word size) {
    const Wide both = static_cast<Wide>(word) * size;
    word = static_cast<Word>(both);
    return static_cast<Word>(both >> width);
  }
};

__extension__ typedef unsigned __int128 WideWord;
using Split64 = WordSplit<std::uint64_t, WideWord>;

class SizeRun {
 public:
  struct Batch {
    std::size_t begin, end;
    std::uint64_t product, bound;
  };

  // n, n - 1, ..., 2: the choices of a shuffle of n cards.
  static SizeRun falling(std::size_t n) {
    std::vector<std::uint32_t> sizes;
    for (std::size_t size = n; size >= 2; --size) sizes.push_back(checked(size));
    return SizeRun(std::move(sizes));
  }
  // n, n, ..., n: draws that go back.
  static SizeRun repeated(std::size_t n, std::size_t times) {
    return SizeRun(std::vector<std::uint32_t>(times, checked(n)));
  }

  std::size_t count() const { return sizes_.size(); }
  std::uint32_t size(std::size_t i) const { return sizes_[i]; }
  const std::vector<Batch>& batches() const { return batches_; }

 private:
  // Products stay below this, so that fewer than one word in 128 is refused.
  static constexpr std::uint64_t product_limit = std::uint64_t{1} << 57;

  explicit SizeRun(std::vector<std::uint32_t> sizes) : sizes_(std::move(sizes)) {
    std::size_t begin = 0;
    while (begin < sizes_.size()) {
      std::uint64_t product = sizes_[begin];
      std::size_t end = begin + 1;
      while (end < sizes_.size() && product <= product_limit / sizes_[end]) product *= sizes_[end++];
      batches_.push_back({begin, end, product, Split64::refusal_bound(product)});
      begin = end;
    }
  }

  static std::uint32_t checked(std::size_t size) {
    if (size < 1 || size > 0xffffffffULL)
      throw std::invalid_argument("a choice must be among 1 to 4294967295, not " +
                                  std::to_string(size));
    return static_cast<std::uint32_t>(size);
  }

  std::vector<std::uint32_t> sizes_;
  std::vector<Batch> batches_;
};

}  // namespace habanera
