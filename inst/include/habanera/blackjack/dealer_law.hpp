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
  // `together` hands at once, since the steps are the same for all. `chances` holds them hand by hand, outcome by
  // outcome.
  static constexpr std::size_t together = 8;
  void find(const ValueShoe& shoe, const BlackjackHand* hands, double* chances) const {
    const Left left(*this, shoe, hands);
    // Where no card can run out, he is bust where he ends on nothing else.
    const bool by_rest = left.none_runs_out && goes_bust_;
    // Ways in which he ends so, by outcome and by how many cards he has drawn.
    std::vector<Each> ways(outcomes_ * (deepest_ + 1), Each{});
    std::array<Each, most_drawn + 1> so_far;
    so_far[0] = Each{} + 1;
    for (std::size_t at = 0; at < nodes_.size();) {
      const Node& node = nodes_[at];
      const bool is_idle = by_rest ? node.only_busts : node.drawn > 0 && !left.are_there[node.taken];
      if (is_idle) {
        at = node.skip_to;
        continue;
      }
      Each& now = so_far[node.drawn];
      if (node.drawn > 0) now = so_far[node.drawn - 1u] * left.copies[node.taken];
      for (std::size_t i = node.first_end; i < (by_rest ? node.first_bust : node.last_end); ++i)
        ways[ends_[i].slot] += ends_[i].orders * now * left.copies[ends_[i].taken];
      ++at;
    }
    std::vector<Each> found = left.weighed(ways, outcomes_);
    if (by_rest) {
      Each rest = Each{} + 1;
      for (std::size_t outcome = 0; outcome < outcomes_; ++outcome)
        if (outcome != bust) rest -= found[outcome];
      found[bust] = rest;
    }
    for (std::size_t i = 0; i < together; ++i)
      for (std::size_t outcome = 0; outcome < outcomes_; ++outcome)
        chances[i * outcomes_ + outcome] = std::max(0.0, found[outcome][i]);
  }

 private:
  static constexpr std::size_t most_drawn = 32, most_taken = 128;
  // A vector of the compiler's, so that it takes as many hands at once as the machine can.
  using Each [[gnu::vector_size(together * sizeof(double))]] = double;

  // What is left of a shoe for the dealer, hand by hand.
  struct Left {
    std::array<Each, most_taken> copies;  // of each card that he can take: see Taken
    std::array<bool, most_taken> are_there;
    bool none_runs_out = true;
    Each cards;
    double wear;

    Left(const DealerLaw& law, const ValueShoe& shoe, const BlackjackHand* hands) : wear(shoe.wear) {
      for (std::size_t i = 0; i < together; ++i) cards[i] = shoe.cards - wear * hands[i].cards;
      for (std::size_t taken = 0; taken < law.taken_.size(); ++taken) {
        const Taken& of = law.taken_[taken];
        are_there[taken] = false;
        for (std::size_t i = 0; i < together; ++i) {
          const int gone = BlackjackHand::count_held(hands[i].held, of.value) + of.already;
          const double count = shoe.count[of.value] - wear * gone;
          copies[taken][i] = std::max(0.0, count);
          are_there[taken] = are_there[taken] || count > 0;
          none_runs_out = none_runs_out && count > 0;
        }
      }
    }
    // Ways as chances, outcome by outcome: over the ways in which as many cards can come in their order.
    std::vector<Each> weighed(const std::vector<Each>& ways, std::size_t outcomes) const {
      const std::size_t lengths = ways.size() / outcomes;
      std::vector<Each> chances(outcomes, Each{});
      Each one_of = Each{} + 1;
      for (std::size_t drawn = 0; drawn < lengths; ++drawn) {
        for (std::size_t i = 0; i < together; ++i)
          one_of[i] /= std::max(1.0, cards[i] - wear * static_cast<double>(drawn));
        for (std::size_t outcome = 0; outcome < outcomes; ++outcome)
          chances[outcome] += ways[outcome * lengths + drawn] * one_of;
      }
      return chances;
    }
  };

  // A card of a value, when so many of it were drawn already.
  struct Taken {
    std::uint8_t value, already;
  };

  // Cards that he has drawn, in rising order of values, and goes on from; the first has none. The ends of his hand by
  // one card more come one after the other, busts last.
  struct Node {
    std::uint8_t taken, drawn;
    bool only_busts;  // here and in all that goes on from here
    std::uint32_t skip_to;  // the first node that does not go on from this one
    std::uint32_t first_end, first_bust, last_end;
  };
  struct End {
    std::uint8_t taken;
    std::uint16_t slot;  // by outcome and cards drawn
    double orders;       // in which these cards can come
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

  // By what is drawn first.
  void lay_out(const std::vector<Ending>& all) {
    std::map<std::vector<std::uint8_t>, std::vector<const Ending*>> by_drawn;
    for (const Ending& ending : all) {
      for (std::size_t length = 0; length + 1 < ending.drawn.size(); ++length)
        by_drawn[{ending.drawn.begin(), ending.drawn.begin() + static_cast<std::ptrdiff_t>(length)}];
      by_drawn[{ending.drawn.begin(), ending.drawn.end() - 1}].push_back(&ending);
    }
    for (const auto& [drawn, ends] : by_drawn) deepest_ = std::max(deepest_, drawn.size());
    std::vector<std::size_t> open;  // the nodes that a node goes on from
    const auto close = [&](std::size_t length) {
      for (; open.size() > length; open.pop_back()) {
        const Node& closed = nodes_[open.back()];
        nodes_[open.back()].skip_to = static_cast<std::uint32_t>(nodes_.size());
        if (open.size() > 1 && !closed.only_busts) nodes_[open[open.size() - 2]].only_busts = false;
      }
    };
    for (auto& [drawn, ends] : by_drawn) {
      close(drawn.size());
      open.push_back(nodes_.size());
      add_node(drawn, ends);
    }
    close(0);
  }

  void add_node(const std::vector<std::uint8_t>& drawn, std::vector<const Ending*>& ends) {
    const auto taken = drawn.empty() ? std::uint8_t{0} : taken_last(drawn);
    const auto place = static_cast<std::uint32_t>(ends_.size());
    Node node{taken, static_cast<std::uint8_t>(drawn.size()), true, 0, place, place, place};
    std::stable_partition(ends.begin(), ends.end(), [](const Ending* end) { return end->outcome != bust; });
    for (const Ending* end : ends) {
      const auto slot = static_cast<std::uint16_t>(end->outcome * (deepest_ + 1) + drawn.size());
      ends_.push_back({taken_last(end->drawn), slot, end->orders});
      if (end->outcome == bust) goes_bust_ = true;
      else node.first_bust = static_cast<std::uint32_t>(ends_.size());
    }
    node.last_end = static_cast<std::uint32_t>(ends_.size());
    node.only_busts = node.first_bust == node.first_end;
    nodes_.push_back(node);
  }

  // The last of these cards, as it is taken.
  std::uint8_t taken_last(const std::vector<std::uint8_t>& drawn) {
    const auto before = std::count(drawn.begin(), drawn.end() - 1, drawn.back());
    return place_of(drawn.back(), static_cast<std::uint8_t>(before));
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
  std::vector<Node> nodes_;
  std::vector<End> ends_;
  std::size_t deepest_ = 0;  // the most cards drawn before the last
  bool goes_bust_ = false;
};

}  // namespace habanera
