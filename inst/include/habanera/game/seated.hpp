#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <map>
#include <memory>
#include <new>
#include <optional>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

#include "habanera/count/bettor.hpp"
#include "habanera/count/shoe_count.hpp"
#include "habanera/game/counted_stock.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/player.hpp"
#include "habanera/game/remembered_walk.hpp"
#include "habanera/game/stock.hpp"
#include "habanera/game/view.hpp"
#include "habanera/game/vocabulary.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// A game whose decisions are told with what else was open notes them in its position.
template <class Game, class = void>
inline constexpr bool notes_decisions = false;
template <class Game>
inline constexpr bool notes_decisions<Game, std::void_t<decltype(&Game::decides)>> = true;

// A game that can be betted on by the count starts a round with what a seat bets, and says what it won.
template <class Game, class = void>
inline constexpr bool takes_bets = false;
template <class Game>
inline constexpr bool takes_bets<Game, std::void_t<decltype(&Game::net_of)>> = true;

// A game may say how many cards a round will mostly take, to make them ready together.
template <class Game, class = void>
inline constexpr bool deals_together = false;
template <class Game>
inline constexpr bool deals_together<Game, std::void_t<decltype(&Game::cards_at_first)>> = true;

// A game with a large outcome makes it where the last one lies, of which it leaves what is always the same.
template <class Game, class = void>
inline constexpr bool settles_in_place = false;
template <class Game>
inline constexpr bool settles_in_place<Game, std::void_t<decltype(&Game::settle)>> = true;

// A game may have the law of a round's outcomes quicker than by a walk.
template <class Game, class = void>
inline constexpr bool has_round_law = false;
template <class Game>
inline constexpr bool has_round_law<Game, std::void_t<decltype(Game::round_law_is_quick)>> = true;

// What `make()` gives, made where the last one lies: to make a large one and copy it would cost twice as much.
template <class Value, class Make>
[[gnu::always_inline]] inline void make_anew(Value& value, Make&& make) {
  if constexpr (std::is_trivially_destructible_v<Value>) ::new (static_cast<void*>(&value)) Value(make());
  else value = make();
}

// A game with decisions and its players, as a game that is played on a shuffled deck: so that whatever runs games
// runs it.
template <class Game>
class Seated {
  static_assert(is_view<typename Game::View>, "a game needs a type View, which is a Sight<View> with shown()");
  static_assert(keeps_from<typename Game::View, typename Game::Position>,
                "the View of a game must have no way to its Position");

 public:
  using View = typename Game::View;
  using SeatPlayer = Player<View>;

  struct Rules {
    typename Game::Rules game;
    std::vector<std::shared_ptr<const SeatPlayer>> players;  // one for each seat
    std::optional<Bettor> bettor{};
    std::size_t shoes = 1;  // in a trial; more than one: each is collected as it was dealt, and shuffled for the next
  };
  // Of a seat that bets by the count: the counts before the round, and what it won for each stake that it bet.
  struct Counted {
    std::int64_t running = 0, level = 0, gone = 0, bet = 1, net_per_bet = 0;
  };
  struct Outcome {
    typename Game::Outcome game;
    Decisions decisions;
    Counted counted;
    // The first columns are the game's own.
    using OfGame = typename Game::Outcome;
    static const std::vector<Column<Outcome>>& columns() {
      static const std::vector<Column<Outcome>> all = all_columns();
      return all;
    }
  };

  explicit Seated(Rules rules) : rules_(std::move(rules)), game_(rules_.game) {
    for (const auto& player : rules_.players) {
      players_.push_back(player->copy());
      somebody_peeks_ = somebody_peeks_ || player->sees_next();
    }
    if (players_.size() != game_.seats())
      throw std::invalid_argument("there are " + std::to_string(players_.size()) + " players for " +
                                  std::to_string(game_.seats()) + " seats");
    if (!rules_.bettor) return;
    if (!takes_bets<Game>) throw std::invalid_argument("this game takes no bets by the count");
    count_ = std::make_unique<ShoeCount>(rules_.bettor->system, game_.cards_used());
    for (const auto& player : players_) player->counts_by(*count_);
    tell_tags_apart(rules_.bettor->system);
  }

  const Rules& rules() const { return rules_; }
  static std::vector<Word> actions() { return Game::actions(); }
  std::vector<Zone> zones() const { return game_.zones(); }
  std::vector<Word> own_words(const char* column) const { return words_of(game_, column, {}); }
  // Cards of different tags are not alike to a seat that counts.
  std::uint32_t likeness(Card card) const { return alike_.empty() ? game_.likeness(card) : alike_[card]; }

