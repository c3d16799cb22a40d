#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <limits>
#include <optional>
#include <vector>

#include "habanera/war/rules.hpp"
#include "habanera/war/table.hpp"

namespace habanera {

// Rounds of two seats that hold nothing unusual, played in registers: both piles are taken from at the top and lose
// as many cards, so the number of cards taken so far and the size of the first pile are the whole state. What is
// written here a second time, for speed, is held to the general rounds of War by a test.
class WarRun {
 public:
  // Whether games by these rules have such rounds.
  static bool suits(const WarRules& rules) {
    return rules.seats() == 2 && !rules.from_bottom && !rules.by_points && !rules.inner_game &&
           rules.collect != WarRules::Collect::shuffled && rules.repetition == WarRules::Repetition::none;
  }

  explicit WarRun(const WarRules& rules)
      : war_(rules.tie == WarRules::Tie::war ? rules.face_down + 1 : std::numeric_limits<std::size_t>::max() / 2),
        order_(rules.collect == WarRules::Collect::winner_first  ? Order::higher_first
               : rules.collect == WarRules::Collect::loser_first ? Order::lower_first
                                                                 : Order::by_seat) {}

  // Plays at most so many rounds, with an empty pot and one seat ahead, and says how many. It stops before a round of
  // any other sort: one that a seat cannot play, a tie that cannot be fought out to its end, a position that may be
  // the one `kept`.
  std::uint64_t operator()(WarLevel& level, const WarRules& rules, std::uint64_t most,
                           const std::optional<WarPosition::Heads>& kept) {
    lay_out(level.table, rules);
    most_ = most;
    if (kept) {
      kept_size_ = kept->size_one;
      kept_one_ = entry(kept->rank_one, 0);
      kept_two_ = entry(kept->rank_two, 0);
    }
    Course course;
    course.size_one = course.fewest_one = course.most_one = level.table.piles[0].size();
    course.lead = level.leader == 0 ? 1 : -1;
    do course = kept ? play_in_order<true>(course) : play_in_order<false>(course);
    while (course.tied && fight_war(course));
    give_back(level, course);
    return course.rounds;
  }

 private:
  // A card with its rank in front, so that entries compare as ranks do.
  using Entry = std::uint64_t;
  static constexpr Entry card_bits = 0xffff;
  static Entry entry(std::uint32_t rank, Card card) { return Entry{rank} << 16 | card; }

  // Which card of a layer goes under first.
  enum class Order { higher_first, lower_first, by_seat };

  // How a run has gone so far.
  struct Course {
    std::uint64_t rounds = 0, taken = 0, size_one = 0, won_by_two = 0, lead_changes = 0, fewest_one = 0, most_one = 0;
    std::int64_t lead = 0;  // 1: the first seat was ahead when the piles last differed, -1: the second
    std::uint64_t ties = 0, longest_war = 0;
    bool tied = false;  // the next round is a tie

    // After a round. Nobody can guess who wins, so nothing here branches on it; the lead seldom changes.
    void note(std::uint64_t all) {
      ++rounds;
      fewest_one = std::min(fewest_one, size_one);
      most_one = std::max(most_one, size_one);
      const auto ahead = static_cast<std::int64_t>(2 * size_one - all);
      if ((ahead ^ lead) < 0 && ahead != 0) {
        lead = -lead;
        ++lead_changes;
      }
    }
  };

  // The rings lie one behind the other, and both piles begin at the same place of theirs.
  void lay_out(const WarTable& table, const WarRules& rules) {
    all_ = table.piles[0].size() + table.piles[1].size();
    if (room_ < all_) {
      room_ = 1;
      while (room_ < all_) room_ *= 2;
      rings_.resize(2 * room_);
    }
    for (std::size_t seat = 0; seat < 2; ++seat)
      for (std::size_t i = 0; i < table.piles[seat].size(); ++i) {
        const Card card = table.piles[seat].at(i);
        rings_[seat * room_ + i] = entry(rules.ranks[card], card);
      }
  }

