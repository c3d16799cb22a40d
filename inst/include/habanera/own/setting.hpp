#pragma once

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <map>
#include <optional>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

namespace habanera {

// What a game of one's own is made with: the values of its rules, and the cards it is played with.
class Setting {
 public:
  struct Values {
    std::map<std::string, double> numbers;
    std::map<std::string, std::string> words;
    std::map<std::string, std::vector<double>> card_numbers;  // of each kind of card; NaN where it has none
    std::map<std::string, std::vector<std::string>> card_words;
    std::vector<double> copies;  // of each kind
  };

  explicit Setting(Values values) : values_(std::move(values)) {}

  // The values of rules. Of a flag: not 0; of a choice: its text.
  std::int64_t whole(const std::string& rule) const { return static_cast<std::int64_t>(number(rule)); }
  double number(const std::string& rule) const { return found(values_.numbers, rule, "rule that is a number"); }
  bool flag(const std::string& rule) const { return number(rule) != 0; }
  const std::string& word(const std::string& rule) const { return found(values_.words, rule, "rule that is a text"); }

  // An attribute of the cards that is a whole number, for each kind of card; `without` is for cards that have none.
  std::vector<std::int64_t> of_cards(const std::string& attribute, std::optional<std::int64_t> without = {}) const {
    std::vector<std::int64_t> all;
    for (const double value : found(values_.card_numbers, attribute, "attribute of the cards that is a number")) {
      if (std::isnan(value) && !without) throw std::invalid_argument("some card has no \"" + attribute + "\"");
      if (!std::isnan(value) && value != std::floor(value))
        throw std::invalid_argument("of some card \"" + attribute + "\" is not a whole number");
      all.push_back(std::isnan(value) ? *without : static_cast<std::int64_t>(value));
    }
    return all;
  }
  // An attribute as text, for each kind; none: "".
  const std::vector<std::string>& words_of_cards(const std::string& attribute) const {
    return found(values_.card_words, attribute, "attribute of the cards");
  }

  // How many cards there are, and how many of each kind.
  std::size_t cards() const {
    double all = 0;
    for (const double count : values_.copies) all += count;
    return static_cast<std::size_t>(all);
  }
  const std::vector<double>& copies() const { return values_.copies; }
  // How many play: the rule "seats", if there is one.
  std::size_t seats() const {
    const auto seats = values_.numbers.find("seats");
    return seats == values_.numbers.end() ? 1 : static_cast<std::size_t>(seats->second);
  }

 private:
  template <class Value>
  static const Value& found(const std::map<std::string, Value>& all, const std::string& name, const char* what) {
    const auto at = all.find(name);
    if (at == all.end()) throw std::invalid_argument(std::string("there is no ") + what + " called \"" + name + "\"");
    return at->second;
  }
  Values values_;
};

}  // namespace habanera
