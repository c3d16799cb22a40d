#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <string>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/count/bettor.hpp"
#include "habanera/game/moves.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/table_event.hpp"
#include "habanera/game/unseen.hpp"
#include "habanera/game/view.hpp"
#include "habanera/game/vocabulary.hpp"

namespace habanera {

// Money is whole, in the unit that makes every payment whole.
struct HighCardRules {
  enum Ties { bank, half_back, push, again };
  struct Bet {
    std::int64_t stake = 0;  // 0: not made
    std::int64_t pays = 0;   // besides the stake, when it wins
  };

  std::vector<std::uint16_t> strength;       // of each kind of card
  std::vector<std::uint8_t> on_colour, on_suit;  // whether a kind is of the colour and the suit betted on
  std::size_t cards = 0;                     // in the shoe
  std::size_t cut_after = 0;                 // rounds begin while fewer cards are gone; 0: one round
  std::size_t burn = 0;
  Ties ties = bank;
  Bet main, colour, suit;
};

// The bank and a seat draw a card each, the seat first, and the higher card wins. Bets on the colour and the suit are
// on the seat's first card.
class HighCard : public NobodyDecides {
 public:
  using Rules = HighCardRules;

  struct Position {
    std::size_t first_place = 0, drawn = 0;  // where the round's cards begin, and how many have come
    Card seat_card = 0, bank_card = 0;
    bool colour_wins = false, suit_wins = false;
    std::int64_t ties = 0, bet = 1;
    bool over = false;
  };
  using View = NothingSeen;

  // What the bets bring for each stake: the main one when the seat's card is lower, tied or higher, the others when
  // they lose and win.
  struct Nets {
    std::array<std::int64_t, 3> main{};
    std::array<std::int64_t, 2> colour{}, suit{};
  };
  // Worked out when it is asked for: mostly one column is.
  struct Outcome {
    enum Result : int { loss, push, win };
    const Nets* nets;  // of the game, which lives as long
    std::size_t compared;  // 0: the seat's card is lower, 1: as high, 2: higher
    bool colour_wins, suit_wins;
    std::int64_t ties, bet;
    std::size_t drawn;

    std::int64_t net_main() const { return nets->main[compared] * bet; }
    std::int64_t net_colour() const { return nets->colour[colour_wins] * bet; }
    std::int64_t net_suit() const { return nets->suit[suit_wins] * bet; }
    std::int64_t net() const { return net_main() + net_colour() + net_suit(); }
    Result result() const { return static_cast<Result>(1 + (net_main() > 0) - (net_main() < 0)); }
    static constexpr std::size_t column_count = 7;
    static const std::vector<Column<Outcome>>& columns() {
      static const std::vector<Column<Outcome>> all{
          {"net", [](const Outcome& o) { return o.net(); }},
          {"net_main", [](const Outcome& o) { return o.net_main(); }},
          {"net_colour", [](const Outcome& o) { return o.net_colour(); }},
          {"net_suit", [](const Outcome& o) { return o.net_suit(); }},
          {"result", [](const Outcome& o) { return std::int64_t{o.result()}; },
           {{loss, "loss"}, {push, "push"}, {win, "win"}}},
          {"ties", [](const Outcome& o) { return o.ties; }},
          {"cards_used", [](const Outcome& o) { return static_cast<std::int64_t>(o.drawn); }}};
      return all;
    }
  };

  enum Action : int { seat_draws, bank_draws, seat_wins, bank_wins, nobody_wins, half_comes_back };
  static std::vector<Word> actions() {
    return {{seat_draws, "seat_draws"}, {bank_draws, "bank_draws"},   {seat_wins, "seat_wins"},
            {bank_wins, "bank_wins"},   {nobody_wins, "nobody_wins"}, {half_comes_back, "half_comes_back"}};
  }
  std::vector<Zone> zones() const { return {{"shoe"}, {"bank"}, {"hand", 0}, {"discards"}}; }
  std::vector<std::size_t> collected_zones() const { return {3, 2, 1}; }

  explicit HighCard(Rules rules) : rules_(std::move(rules)) {
    nets_ = {{-rules_.main.stake, tie_costs(), rules_.main.pays},
             {-rules_.colour.stake, rules_.colour.pays},
             {-rules_.suit.stake, rules_.suit.pays}};
    if (rules_.cards < rules_.burn + 2)
      throw std::invalid_argument("a shoe of " + std::to_string(rules_.cards) + " cards, " +
                                  std::to_string(rules_.burn) + " of them burned, is too small for a round");
  }

  std::size_t cards_used() const { return rules_.cards; }
  std::uint32_t likeness(Card card) const {
    return rules_.strength[card] * 4u + rules_.on_colour[card] * 2u + rules_.on_suit[card];
  }

  bool holds_rounds() const { return rules_.cut_after > 0; }
  std::size_t burned() const { return rules_.burn; }
  bool plays_on(std::size_t gone) const { return gone < rules_.cut_after && gone + 2 <= rules_.cards; }

