#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <utility>
#include <vector>

#include "habanera/game/any_sight.hpp"
#include "habanera/game/played.hpp"
#include "habanera/game/seated.hpp"
#include "habanera/own/own.hpp"
#include "habanera/own/player.hpp"

namespace habanera {

// All that a game of one's own states.
struct OwnStatement {
  const char *name, *summary;
  std::vector<OwnRule> rules;
  std::vector<OwnOutcome> outcomes;
  std::vector<OwnPile> piles;
  std::vector<OwnPlayer> players;
  std::vector<const char*> moves;
  bool hides_cards, has_worth, has_amounts, view_forgets;
};

// Who sits at it: a player that the game brings, by its place from 0, or one who goes by what is shown.
struct OwnSeat {
  std::size_t brought = 0;
  std::shared_ptr<const Player<AnySight>> player{};
};

// A game of one's own for whoever has it played. Nothing here is a template, so that who asks is compiled before it, and
// it alone must be compiled to be played.
class OwnPlays {
 public:
  virtual ~OwnPlays() = default;
  virtual OwnStatement statement() const = 0;
  // A number for each kind of card, the same for cards alike to the game.
  virtual std::vector<std::uint32_t> likeness(const std::shared_ptr<const Setting>& setting) const = 0;
  virtual std::unique_ptr<PlayableGame> game(const std::shared_ptr<const Setting>& setting,
                                             const std::vector<OwnSeat>& seats) const = 0;
};

template <class G>
class PlaysOf : public OwnPlays {
 public:
  OwnStatement statement() const override {
    return {G::name, G::summary, all(G::rules), all(G::outcomes), all(G::piles), all(G::players), all(G::move_names),
            Own<G>::hides_cards(), tells_worth<G>, tells_amounts<G>, habanera::view_forgets<G>};
  }
  std::vector<std::uint32_t> likeness(const std::shared_ptr<const Setting>& setting) const override {
    const Own<G> game({setting});
    std::vector<std::uint32_t> all;
    for (std::size_t kind = 0; kind < setting->copies().size(); ++kind)
      all.push_back(game.likeness(static_cast<Card>(kind)));
    return all;
  }
  std::unique_ptr<PlayableGame> game(const std::shared_ptr<const Setting>& setting,
                                     const std::vector<OwnSeat>& seats) const override {
    const typename Own<G>::Rules rules{setting};
    const auto game = std::make_shared<const Own<G>>(rules);
    std::vector<std::shared_ptr<const Player<typename Own<G>::View>>> players;
    for (const OwnSeat& seat : seats) {
      if (seat.player) players.push_back(std::make_shared<AnySightPlayer<Own<G>>>(game, *seat.player));
      else players.push_back(std::make_shared<OwnGamePlayer<G>>(G(*setting), seat.brought));
    }
    using Table = Seated<Own<G>>;
    const typename Table::Rules seated{rules, players};
    Table made(seated);  // what it refuses is refused here
    return std::make_unique<Played<Table>>(seated);
  }

 private:
  template <class Things>
  static std::vector<typename Things::value_type> all(const Things& things) { return {things.begin(), things.end()}; }
};

}  // namespace habanera
