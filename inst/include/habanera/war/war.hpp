#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <stdexcept>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

#include "habanera/game/table_event.hpp"
#include "habanera/war/actions.hpp"
#include "habanera/war/rules.hpp"
#include "habanera/war/run.hpp"
#include "habanera/war/table.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// War, a game without decisions, by any rules. Written once for simulation, enumeration, replay and the
// conservation check. A game keeps its room from play to play, so that nothing is allocated again.
// `Seats` is 0, or the number of seats where it is known when compiling: the loops over seats vanish.
template <std::size_t Seats>
class War : public WarActions {
 public:
  using Rules = WarRules;
  using Outcome = WarOutcome;

  explicit War(WarRules rules) : rules_(std::move(rules)) {
    rules_.check();
    if (Seats != 0 && Seats != rules_.seats())
      throw std::invalid_argument("a game for " + std::to_string(Seats) + " seats got " + std::to_string(rules_.seats()));
    watched_ = rules_.can_be_watched();
    needed_for_war_ = rules_.short_loses && !rules_.by_points ? rules_.face_down + 1 : 1;
    if (WarRun::suits(rules_)) run_.emplace(rules_);
  }

  const WarRules& rules() const { return rules_; }
  std::vector<Zone> zones() const { return WarTable::zones_for(rules_.seats()); }
  // Cards that are alike to the game.
  std::uint32_t likeness(Card card) const { return rules_.ranks[card]; }

  // One game on the shuffled deck, its top first.
  template <class Chance, class Luck, class Watcher>
  WarOutcome play(const std::vector<Card>& deck, Chance& chance, Luck&, Watcher& watcher) {
    all_rounds_ = inner_games_ = deepest_ = 0;
    WarOutcome outcome = play_level(0, deck, rules_.dealing, chance, watcher);
    outcome.inner_games = inner_games_;
    outcome.inner_depth = deepest_;
    return outcome;
  }

 private:
  using Level = WarLevel;

  template <class Chance, class Watcher>
  WarOutcome play_level(std::size_t depth, const std::vector<Card>& deck, const Dealing& dealing, Chance& chance,
                        Watcher& watcher) {
    if (depth == levels_.size()) levels_.push_back(std::make_unique<Level>());
    Level& level = *levels_[depth];
    level.table.lay_out(deck, dealing);
    watcher.laid_out(deck, dealing.cards(), level.table);
    begin(level);
    while (!is_over(level)) {
      // A watcher that looks away misses nothing when many rounds are played in one run.
      if constexpr (Seats == 2 && std::is_same_v<Watcher, Silent>)
        if (play_plain_rounds(level)) continue;
      if (!play_round(depth, level, chance, watcher)) break;
      note_course(level);
    }
    finish(level, watcher);
    watcher.cleared();
    return level.outcome;
  }

  void begin(Level& level) const {
    level.outcome = WarOutcome();
    level.watch.begins();
    if (rules_.repetition != WarRules::Repetition::none) level.memory.begins();
    level.leader = leader(level);
    for (std::size_t seat = 0; seat < seats(); ++seat) level.fewest[seat] = level.table.piles[seat].size();
  }

  std::size_t seats() const { return Seats != 0 ? Seats : rules_.seats(); }

  // What a seat is measured by: its points, or its cards.
  std::uint64_t standing(const Level& level, std::size_t seat) const {
    return rules_.by_points ? level.outcome.points[seat] : level.table.piles[seat].size();
  }

  // The seat that stands strictly highest, or no_seat.
  std::size_t leader(const Level& level) const {
    // Without branches on who leads, which nobody can guess.
    std::uint64_t highest = standing(level, 0);
    std::size_t best = 0;
    for (std::size_t seat = 1; seat < seats(); ++seat) {
      const std::uint64_t mine = standing(level, seat);
      best = mine > highest ? seat : mine == highest ? no_seat : best;
      highest = std::max(mine, highest);
    }
    return best;
  }

  void note_course(Level& level) const {
    for (std::size_t seat = 0; seat < seats(); ++seat)
      level.fewest[seat] = std::min(level.fewest[seat], level.table.piles[seat].size());
    const std::size_t now = leader(level);
    if (now == level.leader || now == no_seat) return;
    level.outcome.lead_changes += level.leader != no_seat;
    level.leader = now;
  }

  static bool end(Level& level, WarOutcome::Ended how, std::size_t winner = no_seat) {
    level.outcome.ended = how;
    level.outcome.winner = winner == no_seat ? 0 : winner + 1;
    return true;
  }

