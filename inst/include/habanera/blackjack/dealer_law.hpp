#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <utility>
#include <vector>

#include "habanera/blackjack/hand_tree.hpp"
#include "habanera/blackjack/rules.hpp"
#include "habanera/blackjack/value_shoe.hpp"

namespace habanera {

// What the dealer ends on from an up card, for any shoe. The chance of his cards does not depend on their order, so he
// is followed by what he holds, with the number of orders in which he can come by it; what has cards in common is
// worked out once.
class DealerLaw {
 public:
  // Outcomes: a natural, bust, then the totals on which he stands.
  static constexpr std::size_t natural = 0, bust = 1, first_total = 2;
  static std::size_t outcomes(const BlackjackRules& rules) {
    return first_total + static_cast<std::size_t>(rules.bust_over - rules.dealer_stands_on) + 1;
  }

  DealerLaw(const BlackjackPieces& pieces, std::uint8_t up, const std::vector<std::uint8_t>& values)
      : outcomes_(outcomes(pieces.rules())), examples_(outcomes_) {
    lay_out(endings(pieces, up, values));
  }

  std::size_t outcomes() const { return outcomes_; }
  // A hand of his that ends like this; of no cards where none does.
  const BlackjackHand& example(std::size_t outcome) const { return examples_[outcome]; }

  // The chance of each outcome, his next card being the first from a shoe in which the cards of a hand are missing; of
  // `together` hands at once, since the steps are the same for all. `chances` holds them outcome by outcome, hand by
  // hand.
  static constexpr std::size_t together = 4;
  void find(const ValueShoe& shoe, const BlackjackHand* hands, double* chances) const {
    std::array<Each, most_drawn> one_of{};  // by how many he has drawn
    std::array<Each, most_taken> copies{};  // of each card that he can take: see Taken
    std::array<bool, most_taken> are_there{};
    for (std::size_t i = 0; i < together; ++i) {
      const double cards = shoe.cards - shoe.wear * hands[i].cards;
      for (std::size_t drawn = 0; drawn <= deepest_; ++drawn)
        one_of[drawn][i] = 1 / std::max(1.0, cards - shoe.wear * static_cast<double>(drawn));
      for (std::size_t taken = 0; taken < taken_.size(); ++taken) {
        const std::uint8_t value = taken_[taken].value;
        const int gone = BlackjackHand::count_held(hands[i].held, value) + taken_[taken].already;
        copies[taken][i] = std::max(0.0, shoe.count[value] - shoe.wear * gone);
        are_there[taken] = are_there[taken] || copies[taken][i] > 0;
      }
    }
    std::array<Each, most_outcomes> sums{};
    std::array<Each, most_drawn + 1> chance{};
    chance[0] = {1, 1, 1, 1};
    for (std::size_t at = 0; at < steps_.size();) {
      const Step& step = steps_[at];
      if (!are_there[step.taken]) {
        at = step.skip_to;
        continue;
      }
      const Each& before = chance[step.drawn];
      Each& now = chance[step.drawn + 1u];
      Each& sum = sums[step.outcome];
      for (std::size_t i = 0; i < together; ++i) now[i] = before[i] * copies[step.taken][i] * one_of[step.drawn][i];
      for (std::size_t i = 0; i < together; ++i) sum[i] += step.orders * now[i];
      ++at;
    }
    for (std::size_t outcome = 0; outcome < outcomes_; ++outcome)
      for (std::size_t i = 0; i < together; ++i) chances[outcome * together + i] = sums[outcome][i];
  }

 private:
  static constexpr std::size_t most_drawn = 32, most_outcomes = 32, most_taken = 128;
  using Each = std::array<double, together>;

  // A card of a value, when so many of it were drawn already.
  struct Taken {
    std::uint8_t value, already;
  };

  // One card more, in rising order of values; `orders` is 0 where he does not end here.
  struct Step {
    std::uint8_t taken, drawn, outcome;
    std::uint32_t skip_to;  // the first step that does not go on from this one
    double orders;
  };
  struct Reached {
    BlackjackHand hand;
    double orders = 0;
  };
  struct Ending {
    std::vector<std::uint8_t> drawn;  // rising
    std::size_t outcome;
    double orders;
  };

