#include "game.h"
#include "habanera_r/lines.hpp"
#include "habanera_r/seat_players.hpp"
#include "habanera_r/setting.hpp"

#include <string>
#include <vector>

#include "habanera/game/any_sight.hpp"
#include "habanera/game/line_player.hpp"
#include "habanera/own/plays.hpp"

// Games of one's own in C++ as they are played: see OwnPlays. Who sits there is made here, for all of them.

namespace {

using habanera::AnySight;
using habanera::OwnPlays;

// `plays` is the address of the one function of a compiled file.
const OwnPlays& to_plays(SEXP plays) {
  return *reinterpret_cast<const OwnPlays* (*)()>(R_ExternalPtrAddrFn(plays))();
}

// A list with a row for each thing stated; `row` gives it as a list by name.
template <class Things, class Row>
Rcpp::List rows_of(const Things& things, Row&& row) {
  Rcpp::List all;
  for (const auto& thing : things) all.push_back(row(thing));
  return all;
}

Rcpp::CharacterVector choices_of(const char* choices) {
  const std::vector<std::string> all = habanera::detail::listed(choices);
  return Rcpp::CharacterVector(all.begin(), all.end());
}

// The players of any game who go by what they are shown.
class OfAnyGame {
 public:
  using SeatPlayer = std::shared_ptr<const habanera::Player<AnySight>>;
  static constexpr bool can_be_weighed = false;

  explicit OfAnyGame(bool tells_amounts) : tells_amounts_(tells_amounts) {}

  SeatPlayer player(const std::string& name, const Rcpp::List& spec) const {
    if (name != "by_rules") return nullptr;
    return std::make_shared<habanera::LinePlayer<AnySight>>(
        habanera_r::to_lines(spec, habanera_r::NoHandRules()),
        [](const AnySight& view) { return habanera::SeenThings([&view] { return view.shown(); }); },
        [](const AnySight& view, std::size_t move) { return view.move_text(move); });
  }
  SeatPlayer by_table(std::shared_ptr<const habanera::ChanceTable> table) const {
    return std::make_shared<habanera::ChanceTablePlayer<habanera::AnyGame>>(
        std::make_shared<const habanera::AnyGame>(), std::move(table));
  }

  struct ToView {
    bool tells_amounts;
    Rcpp::List operator()(const AnySight& view) const { return habanera_r::pack_shown(view.shown()); }
    static constexpr bool tells_words = true;
    // Moves with amounts are told where they are open.
    SEXP words(const AnySight& view, habanera::Moves moves) const {
      if (!tells_amounts) return R_NilValue;
      return habanera_r::words_of_moves(habanera::AnyGame(), view, moves);
    }
  };
  ToView to_view() const { return {tells_amounts_}; }

 private:
  bool tells_amounts_;
};

}  // namespace

// [[Rcpp::export(rng = false)]]
Rcpp::List core_own_statement(SEXP plays) {
  using Rcpp::_;
  static const char* const rule_types[] = {"whole", "fraction", "flag", "choice"};
  static const char* const outcome_types[] = {"whole", "money", "flag", "choice", "seat"};
  static const char* const sights[] = {"hidden", "open", "own"};
  const habanera::OwnStatement stated = to_plays(plays).statement();
  return Rcpp::List::create(
      _["name"] = stated.name, _["summary"] = stated.summary,
      _["rules"] = rows_of(stated.rules, [](const habanera::OwnRule& rule) {
        return Rcpp::List::create(_["type"] = rule_types[rule.type], _["name"] = rule.name, _["default"] = rule.usual,
                                  _["from"] = rule.from, _["to"] = rule.to, _["choices"] = choices_of(rule.choices),
                                  _["meaning"] = rule.meaning);
      }),
      _["outcomes"] = rows_of(stated.outcomes, [](const habanera::OwnOutcome& outcome) {
        return Rcpp::List::create(_["type"] = outcome_types[outcome.type], _["name"] = outcome.name,
                                  _["meaning"] = outcome.meaning, _["choices"] = choices_of(outcome.choices),
                                  _["coin"] = outcome.coin);
      }),
      _["piles"] = rows_of(stated.piles, [](const habanera::OwnPile& pile) {
        return Rcpp::List::create(_["name"] = pile.name, _["sight"] = sights[pile.sight]);
      }),
      _["players"] = rows_of(stated.players, [](const habanera::OwnPlayer& player) {
        return Rcpp::List::create(_["name"] = player.name, _["meaning"] = player.meaning);
      }),
      _["moves"] = Rcpp::CharacterVector(stated.moves.begin(), stated.moves.end()),
      _["hides_cards"] = stated.hides_cards, _["has_worth"] = stated.has_worth, _["has_amounts"] = stated.has_amounts,
      _["view_forgets"] = stated.view_forgets);
}

// A number for each kind of card, the same for cards alike to the game.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_own_likeness(SEXP plays, Rcpp::List spec) {
  const std::vector<std::uint32_t> likeness = to_plays(plays).likeness(habanera_r::to_setting(spec["setting"]));
  return {likeness.begin(), likeness.end()};
}

// The game with its players, to be played alone.
// [[Rcpp::export(rng = false)]]
SEXP core_own_game(SEXP plays, Rcpp::List spec) {
  const OwnPlays& own = to_plays(plays);
  const habanera::OwnStatement stated = own.statement();
  const habanera_r::SeatPlayers<habanera::AnyGame, OfAnyGame> players({}, OfAnyGame(stated.has_amounts));
  std::vector<habanera::OwnSeat> seats;
  for (const Rcpp::List player : Rcpp::List(spec["players"])) {
    const std::string name = Rcpp::as<std::string>(player["name"]);
    habanera::OwnSeat seat;
    while (seat.brought < stated.players.size() && name != stated.players[seat.brought].name) ++seat.brought;
    if (seat.brought == stated.players.size()) seat.player = players.one(player);
    seats.push_back(seat);
  }
  return game_pointer(own.game(habanera_r::to_setting(spec["setting"]), seats));
}
