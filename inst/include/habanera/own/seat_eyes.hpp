#pragma once

#include <cstddef>
#include <cstdint>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "habanera/chance/words.hpp"
#include "habanera/own/pile_table.hpp"

namespace habanera {

// What the seats at a table can see, where every card is told apart by its number, from 1: which cards each has seen
// since they were last shuffled, and all that happened, hidden cards aside.
class SeatEyes {
 public:
  static constexpr std::size_t nobody = 0;  // seats count from 1
  struct Sights {
    std::vector<std::size_t> owner;  // of each pile
    std::vector<bool> is_open;
  };

  SeatEyes(Sights sights, std::size_t cards, std::size_t seats)
      : sights_(std::move(sights)), cards_(cards), seats_(seats) {
    begin();
  }

  std::size_t owner(std::size_t pile) const { return sights_.owner[pile]; }
  // Before anything has happened.
  void begin() {
    seen_.assign(cards_ + 1, std::vector<bool>(seats_ + 1, false));
    lost_by_.assign(cards_ + 1, 0);
    seen_so_far_.assign(seats_ + 1, {});
    shuffles_ = 0;
  }
  // From now on, what this seat sees is held to what it saw by other eyes, as far as that goes; nobody looks after it.
  void follow(const SeatEyes& other, std::size_t seat) {
    followed_ = seat;
    expected_ = other.seen_so_far_[seat];
  }

  // Something has happened, in the words of the log; false where the seat that is followed sees something else.
  bool happened(std::string_view action, std::size_t seat, const PileTable::Cards& cards, const PileTable& table) {
    if (followed_ != nobody && seen_so_far_[followed_].size() == expected_.size()) return true;
    if (begins(action, "shuffles ")) lose(table, table.find(action.substr(9)));
    for (std::size_t pile = 0; pile < table.piles(); ++pile) look_at(table, pile);
    if (begins(action, "turns "))
      for (const int card : cards) seen_[static_cast<std::size_t>(card)].assign(seats_ + 1, true);
    if (begins(action, "chooses ")) return true;
    for (std::size_t each = 1; each <= seats_; ++each)
      if (followed_ == nobody || followed_ == each) tell(each, action, seat, cards, table);
    if (followed_ == nobody) return true;
    const auto& now = seen_so_far_[followed_];
    return now.back() == expected_[now.size() - 1];
  }

  // Whether by these eyes a seat saw the same.
  bool saw_the_same(const SeatEyes& other, std::size_t seat) const {
    return seen_so_far_[seat] == other.seen_so_far_[seat];
  }
  // All that it saw, in a number.
  std::uint64_t all_seen(std::size_t seat) const {
    std::uint64_t all = seen_so_far_[seat].size();
    for (const std::uint64_t each : seen_so_far_[seat]) all = mix64(all + each);
    return all;
  }
  // The cards that a seat has not seen since a shuffle, by its number; 0: the deal.
  std::vector<int> unseen(std::size_t seat, std::size_t shuffle) const {
    std::vector<int> cards;
    for (std::size_t card = 1; card <= cards_; ++card)
      if (!seen_[card][seat] && lost_by_[card] == shuffle) cards.push_back(static_cast<int>(card));
    return cards;
  }
  std::size_t shuffles() const { return shuffles_; }

 private:
  static bool begins(std::string_view text, std::string_view with) { return text.substr(0, with.size()) == with; }

  void lose(const PileTable& table, std::size_t pile) {
    ++shuffles_;
    if (pile == PileTable::no_pile) return;
    for (const int card : table.cards(pile)) {
      seen_[static_cast<std::size_t>(card)].assign(seats_ + 1, false);
      lost_by_[static_cast<std::size_t>(card)] = shuffles_;
    }
  }
  void look_at(const PileTable& table, std::size_t pile) {
    if (!sights_.is_open[pile] && sights_.owner[pile] == nobody) return;
    for (std::size_t place = 1; place <= table.size(pile); ++place) {
      std::vector<bool>& seen = seen_[static_cast<std::size_t>(table.card(pile, place))];
      if (sights_.is_open[pile]) seen.assign(seats_ + 1, true);
      else seen[sights_.owner[pile]] = true;
    }
  }
  // What a seat sees of it, as a number that is the same where all of it is.
  void tell(std::size_t to, std::string_view action, std::size_t seat, const PileTable::Cards& cards,
            const PileTable& table) {
    std::uint64_t sight = mix64(seat + (cards.size() << 8));
    for (const char letter : action) sight = mix64(sight + static_cast<unsigned char>(letter));
    for (const int card : cards)
      sight = mix64(sight + (seen_[static_cast<std::size_t>(card)][to] ? static_cast<std::uint64_t>(card) : 0));
    for (std::size_t pile = 0; pile < table.piles(); ++pile) sight = mix64(sight + table.size(pile));
    seen_so_far_[to].push_back(sight);
  }

  Sights sights_;
  std::size_t cards_, seats_;
  std::vector<std::vector<bool>> seen_;  // by card, by seat
  std::vector<std::size_t> lost_by_;     // the last shuffle of each card
  std::vector<std::vector<std::uint64_t>> seen_so_far_;  // by seat
  std::size_t shuffles_ = 0;
  std::size_t followed_ = nobody;
  std::vector<std::uint64_t> expected_;
};

}  // namespace habanera
