#pragma once

#include "habanera/game/protocol.hpp"

namespace habanera {

// Money is whole, in the unit that makes every payment whole.
struct NarrowsRules {
  std::vector<std::int64_t> rank;  // of each kind of card
  std::size_t cards = 0;           // in the deck
  std::int64_t stake = 1, given_up = 1, raise = 1, wins = 2, pair_wins = 2;
};

// Two cards each, and the smaller gap between their ranks wins. The player sees his own and goes on for a second stake,
// or gives up.
class Narrows : public OneRound {
 public:
  using Rules = NarrowsRules;
  enum Move : std::size_t { give_up, go_on };
  struct Position {
    std::array<Card, 4> cards{};  // the player's, then the house's
    std::size_t drawn = 0;
    bool decided = false, on = false;
  };
  // The gap of the player's own cards.
  struct View : Sight<View> {
    explicit View(std::int64_t of) : gap(of) {}
    std::int64_t gap;
    Shown shown() const { return {shows("gap", gap)}; }
  };

  struct Outcome {
    enum Result : int { given_up, loss, win };
    std::int64_t net = 0, gap = 0;
    Result result = given_up;
    static constexpr std::size_t column_count = 3;
    static const std::vector<Column<Outcome>>& columns() {
      static const std::vector<Column<Outcome>> all{
          {"net", [](const Outcome& o) { return o.net; }}, {"gap", [](const Outcome& o) { return o.gap; }},
          {"result", [](const Outcome& o) { return std::int64_t{o.result}; },
           {{given_up, "given up"}, {loss, "loss"}, {win, "win"}}}};
      return all;
    }
  };

  enum Action : int { player_gets, gives_up, goes_on, house_gets, player_wins, house_wins };
  static std::vector<Word> actions() {
    return {{player_gets, "player_gets"}, {gives_up, "gives_up"}, {goes_on, "goes_on"}, {house_gets, "house_gets"},
            {player_wins, "player_wins"}, {house_wins, "house_wins"}};
  }
  std::vector<Zone> zones() const { return {{"stock"}, {"house"}, {"hand", 0}}; }

  explicit Narrows(Rules rules) : rules_(std::move(rules)) {
    if (rules_.cards < 4) throw std::invalid_argument("a round needs four cards");
  }

  std::size_t seats() const { return 1; }
  std::size_t cards_used() const { return rules_.cards; }
  std::uint32_t likeness(Card card) const { return static_cast<std::uint32_t>(rules_.rank[card]); }

  Position start(std::size_t) const { return {}; }
  NextStep next(const Position& position) const {
    if (position.drawn < 2) return {NextStep::deal};
    if (!position.decided) return {NextStep::decide, 0};
    return {position.on && position.drawn < 4 ? NextStep::deal : NextStep::over};
  }
  Moves moves(const Position&) const { return Moves::below(2); }
  void move(Position& position, std::size_t move) const {
    position.decided = true;
    position.on = move == go_on;
  }
  void give(Position& position, const NextStep&, Card card) const { position.cards[position.drawn++] = card; }
  View view(const Position& position, std::size_t) const { return View(gap(position, 0)); }

  Outcome outcome(const Position& position) const {
    const std::int64_t own = gap(position, 0);
    if (!position.on) return {-rules_.given_up, own, Outcome::given_up};
    if (own >= gap(position, 2)) return {-rules_.stake - rules_.raise, own, Outcome::loss};
    return {own == 0 ? rules_.pair_wins : rules_.wins, own, Outcome::win};
  }

  std::string full_key(const Position& position, const UnseenCards&) const {
    std::array<std::int64_t, 4> ranks{};
    for (std::size_t i = 0; i < position.drawn; ++i) ranks[i] = rules_.rank[position.cards[i]] + 1;
    std::sort(ranks.begin(), ranks.begin() + 2);
    std::sort(ranks.begin() + 2, ranks.end());
    std::string all = position.decided ? position.on ? "+" : "-" : "?";
    for (const std::int64_t rank : ranks) all += std::to_string(rank) + ",";
    return all;
  }

  std::size_t zone_of(const Position& position, std::size_t place) const {
    return place >= position.drawn ? 0 : place < 2 ? 2 : 1;
  }
  template <class Happened>
  void tell(const NextStep& next, const Position& position, const std::vector<Card>& deck, Happened&& happened) const {
    if (next.what == NextStep::decide) {
      happened(1, TableEvent{0, position.on ? goes_on : gives_up});
    } else if (next.what == NextStep::deal) {
      const bool own = position.drawn <= 2;
      happened(1, TableEvent{own ? 0 : no_seat, own ? player_gets : house_gets, &deck[position.drawn - 1], 1});
    }
  }
  TableEvent ending(const Outcome& outcome) const {
    return {no_seat, outcome.result == Outcome::win ? player_wins : house_wins};
  }

 private:
  std::int64_t gap(const Position& position, std::size_t first) const {
    return std::abs(rules_.rank[position.cards[first]] - rules_.rank[position.cards[first + 1]]);
  }
  Rules rules_;
};

// Goes on with a gap up to some width.
class NarrowsPlayer : public Player<Narrows::View> {
 public:
  explicit NarrowsPlayer(std::int64_t widest) : widest_(widest) {}
  std::unique_ptr<Player> copy() const override { return std::make_unique<NarrowsPlayer>(*this); }
  std::size_t choose(const Narrows::View& view, Moves, PlayerChance&) override {
    return view.gap <= widest_ ? Narrows::go_on : Narrows::give_up;
  }

 private:
  std::int64_t widest_;
};

}  // namespace habanera
