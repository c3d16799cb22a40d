#include "game.h"

#include "habanera/game/seated.hpp"
#include "habanera/pairs/pairs.hpp"
#include "habanera/pairs/players.hpp"

namespace {

// A player as R gives it: its name and its settings.
std::shared_ptr<const habanera::PairsPlayer> to_player(const Rcpp::List& spec) {
  const std::string name = Rcpp::as<std::string>(spec["name"]);
  if (name == "full_memory") return std::make_shared<habanera::RememberingPlayer>(habanera::PairsMemory(), false);
  if (name == "careful") return std::make_shared<habanera::RememberingPlayer>(habanera::PairsMemory(), true);
  if (name == "random") return std::make_shared<habanera::RandomPlayer<habanera::Pairs::View>>();
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
  for (const Rcpp::List player : Rcpp::List(spec["players"])) rules.players.push_back(to_player(player));
  return game_pointer(std::make_unique<habanera::Playable<habanera::Seated<habanera::Pairs>>>(rules));
}