  bool holds_rounds() const { return game_.holds_rounds(); }

  std::size_t shoes() const { return rules_.shoes; }
  // After a shoe all its cards, the top first, as they lie for the next shuffle: those not dealt, then the tray, in
  // which the cards of a round lie on those of the rounds before; they are taken up from the seats, left to right,
  // then from the dealer, each hand's in the order dealt.
  const std::vector<Card>& collected() const { return collected_; }

  // Calls `ended(outcome)` after each round.
  template <class Chance, class Luck, class Watcher, class Ended>
  void play(const std::vector<Card>& deck, Chance& chance, Luck& luck, Watcher& watcher, Ended&& ended) {
    if constexpr (may_open_with_hands<Game>) {
      if (game_.openings()) {
        const std::vector<Card> opened = with_hands(deck, chance);
        return play_from(ShuffledStock(opened, game_.burned()), opened, luck, watcher, ended);
      }
    }
    play_from(ShuffledStock(deck, game_.burned()), deck, luck, watcher, ended);
  }

  bool needs_hands() const { return opens_with_hands(game_); }

  // The same where cards are settled as they are needed.
  static constexpr bool deals_late = true;
  template <class Luck, class Watcher, class Ended>
  void play_late(LateDeal& late, Luck& luck, Watcher& watcher, Ended&& ended) {
    play_from(ShuffledStock(late, game_.burned()), late.deck(), luck, watcher, ended);
  }

  // Whether the law of its outcomes can be had by positions that are remembered, and that law: see RememberedWalk.
  bool walks_by_memory() const {
    return !count_ && std::all_of(players_.begin(), players_.end(),
                                  [](const auto& player) { return player->decides_by_view(); });
  }
  template <class Use>
  void walk_by_memory(const std::vector<double>& counts, const std::vector<std::size_t>& columns,
                      const WorkBound& bound, Use&& use) const {
    const bool by_decisions = std::any_of(columns.begin(), columns.end(), [](std::size_t column) {
      return column >= Game::Outcome::column_count;
    });
    if constexpr (has_round_law<Game>) {
      if (!holds_rounds() && !by_decisions)
        return game_.round_law(counts, players_, bound, [&](const typename Game::Outcome& outcome, double chance) {
          use(Outcome{outcome, {}, {}}, chance);
        });
    }
    RememberedWalk<Game> walk(game_, players_, by_decisions, bound);
    walk(counts, [&](const auto& position, const Decisions& decisions, double chance) {
      use(Outcome{game_.outcome(position), decisions, {}}, chance);
    });
  }

 private:
  // The deck with hands that seats may be dealt where they are dealt from.
  template <class Chance>
  std::vector<Card> with_hands(std::vector<Card> deck, Chance& chance) const {
    std::vector<bool> settled(deck.size(), false);
    game_.each_place(game_.openings()->pick(chance), [&](std::size_t place, Card card) {
      std::size_t found = 0;
      while (found < deck.size() && (settled[found] || deck[found] != card)) ++found;
      if (found == deck.size()) throw std::logic_error("a hand that a seat may be dealt is not in the deck");
      std::swap(deck[place], deck[found]);
      settled[place] = true;
    });
    return deck;
  }

  void tell_tags_apart(const CountSystem& system) {
    std::map<std::array<std::int64_t, 3>, std::uint32_t> numbers;
    for (std::size_t kind = 0; kind < system.tags.size(); ++kind) {
      const std::int64_t like = game_.likeness(static_cast<Card>(kind));
      const auto next = static_cast<std::uint32_t>(numbers.size());
      alike_.push_back(numbers.emplace(std::array{like, system.tags[kind], system.bet_tags[kind]}, next).first->second);
    }
  }

  template <class Luck, class Watcher, class Ended>
  void play_from(ShuffledStock stock, const std::vector<Card>& deck, Luck& luck, Watcher& watcher, Ended& ended) {
    typename Game::Position position = game_.start(stock.gone());
    for (const auto& player : players_) player->begins();
    const Table table{game_, position, deck};
    if constexpr (watches<Watcher>) watcher.laid_out(deck, game_.cards_used(), table);
    Shoe<Luck, Watcher> shoe(deck, position, luck, table, watcher);
    if constexpr (takes_bets<Game>) {
      if (count_) play_counted(shoe, stock, ended);
      else play_rounds(shoe, stock, ended);
    } else {
      play_rounds(shoe, stock, ended);
    }
    if constexpr (watches<Watcher>) watcher.cleared();
    if (shoes() > 1) collect_shoe(deck, stock.gone());
  }

