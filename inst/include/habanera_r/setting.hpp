#pragma once

// What a game of one's own in C++ is made with, as R has it.

#include <Rcpp/Light>

#include <memory>
#include <string>
#include <vector>

#include "habanera/own/setting.hpp"

namespace habanera_r {

// The setting as R gives it: rules by name, attributes of the kinds of cards, how many of each kind.
inline std::shared_ptr<const habanera::Setting> to_setting(const Rcpp::List& spec) {
  habanera::Setting::Values values;
  const Rcpp::List rules = spec["rules"], numbers = spec["card_numbers"], words = spec["card_words"];
  const auto name_of = [](const Rcpp::List& list, R_xlen_t at) {
    return Rcpp::as<std::vector<std::string>>(list.names())[static_cast<std::size_t>(at)];
  };
  for (R_xlen_t i = 0; i < rules.size(); ++i) {
    if (Rf_isString(rules[i])) values.words[name_of(rules, i)] = Rcpp::as<std::string>(rules[i]);
    else values.numbers[name_of(rules, i)] = Rcpp::as<double>(rules[i]);
  }
  for (R_xlen_t i = 0; i < numbers.size(); ++i)
    values.card_numbers[name_of(numbers, i)] = Rcpp::as<std::vector<double>>(numbers[i]);
  for (R_xlen_t i = 0; i < words.size(); ++i)
    values.card_words[name_of(words, i)] = Rcpp::as<std::vector<std::string>>(words[i]);
  values.copies = Rcpp::as<std::vector<double>>(spec["copies"]);
  return std::make_shared<const habanera::Setting>(values);
}

}  // namespace habanera_r
