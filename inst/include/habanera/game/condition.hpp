#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/game/view.hpp"
#include "habanera/hand/evaluator.hpp"

namespace habanera {

// A condition has no answer where it is asked.
struct NoAnswer : std::runtime_error {
  using std::runtime_error::runtime_error;
};

// What a condition is asked of: what a seat sees by name, told when it is first asked for, and its cards where the game
// tells them.
class SeenThings {
 public:
  std::vector<Card> own, shared;

  explicit SeenThings(std::function<Shown()> look) : look_(std::move(look)) {}
  SeenThings(std::function<Shown()> look, std::vector<Card> its_own, std::vector<Card> all_see)
      : own(std::move(its_own)), shared(std::move(all_see)), look_(std::move(look)) {}

  const Shows& called(const std::string& name) const {
    if (!things_) things_ = look_();
    for (const Shows& each : *things_)
      if (each.name == name) return each;
    std::string known;
    for (const Shows& each : *things_) known += (known.empty() ? "" : ", ") + each.name;
    throw NoAnswer("nothing called \"" + name + "\" is seen; there is " + known);
  }

 private:
  std::function<Shown()> look_;
  mutable std::optional<Shown> things_;
};

// A question about the cards that a seat sees, which gives a number.
class CardWord {
 public:
  enum Of { all, own, shared };
  enum What { sum, distinct, largest_group, category, is_one_of };

  // The sum of a number for each kind: a count, where these are 0 and 1.
  static CardWord sum_of(Of of, std::vector<double> by_kind) {
    CardWord word(of, sum);
    word.by_kind_ = std::move(by_kind);
    return word;
  }
  // Of groups, numbered by kind: how many there are, or how many cards the largest has.
  static CardWord groups(Of of, What what, std::vector<double> by_kind) {
    CardWord word(of, what);
    word.by_kind_ = std::move(by_kind);
    return word;
  }
  // The place of its category, the worst being 0.
  static CardWord category_by(Of of, HandRules rules) {
    CardWord word(of, category);
    word.evaluate_ = std::make_shared<const HandEvaluator>(std::move(rules));
    return word;
  }
  // Whether the cards are one of these hands, each in rising order.
  static CardWord one_of(Of of, std::set<std::vector<Card>> hands) {
    CardWord word(of, is_one_of);
    word.hands_ = std::make_shared<const std::set<std::vector<Card>>>(std::move(hands));
    return word;
  }

  double operator()(const SeenThings& seen) const {
    std::vector<Card> cards;
    if (of_ != shared) cards = seen.own;
    if (of_ != own) cards.insert(cards.end(), seen.shared.begin(), seen.shared.end());
    switch (what_) {
      case sum: {
        double total = 0;
        for (const Card card : cards) total += by_kind_[card];
        return total;
      }
      case category: return static_cast<double>((*evaluate_)(cards.data(), cards.size()).category);
      case is_one_of: std::sort(cards.begin(), cards.end()); return hands_->count(cards) > 0 ? 1 : 0;
      default: return of_groups(cards);
    }
  }

 private:
  CardWord(Of of, What what) : of_(of), what_(what) {}

  double of_groups(const std::vector<Card>& cards) const {
    std::map<double, double> sizes;
    double largest = 0;
    for (const Card card : cards) largest = std::max(largest, ++sizes[by_kind_[card]]);
    return what_ == distinct ? static_cast<double>(sizes.size()) : largest;
  }

  Of of_;
  What what_;
  std::vector<double> by_kind_;
  std::shared_ptr<const HandEvaluator> evaluate_;
  std::shared_ptr<const std::set<std::vector<Card>>> hands_;
};

// An expression of the language of questions about what a seat sees. TRUE is 1.
class SeenCondition {
 public:
  static SeenCondition of_number(double number) {
    SeenCondition made(constant);
    made.number_ = number;
    return made;
  }
  static SeenCondition of_text(std::string text) {
    SeenCondition made(words);
    made.text_ = std::move(text);
    return made;
  }
  static SeenCondition of_name(std::string name) {
    SeenCondition made(seen_as);
    made.text_ = std::move(name);
    return made;
  }
  static SeenCondition of_cards(CardWord word) {
    SeenCondition made(of_seen_cards);
    made.word_ = std::make_shared<const CardWord>(std::move(word));
    return made;
  }
  // A function by its name in the language, of these.
  static SeenCondition of_function(const std::string& name, std::vector<SeenCondition> parts) {
    SeenCondition made(function);
    made.does_ = function_called(name);
    made.text_ = name;
    made.parts_ = std::move(parts);
    return made;
  }

  bool holds(const SeenThings& seen) const { return number(seen) != 0; }

  double number(const SeenThings& seen) const {
    switch (what_) {
      case constant: return number_;
      case words: throw NoAnswer("\"" + text_ + "\" is text where a number is wanted");
      case seen_as: return the_number(seen.called(text_));
      case of_seen_cards: return (*word_)(seen);
      case function: break;
    }
    return applied(seen);
  }

 private:
  enum What { constant, words, seen_as, of_seen_cards, function };
  enum Does {
    plus, minus, times, over, power, modulo, whole_part, equal, unequal, less, at_most, more, at_least, both, either,
    negated, one_only, same, among, absolute, root, down, up, nearest, least, most, choice
  };