  // Before every round.
  bool is_over(Level& level) {
    std::size_t holding = 0;
    for (std::size_t seat = 0; seat < seats(); ++seat) holding += level.table.piles[seat].size() > 0;
    if (holding < 2) return end_of_cards(level);
    if (comes_again(level)) return true;
    if (all_rounds_ < rules_.max_rounds) return false;
    return end(level, WarOutcome::round_limit, rules_.most_cards_at_limit ? leader(level) : no_seat);
  }

  // Of cards, the last seat that holds any stands highest.
  bool end_of_cards(Level& level) const {
    const std::size_t winner = leader(level);
    return end(level, winner == no_seat ? WarOutcome::tied : WarOutcome::out_of_cards, winner);
  }

  bool comes_again(Level& level) const {
    if (rules_.repetition != WarRules::Repetition::none) {
      if (!level.memory.notices(level.table, rules_.ranks)) return false;
      return end(level, WarOutcome::repetition_ends, rules_.repetition == WarRules::Repetition::seat_1 ? 0 : no_seat);
    }
    if (!watched_ || !level.watch.notices(level.outcome.rounds, level.table, rules_.ranks)) return false;
    return end(level, WarOutcome::never_ends);
  }

  // Plays as many plain rounds as there are before anything unusual; false when that is none.
  bool play_plain_rounds(Level& level) {
    if (!run_ || level.table.pot.layers() > 0 || level.leader == no_seat) return false;
    std::uint64_t most = rules_.max_rounds - all_rounds_;
    std::optional<WarPosition::Heads> kept;
    if (watched_) {
      most = std::min(most, level.watch.next_kept() - level.outcome.rounds);
      if (const WarPosition* position = level.watch.kept()) kept = position->heads();
    }
    const std::uint64_t played = (*run_)(level, rules_, most, kept);
    all_rounds_ += played;
    return played > 0;
  }

  // Plays one round; false when the game ended in it.
  template <class Chance, class Watcher>
  bool play_round(std::size_t depth, Level& level, Chance& chance, Watcher& watcher) {
    ++all_rounds_;
    watcher.round_begins(++level.outcome.rounds);
    turn_cards(level.table, watcher);
    FaceUp contest = level.table.turned;  // the seats that may still win, and what lies face up before each
    level.table.move_turned_to_pot();
    const std::size_t playing = contest.count;
    if (rules_.inner_game && calls_for_inner_game(level.table, contest)) {
      const std::optional<std::size_t> winner = play_inner_game(depth, level, contest, chance, watcher);
      if (!winner) return false;
      if (*winner != no_seat) return settle(level, *winner, chance, watcher);
    }
    std::uint64_t wars = 0;
    for (;;) {
      ++level.outcome.comparisons;
      keep_highest(contest);
      if (contest.count == 1) return settle(level, contest.seat[0], chance, watcher);
      ++level.outcome.ties;
      level.outcome.longest_war = std::max(level.outcome.longest_war, ++wars);
      watcher.happened(level.table, {no_seat, ties});
      if (rules_.tie != WarRules::Tie::war) return settle_tie(level, contest, chance, watcher);
      drop_short_seats(level, contest, playing, watcher);
      if (contest.count == 0) return end_contest(level, playing, watcher);
      if (contest.count == 1 && ends_at_once(playing)) return !end(level, WarOutcome::short_of_cards, contest.seat[0]);
      if (contest.count == 1) return settle(level, contest.seat[0], chance, watcher);
      lay_war(level.table, contest, watcher);
    }
  }

  Card take(RingPile& pile) const { return rules_.from_bottom ? pile.take_bottom() : pile.take_top(); }

  template <class Watcher>
  void turn_cards(WarTable& table, Watcher& watcher) const {
    std::size_t place = 0;
    if constexpr (Seats == 2) {
      // Both hold cards, or the game would be over.
      turn_card(table, place++, 0, watcher);
      turn_card(table, place++, 1, watcher);
    } else {
      for (std::size_t seat = 0; seat < seats(); ++seat)
        if (table.piles[seat].size() > 0) turn_card(table, place++, seat, watcher);
    }
  }

  template <class Watcher>
  void turn_card(WarTable& table, std::size_t place, std::size_t seat, Watcher& watcher) const {
    const Card card = take(table.piles[seat]);
    table.turned.turn(place, seat, card);
    watcher.happened(table, {seat, turns, &card, 1});
  }

