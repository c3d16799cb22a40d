#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <utility>
#include <vector>

#include "habanera/video_poker/keep_book.hpp"

namespace habanera {

// What ways to keep are worth by a pay table: a whole number for each category.
class KeepWorth {
 public:
  using Hand = KeepBook::Hand;
  using AllWays = std::array<double, std::size_t{1} << most_kept>;

  KeepWorth(std::shared_ptr<const KeepBook> book, const std::vector<std::int64_t>& pays)
      : book_(std::move(book)), pays_(pays), sums_(book_->size()) {
    for (std::size_t kept = 0; kept < book_->size(); ++kept) {
      const std::size_t sets = book_->sets().count(kept);
      sums_[kept].reserve(sets);
      for (std::size_t set = 0; set < sets; ++set) sums_[kept].push_back(pay_of(book_->counts(kept, set)));
    }
  }

  const KeepBook& book() const { return *book_; }

  // The mean pay of each way to keep, by the bits of the cards kept.
  AllWays operator()(const Hand& hand) const {
    const std::size_t size = book_->size(), all = (std::size_t{1} << size) - 1;
    AllWays worth{};
    for (std::size_t kept = 0; kept <= all; ++kept) worth[kept] = held(hand, kept);
    without_dropped(worth, size);
    for (std::size_t kept = 0; kept <= all; ++kept) worth[kept] /= draws(kept);
    return worth;
  }

  // The best way; of several the one that keeps most.
  std::size_t best(const AllWays& worth) const {
    std::size_t best = 0;
    for (std::size_t kept = 1; kept < std::size_t{1} << book_->size(); ++kept) {
      const double more = worth[kept] - worth[best];
      if (more > 1e-9 || (more > -1e-9 && count_of(kept) > count_of(best))) best = kept;
    }
    return best;
  }

  // Adds `weight` times the chance of each category after keeping these cards.
  void add_law(const Hand& hand, std::size_t kept, double weight, std::vector<double>& law) const {
    const std::size_t size = book_->size(), all = (std::size_t{1} << size) - 1, dropped = all & ~kept;
    weight /= draws(kept);
    // Over all parts of what is dropped: hands that hold it, too, are none of those drawn.
    for (std::size_t part = dropped;; part = (part - 1) & dropped) {
      const std::size_t here = kept | part;
      const double sign = count_of(part) % 2 == 0 ? weight : -weight;
      if (here == all) {
        law[book_->category(book_->set_of(hand, all))] += sign;
      } else {
        const std::uint32_t* counts = book_->counts(count_of(here), book_->set_of(hand, here));
        for (std::size_t line = 0; line < law.size(); ++line) law[line] += sign * counts[line];
      }
      if (part == 0) break;
    }
  }

  static std::size_t count_of(std::size_t kept) { return static_cast<std::size_t>(__builtin_popcountll(kept)); }

 private:
  double pay_of(const std::uint32_t* counts) const {
    double sum = 0;
    for (std::size_t line = 0; line < book_->lines(); ++line)
      sum += static_cast<double>(pays_[line]) * static_cast<double>(counts[line]);
    return sum;
  }
  // What all hands pay that hold these cards.
  double held(const Hand& hand, std::size_t kept) const {
    const std::size_t cards = count_of(kept), set = book_->set_of(hand, kept);
    return cards == book_->size() ? static_cast<double>(pays_[book_->category(set)]) : sums_[cards][set];
  }
  // Hands that hold a card that was dropped cannot be drawn.
  static void without_dropped(AllWays& sums, std::size_t size) {
    for (std::size_t bit = 1; bit < std::size_t{1} << size; bit <<= 1)
      for (std::size_t kept = 0; kept < std::size_t{1} << size; ++kept)
        if (!(kept & bit)) sums[kept] -= sums[kept | bit];
  }
  double draws(std::size_t kept) const {
    const std::size_t size = book_->size();
    return book_->sets().ways(book_->sets().cards() - size, size - count_of(kept));
  }

  std::shared_ptr<const KeepBook> book_;
  std::vector<std::int64_t> pays_;
  std::vector<std::vector<double>> sums_;  // by size and set
};

}  // namespace habanera
