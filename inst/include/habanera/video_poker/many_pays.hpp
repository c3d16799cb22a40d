#pragma once

#include <algorithm>
#include <cstddef>
#include <limits>
#include <memory>
#include <utility>
#include <vector>

#include "habanera/chance/work_bound.hpp"
#include "habanera/video_poker/keep_book.hpp"
#include "habanera/video_poker/keep_chances.hpp"
#include "habanera/video_poker/like_hands.hpp"

namespace habanera {

// What best play brings by each of many pay tables of one deck. Of each hand only those ways to keep are held that are
// the best by some table in between the least and the most that lines pay; where one is left it is the best by all, and
// all such hands together are one sum.
class ManyPays {
 public:
  using Pays = std::vector<double>;  // of each category

  ManyPays(const HandRules& rules, std::vector<Card> deck, std::size_t size, std::vector<Pays> tables,
           const WorkBound& bound)
      : book_(rules, std::move(deck), size), tables_(std::move(tables)), settled_(book_.lines(), 0.0) {
    range_of_pays();
    const KeepChances chances(book_);
    WorkClock work(bound.pause);
    LikeHands(rules, book_.deck(), size).each([&](const KeepBook::Hand& hand, double like) {
      work.tick();
      sort_out(chances(hand), like / book_.sets().ways(book_.sets().cards(), book_.size()));
    });
  }

  std::vector<double> means(const WorkBound& bound) const {
    WorkClock work(bound.pause);
    std::vector<double> found;
    for (const Pays& pays : tables_) {
      double sum = worth(settled_.data(), pays);
      const double* row = contested_.data();
      for (const std::size_t ways : ways_) {
        work.tick();
        double best = -std::numeric_limits<double>::infinity();
        for (std::size_t way = 0; way < ways; ++way, row += book_.lines()) best = std::max(best, worth(row, pays));
        sum += best;
      }
      found.push_back(sum);
    }
    return found;
  }

 private:
  void range_of_pays() {
    low_ = high_ = tables_.front();
    for (const Pays& pays : tables_)
      for (std::size_t line = 0; line < pays.size(); ++line) {
        low_[line] = std::min(low_[line], pays[line]);
        high_[line] = std::max(high_[line], pays[line]);
      }
  }

  double worth(const double* chances, const Pays& pays) const {
    double sum = 0;
    for (std::size_t line = 0; line < pays.size(); ++line) sum += chances[line] * pays[line];
    return sum;
  }

  // Whether the first is at most as good as the second by every table.
  bool is_never_better(const double* one, const double* other) const {
    double most = 0;
    for (std::size_t line = 0; line < low_.size(); ++line) {
      const double more = one[line] - other[line];
      most += more * (more > 0 ? high_[line] : low_[line]);
    }
    return most <= 0;
  }

  // `chances`: a row of categories for each way to keep.
  void sort_out(const std::vector<double>& chances, double weight) {
    const std::size_t lines = book_.lines();
    held_.clear();
    for (std::size_t way = 0; way * lines < chances.size(); ++way) {
      const double* row = &chances[way * lines];
      const auto beaten_by = [&](const double* by) { return is_never_better(row, by); };
      if (std::any_of(held_.begin(), held_.end(), beaten_by)) continue;
      held_.erase(std::remove_if(held_.begin(), held_.end(),
                                 [&](const double* other) { return is_never_better(other, row); }),
                  held_.end());
      held_.push_back(row);
    }
    if (held_.size() == 1) {
      for (std::size_t line = 0; line < lines; ++line) settled_[line] += weight * held_.front()[line];
      return;
    }
    ways_.push_back(held_.size());
    for (const double* row : held_)
      for (std::size_t line = 0; line < lines; ++line) contested_.push_back(weight * row[line]);
  }

  KeepBook book_;
  std::vector<Pays> tables_;
  Pays low_, high_;
  std::vector<double> settled_;     // of hands with a single best way, by category
  std::vector<std::size_t> ways_;   // of each other hand
  std::vector<double> contested_;   // their rows, one hand after the other
  std::vector<const double*> held_;
};

}  // namespace habanera
