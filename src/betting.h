#pragma once

#include <Rcpp/Light>

#include <memory>
#include <vector>

#include "habanera/betting/betting.hpp"
#include "habanera/game/player.hpp"

// Games in which seats bet as R tells them, and who sits there: none in seats that are open.
habanera::Betting::Rules to_betting(const Rcpp::List& spec);
std::vector<std::shared_ptr<const habanera::Player<habanera::BettingView>>> to_players(const Rcpp::List& spec,
                                                                                      const habanera::Betting& game);
