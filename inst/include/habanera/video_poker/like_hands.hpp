#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <vector>

#include "habanera/hand/rules.hpp"
#include "habanera/video_poker/keep_book.hpp"

namespace habanera {

// Hands that are alike: suits that have the same ranks may be renamed, and cards alike or wild stand for each other.
// Calls use(hand, how many hands are like it) for one of each.
class LikeHands {
 public:
  LikeHands(const HandRules& rules, const std::vector<Card>& deck, std::size_t size)
      : rules_(rules), deck_(deck), size_(size) {
    find_alike();
    if (!twice_) find_suits();
  }

  template <class Use>
  void each(Use&& use) const {
    CardSets(deck_.size()).each(size_, [&](const KeepBook::Hand& hand) {
      const double like = count_like(hand);
      if (like > 0) use(hand, like);
    });
  }

 private:
  using Masks = std::array<std::uint64_t, most_suits>;

  // Cards that stand for each other, each with the place of the one before it.
  void find_alike() {
    std::map<std::size_t, std::size_t> last, count;
    const std::size_t wild = deck_.size() + most_cards;
    for (std::size_t place = 0; place < deck_.size(); ++place) {
      const std::size_t group = rules_.wild[deck_[place]] ? wild : deck_[place];
      const auto found = last.find(group);
      before_.push_back(found == last.end() ? none : found->second);
      last[group] = place;
      twice_ = twice_ || (group != wild && ++count[group] > 1);
      group_.push_back(group);
    }
    for (std::size_t place = 0; place < deck_.size(); ++place)
      copies_.push_back(static_cast<std::size_t>(std::count(group_.begin(), group_.end(), group_[place])));
  }

  // The suits that may be renamed: for each the one before it that has the same ranks.
  void find_suits() {
    const Masks all = masks([&](auto&& add) {
      for (std::size_t place = 0; place < deck_.size(); ++place) add(place);
    });
    for (std::size_t suit = 0; suit < rules_.suits; ++suit) {
      std::size_t other = suit;
      while (other-- > 0 && all[other] != all[suit]) continue;
      same_as_.push_back(other < suit ? other : none);
    }
  }

  template <class Each>
  Masks masks(Each&& each) const {
    Masks ranks{};
    each([&](std::size_t place) {
      const Card card = deck_[place];
      if (!rules_.wild[card] && rules_.suit[card] != HandRules::no_suit)
        ranks[rules_.suit[card]] |= std::uint64_t{1} << rules_.rank[card];
    });
    return ranks;
  }

  // 0: another one stands for it.
  double count_like(const KeepBook::Hand& hand) const {
    const auto end = hand.begin() + static_cast<std::ptrdiff_t>(size_);
    double ways = 1;
    // Of cards alike a hand has the first: so many of so many, card by card.
    std::array<std::size_t, most_kept> nth{};
    for (std::size_t i = 0; i < size_; ++i) {
      if (copies_[hand[i]] == 1) continue;
      if (before_[hand[i]] != none && std::find(hand.begin(), end, before_[hand[i]]) == end) return 0;
      for (std::size_t j = 0; j < i; ++j) nth[i] += group_[hand[j]] == group_[hand[i]];
      ways *= static_cast<double>(copies_[hand[i]] - nth[i]) / static_cast<double>(nth[i] + 1);
    }
    return twice_ ? ways : ways * count_renamed(hand);
  }

  // Of suits that may be renamed the one that comes first has the most.
  double count_renamed(const KeepBook::Hand& hand) const {
    const Masks held = masks([&](auto&& add) {
      for (std::size_t i = 0; i < size_; ++i) add(hand[i]);
    });
    double ways = 1;
    for (std::size_t suit = 0; suit < rules_.suits; ++suit) {
      std::size_t others = 0, equal = 0;
      for (std::size_t other = same_as_[suit]; other != none; other = same_as_[other]) {
        if (held[other] < held[suit]) return 0;
        ++others;
        equal += held[other] == held[suit];
      }
      ways *= static_cast<double>(others + 1) / static_cast<double>(equal + 1);
    }
    return ways;
  }

  static constexpr std::size_t none = static_cast<std::size_t>(-1);
  const HandRules& rules_;
  const std::vector<Card>& deck_;
  std::size_t size_;
  std::vector<std::size_t> before_, group_, copies_, same_as_;
  bool twice_ = false;  // a card that is not wild is there twice
};

}  // namespace habanera
