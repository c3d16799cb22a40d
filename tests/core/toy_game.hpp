#pragma once

#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "habanera/game/playable.hpp"

// A game that shares nothing with those of the package: nobody sits at it, cards are turned into a row until one
// comes that stops it, or there are enough.
class Turning {
 public:
  struct Rules {
    std::vector<std::uint32_t> stops;  // for each kind of card, whether it does
    std::size_t enough;
  };
  struct Outcome {
    enum How : int { stopped, enough, no_cards };
    How how;
    std::int64_t turned;
    static const std::vector<habanera::Column<Outcome>>& columns() {
      static const std::vector<habanera::Column<Outcome>> all{
          {"turned", [](const Outcome& o) { return o.turned; }},
          {"how", [](const Outcome& o) { return std::int64_t{o.how}; },
           {{no_cards, "no_cards"}, {stopped, "stopped"}, {enough, "enough"}}}};
      return all;
    }
  };
  enum Action { turns = 3, stops = 5 };
  static std::vector<habanera::Word> actions() { return {{stops, "stops"}, {turns, "turns"}}; }
  std::vector<habanera::Zone> zones() const { return {{"stock"}, {"row"}}; }

  struct Table {
    std::vector<habanera::Card> zone[2];  // the top of the stock last
    std::size_t zones() const { return 2; }
    template <class Use>
    void each_card(std::size_t at, Use&& use) const { for (const habanera::Card card : zone[at]) use(card); }
  };

  explicit Turning(Rules rules) : rules_(std::move(rules)) {}
  const Rules& rules() const { return rules_; }
  std::uint32_t likeness(habanera::Card card) const { return rules_.stops[card]; }

  template <class Chance, class Luck, class Watcher>
  Outcome play(const std::vector<habanera::Card>& deck, Chance&, Luck&, Watcher& watcher) {
    Table table{{{deck.rbegin(), deck.rend()}, {}}};
    auto& [stock, row] = table.zone;
    watcher.laid_out(deck, deck.size(), table);
    Outcome::How how = Outcome::no_cards;
    while (!stock.empty() && how == Outcome::no_cards) {
      if (row.size() == rules_.enough) { how = Outcome::enough; break; }
      row.push_back(stock.back());
      stock.pop_back();
      watcher.happened(table, {habanera::no_seat, turns, &row.back(), 1});
      if (rules_.stops[row.back()]) how = Outcome::stopped;
    }
    watcher.happened(table, {habanera::no_seat, stops});
    watcher.cleared();
    return {how, static_cast<std::int64_t>(row.size())};
  }

 private:
  Rules rules_;
};
