#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <utility>
#include <vector>

#include "habanera/blackjack/dealer_law.hpp"
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

// All of these of a shoe, by up card, split value and cards of the pair that are gone. They hang on the shoe and on how
// the dealer plays, but on no other rule, so that houses which differ in these alone share them, one after the other.
class LawBook {
 public:
  using Hands = std::pair<std::uint8_t, std::size_t>;

  // Forgets what is of another shoe or another dealer.
  void open_for(const BlackjackRules& rules, const HouseShoe& shoe) {
    const Key key{shoe.shoe().count, shoe.shoe().wear, {rules.bust_over, rules.dealer_stands_on, rules.hits_soft}};
    if (key == key_) return;
    key_ = key;
    for (auto& page : pages_) page.clear();
  }
  DealerLaws& laws(std::uint8_t up, const Hands& hands) { return pages_[up][hands]; }

 private:
  struct Key {
    std::array<double, 11> count{};
    double wear = -1;
    std::array<int, 3> dealer{};
    bool operator==(const Key& other) const {
      return count == other.count && wear == other.wear && dealer == other.dealer;
    }
  };

  Key key_;
  std::array<std::map<Hands, DealerLaws>, 11> pages_;  // each used by one thread at a time
};

}  // namespace habanera
