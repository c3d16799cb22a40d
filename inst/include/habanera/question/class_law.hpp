#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <map>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/draw/classes.hpp"
#include "habanera/question/words.hpp"
#include "habanera/stat/exact_sum.hpp"
#include "habanera/stat/row_law.hpp"

// The exact law of a hand's words, class by class: how many cards of each class come, given how many are
// still to come. The state is the index so far, the cards drawn, and the sizes of groups that later classes
// may add to.

namespace habanera {

// The law of the number of marked cards among k drawn of `marked` + `rest`, without replacement:
// hypergeometric (Johnson, Kemp & Kotz 2005, "Univariate discrete distributions", eq. 6.1). By its ratios,
// from the mode outward, so that nothing overflows. Entry c is the chance of c.
inline std::vector<double> hypergeometric_law(std::size_t marked, std::size_t rest, std::size_t k) {
  const std::size_t low = k > rest ? k - rest : 0, high = std::min(marked, k);
  std::vector<double> law(high + 1, 0.0);
  const double m = static_cast<double>(marked), r = static_cast<double>(rest), n = static_cast<double>(k);
  std::size_t mode = static_cast<std::size_t>((n + 1) * (m + 1) / (m + r + 2));
  mode = std::clamp(mode, low, high);
  const auto ratio = [&](double c) { return (m - c) * (n - c) / ((c + 1) * (r - n + c + 1)); };
  law[mode] = 1;
  for (std::size_t c = mode; c < high; ++c) law[c + 1] = law[c] * ratio(static_cast<double>(c));
  for (std::size_t c = mode; c > low; --c) law[c - 1] = law[c] / ratio(static_cast<double>(c - 1));
  ExactSum total;
  for (const double weight : law) total.add(weight);
  for (double& weight : law) weight /= total.value();
  return law;
}

// The same with replacement: binomial with chance marked / (marked + rest).
inline std::vector<double> binomial_law(std::size_t marked, std::size_t rest, std::size_t k) {
  std::vector<double> law(k + 1, 0.0);
  if (marked == 0 || rest == 0) {
    law[marked == 0 ? 0 : k] = 1;
    return law;
  }
  const double odds = static_cast<double>(marked) / static_cast<double>(rest), n = static_cast<double>(k);
  const std::size_t mode = std::min(k, static_cast<std::size_t>((n + 1) * odds / (1 + odds)));
  law[mode] = 1;
  for (std::size_t c = mode; c < k; ++c)
    law[c + 1] = law[c] * odds * (n - static_cast<double>(c)) / static_cast<double>(c + 1);
  for (std::size_t c = mode; c > 0; --c)
    law[c - 1] = law[c] / odds * static_cast<double>(c) / (n - static_cast<double>(c - 1));
  ExactSum total;
  for (const double weight : law) total.add(weight);
  for (double& weight : law) weight /= total.value();
  return law;
}

using IndexLaw = std::map<std::uint64_t, double>;

class ClassLaw {
 public:
  ClassLaw(const Words& words, std::vector<CardClass> classes, bool replace, const WorkBound& state_limit)
      : words_(&words), classes_(std::move(classes)), replace_(replace), state_limit_(state_limit) {
    order_classes();
    open_slots();
  }

  // Of the words' index after `size` cards on top of the held ones.
  IndexLaw operator()(std::size_t size) const {
    if (size > most_cards)
      throw std::length_error("more than " + std::to_string(most_cards) + " cards drawn");
    RowLaw law(places::open + first_open_.size(), state_limit_);
    law.add(first_state().data(), 1);
    std::uint64_t steps = 0;
    std::size_t rest = 0;
    for (const CardClass& one : classes_) rest += one.deck;
    for (std::size_t i = 0; i < classes_.size(); ++i) {
      rest -= classes_[i].deck;
      law = add_class(law, i, rest, size, steps);
    }
    IndexLaw found;
    for (std::size_t row = 0; row < law.size(); ++row)
      if (law.row(row)[places::drawn] == size) found[index_of(law.row(row))] += law.chance(row);
    return found;
  }

 private:
  using State = std::vector<RowLaw::Value>;

  // Where a state keeps what: the index in four parts, the cards drawn, then the sizes of the groups that
  // have a slot.
  struct places {
    static constexpr std::size_t drawn = 4, open = 5;
  };

  static std::uint64_t index_of(const RowLaw::Value* state) {
    std::uint64_t index = 0;
    for (std::size_t part = 0; part < 4; ++part) index |= static_cast<std::uint64_t>(state[part]) << (16 * part);
    return index;
  }
  static void set_index(RowLaw::Value* state, std::uint64_t index) {
    for (std::size_t part = 0; part < 4; ++part) state[part] = static_cast<RowLaw::Value>(index >> (16 * part));
  }

  static constexpr std::size_t no_slot = static_cast<std::size_t>(-1);

  // A group of a word as a class adds to it: where its size is kept, while it is.
  struct Membership {
    std::size_t slot;         // no_slot: the class is the only one of its group
    std::uint16_t at_first;   // of the group in the held cards
    bool closes;              // no later class adds to it
  };

  // The classes of one group of some word should follow each other, so that few groups are open at once:
  // each word is tried as the one to sort by.
  void order_classes() {
    std::vector<CardClass> best = classes_;
    double least = open_states(best);
    for (const Words::Groups& groups : words_->groups) {
      std::vector<CardClass> sorted = classes_;
      std::stable_sort(sorted.begin(), sorted.end(), [&](const CardClass& a, const CardClass& b) {
        return groups.group[a.kind] < groups.group[b.kind];
      });
      const double states = open_states(sorted);
      if (states < least) {
        least = states;
        best = std::move(sorted);
      }
    }
    classes_ = std::move(best);
  }