  explicit SeenCondition(What what) : what_(what) {}

  static Does function_called(const std::string& name) {
    static const std::map<std::string, Does> known{
        {"+", plus}, {"-", minus}, {"*", times}, {"/", over}, {"^", power}, {"%%", modulo}, {"%/%", whole_part},
        {"==", equal}, {"!=", unequal}, {"<", less}, {"<=", at_most}, {">", more}, {">=", at_least}, {"&", both},
        {"&&", both}, {"|", either}, {"||", either}, {"!", negated}, {"xor", one_only}, {"(", same}, {"%in%", among},
        {"abs", absolute}, {"sqrt", root}, {"floor", down}, {"ceiling", up}, {"round", nearest}, {"min", least},
        {"max", most}, {"ifelse", choice}};
    const auto found = known.find(name);
    if (found == known.end()) throw std::invalid_argument("there is no function \"" + name + "\"");
    return found->second;
  }

  static double the_number(const Shows& shown) {
    if (shown.in_words) throw NoAnswer("\"" + shown.name + "\" is text where a number is wanted");
    if (shown.values.size() != 1)
      throw NoAnswer("\"" + shown.name + "\" has " + std::to_string(shown.values.size()) +
                              " values; ask for one with %in%");
    return shown.values[0];
  }

  double applied(const SeenThings& seen) const {
    const auto at = [&](std::size_t i) { return parts_[i].number(seen); };
    switch (does_) {
      case plus: return parts_.size() == 1 ? at(0) : at(0) + at(1);
      case minus: return parts_.size() == 1 ? -at(0) : at(0) - at(1);
      case times: return at(0) * at(1);
      case over: return at(0) / not_zero(at(1));
      case power: return std::pow(at(0), at(1));
      case modulo: {
        const double one = at(0), other = not_zero(at(1));
        return one - std::floor(one / other) * other;
      }
      case whole_part: return std::floor(at(0) / not_zero(at(1)));
      case equal: return equals(seen);
      case unequal: return !equals(seen);
      case less: return at(0) < at(1);
      case at_most: return at(0) <= at(1);
      case more: return at(0) > at(1);
      case at_least: return at(0) >= at(1);
      case both: return at(0) != 0 && at(1) != 0;
      case either: return at(0) != 0 || at(1) != 0;
      case negated: return at(0) == 0;
      case one_only: return (at(0) != 0) != (at(1) != 0);
      case same: return at(0);
      case among: return is_among(seen);
      case absolute: return std::abs(at(0));
      case root: return std::sqrt(at(0));
      case down: return std::floor(at(0));
      case up: return std::ceil(at(0));
      case nearest: return std::nearbyint(at(0));
      case choice: return at(0) != 0 ? at(1) : at(2);
      case least: case most: break;
    }
    double found = at(0);
    for (std::size_t i = 1; i < parts_.size(); ++i)
      found = does_ == least ? std::min(found, at(i)) : std::max(found, at(i));
    return found;
  }
  double not_zero(double divisor) const {
    if (divisor == 0) throw NoAnswer("a condition divides by zero; guard it with ifelse()");
    return divisor;
  }

  // All values as text, of what is text.
  bool has_texts(const SeenThings& seen) const {
    return what_ == words || (what_ == seen_as && seen.called(text_).in_words);
  }
  std::vector<std::string> texts(const SeenThings& seen) const {
    if (what_ == words) return {text_};
    return seen.called(text_).words;
  }
  bool equals(const SeenThings& seen) const {
    const SeenCondition &one = parts_[0], &other = parts_[1];
    if (!one.has_texts(seen) && !other.has_texts(seen)) return one.number(seen) == other.number(seen);
    if (!one.has_texts(seen) || !other.has_texts(seen))
      throw NoAnswer("a condition compares text with a number");
    return joined(one.texts(seen)) == joined(other.texts(seen));
  }
  static std::string joined(const std::vector<std::string>& texts) {
    std::string all;
    for (const std::string& text : texts) all += (all.empty() ? "" : ", ") + text;
    return all;
  }
  // Whether the first is one of the others, which are several constants or what is seen by one name.
  bool is_among(const SeenThings& seen) const {
    const SeenCondition& one = parts_[0];
    for (std::size_t i = 1; i < parts_.size(); ++i) {
      const SeenCondition& other = parts_[i];
      if (one.has_texts(seen)) {
        if (!other.has_texts(seen)) continue;
        const std::string text = joined(one.texts(seen));
        for (const std::string& each : other.texts(seen))
          if (each == text) return true;
      } else if (other.what_ == seen_as) {
        const double number = one.number(seen);
        for (const double each : seen.called(other.text_).values)
          if (each == number) return true;
      } else if (!other.has_texts(seen) && other.number(seen) == one.number(seen)) {
        return true;
      }
    }
    return false;
  }

  What what_;
  double number_ = 0;
  std::string text_;
  Does does_ = same;
  std::shared_ptr<const CardWord> word_;
  std::vector<SeenCondition> parts_;
};

}  // namespace habanera
