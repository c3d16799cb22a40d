#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <cstdint>
#include <exception>
#include <map>
#include <memory>
#include <thread>
#include <tuple>
#include <vector>

#include "habanera/blackjack/best_by_cards.hpp"
#include "habanera/blackjack/outcome.hpp"
#include "habanera/blackjack/table_search.hpp"

namespace habanera {

// A round of one seat from a shoe, worked out exactly: what a way to play is worth, what is best, what mistakes cost.
// All of it up card by up card, several at once.
class SolvedBlackjack {
 public:
  SolvedBlackjack(const BlackjackRules& rules, const std::vector<double>& counts, bool endless, std::size_t threads,
                  std::shared_ptr<LawBook> book = std::make_shared<LawBook>())
      : pieces_(rules), shoe_(pieces_.rules(), counts, endless), tree_(pieces_, shoe_.values()), threads_(threads),
        book_(std::move(book)) {
    book_->open_for(rules, shoe_);
  }

  const BlackjackPieces& pieces() const { return pieces_; }
  const HandTree& tree() const { return tree_; }
  const HouseShoe& shoe() const { return shoe_; }
  LawBook& book() const { return *book_; }

  // Calls use(play, place) for every up card there can be, from several threads at once.
  template <class Use>
  void each_up_card(Use&& use) const {
    const std::vector<std::uint8_t> ups = shoe_.values();
    std::atomic<std::size_t> next{0};
    std::vector<std::exception_ptr> failed(std::max<std::size_t>(1, threads_));
    const auto work = [&](std::size_t thread) {
      try {
        for (std::size_t place = next++; place < ups.size(); place = next++) {
          UpCardPlay play(pieces_, tree_, shoe_, ups[place], *book_);
          use(play, place);
        }
      } catch (...) {
        failed[thread] = std::current_exception();
      }
    };
    std::vector<std::thread> others;
    for (std::size_t thread = 1; thread < threads_; ++thread) others.emplace_back(work, thread);
    work(0);
    for (std::thread& other : others) other.join();
    for (const std::exception_ptr& failure : failed)
      if (failure) std::rethrow_exception(failure);
  }

 private:
  BlackjackPieces pieces_;
  HouseShoe shoe_;
  HandTree tree_;
  std::size_t threads_;
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
      worth.net += stake * (natural * static_cast<double>(rules.insurance_pays) - (1 - natural));
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

// A row of a table: a total, a pair, or the very cards of a hand.
struct TableRow {
  enum Kind : int { hard, soft, pair, cards };
  Kind kind;
  std::uint64_t value;  // the total, the value of the pair's cards, or what is held
  std::uint8_t split_value = SeatHands::unsplit;
  bool early = false;

  static TableRow by_total(const BlackjackPieces& pieces, const BlackjackHand& hand, bool may_split, bool early) {
    if (hand.pair && may_split) return {pair, hand.first, SeatHands::unsplit, early};
    return {pieces.is_soft(hand) ? soft : hard, static_cast<std::uint64_t>(pieces.total(hand)), SeatHands::unsplit,
            early};
  }
  bool operator<(const TableRow& other) const {
    return std::tie(kind, value, split_value, early) <
           std::tie(other.kind, other.value, other.split_value, other.early);
  }
};

// Decisions that look at this hand, and what they are worth, on average over what is not told apart.
class DecisionWorth {
 public:
  explicit DecisionWorth(UpCardPlay& play) : play_(play) {}

  // How often a decision comes up, the dealer's natural aside where he looks before.
  double how_often(const BlackjackDecision& decision) const {
    const UpCard& up = play_.up();
    return decision.weight * (up.decides_after_look() && !decision.early ? decision.hands.weight(decision.hand) : 1);
  }
  // As it is told: with all that the dealer's natural costs where nobody knows of it.
  double told(const BlackjackDecision& decision, double net) const {
    if (play_.up().decides_after_look() && !decision.early) return decision.weight * net;
    BlackjackHand hand = decision.hand;
    hand.counts_as_natural = false;
    return decision.weight * (net + apart(decision.hands, hand));
  }

 private:
  double apart(const SeatHands& hands, const BlackjackHand& hand) const {
    const UpCard& up = play_.up();
    if (!up.settles_natural_apart()) return 0;
    return hands.natural(hand) * up.in_stakes(play_.pieces().paid_to_natural(hand));
  }

