#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <limits>
#include <stdexcept>
#include <string>
#include <unordered_map>
#include <vector>

namespace habanera {

inline constexpr std::size_t most_outcomes = 1000000;

// Counts over outcomes that are numbered without bound, each with the smallest trial number that gave it.
// Numbers below `dense` are counted in a table, the others in a map. Trials must be offered in rising order.
class SparseTally {
 public:
  struct Entry {
    std::uint64_t outcome = 0;
    std::uint64_t n = 0;
    std::uint64_t example = std::numeric_limits<std::uint64_t>::max();
  };

  explicit SparseTally(std::uint64_t dense)
      : counts_(static_cast<std::size_t>(dense), 0), examples_(static_cast<std::size_t>(dense)) {}

  // Of a short draw, a call would cost as much as what it does.
  [[gnu::always_inline]] void add(std::uint64_t outcome, std::uint64_t trial) {
    if (outcome >= counts_.size()) return add_other(outcome, trial);
    if (counts_[outcome]++ == 0) examples_[outcome] = trial;
  }

  void merge(const SparseTally& other) {
    for (std::size_t i = 0; i < counts_.size(); ++i) {
      if (other.counts_[i] == 0) continue;
      examples_[i] = counts_[i] ? std::min(examples_[i], other.examples_[i]) : other.examples_[i];
      counts_[i] += other.counts_[i];
    }
    for (const auto& [outcome, entry] : other.others_) {
      Entry& mine = others_[outcome];
      mine.n += entry.n;
      mine.example = std::min(mine.example, entry.example);
    }
    refuse_too_many(others_.size());
  }

  // What came, by rising number.
  std::vector<Entry> entries() const {
    std::vector<Entry> found;
    for (std::size_t i = 0; i < counts_.size(); ++i)
      if (counts_[i]) found.push_back({i, counts_[i], examples_[i]});
    const std::size_t in_table = found.size();
    for (const auto& [outcome, entry] : others_) found.push_back({outcome, entry.n, entry.example});
    std::sort(found.begin() + static_cast<std::ptrdiff_t>(in_table), found.end(),
              [](const Entry& one, const Entry& two) { return one.outcome < two.outcome; });
    return found;
  }

 private:
  [[gnu::noinline]] void add_other(std::uint64_t outcome, std::uint64_t trial) {
    Entry& entry = others_[outcome];
    if (entry.n++ == 0) {
      entry.example = trial;
      refuse_too_many(others_.size());
    }
  }

  static void refuse_too_many(std::size_t outcomes) {
    if (outcomes > most_outcomes)
      throw std::length_error("more than " + std::to_string(most_outcomes) + " different outcomes");
  }

  std::vector<std::uint64_t> counts_;
  std::vector<std::uint64_t> examples_;
  std::unordered_map<std::uint64_t, Entry> others_;
};

}  // namespace habanera
