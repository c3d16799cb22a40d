#pragma once

#include <algorithm>
#include <cstddef>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace habanera {

// Named piles of numbered cards, which only move from one to another. The top card of a pile is at place 1.
class PileTable {
 public:
  using Cards = std::vector<int>;
  static constexpr std::size_t no_pile = static_cast<std::size_t>(-1);

  explicit PileTable(std::vector<std::string> names) : names_(std::move(names)), piles_(names_.size()) {}

  std::size_t find(std::string_view name) const {
    for (std::size_t pile = 0; pile < names_.size(); ++pile)
      if (names_[pile] == name) return pile;
    return no_pile;
  }
  const std::string& name(std::size_t pile) const { return names_[pile]; }
  std::size_t piles() const { return piles_.size(); }
  std::size_t size(std::size_t pile) const { return piles_[pile].size(); }
  int card(std::size_t pile, std::size_t place) const { return piles_[pile][piles_[pile].size() - place]; }

  // All cards of a pile, from the top.
  Cards cards(std::size_t pile) const { return {piles_[pile].rbegin(), piles_[pile].rend()}; }
  void lay(std::size_t pile, const Cards& cards) { piles_[pile].assign(cards.rbegin(), cards.rend()); }

  // The cards at these places, each of which is there and named once, in their order, to the top of another pile or
  // beneath it.
  Cards move(std::size_t from, std::size_t to, const std::vector<std::size_t>& places, bool beneath) {
    Cards moved;
    for (const std::size_t place : places) moved.push_back(card(from, place));
    take(from, places);
    Cards& onto = piles_[to];
    onto.insert(beneath ? onto.begin() : onto.end(), moved.rbegin(), moved.rend());
    return moved;
  }
  // The same of the top card alone.
  int move_top(std::size_t from, std::size_t to) {
    const int moved = piles_[from].back();
    piles_[from].pop_back();
    piles_[to].push_back(moved);
    return moved;
  }
  bool holds(std::size_t pile, const std::vector<std::size_t>& places) const {
    std::vector<std::size_t> sorted = places;
    std::sort(sorted.begin(), sorted.end());
    return sorted.empty() || (sorted.front() >= 1 && sorted.back() <= size(pile) &&
                              std::adjacent_find(sorted.begin(), sorted.end()) == sorted.end());
  }

 private:
  void take(std::size_t from, std::vector<std::size_t> places) {
    Cards& pile = piles_[from];
    // From the top down, so that those beneath keep their places.
    std::sort(places.begin(), places.end());
    const std::size_t size = pile.size();
    for (const std::size_t place : places) pile.erase(pile.begin() + static_cast<std::ptrdiff_t>(size - place));
  }

  std::vector<std::string> names_;
  std::vector<Cards> piles_;  // the top last
};

}  // namespace habanera