  void keep_highest(FaceUp& contest) const {
    std::uint32_t highest = 0;
    for (std::size_t i = 0; i < contest.count; ++i) highest = std::max(highest, rules_.ranks[contest.card[i]]);
    std::size_t kept = 0;
    for (std::size_t i = 0; i < contest.count; ++i) {
      contest.seat[kept] = contest.seat[i];
      kept += rules_.ranks[contest.card[i]] == highest;
    }
    contest.count = kept;
  }

  // Of a tie that is not fought out.
  template <class Chance, class Watcher>
  bool settle_tie(Level& level, const FaceUp& contest, Chance& chance, Watcher& watcher) {
    switch (rules_.tie) {
      case WarRules::Tie::split: return take_back(level.table, watcher);
      case WarRules::Tie::seat: return settle(level, favoured(contest), chance, watcher);
      case WarRules::Tie::discard: return set_pot_aside(level.table, watcher);
      default: break;
    }
    if (rules_.by_points) return set_pot_aside(level.table, watcher);
    watcher.happened(level.table, {no_seat, leaves});
    return true;
  }

  // The favoured seat, or the next of the tied seats after it.
  std::size_t favoured(const FaceUp& contest) const {
    for (std::size_t i = 0; i < contest.count; ++i)
      if (contest.seat[i] >= rules_.tie_seat) return contest.seat[i];
    return contest.seat[0];
  }

  template <class Watcher>
  bool take_back(WarTable& table, Watcher& watcher) const {
    table.pot.each([&](std::size_t seat, Card card) { table.piles[seat].put_under(card); });
    table.pot.clear();
    watcher.happened(table, {no_seat, takes_back});
    return true;
  }

  template <class Watcher>
  bool set_pot_aside(WarTable& table, Watcher& watcher) const {
    table.pot.each([&](std::size_t, Card card) { table.aside.push_back(card); });
    table.pot.clear();
    watcher.happened(table, {no_seat, discards});
    return true;
  }

  // Whether two seats are left, of which one that is short has lost the game.
  bool ends_at_once(std::size_t playing) const { return playing == 2 && !rules_.by_points; }

  template <class Watcher>
  void drop_short_seats(Level& level, FaceUp& contest, std::size_t playing, Watcher& watcher) const {
    std::size_t kept = 0;
    for (std::size_t i = 0; i < contest.count; ++i) {
      const std::size_t seat = contest.seat[i];
      contest.seat[kept] = contest.seat[i];
      if (level.table.piles[seat].size() >= needed_for_war_) {
        ++kept;
      } else {
        watcher.happened(level.table, {seat, is_short});
        if (!ends_at_once(playing)) put_out(level.table, seat, watcher);
      }
    }
    contest.count = kept;
  }

  // What it has laid stays in the pot; what it holds leaves the game.
  template <class Watcher>
  void put_out(WarTable& table, std::size_t seat, Watcher& watcher) const {
    while (table.piles[seat].size() > 0) table.aside.push_back(take(table.piles[seat]));
    watcher.happened(table, {seat, is_out});
  }

  // All tied seats were short.
  template <class Watcher>
  bool end_contest(Level& level, std::size_t playing, Watcher& watcher) const {
    if (ends_at_once(playing)) return !end(level, WarOutcome::tied);
    return set_pot_aside(level.table, watcher);
  }

  // Each lays its cards face down, as many as it can while one is left, and turns the next.
  template <class Watcher>
  void lay_war(WarTable& table, FaceUp& contest, Watcher& watcher) {
    std::size_t layer = table.pot.layers(), most_down = 0;
    for (std::size_t i = 0; i < contest.count; ++i) {
      const std::size_t seat = contest.seat[i];
      const std::size_t down = std::min(rules_.face_down, table.piles[seat].size() - 1);
      most_down = std::max(most_down, down);
      if (down_.size() < down) down_.resize(down);
      for (std::size_t j = 0; j < down; ++j) {
        down_[j] = take(table.piles[seat]);
        table.pot.lay(seat, down_[j], static_cast<std::uint16_t>(layer + j));
      }
      if (down > 0) watcher.happened(table, {seat, lays, down_.data(), down});
    }
    for (std::size_t i = 0; i < contest.count; ++i) {
      contest.card[i] = take(table.piles[contest.seat[i]]);
      table.pot.lay(contest.seat[i], contest.card[i], static_cast<std::uint16_t>(layer + most_down));
      watcher.happened(table, {contest.seat[i], turns, &contest.card[i], 1});
    }
  }

