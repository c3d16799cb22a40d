#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <memory>
#include <string>
#include <type_traits>
#include <unordered_map>
#include <utility>
#include <vector>

#include "habanera/game/choices.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/stock.hpp"

namespace habanera {

// A game in which a position holds cards that a seat has not seen gives the same position on another deal: `redealt()`,
// nothing where the deal does not fit what that seat saw.
template <class Game, class = void>
inline constexpr bool deals_anew = false;
template <class Game>
inline constexpr bool deals_anew<Game, std::void_t<decltype(&Game::redealt)>> = Game::hides_cards();

// Tries each move by games played out from here: the cards that the seat has not seen are dealt anew, among the deals
// that fit what it has seen any as likely, and the same deals for every move. The best on average is made. All seats
// are then played by one kind of player, who need not be good: the random one will do for any game. Comes a position
// again, it makes another move than before, so that two who wait for each other do not wait for ever.
template <class Game>
class LookaheadPlayer : public Player<typename Game::View> {
 public:
  using View = typename Game::View;

  LookaheadPlayer(Game game, std::size_t samples, std::shared_ptr<const Player<View>> playing)
      : game_(std::move(game)), samples_(samples), playing_(std::move(playing)) {}

  std::unique_ptr<Player<View>> copy() const override { return std::make_unique<LookaheadPlayer>(*this); }
  // Its luck is far too much to walk.
  bool decides_by_view() const override { return false; }

  void begins() override { made_.clear(); }

  std::size_t choose(const View& view, Moves moves, PlayerChance& chance) override {
    if (moves.count() == 1) return moves.first();
    Moves& made = made_[game_.key(view, game_.unseen(view))];
    Moves open = moves.without(made);
    if (open.empty()) {
      made = Moves();
      open = moves;
    }
    const std::size_t move = any_best(open, worth_of_moves(view, open, chance), chance);
    made.add(move);
    return move;
  }

  // What was gained on average after each move, in the order of the moves.
  std::vector<double> worth_of_moves(const View& view, Moves moves, PlayerChance& chance) {
    const std::size_t seat = game_.next(view).seat;
    const UnseenCards unseen = game_.unseen(view);
    std::vector<double> worth(moves.count(), 0);
    std::size_t played = 0;
    for (std::size_t tries = 0; played < samples_ && tries < samples_ * tries_of_a_deal; ++tries) {
      chance.pause();
      const std::vector<Card> deck =
          unseen.any_order(game_.cards_used(), [&](std::uint64_t size) { return chance.below(size); });
      const std::uint64_t course = chance.below(std::uint64_t{1} << 32);
      const auto add = [&](const View& position) {
        for (std::size_t i = 0; i < worth.size(); ++i)
          worth[i] += played_out(position, moves.at(i), seat, deck, unseen.next_place(), course);
        ++played;
      };
      if constexpr (deals_anew<Game>) {
        if (const auto position = game_.redealt(view, seat, deck)) add(*position);
      } else {
        add(view);
      }
    }
    for (double& each : worth) each /= static_cast<double>(played > 0 ? played : 1);
    return worth;
  }

 private:
  static constexpr std::size_t tries_of_a_deal = 10;

  // Among moves that are as good, as all are in a game that is lost, luck decides.
  static std::size_t any_best(Moves moves, const std::vector<double>& worth, PlayerChance& chance) {
    const double best = *std::max_element(worth.begin(), worth.end());
    Moves good;
    for (std::size_t i = 0; i < worth.size(); ++i)
      if (worth[i] >= best - 1e-12) good.add(moves.at(i));
    return good.at(static_cast<std::size_t>(good.count() == 1 ? 0 : chance.below(good.count())));
  }

  double played_out(View position, std::size_t move, std::size_t seat, const std::vector<Card>& deck, std::size_t gone,
                    std::uint64_t course) const {
    game_.move(position, move);
    ShuffledStock stock(deck, gone);
    RandomChance luck(course, 0, lane::game);
    SharedLuck<RandomChance>::Lane lane(luck);
    std::array<std::unique_ptr<Player<View>>, most_players> players;
    const auto choose = [&](std::size_t at, const View& now, Moves open) {
      if (!players[at]) {
        players[at] = playing_->copy();
        players[at]->begins();
      }
      return players[at]->choose(game_.view(now, at), open, lane);
    };
    play_out(game_, position, stock, choose, [](const NextStep&, const View&) {});
    return game_.worth(position, seat);
  }

  Game game_;
  std::size_t samples_;
  std::shared_ptr<const Player<View>> playing_;
  std::unordered_map<std::string, Moves> made_;  // in this game, by position
};

}  // namespace habanera
