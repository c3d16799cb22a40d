// Two seats with hands of their own: each lays a card, the higher takes the trick, and who has more tricks wins. Or, by
// the rule `guess`, seat 1 says whether the card of seat 2 is of the upper half. Slips can be switched on.
#include "habanera/own.hpp"

using namespace habanera;

class Game : public OwnGame {
 public:
  static constexpr const char* name = "duel";
  static constexpr const char* summary = "each lays a card, the higher takes the trick.";
  static constexpr std::array rules{rule_whole("held", 2, 1, 6, "cards of each seat"),
                                    rule_whole("seats", 2, 2, 2, "how many play"),
                                    rule_flag("guess", "seat 1 says of which half the card of seat 2 is"),
                                    rule_choice("slip", "none, shows, throws, outcome, move, no_end, pile, seat, look",
                                                "what is done wrong")};
  static constexpr std::array outcomes{outcome_seat("winner", "who has more tricks"),
                                       outcome_money("net", "half a coin for each trick of seat 1", 0.5),
                                       outcome_choice("last", "nobody, first, second", "who took the last"),
                                       outcome_flag("even", "tricks are even")};
  static constexpr std::array piles{pile_hidden("stock"), pile_own("hand"), pile_open("laid")};
  static constexpr std::array players{OwnPlayer{"lowest", "lays the lowest"},
                                      OwnPlayer{"cheat", "looks at the other's hand"}};

  struct Position {
    std::array<std::array<std::int64_t, 6>, 2> hand{};  // ranks, 0 where the card is laid
    std::array<std::int64_t, 2> laid{};
    std::array<std::int64_t, 2> tricks{};
    std::size_t dealt = 0, made = 0;
    std::int64_t last = 0;
    std::array<bool, 12> gone{};  // by the number of the card dealt
  };

  explicit Game(const Setting& given)
      : rank_(given.of_cards("rank", 0)), held_(static_cast<std::size_t>(given.whole("held"))),
        guess_(given.flag("guess")), slip_(given.word("slip")) {}

  Next next(const Position& now) const {
    if (now.dealt < 2 * held_) return deal_to(slip_ == "pile" ? 9 : 1, now.dealt % 2);
    if (slip_ == "no_end") return decision(0);
    if (slip_ == "seat") return decision(9);
    if (slip_ == "look") return {Next::look, 0, 0};
    if (now.made == (guess_ ? 1 : 2 * held_)) return game_over();
    return decision(now.made % 2);
  }
  void give(Position& now, const Next& next, Card card) const {
    if (slip_ == "throws" && rank_[card] == 1 && now.dealt == 1) throw std::runtime_error("a one comes second");
    now.hand[next.seat][now.dealt++ / 2] = rank_[card];
  }
  Moves moves(const Position& now) const {
    if (guess_) return Moves::below(2);
    Moves all;
    for (std::size_t i = 0; i < held_; ++i)
      if (now.hand[now.made % 2][i] > 0) all.add(i);
    return all;
  }
  void move(Position& now, std::size_t move) const {
    const std::size_t seat = now.made++ % 2;
    if (slip_ == "no_end") return;
    if (guess_) {
      ++now.tricks[(now.hand[1][0] > static_cast<std::int64_t>(rank_.size()) / 2) == (move == 1) ? 0 : 1];
      return;
    }
    now.laid[seat] = std::exchange(now.hand[seat][move], 0);
    now.gone[2 * move + seat] = true;
    if (seat == 0 || now.laid[0] == now.laid[1]) return;
    now.last = now.laid[0] > now.laid[1] ? 1 : 2;
    ++now.tricks[static_cast<std::size_t>(now.last - 1)];
  }
  Place lies(const Position& now, std::size_t place) const {
    return now.gone[place] ? Place{2} : Place{1, place % 2};
  }
  auto outcome(const Position& now) const {
    const auto [one, other] = now.tricks;
    return values(slip_ == "outcome" ? 3 : one == other ? 0 : one > other ? 1 : 2, one, now.last, one == other);
  }
  // A slip: what is seen holds more than what it tells, and a player looks at it.
  struct View : Sight<View> {
    std::array<std::int64_t, 6> hand{};
    std::array<std::int64_t, 2> laid{};
    std::int64_t other = 0;
    bool tells = false;
    Shown shown() const {
      Shown all{shows("hand", hand), shows("laid", laid)};
      if (tells) all.push_back(shows("other", other));
      return all;
    }
  };
  static constexpr bool view_forgets = true;
  View view(const Position& now, std::size_t seat) const {
    return {{}, now.hand[seat], now.laid, now.hand[1 - seat][0], slip_ == "shows"};
  }
  std::size_t choose(std::size_t player, const View& seen, Moves open, PlayerChance&) const {
    if (slip_ == "move") return 63;
    std::size_t best = open.first();
    open.each([&](std::size_t i) {
      if (seen.hand[i] < seen.hand[best]) best = i;
    });
    if (player == 1 && seen.other > 3) return open.first();
    return best;
  }

 private:
  std::vector<std::int64_t> rank_;
  std::size_t held_;
  bool guess_;
  std::string slip_;
};
