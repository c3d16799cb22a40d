#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <memory>
#include <optional>
#include <stdexcept>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "habanera/game/choices.hpp"
#include "habanera/game/evidence.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/stock.hpp"

namespace habanera {

// How the seats are taken to play by who looks ahead: one player for all, or one for each. Where it is `known` that
// they play so, what they did is evidence of what they hold.
template <class View>
struct Assumed {
  std::vector<std::shared_ptr<const Player<View>>> players;
  bool known = false;
  const Player<View>& of(std::size_t seat) const { return *players[players.size() == 1 ? 0 : seat]; }
};

// What somebody sees beside what a seat may: the hands of the others, the next card of the stock; now and then.
struct Peek {
  bool hands = false, next = false;
  double how_often = 1;
  bool any() const { return hands || next; }
};

// Tries each move by games played out from here: the cards that the seat has not seen are dealt anew, among the deals
// that fit what it has seen any as likely, and the same deals for every move. The best on average is made. How all
// seats then play is assumed; they need not be good: the random player will do for any game. Comes a position again, it
// makes another move than before, so that two who wait for each other do not wait for ever.
template <class Game>
class LookaheadPlayer : public Player<typename Game::View> {
 public:
  using Position = typename Game::Position;
  using View = typename Game::View;

  LookaheadPlayer(Game game, std::size_t samples, Assumed<View> assumed, Peek peek = {})
      : game_(std::move(game)), samples_(samples), assumed_(std::move(assumed)), peek_(peek) {
    if (!assumed_.known) return;
    for (const auto& player : assumed_.players)
      if (!has_chances(*player)) throw std::invalid_argument("who is assumed in the other seats tells no chances");
  }

  std::unique_ptr<Player<View>> copy() const override { return std::make_unique<LookaheadPlayer>(*this); }
  // Its luck is far too much to walk.
  bool decides_by_view() const override { return false; }

  void begins() override { made_.clear(); }

  std::size_t choose(const View& view, Moves moves, PlayerChance& chance) override {
    if (moves.count() == 1) return moves.first();
    Moves& made = made_[game_.key(view)];
    Moves open = moves.without(made);
    if (open.empty()) {
      made = Moves();
      open = moves;
    }
    const std::size_t move = any_best(open, worth_of_moves(view, open, chance), chance);
    made.add(move);
    return move;
  }

  bool sees_next() const override { return peek_.next; }
  void next_is(Card card) override { next_ = card; }

  // What was gained on average after each move, in the order of the moves.
  std::vector<double> worth_of_moves(const View& view, Moves moves, PlayerChance& chance) {
    const bool peeks = peek_.any() && (peek_.how_often >= 1 || chance.happens(peek_.how_often));
    if (assumed_.known) {
      const std::vector<double> worth = worth_by(&assumed_, peeks, view, moves, chance);
      if (!worth.empty()) return worth;
    }
    return worth_by(nullptr, peeks, view, moves, chance);
  }

 private:
  static constexpr std::size_t tries_of_a_deal = 10;

  // Nothing where no deal was found that those who are known to play could have come to.
  std::vector<double> worth_by(const Assumed<View>* known, bool peeks, const View& view, Moves moves,
                               PlayerChance& chance) {
    const bool sees_hands = peeks && peek_.hands;
    UnseenCards unseen = game_.unseen(view, sees_hands);
    const std::size_t gone = unseen.next_place();
    if (peeks && next_) unseen.turn(gone, game_.stands_for(*next_));
    std::vector<double> worth(moves.count(), 0);
    std::size_t found = 0;
    double weights = 0;
    for (std::size_t tries = 0; found < samples_ && tries < samples_ * tries_of_a_deal; ++tries) {
      chance.pause();
      const std::vector<Card> deck =
          unseen.any_order(game_.cards_used(), [&](std::uint64_t size) { return chance.below(size); });
      const std::uint64_t course = chance.below(std::uint64_t{1} << 32);
      const auto deal = fitting_deal(game_, view, deck, known, sees_hands);
      if (!deal || deal->weight == 0) continue;
      ++found;
      weights += deal->weight;
      for (std::size_t i = 0; i < worth.size(); ++i)
        worth[i] += deal->weight * played_out(deal->position, moves.at(i), deck, gone, course);
    }
    if (known && weights == 0) return {};
    for (double& each : worth) each /= weights > 0 ? weights : 1;
    return worth;
  }

  // Among moves that are as good, as all are in a game that is lost, luck decides.
  static std::size_t any_best(Moves moves, const std::vector<double>& worth, PlayerChance& chance) {
    const double best = *std::max_element(worth.begin(), worth.end());
    Moves good;
    for (std::size_t i = 0; i < worth.size(); ++i)
      if (worth[i] >= best - 1e-12) good.add(moves.at(i));
    return good.at(static_cast<std::size_t>(good.count() == 1 ? 0 : chance.below(good.count())));
  }

  double played_out(Position position, std::size_t move, const std::vector<Card>& deck, std::size_t gone,
                    std::uint64_t course) const {
    const std::size_t seat = game_.next(position).seat;
    game_.move(position, move);
    ShuffledStock stock(deck, gone);
    RandomChance luck(course, 0, lane::game);
    SharedLuck<RandomChance>::Lane lane(luck);
    std::array<std::unique_ptr<Player<View>>, most_players> players;
    const auto choose = [&](std::size_t at, const Position& now, Moves open) {
      if (!players[at]) {
        players[at] = assumed_.of(at).copy();
        players[at]->begins();
      }
      return players[at]->choose(game_.view(now, at), open, lane);
    };
    play_out(game_, position, stock, choose, [](const NextStep&, const Position&) {});
    return game_.worth(position, seat);
  }

  Game game_;
  std::size_t samples_;
  Assumed<View> assumed_;
  Peek peek_;
  std::optional<Card> next_;
  std::unordered_map<std::string, Moves> made_;  // in this game, by position
};

}  // namespace habanera
