#pragma once

#include <atomic>
#include <cstddef>
#include <cstdint>
#include <exception>
#include <limits>
#include <map>
#include <memory>
#include <mutex>
#include <thread>
#include <utility>
#include <vector>

#include "habanera/blackjack/hand_tree.hpp"
#include "habanera/blackjack/house_shoe.hpp"
#include "habanera/blackjack/law_book.hpp"
#include "habanera/blackjack/outcome.hpp"
#include "habanera/blackjack/up_card_play.hpp"
#include "habanera/chance/stop_sign.hpp"

namespace habanera {

// A round of one seat from a shoe, worked out exactly: what a way to play is worth, what is best, what mistakes cost.
// All of it up card by up card, several at once.
class SolvedBlackjack {
 public:
  SolvedBlackjack(const BlackjackRules& rules, const std::vector<double>& counts, bool endless, const Crew& crew,
                  std::shared_ptr<LawBook> book = std::make_shared<LawBook>())
      : pieces_(rules), shoe_(pieces_.rules(), counts, endless), crew_(crew), book_(std::move(book)) {
    book_->open_for(pieces_, shoe_);
    tree_ = book_->tree();
  }

  const BlackjackPieces& pieces() const { return pieces_; }
  const HandTree& tree() const { return *tree_; }
  const HouseShoe& shoe() const { return shoe_; }
  LawBook& book() const { return *book_; }

  // Calls use(play, place) for every up card there can be, from several threads at once; what the crew's pause throws
  // ends them all.
  template <class Use>
  void each_up_card(Use&& use) const {
    const std::vector<std::uint8_t> ups = shoe_.values();
    std::atomic<std::size_t> next{0};
    StopSign sign(crew_.pause);
    // The first, in time: those after it were told to stop.
    std::exception_ptr failure;
    std::mutex failing;
    const auto work = [&] {
      try {
        for (std::size_t place = next++; place < ups.size(); place = next++) {
          sign.look();
          UpCardPlay play(pieces_, *tree_, shoe_, ups[place], *book_);
          use(play, place);
        }
      } catch (...) {
        const std::lock_guard<std::mutex> lock(failing);
        if (!failure) failure = std::current_exception();
        sign.raise();
      }
    };
    std::vector<std::thread> others;
    for (std::size_t thread = 1; thread < crew_.threads; ++thread) others.emplace_back(work);
    work();
    for (std::thread& other : others) other.join();
    if (failure) std::rethrow_exception(failure);
  }

 private:
  BlackjackPieces pieces_;
  HouseShoe shoe_;
  std::shared_ptr<const HandTree> tree_;
  Crew crew_;
  std::shared_ptr<LawBook> book_;
};

// An opening with what is done first and what it is worth, all openings of one name together.
struct OpeningWorth {
  std::int64_t first_hand, up;
  std::size_t move;  // StrategyTable::none: nothing is decided
  double chance = 0;
  BlackjackWorth worth;
};

// By opening, for a policy; `insures`: whether insurance is taken whenever it is offered.
template <class Policy>
std::vector<OpeningWorth> worth_by_opening(UpCardPlay& play, const Policy& policy, bool insures) {
  const BlackjackPieces& pieces = play.pieces();
  const BlackjackRules& rules = pieces.rules();
  const bool offered = insures && rules.insurance && play.up().value == 1;
  PlayedUpCard<Policy> played(play, policy);
  std::map<std::pair<std::int64_t, std::size_t>, OpeningWorth> all;
  for (const BlackjackOpening& opening : play.openings()) {
    const BlackjackHand hand = play.hand(opening);
    std::size_t move;
    BlackjackWorth worth = played.opened(opening, move);
    worth.add(1, play.settled_apart(hand));
    if (offered && !(rules.surrender == BlackjackRules::early && move == BlackjackPieces::surrender)) {
      const double natural = play.alone().natural(hand), stake = play.up().in_stakes(rules.insurance_stake);
      const double pays = static_cast<double>(rules.insurance_wins) / static_cast<double>(rules.insurance_stake);
      worth.net += stake * (natural * pays - (1 - natural));
      worth.staked += stake;
      worth.square = worth.won = std::numeric_limits<double>::quiet_NaN();
    }
    const std::int64_t first = BlackjackOutcome::opening_of(pieces, opening.one, opening.two, opening.pair);
    OpeningWorth& row = all[{first, move}];
    row.first_hand = first;
    row.up = play.up().value;
    row.move = move;
    row.chance += opening.chance;
    row.worth.add(opening.chance, worth);
  }
  std::vector<OpeningWorth> rows;
  for (const auto& [key, row] : all) rows.push_back(row);
  return rows;
}

}  // namespace habanera
