#pragma once

#include "habanera_r/convert.hpp"

#include <string>
#include <utility>
#include <vector>

#include "habanera/hand/rules.hpp"

// Rules for hands from R: see core_hand_rules() there.

inline habanera::HandCategory to_hand_category(const std::string& name) {
  using Category = habanera::HandCategory;
  static const std::vector<std::pair<const char*, Category>> known{
      {"high card", Category::high_card},           {"one pair", Category::one_pair},
      {"two pair", Category::two_pair},             {"three of a kind", Category::three_of_a_kind},
      {"straight", Category::straight},             {"flush", Category::flush},
      {"full house", Category::full_house},         {"four of a kind", Category::four_of_a_kind},
      {"straight flush", Category::straight_flush}, {"royal flush", Category::royal_flush},
      {"five of a kind", Category::five_of_a_kind}};
  for (const auto& [word, category] : known)
    if (name == word) return category;
  Rcpp::stop("internal error: there is no category \"%s\"", name);
}

// A number from 0, or `none` where R has -1.
template <class Number>
Number number_or(double value, Number none) {
  return value < 0 ? none : static_cast<Number>(value);
}

// The rules as core_hand_rules() in R gives them, over the cards of a catalogue.
inline habanera::HandRules to_hand_rules(const Rcpp::List& spec) {
  habanera::HandRules rules;
  rules.size = static_cast<std::size_t>(to_count(spec["size"]));
  rules.ranks = static_cast<std::size_t>(to_count(spec["ranks"]));
  rules.suits = static_cast<std::size_t>(to_count(spec["suits"]));
  rules.low_ace = number_or<std::size_t>(Rcpp::as<double>(spec["low_ace"]), habanera::HandRules::no_ace);
  rules.dealt_order = Rcpp::as<bool>(spec["dealt_order"]);
  rules.wild_lowest = Rcpp::as<bool>(spec["wild_lowest"]);
  for (const double rank : Rcpp::NumericVector(spec["rank"])) rules.rank.push_back(static_cast<std::uint8_t>(rank));
  for (const double suit : Rcpp::NumericVector(spec["suit"]))
    rules.suit.push_back(number_or<std::uint8_t>(suit, habanera::HandRules::no_suit));
  for (const int wild : Rcpp::LogicalVector(spec["wild"])) rules.wild.push_back(wild != 0);
  for (const Rcpp::List category : Rcpp::List(spec["categories"]))
    rules.categories.push_back({to_hand_category(Rcpp::as<std::string>(category["what"])),
                                static_cast<std::size_t>(to_count(category["from"])),
                                static_cast<std::size_t>(to_count(category["to"])),
                                Rcpp::as<bool>(category["natural"]),
                                static_cast<std::size_t>(to_count(category["wild"]))});
  return rules;
}