  // The round is won; true, since the game goes on.
  template <class Chance, class Watcher>
  bool settle(Level& level, std::size_t winner, Chance& chance, Watcher& watcher) {
    ++level.outcome.points[winner];
    WarTable& table = level.table;
    if (rules_.by_points) {
      watcher.happened(table, {winner, scores});
      return set_pot_aside(table, watcher);
    }
    std::size_t taken = 0;
    if (taken_.size() < table.pot.size()) taken_.resize(table.pot.size());
    table.pot.gather(rules_.collect, seats(), winner, chance, [&](Card card) { taken_[taken++] = card; });
    for (std::size_t i = 0; i < taken; ++i) table.piles[winner].put_under(taken_[i]);
    table.pot.clear();
    watcher.happened(table, {winner, takes, taken_.data(), taken});
    return true;
  }

  bool calls_for_inner_game(const WarTable& table, const FaceUp& contest) const {
    for (std::size_t i = 0; i < contest.count; ++i) {
      const std::uint32_t rank = rules_.ranks[contest.card[i]];
      if (rank == 0 || table.piles[contest.seat[i]].size() < rank) return false;
    }
    return true;
  }

  // Plays the round as a game on copies of each seat's next cards: as many as the rank it turned. The winner, or
  // no_seat when nobody won it; nothing when it will not end, and with it the whole game.
  template <class Chance, class Watcher>
  std::optional<std::size_t> play_inner_game(std::size_t depth, Level& level, const FaceUp& contest, Chance& chance,
                                             Watcher& watcher) {
    ++inner_games_;
    deepest_ = std::max<std::uint64_t>(deepest_, depth + 1);
    watcher.happened(level.table, {no_seat, begins_inner});
    Dealing dealing{std::vector<std::size_t>(seats(), 0), false};
    level.copied.clear();
    for (std::size_t i = 0; i < contest.count; ++i)
      dealing.sizes[contest.seat[i]] = copy_next(level.table.piles[contest.seat[i]], rules_.ranks[contest.card[i]],
                                                 level.copied);
    const WarOutcome inner = play_level(depth + 1, level.copied, dealing, chance, watcher);
    watcher.happened(level.table, {no_seat, ends_inner});
    if (inner.ended == WarOutcome::never_ends || inner.ended == WarOutcome::round_limit) {
      const bool by_cards = inner.ended == WarOutcome::round_limit && rules_.most_cards_at_limit;
      end(level, inner.ended, by_cards ? leader(level) : no_seat);
      return std::nullopt;
    }
    return inner.winner == 0 ? no_seat : static_cast<std::size_t>(inner.winner - 1);
  }

  // The copies lie as the cards do: those that would be taken first are on top, or at the bottom.
  std::size_t copy_next(const RingPile& pile, std::size_t count, std::vector<Card>& copies) const {
    const std::size_t from = rules_.from_bottom ? pile.size() - count : 0;
    for (std::size_t i = 0; i < count; ++i) copies.push_back(pile.at(from + i));
    return count;
  }

  template <class Watcher>
  void finish(Level& level, Watcher& watcher) const {
    WarOutcome& outcome = level.outcome;
    outcome.stopped = outcome.ended == WarOutcome::never_ends ||
                      (outcome.ended == WarOutcome::round_limit && !rules_.most_cards_at_limit);
    if (outcome.winner == 0) return watcher.happened(level.table, {no_seat, draws});
    const std::size_t winner = static_cast<std::size_t>(outcome.winner - 1);
    std::uint64_t next_best = 0;
    for (std::size_t seat = 0; seat < seats(); ++seat)
      if (seat != winner) next_best = std::max(next_best, standing(level, seat));
    outcome.margin = standing(level, winner) - std::min(next_best, standing(level, winner));
    outcome.winner_fewest = level.fewest[winner];
    const RingPile& pile = level.table.piles[winner];
    for (std::size_t i = 0; i < pile.size(); ++i) outcome.weighted_pile += rules_.ranks[pile.at(i)] * (pile.size() - i);
    watcher.happened(level.table, {winner, wins});
  }

  WarRules rules_;
  bool watched_ = false;
  std::optional<WarRun> run_;
  std::size_t needed_for_war_ = 1;  // cards that a seat must have left
  std::vector<std::unique_ptr<Level>> levels_;
  std::vector<Card> taken_, down_;
  std::uint64_t all_rounds_ = 0, inner_games_ = 0, deepest_ = 0;
};

}  // namespace habanera
