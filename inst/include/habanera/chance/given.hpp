#pragma once

#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/chance/size_run.hpp"

namespace habanera {

// Chance for tests: gives back the listed choices, and complains when they do not fit.
class GivenChance {
 public:
  explicit GivenChance(std::vector<std::uint64_t> choices) : choices_(std::move(choices)) {}

  std::uint64_t below(std::uint64_t size) {
    if (used_ == choices_.size())
      throw std::invalid_argument("only " + std::to_string(choices_.size()) +
                                  " choices were given, and one more is asked for");
    const std::uint64_t choice = choices_[used_++];
    if (choice >= size)
      throw std::invalid_argument("given choice " + std::to_string(used_) + " is " +
                                  std::to_string(choice) + ", which is not below " +
                                  std::to_string(size));
    return choice;
  }

  template <class Use>
  void below_each(const SizeRun& sizes, std::size_t count, Use&& use) {
    for (std::size_t i = 0; i < sizes.count() && i < count; ++i) use(i, below(sizes.size(i)));
  }

  std::uint64_t bits(unsigned n) {
    if (n > 63) throw std::invalid_argument("at most 63 bits can be given at a time, not " + std::to_string(n));
    return below(std::uint64_t{1} << n);
  }

  std::size_t pick(const std::vector<double>& weights) {
    return static_cast<std::size_t>(below(weights.size()));
  }

  std::size_t unused() const { return choices_.size() - used_; }

 private:
  std::vector<std::uint64_t> choices_;
  std::size_t used_ = 0;
};

}  // namespace habanera
