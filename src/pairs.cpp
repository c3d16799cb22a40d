#include "game.h"
#include "player.h"

#include "habanera/game/seated.hpp"
#include "habanera/pairs/pairs.hpp"
#include "habanera/pairs/players.hpp"

namespace {

// What a seat sees of the table, as R has it: see player_with() there.
struct PairsView {
  std::size_t places;

  Rcpp::List operator()(const habanera::Pairs::View& view) const {
    const auto size = static_cast<R_xlen_t>(places);
    Rcpp::IntegerVector seen(size), when(size);
    Rcpp::LogicalVector lies(size);
    for (std::size_t place = 0; place < places; ++place) {
      const auto at = static_cast<R_xlen_t>(place);
      const std::uint16_t known = view.seen[place];
      seen[at] = known == habanera::Pairs::nobody_knows ? NA_INTEGER : known + 1;
      when[at] = static_cast<int>(view.when[place]);
      lies[at] = view.lies(place);
    }
    return Rcpp::List::create(Rcpp::Named("seen") = seen, Rcpp::Named("when") = when, Rcpp::Named("lies") = lies,
                              Rcpp::Named("first") = view.second_card() ? static_cast<int>(view.first) + 1 : NA_INTEGER,
                              Rcpp::Named("seat") = static_cast<int>(view.seat) + 1,
                              Rcpp::Named("pairs") = Rcpp::IntegerVector(view.won.begin(), view.won.end()));
  }
};

// A player as R gives it: its name and its settings.
std::shared_ptr<const habanera::PairsPlayer> to_player(const Rcpp::List& spec, std::size_t places) {
  const std::string name = Rcpp::as<std::string>(spec["name"]);
  if (name == "full_memory") return std::make_shared<habanera::RememberingPlayer>(habanera::PairsMemory(), false);
  if (name == "careful") return std::make_shared<habanera::RememberingPlayer>(habanera::PairsMemory(), true);
  if (name == "random") return std::make_shared<habanera::RandomPlayer<habanera::Pairs::View>>();
  if (name == "with") return function_player<habanera::Pairs::View>(spec["f"], PairsView{places});
  if (name != "forgetful") Rcpp::stop("internal error: no player is called \"%s\"", name);
  const double span = Rcpp::as<double>(spec["span"]);
  const auto most = span < 0xffffffff ? static_cast<std::uint32_t>(to_count(span)) : 0xffffffff;
  const habanera::PairsMemory memory(Rcpp::as<double>(spec["recall"]), most);
  return std::make_shared<habanera::RememberingPlayer>(memory, false);
}

}  // namespace

// [[Rcpp::export]]
SEXP core_pairs(Rcpp::List spec) {
  habanera::Seated<habanera::Pairs>::Rules rules;
  rules.game.mates = to_kinds(spec["mates"]);
  rules.game.pairs = static_cast<std::size_t>(to_count(spec["pairs"]));
  rules.game.seats = static_cast<std::size_t>(to_count(spec["seats"]));
  rules.game.again = Rcpp::as<bool>(spec["again"]);
  for (const Rcpp::List player : Rcpp::List(spec["players"])) 
    rules.players.push_back(to_player(player, 2 * rules.game.pairs));
  return game_pointer(std::make_unique<habanera::Playable<habanera::Seated<habanera::Pairs>>>(rules));
}