  void give_back(WarLevel& level, const Course& course) const {
    for (std::size_t seat = 0; seat < 2; ++seat) {
      RingPile& pile = level.table.piles[seat];
      pile.clear();
      const std::uint64_t size = seat == 0 ? course.size_one : all_ - course.size_one;
      for (std::uint64_t i = 0; i < size; ++i)
        pile.put_under(static_cast<Card>(rings_[seat * room_ + ((course.taken + i) & (room_ - 1))] & card_bits));
    }
    WarOutcome& outcome = level.outcome;
    outcome.rounds += course.rounds;
    outcome.comparisons += course.rounds + course.ties;
    outcome.ties += course.ties;
    outcome.longest_war = std::max(outcome.longest_war, course.longest_war);
    outcome.lead_changes += course.lead_changes;
    outcome.points[0] += course.rounds - course.won_by_two;
    outcome.points[1] += course.won_by_two;
    level.leader = course.lead < 0;
    level.fewest[0] = std::min<std::size_t>(level.fewest[0], course.fewest_one);
    level.fewest[1] = std::min<std::size_t>(level.fewest[1], all_ - course.most_one);
  }

  template <bool kept>
  Course play_in_order(const Course& course) {
    switch (order_) {
      case Order::higher_first: return play_to_tie<Order::higher_first, kept>(course);
      case Order::lower_first: return play_to_tie<Order::lower_first, kept>(course);
      default: return play_to_tie<Order::by_seat, kept>(course);
    }
  }

  // All is handed in and out by value, so that the compiler keeps it in registers.
  template <Order order, bool kept>
  Course play_to_tie(Course course) {
    Entry* const rings = rings_.data();
    const std::uint64_t all = all_, room = room_, mask = room - 1, most = most_;
    const std::uint64_t rounds_before = course.rounds, size_before = course.size_one;
    course.tied = false;
    // Sizes of 0 and of all cards alike end it.
    while (course.rounds < most && course.size_one - 1 < all - 1) {
      const std::uint64_t top = course.taken & mask;
      const Entry one = rings[top], two = rings[room + top];
      if (kept && ((one ^ kept_one_) | (two ^ kept_two_)) <= card_bits && course.size_one == kept_size_) break;
      if ((one ^ two) <= card_bits) {
        course.tied = true;
        break;
      }
      // All bits set when the second seat wins.
      const std::uint64_t second = 0 - static_cast<std::uint64_t>(two > one);
      const Entry exchanged = order == Order::by_seat ? 0 : (one ^ two) & (order == Order::higher_first ? second : ~second);
      const std::uint64_t end = course.taken + course.size_one + ((all - 2 * course.size_one) & second);
      Entry* const ring = rings + (room & second);
      ring[end & mask] = one ^ exchanged;
      ring[(end + 1) & mask] = two ^ exchanged;
      ++course.taken;
      course.size_one += 1 + 2 * second;
      course.note(all);
    }
    // Each round won by the first seat adds a card to its pile, each other takes one away.
    course.won_by_two += (course.rounds - rounds_before + size_before - course.size_one) / 2;
    return course;
  }

  // A round that begins with a tie. False, with nothing moved, when a seat would run out of cards.
  bool fight_war(Course& course) {
    const std::uint64_t mask = room_ - 1, smaller = std::min(course.size_one, all_ - course.size_one);
    const auto card = [&](std::size_t seat, std::uint64_t i) { return rings_[seat * room_ + ((course.taken + i) & mask)]; };
    std::uint64_t wars = 0, last = 0;
    Entry one, two;
    do {
      last += war_;
      if (last >= smaller) return false;
      ++wars;
      one = card(0, last);
      two = card(1, last);
    } while ((one ^ two) <= card_bits);
    const std::uint64_t winner = two > one;
    const bool two_first = order_ == Order::higher_first ? winner == 1 : order_ == Order::lower_first && winner == 0;
    Entry* const ring = rings_.data() + winner * room_;
    std::uint64_t end = course.taken + (winner ? all_ - course.size_one : course.size_one);
    // Each layer is read before the winner's ring is written over it.
    for (std::uint64_t i = 0; i <= last; ++i) {
      one = card(0, i);
      two = card(1, i);
      const Entry exchanged = (one ^ two) & (0 - static_cast<std::uint64_t>(two_first));
      ring[end++ & mask] = one ^ exchanged;
      ring[end++ & mask] = two ^ exchanged;
    }
    course.taken += last + 1;
    course.size_one += winner ? 0 - (last + 1) : last + 1;
    course.won_by_two += winner;
    course.ties += wars;
    course.longest_war = std::max(course.longest_war, wars);
    course.note(all_);
    return true;
  }

  std::uint64_t war_;  // cards that each seat lays for a war
  Order order_;
  std::vector<Entry> rings_;
  std::uint64_t room_ = 0, all_ = 0;
  std::uint64_t most_ = 0, kept_size_ = 0;
  Entry kept_one_ = 0, kept_two_ = 0;
};

}  // namespace habanera