  UpCardPlay& play_;
};

// What a move costs against a reference, by row of the table.
struct MistakeRow {
  TableRow row;
  std::int64_t up;
  std::size_t played, best;
  double how_often = 0, loss = 0;
};

// The decisions in which a player's move is not the reference's, each priced with the reference's play afterwards and
// weighed by how often the player comes to it: their sum is exactly the difference of the two edges (as in Kakade &
// Langford 2002, Approximately optimal approximate reinforcement learning, lemma 6.1).
template <class Player, class Reference>
std::vector<MistakeRow> mistakes(UpCardPlay& play, const Player& player, const Reference& reference) {
  PlayedUpCard<Reference> played(play, reference);
  const DecisionWorth told(play);
  std::map<std::tuple<TableRow, std::size_t, std::size_t>, MistakeRow> all;
  each_decision(play, player, [&](const BlackjackDecision& decision) {
    std::size_t move, best;
    double lost;
    const auto move_of = [&](const auto& policy) {
      return policy.choose(decision.hands, decision.hand, decision.at, decision.moves);
    };
    const auto net = [&](std::size_t of) { return worth_of(played, decision, of).net; };
    if (decision.early) {
      const bool gives_up = player.surrenders_early(decision.hands, decision.hand, decision.at);
      if (gives_up == reference.surrenders_early(decision.hands, decision.hand, decision.at)) return;
      const double play_on = net(move_of(reference)), give_up = play.given_up_early(decision.hand).net;
      move = gives_up ? BlackjackPieces::surrender : BlackjackPieces::decline;
      best = gives_up ? BlackjackPieces::decline : BlackjackPieces::surrender;
      lost = gives_up ? play_on - give_up : give_up - play_on;
    } else {
      move = move_of(player);
      best = move_of(reference);
      if (move == best) return;
      lost = net(best) - net(move);
    }
    const bool may_split = decision.moves.has(BlackjackPieces::split);
    const TableRow row = TableRow::by_total(play.pieces(), decision.hand, may_split, decision.early);
    MistakeRow& found = all[{row, move, best}];
    found.row = row;
    found.up = play.up().value;
    found.played = move;
    found.best = best;
    found.how_often += told.how_often(decision);
    found.loss += decision.weight * lost;
  });
  std::vector<MistakeRow> rows;
  for (const auto& [key, row] : all) rows.push_back(row);
  return rows;
}

// What each move of a row is worth.
struct ExpectedRow {
  TableRow row;
  std::int64_t up;
  std::size_t move;
  double expected;
  bool best;
};

// Gathers what moves are worth, row by row.
class ExpectedRows {
 public:
  explicit ExpectedRows(UpCardPlay& play) : play_(play), told_(play) {}

  template <class Policy>
  void add(const TableRow& row, PlayedUpCard<Policy>& played, const BlackjackDecision& decision, bool gives_up_early) {
    if (decision.early) {
      const double play_on =
          worth_of(played, decision, played.policy().choose(decision.hands, decision.hand, decision.at, decision.moves))
              .net;
      sum(row, BlackjackPieces::surrender, decision, play_.given_up_early(decision.hand).net, gives_up_early);
      sum(row, BlackjackPieces::decline, decision, play_on, !gives_up_early);
      return;
    }
    const std::size_t best = played.policy().choose(decision.hands, decision.hand, decision.at, decision.moves);
    decision.moves.each([&](std::size_t move) {
      sum(row, move, decision, worth_of(played, decision, move).net, move == best);
    });
  }

  // Those of another, which has none that are here.
  void take(const ExpectedRows& others) { sums_.insert(others.sums_.begin(), others.sums_.end()); }

  std::vector<ExpectedRow> rows() const {
    std::vector<ExpectedRow> all;
    for (const auto& [key, found] : sums_)
      if (found.how_often > 1e-15)
        all.push_back({key.first, play_.up().value, key.second, found.net / found.how_often, found.best});
    return all;
  }
  bool has(const TableRow& row) const {
    const auto found = sums_.lower_bound({row, 0});
    return found != sums_.end() && !(row < found->first.first) && found->second.how_often > 1e-15;
  }

 private:
  struct Sum {
    double net = 0, how_often = 0;
    bool best = false;
  };

  void sum(const TableRow& row, std::size_t move, const BlackjackDecision& decision, double net, bool best) {
    Sum& found = sums_[{row, move}];
    found.net += told_.told(decision, net);
    found.how_often += told_.how_often(decision);
    found.best = found.best || best;
  }

  UpCardPlay& play_;
  DecisionWorth told_;
  std::map<std::pair<TableRow, std::size_t>, Sum> sums_;
};

}  // namespace habanera
