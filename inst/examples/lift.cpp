// lift: seats in turn turn cards for points, as long as they dare. A court card takes the points of the turn away.
// Who first has enough wins; where the cards run out, who has most.
#include "habanera/own.hpp"

using namespace habanera;

class Game : public OwnGame {
 public:
  static constexpr const char* name = "lift";
  static constexpr const char* summary = "cards are turned for points, as long as one dares.";
  static constexpr std::array rules{rule_whole("enough", 30, 1, 500, "points that win"),
                                    rule_whole("court", 11, 2, 14, "the rank from which on a card takes all away"),
                                    rule_whole("seats", 2, 1, 4, "how many play")};
  static constexpr std::array outcomes{outcome_seat("winner", "who has won"), outcome_whole("turned", "cards turned")};
  // Piles and moves go by their places in these lists.
  static constexpr std::array piles{pile_hidden("stock"), pile_open("row")};
  static constexpr std::array move_names{"stop", "go on"};
  static constexpr std::array players{OwnPlayer{"daring", "goes on to fifteen points"}};

  // All that is the case at a moment. As it is made here, the game begins.
  struct Position {
    std::array<std::int64_t, 4> points{};
    std::int64_t in_turn = 0;
    std::size_t seat = 0, turned = 0;
    bool may_stop = false, over = false;
  };

  explicit Game(const Setting& given)
      : rank_(given.of_cards("rank_low")), enough_(given.whole("enough")), court_(given.whole("court")),
        cards_(given.cards()), seats_(given.seats()) {}

  // What comes next: a card to a pile, a decision of a seat, or nothing more.
  Next next(const Position& now) const {
    if (now.over) return game_over();
    return now.may_stop ? decision(now.seat) : deal_to(1, now.seat);
  }
  void give(Position& now, const Next&, Card card) const {
    ++now.turned;
    if (rank_[card] >= court_) return end_turn(now, 0);
    now.in_turn += rank_[card];
    now.may_stop = true;
    // Who has enough is not asked.
    if (now.points[now.seat] + now.in_turn >= enough_ || now.turned == cards_) end_turn(now, now.in_turn);
  }
  Moves moves(const Position&) const { return Moves::below(2); }
  void move(Position& now, std::size_t move) const {
    now.may_stop = false;
    if (move == 0) end_turn(now, now.in_turn);
  }
  auto outcome(const Position& now) const {
    const auto most = std::max_element(now.points.begin(), now.points.end());
    const bool alone = std::count(now.points.begin(), now.points.end(), *most) == 1;
    return values(alone ? most - now.points.begin() + 1 : 0, now.turned);
  }

  // What a seat sees, and all that a player gets.
  struct View : Sight<View> {
    std::array<std::int64_t, 4> points{};
    std::int64_t in_turn = 0;
    std::size_t seat = 0;
    Shown shown() const { return {shows("points", points), shows("in_turn", in_turn), shows("seat", seat + 1)}; }
  };
  View view(const Position& now, std::size_t seat) const { return {{}, now.points, now.in_turn, seat}; }
  std::size_t choose(std::size_t, const View& seen, Moves, PlayerChance&) const { return seen.in_turn < 15 ? 1 : 0; }
  // Exact answers and best play take positions of one key as one, and cards that are alike.
  std::string key(const Position& now) const { return key_of(now.points, now.in_turn, now.seat, now.may_stop); }
  std::uint32_t likeness(Card card) const { return static_cast<std::uint32_t>(std::min(rank_[card], court_)); }

 private:
  void end_turn(Position& now, std::int64_t points) const {
    now.points[now.seat] += points;
    now.over = now.points[now.seat] >= enough_ || now.turned == cards_;
    now.seat = now.seat + 1 == seats_ ? 0 : now.seat + 1;
    now.in_turn = 0;
    now.may_stop = false;
  }
  std::vector<std::int64_t> rank_;
  std::int64_t enough_, court_;
  std::size_t cards_, seats_;
};
