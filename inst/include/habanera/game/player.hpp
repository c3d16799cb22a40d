#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <stdexcept>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/random.hpp"
#include "habanera/chance/stop_sign.hpp"
#include "habanera/chance/words.hpp"
#include "habanera/game/moves.hpp"

namespace habanera {

class ShoeCount;

// Where a player's own luck comes from.
class PlayerChance {
 public:
  virtual ~PlayerChance() = default;
  virtual std::uint64_t below(std::uint64_t size) = 0;
  // True with this chance.
  virtual bool happens(double chance) = 0;
  // To be called now and then by who takes long to choose: here the work may be broken off.
  virtual void pause() {}
};

// What a seat decided before in this game, from the first.
template <class View>
struct Decided {
  View view;
  Moves moves;
  std::size_t move;
};
template <class View>
using Past = std::vector<Decided<View>>;

// Who decides for a seat. It is handed what the seat may see and what it may do, and returns one of these moves.
template <class View>
class Player {
 public:
  virtual ~Player() = default;
  virtual std::unique_ptr<Player> copy() const = 0;
  // Before each game: what was remembered of the last is forgotten.
  virtual void begins() {}
  // Where the count stands while it plays, of a seat that counts.
  virtual void counts_by(const ShoeCount&) {}
  // Who sees the next card of the stock, too, and is told it before each choice; nobody else ever is.
  virtual bool sees_next() const { return false; }
  virtual void next_is(Card) {}
  // Whether the view alone (and luck that can be walked) decides, and nothing that the player keeps in mind beside it.
  virtual bool decides_by_view() const { return true; }
  virtual std::size_t choose(const View& view, Moves moves, PlayerChance& chance) = 0;
  // Of who goes by a list of lines, by which of them it made its last choice, from 1; else 0.
  virtual std::size_t line() const { return 0; }

  // The law of choose(), for who tells it: the chance of each open move, in their order, given what the seat saw and
  // did.
  virtual bool tells_chances() const { return false; }
  virtual std::vector<double> chances(const View&, Moves, const Past<View>&) const {
    throw std::logic_error("this player tells no chances");
  }
};

// The luck of every seat, from a lane of the trial of its own.
class SeatLanes {
 public:
  SeatLanes(std::uint64_t seed, std::uint64_t trial, StopSign* sign = nullptr)
      : seed_(seed), trial_(trial), sign_(sign) {}

  class Lane : public PlayerChance {
   public:
    Lane(std::uint64_t seed, std::uint64_t trial, std::size_t seat, StopSign* sign = nullptr)
        : seed_(seed), trial_(trial), seat_(seat), sign_(sign) {}
    std::uint64_t below(std::uint64_t size) override { return random().below(size); }
    bool happens(double chance) override { return static_cast<double>(random().bits(53)) * 0x1p-53 < chance; }
    void pause() override {
      if (sign_) sign_->look();
    }

   private:
    // Many players need no luck.
    RandomChance& random() {
      if (!random_) random_.emplace(seed_, trial_, lane::seat(seat_));
      return *random_;
    }
    std::uint64_t seed_, trial_;
    std::size_t seat_;
    StopSign* sign_;
    std::optional<RandomChance> random_;
  };
  Lane of(std::size_t seat) const { return Lane(seed_, trial_, most_seats * shoe_ + seat, sign_); }
  // In each shoe of a session luck is new.
  void begin_shoe(std::uint64_t shoe) { shoe_ = shoe; }

 private:
  static constexpr std::uint64_t most_seats = 64;
  std::uint64_t seed_, trial_, shoe_ = 0;
  StopSign* sign_;
};

// All seats draw on the chance of the game: for walking every path, and for choices given.
template <class Chance>
class SharedLuck {
 public:
  explicit SharedLuck(Chance& chance) : chance_(chance) {}

  class Lane : public PlayerChance {
   public:
    explicit Lane(Chance& chance) : chance_(chance) {}
    std::uint64_t below(std::uint64_t size) override { return chance_.below(size); }
    bool happens(double chance) override { return chance_.pick({chance, 1 - chance}) == 0; }

   private:
    Chance& chance_;
  };
  Lane of(std::size_t) const { return Lane(chance_); }

 private:
  Chance& chance_;
};

}  // namespace habanera
