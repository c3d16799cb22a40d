// lanterns: each seat puts its ante in the pot and gets a card that only it sees. Seat 1 checks or bets; a bet is
// called or folded to, and after a check seat 2 may check or bet. The higher card takes the pot.
#include "habanera/own.hpp"

using namespace habanera;

class Game : public OwnGame {
 public:
  static constexpr const char* name = "lanterns";
  static constexpr const char* summary = "a card each, one bet, and the higher card takes the pot.";
  static constexpr std::array rules{rule_whole("ante", 1, 1, 1000, "what each seat puts in before it sees its card"),
                                    rule_whole("bet", 1, 1, 1000, "what the smallest bet is"),
                                    rule_whole("bets", 1, 1, 20, "how many sizes bets have: so many times it"),
                                    rule_whole("seats", 2, 2, 2, "how many play")};
  static constexpr std::array outcomes{outcome_seat("winner", "who takes the pot"),
                                       outcome_money("net_1", "what seat 1 wins", 1),
                                       outcome_money("net_2", "what seat 2 wins", 1),
                                       outcome_flag("shown", "the cards were shown")};
  static constexpr std::array piles{pile_hidden("stock"), pile_own("hand")};
  static constexpr std::array move_names{"check", "fold", "call", "bet"};
  static constexpr std::array players{OwnPlayer{"timid", "bets the highest card and calls with it, nothing else"}};
  // Numbers of moves: from `bet` on they are bets of the sizes.
  static constexpr std::size_t check = 0, fold = 1, call = 2, bet = 3;

  struct Position {
    std::array<std::int64_t, 2> card{};
    std::array<std::uint8_t, 3> made{};
    std::size_t dealt = 0, moves = 0;
    std::size_t last() const { return made[moves - 1]; }
    bool is_bet_to() const { return moves > 0 && last() >= bet; }
  };
  // A move is told by its name, a bet with its amount, too.
  OwnMove told(const Position&, std::size_t move) const {
    return move < bet ? OwnMove{move} : OwnMove{bet, size(move)};
  }

  // What a seat sees: its own card, and what both have done. Nothing else reaches a player.
  struct View : Sight<View> {
    std::int64_t card = 0;
    bool is_bet_to = false;
    std::vector<std::string> made;
    Shown shown() const { return {shows("card", card), shows_words("made", made)}; }
  };
  View view(const Position& now, std::size_t seat) const {
    View seen;
    seen.card = now.card[seat];
    seen.is_bet_to = now.is_bet_to();
    for (std::size_t i = 0; i < now.moves; ++i) seen.made.push_back(told(now, now.made[i]).text(move_names));
    return seen;
  }

  explicit Game(const Setting& given)
      : rank_(given.of_cards("rank")), ante_(given.whole("ante")), bet_(given.whole("bet")),
        sizes_(static_cast<std::size_t>(given.whole("bets"))) {
    for (std::size_t kind = 0; kind < rank_.size(); ++kind)
      if (given.copies()[kind] > 0) highest_ = std::max(highest_, rank_[kind]);
  }

  Next next(const Position& now) const {
    if (now.dealt < 2) return deal_to(1, now.dealt);
    const bool checked = now.moves > 0 && now.last() == check;
    if (now.moves > 0 && !now.is_bet_to() && !(checked && now.moves == 1)) return game_over();
    return decision(now.moves % 2);
  }
  void give(Position& now, const Next&, Card card) const { now.card[now.dealt++] = rank_[card]; }
  Moves moves(const Position& now) const {
    Moves open;
    if (now.is_bet_to()) {
      open.add(fold);
      open.add(call);
    } else {
      open.add(check);
      for (std::size_t size = 0; size < sizes_; ++size) open.add(bet + size);
    }
    return open;
  }
  void move(Position& now, std::size_t move) const { now.made[now.moves++] = static_cast<std::uint8_t>(move); }

  auto outcome(const Position& now) const {
    const bool folded = now.last() == fold, called = now.last() == call;
    const std::int64_t pot = ante_ + (called ? size(now.made[now.moves - 2]) : 0);
    // Who did not fold takes it; cards as high share it.
    const bool first_folded = folded && now.moves % 2 == 1, higher = now.card[0] > now.card[1];
    const bool shared = !folded && now.card[0] == now.card[1];
    const std::int64_t winner = shared ? 0 : (folded ? !first_folded : higher) ? 1 : 2;
    const std::int64_t net = winner == 0 ? 0 : winner == 1 ? pot : -pot;
    return values(winner, net, -net, !folded);
  }
  // What counts for who weighs moves is money, not how often it is won.
  double worth(const std::array<std::int64_t, outcomes.size()>& outcome, std::size_t seat) const {
    return static_cast<double>(outcome[1 + seat]);
  }

  std::size_t choose(std::size_t, const View& seen, Moves, PlayerChance&) const {
    const bool high = seen.card == highest_;
    return seen.is_bet_to ? (high ? call : fold) : (high ? bet : check);
  }
  std::uint32_t likeness(Card card) const { return static_cast<std::uint32_t>(rank_[card]); }

 private:
  std::int64_t size(std::size_t move) const { return bet_ * static_cast<std::int64_t>(move - bet + 1); }
  std::vector<std::int64_t> rank_;
  std::int64_t ante_, bet_, highest_ = 0;
  std::size_t sizes_;
};
