#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <vector>

#include "habanera/betting/chips.hpp"
#include "habanera/betting/position.hpp"
#include "habanera/game/moves.hpp"

namespace habanera {

// All courses that the moves of a hand can take, whatever the cards: each is worked out once, and a hand only goes from
// one to the next.
class PublicTree {
 public:
  struct Node {
    Chips chips;
    Moves moves;              // none where it is over
    std::uint32_t first = 0;  // what the first move leads to; the others follow
    std::uint32_t before = 0;
    MoveMade made{};          // the move that led here
    MoveCode code;
    std::uint32_t settled = 0;  // where it is over between two: see settled()
  };
  // Of a hand that two are left in: what each seat has where the first of them has the better hand, where the second
  // has, where both are alike; and the pot.
  struct Settled {
    std::array<std::uint8_t, 2> seats;
    std::array<Chips::BySeat, 3> net;
    std::int64_t pot;
  };

  static constexpr std::size_t most_nodes = 5000;

  // None where there are too many.
  static std::shared_ptr<const PublicTree> grown(const ChipRules& rules) {
    auto tree = std::make_shared<PublicTree>();
    return tree->grow(rules) ? tree : nullptr;
  }

  std::size_t size() const { return nodes_.size(); }
  const Node& node(std::size_t at) const { return nodes_[at]; }
  std::uint32_t after(std::size_t at, std::size_t move) const {
    return nodes_[at].first + static_cast<std::uint32_t>(nodes_[at].moves.place_of(move));
  }
  // None where more than two are left, or one.
  const Settled* settled(std::size_t at) const {
    return nodes_[at].settled == 0 ? nullptr : &settled_[nodes_[at].settled - 1];
  }

 private:
  bool grow(const ChipRules& rules) {
    nodes_.emplace_back();
    nodes_[0].chips = rules.start();
    for (std::size_t at = 0; at < nodes_.size(); ++at) {
      if (nodes_[at].chips.is_over()) {
        settle(rules, at);
        continue;
      }
      const Moves moves = rules.moves(nodes_[at].chips);
      nodes_[at].moves = moves;
      nodes_[at].first = static_cast<std::uint32_t>(nodes_.size());
      if (nodes_.size() + moves.count() > most_nodes) return false;
      moves.each([&](std::size_t move) {
        const Node& from = nodes_[at];
        Node next;
        next.chips = from.chips;
        next.before = static_cast<std::uint32_t>(at);
        next.made = rules.made(from.chips, move);
        next.code = from.code;
        next.code.add(moves, move);
        rules.move(next.chips, move);
        nodes_.push_back(next);
      });
    }
    return true;
  }

  void settle(const ChipRules& rules, std::size_t at) {
    const Chips& chips = nodes_[at].chips;
    Settled made{};
    std::size_t in = 0;
    for (std::size_t seat = 0; seat < rules.rules().seats; ++seat) {
      if (!chips.is_in(seat)) continue;
      if (in < 2) made.seats[in] = static_cast<std::uint8_t>(seat);
      ++in;
    }
    if (in != 2) return;
    for (std::size_t better = 0; better < 3; ++better)
      rules.settle(chips, [&](std::size_t seat) { return better == 2 || seat == made.seats[better] ? 1 : 0; },
                   made.net[better], made.pot);
    settled_.push_back(made);
    nodes_[at].settled = static_cast<std::uint32_t>(settled_.size());
  }

  std::vector<Node> nodes_;
  std::vector<Settled> settled_;
};

}  // namespace habanera
