#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/run/tally.hpp"
#include "habanera/shuffle/guesser.hpp"
#include "habanera/shuffle/standing.hpp"

namespace habanera {

// Cards that share an attribute have the same group; `below` is 0, or the width of a grid in which the
// cards are laid out row by row, and a card's neighbours are also those above and below it.
struct LikeCards {
  std::vector<std::uint16_t> group;  // of each card
  std::size_t below;
};

// What is kept of many arrangements of a deck.
struct BatterySpec {
  std::vector<std::size_t> copies;  // of each kind; all 1 when every card has an identity
  std::size_t cards;                // in the deck
  std::size_t top;                  // length of the ordered start that is counted
  std::vector<LikeCards> alike;
  std::vector<Card> ranking;        // what the guesser has learnt; empty: cards that follow are learnt

  bool has_identities() const { return copies.size() == cards; }
  bool learns() const { return ranking.empty(); }
};

// Counts of many arrangements: where cards come to lie, and the values of statistics. Arrangements
// that are no rearrangement of the deck are counted apart, and add to nothing else.
class Battery {
 public:
  // Above this many cards only the sums of statistics with many values are kept.
  static constexpr std::size_t most_histogram_cards = 400;

  // In the order in which they leave.
  enum Table { broken, lost, doubled, position, stayed, together, rising, inverted, cycles, distance,
               start, right, table_count };
  static constexpr std::array<const char*, table_count> names = {
      "broken", "lost", "doubled", "position", "stayed_put", "still_together", "rising_sequences",
      "inversions", "cycles", "total_distance", "top_cards", "right_guesses"};

  explicit Battery(const BatterySpec& spec)
      : spec_(&spec), n_(spec.cards), standing_(spec.cards), previous_(spec.cards, 0) {
    for (int table = 0; table < table_count; ++table)
      tables_.emplace_back(table_size(spec, static_cast<Table>(table)));
    alike_.assign(spec.alike.size(), Tally(2 * n_ + 1));
    if (spec.has_identities() && spec.learns()) follows_.resize(n_ * n_);
    if (spec.has_identities() && !spec.learns()) guesser_.emplace(n_, spec.ranking);
    held_.resize(spec.copies.size());
  }

  static std::size_t table_size(const BatterySpec& spec, Table table) {
    const std::size_t n = spec.cards, kinds = spec.copies.size();
    if (table == broken) return 1;
    if (table == lost || table == doubled) return kinds;
    if (table == position) return kinds * n;
    if (!spec.has_identities()) return 0;
    if (table == start) return start_cells(n, spec.top);
    if (table == right) return spec.learns() ? 0 : n + 1;
    if (table == inverted || table == distance)
      return n > most_histogram_cards ? 0 : (table == inverted ? n * (n - (n > 0)) : n * n) / 2 + 1;
    return n + 1;
  }

  // The arrangement before is forgotten, as at the start of a chain.
  void forget_previous() { has_previous_ = false; }

  // Remembers an arrangement without counting it.
  void remember(const Card* cards) {
    if (spec_->has_identities() && standing_.read(cards)) keep_places();
  }

  void add(const Card* cards, std::uint64_t trial) {
    if (spec_->has_identities() ? !standing_.read(cards) : !holds_all_copies(cards)) return add_broken(cards, trial);
    count_positions(cards, trial);
    count_alike(cards, trial);
    if (!spec_->has_identities()) return;
    count_statistics(trial);
    count_sequence(cards, trial);
    keep_places();
  }

  void merge(const Battery& other) {
    for (std::size_t i = 0; i < tables_.size(); ++i) tables_[i].merge(other.tables_[i]);
    for (std::size_t i = 0; i < alike_.size(); ++i) alike_[i].merge(other.alike_[i]);
    for (std::size_t i = 0; i < follows_.size(); ++i) follows_[i] += other.follows_[i];
    pairs_ += other.pairs_;
    products_ += other.products_;
    inversions_ += other.inversions_;
    distances_ += other.distances_;
  }

  const Tally& table(Table which) const { return tables_[which]; }
  const std::vector<Tally>& alike() const { return alike_; }
  const std::vector<std::uint32_t>& follows() const { return follows_; }  // row: card, column: the next
  // Successive arrangements compared, and the sum of the products of places over all cards.
  std::uint64_t pairs() const { return pairs_; }
  std::uint64_t products() const { return products_; }
  std::uint64_t inversions() const { return inversions_; }
  std::uint64_t distances() const { return distances_; }