  std::vector<Ending> endings(const BlackjackPieces& pieces, std::uint8_t up, const std::vector<std::uint8_t>& values) {
    std::vector<Ending> all;
    std::map<std::uint64_t, Reached> now{{0, {BlackjackHand::of_card(up), 1}}};
    while (!now.empty()) {
      std::map<std::uint64_t, Reached> after;
      for (const auto& [drawn, reached] : now) {
        for (const std::uint8_t value : values) {
          const BlackjackHand hand = HandTree::extended(reached.hand, value);
          const std::uint64_t all_drawn = drawn + BlackjackHand::held_of(value);
          Reached& longer = after[all_drawn];
          longer.hand = hand;
          longer.orders += reached.orders;
        }
      }
      now.clear();
      for (const auto& [drawn, reached] : after) {
        if (!pieces.is_natural(reached.hand) && pieces.dealer_draws(reached.hand)) now.emplace(drawn, reached);
        else all.push_back({in_rising_order(drawn, values), ended(pieces, reached.hand), reached.orders});
      }
    }
    return all;
  }

  std::size_t ended(const BlackjackPieces& pieces, const BlackjackHand& hand) {
    const std::size_t outcome =
        pieces.is_natural(hand) ? natural
        : pieces.is_bust(hand)  ? bust
                                : first_total + static_cast<std::size_t>(pieces.total(hand) -
                                                                         pieces.rules().dealer_stands_on);
    examples_[outcome] = hand;
    return outcome;
  }

  static std::vector<std::uint8_t> in_rising_order(std::uint64_t drawn, const std::vector<std::uint8_t>& values) {
    std::vector<std::uint8_t> cards;
    for (const std::uint8_t value : values)
      cards.insert(cards.end(), static_cast<std::size_t>(BlackjackHand::count_held(drawn, value)), value);
    std::sort(cards.begin(), cards.end());
    return cards;
  }

  void lay_out(std::vector<Ending> all) {
    std::sort(all.begin(), all.end(), [](const Ending& one, const Ending& two) { return one.drawn < two.drawn; });
    std::vector<std::uint8_t> path;
    std::vector<std::size_t> open;  // the steps of the path
    const auto close = [&](std::size_t length) {
      while (path.size() > length) {
        steps_[open.back()].skip_to = static_cast<std::uint32_t>(steps_.size());
        open.pop_back();
        path.pop_back();
      }
    };
    for (const Ending& ending : all) {
      const auto shared = static_cast<std::size_t>(
          std::mismatch(path.begin(), path.end(), ending.drawn.begin(), ending.drawn.end()).first - path.begin());
      close(shared);
      for (std::size_t i = shared; i < ending.drawn.size(); ++i) {
        const std::uint8_t value = ending.drawn[i];
        const auto already = static_cast<std::uint8_t>(std::count(path.begin(), path.end(), value));
        open.push_back(steps_.size());
        path.push_back(value);
        steps_.push_back({place_of(value, already), static_cast<std::uint8_t>(i), 0, 0, 0});
        deepest_ = std::max(deepest_, i);
      }
      steps_.back().outcome = static_cast<std::uint8_t>(ending.outcome);
      steps_.back().orders = ending.orders;
    }
    close(0);
  }

  std::uint8_t place_of(std::uint8_t value, std::uint8_t already) {
    const auto found = std::find_if(taken_.begin(), taken_.end(), [&](const Taken& taken) {
      return taken.value == value && taken.already == already;
    });
    const auto place = static_cast<std::uint8_t>(found - taken_.begin());
    if (found == taken_.end()) taken_.push_back({value, already});
    return place;
  }

  std::size_t outcomes_;
  std::vector<BlackjackHand> examples_;
  std::vector<Taken> taken_;
  std::vector<Step> steps_;
  std::size_t deepest_ = 0;
};

}  // namespace habanera