  // How many states of open groups there may be, added up over the classes.
  double open_states(const std::vector<CardClass>& order) const {
    double sum = 0;
    for (std::size_t i = 0; i < order.size(); ++i) {
      double states = 1;
      for (const Words::Groups& groups : words_->groups) {
        std::map<std::uint16_t, std::size_t> so_far;
        for (std::size_t j = 0; j <= i; ++j) so_far[groups.group[order[j].kind]] += order[j].deck;
        for (std::size_t j = i + 1; j < order.size(); ++j) {
          const auto open = so_far.find(groups.group[order[j].kind]);
          if (open == so_far.end()) continue;
          states *= static_cast<double>(groups.largest ? open->second + 1 : 2);
          so_far.erase(open);
        }
      }
      sum += states;
    }
    return sum;
  }

  void open_slots() {
    members_.assign(classes_.size(), {});
    for (const Words::Groups& groups : words_->groups) {
      std::map<std::uint16_t, std::vector<std::size_t>> classes;
      std::map<std::uint16_t, std::size_t> held;
      for (std::size_t i = 0; i < classes_.size(); ++i) {
        classes[groups.group[classes_[i].kind]].push_back(i);
        held[groups.group[classes_[i].kind]] += classes_[i].held;
      }
      for (std::size_t i = 0; i < classes_.size(); ++i) {
        const std::uint16_t group = groups.group[classes_[i].kind];
        const std::vector<std::size_t>& of_group = classes[group];
        const bool opens = of_group.size() > 1 && of_group.front() == i;
        if (opens) first_open_.push_back(static_cast<std::uint16_t>(held[group]));
        const std::size_t slot = of_group.size() == 1 ? no_slot
                                 : opens ? first_open_.size() - 1
                                         : slot_of(of_group.front(), members_[i].size());
        members_[i].push_back({slot, static_cast<std::uint16_t>(held[group]), of_group.back() == i});
      }
    }
  }

  std::size_t slot_of(std::size_t first_class, std::size_t word) const {
    return members_[first_class][word].slot;
  }

  State first_state() const {
    Reading reading(*words_);
    reading.begin();
    for (const CardClass& one : classes_)
      for (std::size_t i = 0; i < one.held; ++i) reading.hold(one.kind);
    State state(places::open, 0);
    set_index(state.data(), reading.index());
    state.insert(state.end(), first_open_.begin(), first_open_.end());
    return state;
  }

  RowLaw add_class(const RowLaw& law, std::size_t i, std::size_t rest, std::size_t size,
                   std::uint64_t& steps) const {
    std::vector<std::vector<double>> laws(size + 1);
    RowLaw next(law.width(), state_limit_);
    State state(law.width());
    for (std::size_t row = 0; row < law.size(); ++row) {
      const std::size_t open = size - law.row(row)[places::drawn];
      std::vector<double>& counts = laws[open];
      if (counts.empty())
        counts = replace_ ? binomial_law(classes_[i].deck, rest, open)
                          : hypergeometric_law(classes_[i].deck, rest, open);
      const double before = law.chance(row);
      for (std::size_t c = 0; c < counts.size(); ++c) {
        if (counts[c] == 0) continue;
        if (++steps > state_limit_.most)
          throw std::length_error("more than " + std::to_string(state_limit_.most) + " steps");
        std::copy(law.row(row), law.row(row) + law.width(), state.begin());
        add_cards(state.data(), i, c);
        next.add(state.data(), before * counts[c]);
      }
    }
    return next;
  }

  void add_cards(RowLaw::Value* state, std::size_t i, std::size_t count) const {
    const std::uint64_t before_index = index_of(state);
    std::uint64_t index = before_index + words_->added[classes_[i].kind] * count;
    state[places::drawn] = static_cast<RowLaw::Value>(state[places::drawn] + count);
    for (std::size_t word = 0; word < words_->groups.size(); ++word) {
      const Words::Groups& groups = words_->groups[word];
      const Membership& member = members_[i][word];
      RowLaw::Value* slot = member.slot == no_slot ? nullptr : state + places::open + member.slot;
      const std::size_t before = slot ? *slot : member.at_first;
      const std::size_t after = before + count;
      index += groups.step * grown(groups, before_index, before, after);
      // Of a group that is only counted, it matters no more how large it is.
      const std::size_t kept = groups.largest ? after : std::min<std::size_t>(after, 1);
      if (slot) *slot = static_cast<RowLaw::Value>(member.closes ? 0 : kept);
    }
    set_index(state, index);
  }

  // By how much a word grows when one of its groups does.
  std::uint64_t grown(const Words::Groups& groups, std::uint64_t index, std::size_t before,
                      std::size_t after) const {
    if (!groups.largest) return before == 0 && after > 0;
    const std::uint64_t best = index / groups.step % groups.size;
    return after > best ? after - best : 0;
  }

  const Words* words_;
  std::vector<CardClass> classes_;
  bool replace_;
  WorkBound state_limit_;
  std::vector<std::vector<Membership>> members_;  // by class, by word of groups
  std::vector<std::uint16_t> first_open_;
};

}  // namespace habanera