  template <class InShoe>
  void collect_round(const InShoe& shoe, std::size_t gone) {
    if (tray_.empty()) tray_.assign(shoe.deck.begin(), shoe.deck.begin() + static_cast<std::ptrdiff_t>(game_.burned()));
    const std::size_t first = tray_.size();
    for (const std::size_t zone : game_.collected_zones())
      for (std::size_t place = first; place < gone; ++place)
        if (game_.zone_of(shoe.position, place) == zone) tray_.push_back(shoe.deck[place]);
  }
  void collect_shoe(const std::vector<Card>& deck, std::size_t gone) {
    collected_.assign(deck.begin() + static_cast<std::ptrdiff_t>(gone), deck.end());
    collected_.insert(collected_.end(), tray_.rbegin(), tray_.rend());
    tray_.clear();
  }

  template <class Watcher>
  static constexpr bool watches = !std::is_same_v<Watcher, Silent>;

  // The luck of each seat that has decided something.
  template <class Luck>
  using Lanes = std::array<std::optional<decltype(std::declval<Luck&>().of(0))>, most_players>;

  struct Table;

  // A deck that rounds are played from, and who looks on.
  template <class Luck, class Watcher>
  struct Shoe {
    // All lanes set to zero, as braces would, cost as much as a card.
    Shoe(const std::vector<Card>& with, typename Game::Position& at, Luck& by, const Table& on, Watcher& seen)
        : deck(with), position(at), luck(by), table(on), watcher(seen) {}
    const std::vector<Card>& deck;
    typename Game::Position& position;
    Luck& luck;
    Lanes<Luck> lanes;
    const Table& table;
    Watcher& watcher;
    std::uint64_t rounds = 0;
  };

  template <class InShoe, class Ended>
  void play_rounds(InShoe& shoe, ShuffledStock& stock, Ended& ended) {
    for (;;) {
      play_round(shoe, stock);
      ended(std::as_const(outcome_));
      if (shoes() > 1) collect_round(shoe, stock.gone());
      if (!game_.plays_on(stock.gone())) return;
      make_anew(shoe.position, [&] { return game_.start(stock.gone()); });
    }
  }

  // The same with every card counted, and a seat that bets by it.
  template <class InShoe, class Ended>
  void play_counted(InShoe& shoe, ShuffledStock& stock, Ended& ended) {
    const Bettor& bettor = *rules_.bettor;
    count_->begin(stock.gone());
    for (bool plays = bettor.begins_seated();;) {
      Counted& counted = outcome_.counted;
      counted.running = count_->running();
      counted.level = count_->level_for_bets();
      counted.gone = static_cast<std::int64_t>(stock.gone());
      plays = bettor.plays(counted.level, plays);
      counted.bet = plays ? bettor.bet_at(counted.level) : 0;
      make_anew(shoe.position, [&] { return game_.start(stock.gone(), SeatBet{bettor.seat, counted.bet}); });
      CountedStock counted_stock(stock, *count_);
      play_round(shoe, counted_stock);
      const std::int64_t net = game_.net_of(outcome_.game, bettor.seat);
      counted.net_per_bet = counted.bet > 1 ? net / counted.bet : net;
      ended(std::as_const(outcome_));
      if (shoes() > 1) collect_round(shoe, stock.gone());
      if (!game_.plays_on(stock.gone())) return;
    }
  }

