#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <tuple>
#include <utility>
#include <vector>

#include "habanera/blackjack/dealer_law.hpp"
#include "habanera/blackjack/hand_tree.hpp"
#include "habanera/blackjack/house_shoe.hpp"
#include "habanera/blackjack/rules.hpp"

namespace habanera {

// What the dealer ends on against the hands of one shoe, as far as it was worked out.
struct DealerLaws {
  std::vector<char> known;  // by block of hands that are found together
  std::vector<double> chances;

  void make_room(std::size_t hands, std::size_t outcomes) {
    if (!known.empty()) return;
    known.resize((hands - 1) / DealerLaw::together + 1);
    chances.resize(known.size() * DealerLaw::together * outcomes);
  }
  double* block(std::size_t block, std::size_t outcomes) {
    return chances.data() + block * DealerLaw::together * outcomes;
  }
};

// All of these of a shoe, by up card, split value and cards of the pair that are gone; and the hands that there are, and
// the ways of the dealer. They hang on the shoe and on how the dealer plays, but on no other rule, so that houses which
// differ in these alone share them, one after the other.
class LawBook {
 public:
  using Hands = std::pair<std::uint8_t, std::size_t>;

  // Forgets what is of another shoe or another dealer.
  void open_for(const BlackjackPieces& pieces, const HouseShoe& shoe) {
    const BlackjackRules& rules = pieces.rules();
    const Cards cards{shoe.values(), rules.bust_over, rules.cards_that_win};
    const Dealer dealer{rules.dealer_stands_on, rules.hits_soft};
    const Shoe of_shoe{shoe.shoe().count, shoe.shoe().wear};
    if (cards == cards_ && dealer == dealer_ && of_shoe == shoe_) return;
    for (auto& page : pages_) page.clear();
    if (cards != cards_ || !tree_) tree_ = std::make_shared<const HandTree>(pieces, shoe.values());
    if (cards != cards_ || dealer != dealer_) dealers_ = {};
    cards_ = cards;
    dealer_ = dealer;
    shoe_ = of_shoe;
  }

  std::shared_ptr<const HandTree> tree() const { return tree_; }
  std::shared_ptr<const DealerLaw> dealer(const BlackjackPieces& pieces, std::uint8_t up) {
    auto& found = dealers_[up];
    if (!found) found = std::make_shared<const DealerLaw>(pieces, up, tree_->values());
    return found;
  }
  DealerLaws& laws(std::uint8_t up, const Hands& hands) { return pages_[up][hands]; }

 private:
  using Cards = std::tuple<std::vector<std::uint8_t>, int, std::size_t>;  // values, and what else tells hands apart
  using Dealer = std::pair<int, bool>;
  using Shoe = std::pair<std::array<double, 11>, double>;

  Cards cards_;
  Dealer dealer_;
  Shoe shoe_;
  std::shared_ptr<const HandTree> tree_;
  // Each up card's used by one thread at a time.
  std::array<std::shared_ptr<const DealerLaw>, 11> dealers_;
  std::array<std::map<Hands, DealerLaws>, 11> pages_;
};

}  // namespace habanera
