#pragma once

#include <cstddef>
#include <functional>
#include <limits>
#include <map>
#include <memory>
#include <stdexcept>
#include <string>
#include <type_traits>
#include <unordered_map>
#include <utility>
#include <vector>

#include "habanera/game/choices.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/unseen.hpp"

namespace habanera {

// A game too large for the plain solver, or of a kind that it does not follow.
struct OutOfReach : std::runtime_error {
  using std::runtime_error::runtime_error;
};

// A game may say which moves and which cards lead on alike, the first standing for all.
template <class Game, class = void>
inline constexpr bool tells_alike = false;
template <class Game>
inline constexpr bool tells_alike<Game, std::void_t<decltype(&Game::like_move)>> = true;

// Best play of one seat against players who decide by what they see, by going through every course of the game; what
// positions are worth is remembered. It is plain, and the judge of anything quicker.
//
// A game says what it has been worth to a seat so far (`worth`), what nobody has seen (`unseen`), and of a position the
// key of all that what is still to come depends on (`key`).
template <class Game>
class Solver {
 public:
  using Position = typename Game::Position;
  using SeatPlayer = Player<typename Game::View>;
  using Players = std::vector<std::shared_ptr<const SeatPlayer>>;  // none for the seat that is solved

  static constexpr std::size_t most_positions = 1000000;
  static constexpr double never_ends = -std::numeric_limits<double>::infinity();

  Solver(Game game, Players players, std::size_t seat)
      : game_(std::move(game)), players_(std::move(players)), seat_(seat) {
    for (std::size_t other = 0; other < players_.size(); ++other)
      if (other != seat_ && (!players_[other] || !players_[other]->decides_by_view()))
        throw std::invalid_argument("the player of seat " + std::to_string(other + 1) +
                                    " does not decide by what it sees alone");
  }

  // What is called now and then while it works, and may break it off by an exception.
  void pauses_by(std::function<void()> pause) { pause_ = std::move(pause); }

  // What is still to come is worth, by best play.
  double worth(const Position& position) { return to_come(position, game_.unseen(position)).worth; }

  // What each move of the solved seat is worth, in the order of the moves.
  std::vector<double> worth_of_moves(const Position& position, Moves moves) {
    const UnseenCards unseen = game_.unseen(position);
    std::vector<double> all;
    for (std::size_t i = 0; i < moves.count(); ++i) all.push_back(after_move(position, unseen, moves.at(i)).worth);
    return all;
  }

  std::size_t best_move(const Position& position, Moves moves) {
    const std::vector<double> all = worth_of_moves(position, moves);
    std::size_t best = 0;
    // What differs by rounding alone is as good.
    for (std::size_t i = 1; i < all.size(); ++i)
      if (all[i] > all[best] + 1e-11) best = i;
    return moves.at(best);
  }

  std::size_t positions() const { return known_.size(); }
  const Game& game() const { return game_; }

 private:
  // Worth, and the outermost position on the way here that it was found to lead back to: such a worth holds only there.
  struct Found {
    double worth;
    std::size_t leads_back = no_return;
  };
  struct OnTheWay {
    std::size_t depth, branches;
  };
  static constexpr std::size_t no_return = static_cast<std::size_t>(-1);

  Found to_come(const Position& position, const UnseenCards& unseen) {
    const NextStep next = game_.next(position);
    switch (next.what) {
      case NextStep::over: return {0};
      case NextStep::decide: return decision(position, unseen, next.seat);
      case NextStep::deal: return over_kinds(position, unseen, next, unseen.next_weights());
      case NextStep::turn:
        if (unseen.is_known(next.place)) return given(position, unseen, next, unseen.known(next.place));
        return over_kinds(position, unseen, next, unseen.weights_at(next.place));
      default: return hidden(position, unseen, next);
    }
  }

  Found decision(const Position& position, const UnseenCards& unseen, std::size_t seat) {
    if ((++decisions_ & 0x3ff) == 0 && pause_) pause_();
    const std::string key = game_.key(position, unseen);
    const auto known = known_.find(key);
    if (known != known_.end()) return {known->second};
    const auto before = on_the_way_.find(key);
    if (before != on_the_way_.end()) return back_to(before->second);
    const std::size_t depth = on_the_way_.size();
    on_the_way_.emplace(key, OnTheWay{depth, branches_});
    Found found = seat == seat_ ? best(position, unseen) : mean(position, unseen, seat);
    on_the_way_.erase(key);
    if (found.leads_back >= depth) {
      found.leads_back = no_return;
      if (known_.size() >= most_positions)
        throw OutOfReach("there are more than " + std::to_string(most_positions) + " positions");
      known_.emplace(key, found.worth);
    }
    return found;
  }

  // A position that comes again without anything left to chance in between is no way to go on.
  Found back_to(const OnTheWay& before) const {
    if (branches_ != before.branches)
      throw OutOfReach("positions can come again by chance, which the plain solver does not follow");
    return {never_ends, before.depth};
  }

  Found best(const Position& position, const UnseenCards& unseen) {
    const Moves moves = game_.moves(position);
    Found best{never_ends};
    for (std::size_t i = 0; i < moves.count(); ++i) {
      const std::size_t move = moves.at(i);
      if (like_move(position, move) != move) continue;
      const Found found = after_move(position, unseen, move);
      best.worth = std::max(best.worth, found.worth);
      best.leads_back = std::min(best.leads_back, found.leads_back);
    }
    return best;
  }

