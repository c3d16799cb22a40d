#pragma once

// Players by lines of rules, as R gives them: see core_lines() there.

#include <Rcpp/Light>

#include <set>
#include <string>
#include <utility>
#include <vector>

#include "habanera/game/line_player.hpp"
#include "habanera_r/convert.hpp"

namespace habanera_r {

// `ToRules` makes rules for hands from R's.
template <class ToRules>
habanera::CardWord to_card_word(const Rcpp::List& spec, ToRules&& to_rules) {
  using habanera::CardWord;
  const std::string word = Rcpp::as<std::string>(spec["word"]), where = Rcpp::as<std::string>(spec["of"]);
  const CardWord::Of of = where == "own" ? CardWord::own : where == "shared" ? CardWord::shared : CardWord::all;
  if (word == "category") return CardWord::category_by(of, to_rules(spec["rules"]));
  if (word == "holds") {
    std::set<std::vector<habanera::Card>> hands;
    for (const Rcpp::IntegerVector hand : Rcpp::List(spec["hands"])) {
      std::vector<habanera::Card> kinds = to_kinds(hand);
      std::sort(kinds.begin(), kinds.end());
      hands.insert(kinds);
    }
    return CardWord::one_of(of, hands);
  }
  const auto by_kind = Rcpp::as<std::vector<double>>(spec["by_kind"]);
  if (word == "sum") return CardWord::sum_of(of, by_kind);
  return CardWord::groups(of, word == "distinct" ? CardWord::distinct : CardWord::largest_group, by_kind);
}

template <class ToRules>
habanera::SeenCondition to_condition(const Rcpp::List& spec, ToRules&& to_rules) {
  using habanera::SeenCondition;
  const std::string what = Rcpp::as<std::string>(spec["what"]);
  if (what == "number") return SeenCondition::of_number(Rcpp::as<double>(spec["value"]));
  if (what == "text") return SeenCondition::of_text(Rcpp::as<std::string>(spec["value"]));
  if (what == "name") return SeenCondition::of_name(Rcpp::as<std::string>(spec["value"]));
  if (what == "cards") return SeenCondition::of_cards(to_card_word(spec, to_rules));
  std::vector<SeenCondition> parts;
  for (const Rcpp::List part : Rcpp::List(spec["parts"])) parts.push_back(to_condition(part, to_rules));
  return SeenCondition::of_function(Rcpp::as<std::string>(spec["value"]), std::move(parts));
}

template <class ToRules>
std::vector<habanera::PlayLine> to_lines(const Rcpp::List& spec, ToRules&& to_rules) {
  std::vector<habanera::PlayLine> lines;
  for (const Rcpp::List line : Rcpp::List(spec["lines"])) {
    habanera::PlayLine made;
    if (!Rf_isNull(line["condition"])) made.condition = to_condition(line["condition"], to_rules);
    made.moves = Rcpp::as<std::vector<std::string>>(line["moves"]);
    made.chance = Rcpp::as<double>(line["chance"]);
    lines.push_back(std::move(made));
  }
  return lines;
}

// Of games that tell no cards.
struct NoHandRules {
  habanera::HandRules operator()(const Rcpp::List&) const { Rcpp::stop("internal error: cards are not told here"); }
};

}  // namespace habanera_r
