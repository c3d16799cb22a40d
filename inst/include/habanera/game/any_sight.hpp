#pragma once

#include <cstddef>
#include <memory>
#include <string>
#include <utility>

#include "habanera/cards/pile.hpp"
#include "habanera/game/moves.hpp"
#include "habanera/game/player.hpp"
#include "habanera/game/view.hpp"

namespace habanera {

// What a seat sees in whatever game, for players who go by what is shown and what moves are called: they are made once
// for all games.
class AnySight : public Sight<AnySight> {
 public:
  template <class Game>
  AnySight(const Game& game, const typename Game::View& view)
      : game_(&game), view_(&view), shown_([](const void* of) { return to_view<Game>(of).shown(); }),
        move_text_([](const void* in, const void* of, std::size_t move) {
          return static_cast<const Game*>(in)->move_text(to_view<Game>(of), move);
        }) {}

  Shown shown() const { return shown_(view_); }
  std::string move_text(std::size_t move) const { return move_text_(game_, view_, move); }

 private:
  template <class Game>
  static const typename Game::View& to_view(const void* view) {
    return *static_cast<const typename Game::View*>(view);
  }

  const void *game_, *view_;
  Shown (*shown_)(const void*);
  std::string (*move_text_)(const void*, const void*, std::size_t);
};

// The game that such players know.
struct AnyGame {
  using View = AnySight;
  std::string move_text(const AnySight& view, std::size_t move) const { return view.move_text(move); }
};

// Such a player at a game, where it only plays.
template <class Game>
class AnySightPlayer : public Player<typename Game::View> {
 public:
  using View = typename Game::View;
  AnySightPlayer(std::shared_ptr<const Game> game, const Player<AnySight>& player)
      : game_(std::move(game)), player_(player.copy()) {}
  AnySightPlayer(const AnySightPlayer& other)
      : Player<View>(other), game_(other.game_), player_(other.player_->copy()) {}

  std::unique_ptr<Player<View>> copy() const override { return std::make_unique<AnySightPlayer>(*this); }
  void begins() override { player_->begins(); }
  std::size_t choose(const View& view, Moves moves, PlayerChance& chance) override {
    return player_->choose(AnySight(*game_, view), moves, chance);
  }

 private:
  std::shared_ptr<const Game> game_;
  std::unique_ptr<Player<AnySight>> player_;
};

}  // namespace habanera