  Position start(std::size_t gone) const {
    Position position;
    position.first_place = gone;
    return position;
  }

  // With so many stakes on all bets.
  Position start(std::size_t gone, const SeatBet& seat) const {
    Position position = start(gone);
    position.bet = seat.bet;
    return position;
  }
  std::int64_t net_of(const Outcome& outcome, std::size_t) const { return outcome.net(); }
  std::size_t cards_at_first() const { return 2; }

  [[gnu::always_inline]] NextStep next(const Position& position) const {
    return {position.over ? NextStep::over : NextStep::deal};
  }

  [[gnu::always_inline]] void give(Position& position, const NextStep&, Card card) const {
    if (position.drawn++ % 2 == 0) {
      position.seat_card = card;
      if (position.drawn == 1) {
        position.colour_wins = rules_.on_colour[card] != 0;
        position.suit_wins = rules_.on_suit[card] != 0;
      }
      return;
    }
    position.bank_card = card;
    const bool tied = higher(position) == 0;
    position.ties += tied;
    const bool can_go_on = position.first_place + position.drawn + 2 <= rules_.cards;
    position.over = !(tied && rules_.ties == Rules::again && can_go_on);
  }

  View view(const Position&, std::size_t) const { return {}; }

  Outcome outcome(const Position& position) const {
    return {&nets_, static_cast<std::size_t>(1 + higher(position)), position.colour_wins, position.suit_wins,
            position.ties, position.bet, position.drawn};
  }

  // Who has the higher card is as likely the one as the other whatever cards are left, so that only how many are left
  // of each strength matters, not of which; while the round's cards lie there, their own strength does, too.
  std::string full_key(const Position& position, const UnseenCards& unseen) const {
    std::string all = std::to_string(unseen.next_place()) + "," + std::to_string(position.first_place) + "," +
                      std::to_string(position.ties) + (position.colour_wins ? "c" : "") +
                      (position.suit_wins ? "s" : "") + (position.over ? "!" : "");
    if (position.over) all += std::to_string(higher(position));
    if (position.drawn % 2 == 1) all += "h" + std::to_string(rules_.strength[position.seat_card]);
    return all + "/" + left(position, unseen);
  }

  // For those who look on.

  std::size_t zone_of(const Position& position, std::size_t place) const {
    if (place < position.first_place) return 3;
    const std::size_t drawn = place - position.first_place;
    if (drawn >= position.drawn) return 0;
    const bool lies = drawn + 2 >= position.drawn + position.drawn % 2;
    return !lies ? 3 : drawn % 2 == 0 ? 2 : 1;
  }

  template <class Happened>
  void tell(const NextStep& next, const Position& position, const std::vector<Card>& deck, Happened&& happened) const {
    if (next.what != NextStep::deal) return;
    const bool seat = position.drawn % 2 == 1;
    const Card* card = &deck[position.first_place + position.drawn - 1];
    happened(1, TableEvent{seat ? 0 : no_seat, seat ? seat_draws : bank_draws, card, 1});
  }
  TableEvent ending(const Outcome& outcome) const {
    if (outcome.result() == Outcome::win) return {0, seat_wins};
    if (outcome.result() == Outcome::push) return {no_seat, nobody_wins};
    return {no_seat, rules_.ties == Rules::half_back && outcome.ties > 0 ? half_comes_back : bank_wins};
  }

 private:
  // Above 0: the seat's card.
  int higher(const Position& position) const {
    const std::uint16_t seat = rules_.strength[position.seat_card], bank = rules_.strength[position.bank_card];
    return (seat > bank) - (seat < bank);
  }

  std::int64_t tie_costs() const {
    if (rules_.ties == Rules::bank) return -rules_.main.stake;
    return rules_.ties == Rules::half_back ? -rules_.main.stake / 2 : 0;
  }

  // How many cards are left, by kind; sorted by strength where nothing else matters.
  std::string left(const Position& position, const UnseenCards& unseen) const {
    const std::vector<double>& counts = unseen.counts();
    std::vector<int> kept;
    if (position.over && !holds_rounds()) return "";
    if (position.drawn % 2 == 1 || !only_strength_matters(position)) {
      for (const double count : counts) kept.push_back(static_cast<int>(count));
    } else {
      kept.resize(1 + std::size_t{*std::max_element(rules_.strength.begin(), rules_.strength.end())}, 0);
      for (std::size_t kind = 0; kind < counts.size(); ++kind)
        kept[rules_.strength[kind]] += static_cast<int>(counts[kind]);
      std::sort(kept.begin(), kept.end());
    }
    std::string all;
    for (const int count : kept) all += std::to_string(count) + ",";
    return all;
  }
  // Bets on colour and suit are settled by the round's first card, but the next round has them, too.
  bool only_strength_matters(const Position& position) const {
    return no_other_bets() || (!holds_rounds() && position.drawn > 0);
  }
  bool no_other_bets() const { return rules_.colour.stake == 0 && rules_.suit.stake == 0; }

  Rules rules_;
  Nets nets_;
};

}  // namespace habanera
