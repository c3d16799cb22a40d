#pragma once

#include <Rcpp/Light>

#include "habanera/blackjack/rules.hpp"
#include "habanera/blackjack/strategy.hpp"

habanera::BlackjackRules to_blackjack_rules(const Rcpp::List& spec);
habanera::StrategyTable to_strategy_table(const Rcpp::List& spec);