  Found mean(const Position& position, const UnseenCards& unseen, std::size_t seat) {
    const auto chances = chances_of_moves(*players_[seat], game_.view(position, seat), game_.moves(position));
    std::map<std::size_t, double> alike;
    for (const auto& [move, chance] : chances) alike[like_move(position, move)] += chance;
    Found sum{0};
    branches_ += chances.size() > 1;
    for (const auto& [move, chance] : alike) add(sum, chance, after_move(position, unseen, move));
    branches_ -= chances.size() > 1;
    return sum;
  }

  std::size_t like_move(const Position& position, std::size_t move) const {
    if constexpr (tells_alike<Game>) return game_.like_move(position, move);
    return move;
  }
  // The weights of all kinds that lead on alike at the first of them.
  std::vector<double> by_likeness(const Position& position, const UnseenCards& unseen,
                                  std::vector<double> weights) const {
    if constexpr (tells_alike<Game>) {
      for (std::size_t kind = weights.size(); kind-- > 0;) {
        if (weights[kind] == 0) continue;
        const Card like = game_.like_kind(position, unseen, static_cast<Card>(kind));
        if (like != kind) weights[like] += std::exchange(weights[kind], 0.0);
      }
    }
    return weights;
  }

  Found after_move(Position position, const UnseenCards& unseen, std::size_t move) {
    const double before = game_.worth(position, seat_);
    game_.move(position, move);
    Found found = to_come(position, unseen);
    found.worth += game_.worth(position, seat_) - before;
    return found;
  }

  Found over_kinds(const Position& position, const UnseenCards& unseen, const NextStep& next,
                   const std::vector<double>& weights) {
    const double total = total_weight(weights);
    const auto open = std::count_if(weights.begin(), weights.end(), [](double weight) { return weight > 0; });
    Found sum{0};
    const std::vector<double> alike = by_likeness(position, unseen, weights);
    branches_ += open > 1;
    for (std::size_t kind = 0; kind < alike.size(); ++kind) {
      if (alike[kind] == 0) continue;
      UnseenCards left = unseen;
      next.what == NextStep::deal ? left.deal(static_cast<Card>(kind)) : left.turn(next.place, static_cast<Card>(kind));
      add(sum, alike[kind] / total, given(position, left, next, static_cast<Card>(kind)));
    }
    branches_ -= open > 1;
    return sum;
  }

  Found given(Position position, const UnseenCards& unseen, const NextStep& next, Card card) {
    const double before = game_.worth(position, seat_);
    game_.give(position, next, card);
    Found found = to_come(position, unseen);
    found.worth += game_.worth(position, seat_) - before;
    return found;
  }

  Found hidden(Position position, UnseenCards unseen, const NextStep& next) {
    if constexpr (lays_face_down<Game>) {
      const double before = game_.worth(position, seat_);
      const auto gained = [&](const Position& now, const UnseenCards& left) {
        Found found = to_come(now, left);
        found.worth += game_.worth(now, seat_) - before;
        return found;
      };
      if (next.what == NextStep::lay_down) {
        game_.laid(position, next, unseen.lay_down());
        return gained(position, unseen);
      }
      const CardSet set = game_.looked_for(position);
      const std::vector<double> split = unseen.weights_of(next.place, set);
      Found sum{0};
      branches_ += split[0] > 0 && split[1] > 0;
      for (const bool is_in : {true, false}) {
        const double weight = split[is_in ? 0 : 1];
        if (weight == 0) continue;
        Position told = position;
        UnseenCards narrowed = unseen;
        narrowed.narrow(next.place, set, is_in);
        game_.looked(told, next, is_in);
        add(sum, weight / (split[0] + split[1]), gained(told, narrowed));
      }
      branches_ -= split[0] > 0 && split[1] > 0;
      return sum;
    }
    throw std::logic_error("the game lays no card face down");
  }

  static void add(Found& sum, double chance, const Found& found) {
    sum.worth += chance * found.worth;
    sum.leads_back = std::min(sum.leads_back, found.leads_back);
  }

  Game game_;
  Players players_;
  std::size_t seat_;
  std::unordered_map<std::string, double> known_;
  std::unordered_map<std::string, OnTheWay> on_the_way_;
  std::function<void()> pause_;
  std::size_t decisions_ = 0;
  std::size_t branches_ = 0;  // how often chance or another player decided on the way here
};

// Plays what a solver found best.
template <class Game>
class SolvedPlayer : public Player<typename Game::View> {
 public:
  using View = typename Game::View;
  explicit SolvedPlayer(Solver<Game> solver) : solver_(std::move(solver)) {}

  std::unique_ptr<Player<View>> copy() const override { return std::make_unique<SolvedPlayer>(*this); }
  std::size_t choose(const View& view, Moves moves, PlayerChance& chance) override {
    solver_.pauses_by([&chance] { chance.pause(); });
    return moves.count() == 1 ? moves.first() : solver_.best_move(seen(view), moves);
  }
  std::vector<double> worth_of_moves(const View& view, Moves moves, PlayerChance& chance) {
    solver_.pauses_by([&chance] { chance.pause(); });
    return solver_.worth_of_moves(seen(view), moves);
  }

 private:
  // Where seats hide nothing from each other, what one sees is the position.
  typename Game::Position seen(const View& view) const {
    const auto position = solver_.game().redealt(view, {});
    if (!position) throw std::length_error("the game is too long to be followed");
    return *position;
  }
  Solver<Game> solver_;
};

}  // namespace habanera