  // Plays a round from the shoe's position; what comes of it is made where it lies, since to copy it would cost as much
  // as to make it.
  template <class InShoe, class Stock>
  void play_round(InShoe& shoe, Stock& stock) {
    using Watcher = std::remove_reference_t<decltype(shoe.watcher)>;
    const auto choose = [&](std::size_t seat, const auto& now, Moves moves) {
      if (!shoe.lanes[seat]) shoe.lanes[seat].emplace(shoe.luck.of(seat));
      if (__builtin_expect(somebody_peeks_, 0) && players_[seat]->sees_next() && stock.has_next())
        players_[seat]->next_is(stock.peek());
      const std::size_t move = players_[seat]->choose(game_.view(now, seat), moves, *shoe.lanes[seat]);
      if constexpr (watches<Watcher> && notes_decisions<Game>) game_.decides(shoe.position, move, moves);
      if constexpr (watches<Watcher>) line_ = players_[seat]->line();
      return move;
    };
    if constexpr (deals_together<Game>) stock.expect(game_.cards_at_first());
    const std::uint64_t before = shoe.rounds;
    outcome_.decisions.begin(players_.size());
    play_out(game_, shoe.position, stock, outcome_.decisions, choose, [&](const NextStep& next, const auto& now) {
      if constexpr (watches<Watcher>)
        game_.tell(next, now, shoe.deck, [&](std::uint64_t round, const TableEvent& event) {
          shoe.watcher.round_begins(shoe.rounds = before + round);
          TableEvent told = with_count(event);
          if (next.what == NextStep::decide) told.line = line_;
          shoe.watcher.happened(shoe.table, told);
        });
    });
    stock.end_round();
    if constexpr (settles_in_place<Game>) game_.settle(shoe.position, outcome_.game);
    else make_anew(outcome_.game, [&] { return game_.outcome(shoe.position); });
    if constexpr (watches<Watcher>) shoe.watcher.happened(shoe.table, with_count(game_.ending(outcome_.game)));
  }

  TableEvent with_count(TableEvent event) const {
    if (count_) {
      event.running_count = count_->running();
      event.true_count = count_->true_count();
    }
    return event;
  }

  // Where the cards lie, for those who look on.
  struct Table {
    const Game& game;
    const typename Game::Position& position;
    const std::vector<Card>& deck;
    std::size_t zones() const { return game.zones().size(); }
    template <class Use>
    void each_card(std::size_t zone, Use&& use) const {
      for (std::size_t place = 0; place < game.cards_used(); ++place)
        if (game.zone_of(position, place) == zone) use(deck[place]);
    }
  };

  template <std::size_t seat>
  static void add_decisions(std::vector<Column<Outcome>>& all) {
    static const std::string made = "decisions_" + std::to_string(seat + 1);
    static const std::string forced = "forced_" + std::to_string(seat + 1);
    all.push_back({made.c_str(), [](const Outcome& o) { return o.decisions.made[seat]; }});
    all.push_back({forced.c_str(), [](const Outcome& o) { return o.decisions.forced[seat]; }});
  }
  template <std::size_t... seat>
  static void add_all_decisions(std::vector<Column<Outcome>>& all, std::index_sequence<seat...>) {
    (add_decisions<seat>(all), ...);
  }
  // How the game reads a column, found once when the program starts.
  template <std::size_t column>
  static inline const auto own_read = Game::Outcome::columns()[column].read;
  static void add_counted(std::vector<Column<Outcome>>& all) {
    all.push_back({"running_count", [](const Outcome& o) { return o.counted.running; }});
    all.push_back({"true_count", [](const Outcome& o) { return o.counted.level; }});
    all.push_back({"cards_gone", [](const Outcome& o) { return o.counted.gone; }});
    all.push_back({"bet", [](const Outcome& o) { return o.counted.bet; }});
    all.push_back({"plays", [](const Outcome& o) { return std::int64_t{o.counted.bet > 0}; }});
    all.push_back({"net_per_bet", [](const Outcome& o) { return o.counted.net_per_bet; }});
  }
  template <std::size_t... column>
  static void add_own(std::vector<Column<Outcome>>& all, std::index_sequence<column...>) {
    (all.push_back({Game::Outcome::columns()[column].name,
                    [](const Outcome& o) { return own_read<column>(o.game); },
                    Game::Outcome::columns()[column].words, Game::Outcome::columns()[column].is_seat}),
     ...);
  }
  static std::vector<Column<Outcome>> all_columns() {
    std::vector<Column<Outcome>> all;
    add_own(all, std::make_index_sequence<Game::Outcome::column_count>());
    add_all_decisions(all, std::make_index_sequence<most_players>());
    add_counted(all);
    return all;
  }

  Rules rules_;
  Game game_;
  std::vector<std::unique_ptr<SeatPlayer>> players_;
  bool somebody_peeks_ = false;
  std::size_t line_ = 0;  // by which the last choice was made, for those who look on
  std::unique_ptr<ShoeCount> count_;
  std::vector<std::uint32_t> alike_;  // by kind, where a seat counts
  Outcome outcome_{};  // of the last round
  std::vector<Card> tray_, collected_;
};

}  // namespace habanera