 private:
  static std::size_t start_cells(std::size_t n, std::size_t top) {
    std::size_t cells = 1;
    for (std::size_t j = 0; j < top; ++j) cells *= n;
    return cells;
  }

  bool holds_all_copies(const Card* cards) {
    held_ = spec_->copies;
    for (std::size_t i = 0; i < n_; ++i)
      if (cards[i] >= held_.size() || held_[cards[i]]-- == 0) return false;
    return true;
  }

  // A card number beyond the deck stands for a place left empty.
  void add_broken(const Card* cards, std::uint64_t trial) {
    tables_[broken].add<true>(0, trial);
    held_.assign(spec_->copies.size(), 0);
    for (std::size_t i = 0; i < n_; ++i)
      if (cards[i] < held_.size()) ++held_[cards[i]];
    for (std::size_t kind = 0; kind < held_.size(); ++kind) {
      if (held_[kind] < spec_->copies[kind]) tables_[lost].add<true>(kind, trial);
      if (held_[kind] > spec_->copies[kind]) tables_[doubled].add<true>(kind, trial);
    }
    has_previous_ = false;
  }

  void count_positions(const Card* cards, std::uint64_t trial) {
    Tally& counts = tables_[position];
    const std::size_t kinds = spec_->copies.size();
    if (counts.has_all_examples())
      for (std::size_t i = 0; i < n_; ++i) counts.add<false>(i * kinds + cards[i], trial);
    else
      for (std::size_t i = 0; i < n_; ++i) counts.add<true>(i * kinds + cards[i], trial);
  }

  void count_alike(const Card* cards, std::uint64_t trial) {
    for (std::size_t a = 0; a < alike_.size(); ++a)
      alike_[a].add<true>(like_neighbours(cards, spec_->alike[a].group.data(), spec_->alike[a].below), trial);
  }

  // Neighbours in a row, or in a grid: not from the end of one row to the next, but also above and below.
  std::size_t like_neighbours(const Card* cards, const std::uint16_t* group, std::size_t below) const {
    std::size_t like = 0;
    std::size_t above = n_ > 0 ? group[cards[0]] : 0;
    for (std::size_t i = 1; i < n_; ++i) {
      const std::size_t own = group[cards[i]];
      like += own == above;
      above = own;
    }
    if (below == 0) return like;
    for (std::size_t end = below; end < n_; end += below) like -= group[cards[end - 1]] == group[cards[end]];
    for (std::size_t i = below; i < n_; ++i) like += group[cards[i - below]] == group[cards[i]];
    return like;
  }

  void count_statistics(std::uint64_t trial) {
    tables_[stayed].add<true>(standing_.stayed_put(), trial);
    tables_[together].add<true>(standing_.still_together(), trial);
    tables_[rising].add<true>(standing_.rising_sequences(), trial);
    tables_[cycles].add<true>(standing_.cycles(), trial);
    const std::uint64_t turned = standing_.inversions(), moved = standing_.total_distance();
    inversions_ += turned;
    distances_ += moved;
    if (n_ > most_histogram_cards) return;
    tables_[inverted].add<true>(static_cast<std::size_t>(turned), trial);
    tables_[distance].add<true>(static_cast<std::size_t>(moved), trial);
  }

  void count_sequence(const Card* cards, std::uint64_t trial) {
    std::size_t first = 0;
    for (std::size_t j = 0; j < spec_->top; ++j) first = first * n_ + cards[j];
    tables_[start].add<true>(first, trial);
    if (has_previous_) {
      ++pairs_;
      products_ += standing_.product_of_places(previous_);
    }
    if (guesser_)
      tables_[right].add<true>(guesser_->right_guesses(cards), trial);
    else
      for (std::size_t i = 0; i + 1 < n_; ++i) ++follows_[cards[i] * n_ + cards[i + 1]];
  }

  void keep_places() {
    previous_ = standing_.places();
    has_previous_ = true;
  }

  const BatterySpec* spec_;
  std::size_t n_;
  Standing standing_;
  LaneRow previous_;
  bool has_previous_ = false;
  std::vector<Tally> tables_, alike_;
  std::vector<std::uint32_t> follows_;
  std::optional<Guesser> guesser_;
  std::vector<std::size_t> held_;
  std::uint64_t pairs_ = 0, products_ = 0, inversions_ = 0, distances_ = 0;
};

}  // namespace habanera
