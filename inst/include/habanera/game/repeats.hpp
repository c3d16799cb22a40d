#pragma once

#include <cstdint>
#include <unordered_map>
#include <utility>
#include <vector>

namespace habanera {

// Finds that a game without chance has come back to a position, and so must go on for ever. Positions are
// compared with the one kept last; after rounds 512, 1,024, 2,048, ... the present one is kept instead (Brent 1980,
// "An improved Monte Carlo factorization algorithm", section 2). A cycle of L rounds that begins after round m is
// noticed at round 2^k + L, for the smallest 2^k not below 512, m and L.
template <class Position>
class CycleWatch {
 public:
  void begins() {
    next_kept_ = first_kept;
    kept_any_ = false;
  }

  // Whether the table after this round lies as the kept position. `likeness` tells which cards are alike.
  template <class Table, class Likeness>
  bool notices(std::uint64_t round, const Table& table, const Likeness& likeness) {
    if (kept_any_ && kept_.is(table, likeness)) return true;
    if (round == next_kept_) {
      kept_.keep(table, likeness);
      kept_any_ = true;
      next_kept_ *= 2;
    }
    return false;
  }

  // Rounds after which a position is kept anew.
  std::uint64_t next_kept() const { return next_kept_; }
  const Position* kept() const { return kept_any_ ? &kept_ : nullptr; }

 private:
  // Most games are over before long; until then keeping positions would only cost time.
  static constexpr std::uint64_t first_kept = 512;

  Position kept_;
  std::uint64_t next_kept_ = first_kept;
  bool kept_any_ = false;
};

// Remembers every position of a game, for rules that end it as soon as one comes again.
template <class Position>
class Memory {
 public:
  void begins() { seen_.clear(); }

  template <class Table, class Likeness>
  bool notices(const Table& table, const Likeness& likeness) {
    Position now;
    now.keep(table, likeness);
    std::vector<Position>& alike = seen_[now.hash()];
    for (const Position& before : alike)
      if (before == now) return true;
    alike.push_back(std::move(now));
    return false;
  }

 private:
  std::unordered_map<std::uint64_t, std::vector<Position>> seen_;
};

}  // namespace habanera
