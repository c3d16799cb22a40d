#pragma once

#include "hand.h"
#include "shuffle.h"

#include "habanera/draw/draw.hpp"
#include "habanera/question/counting.hpp"
#include "habanera/question/question.hpp"

// Questions from R: see question_spec() there.

template <class Value>
std::vector<Value> to_numbers(SEXP x) {
  const Rcpp::NumericVector numbers(x);
  std::vector<Value> values;
  for (const double number : numbers) values.push_back(static_cast<Value>(to_count(number)));
  return values;
}

inline habanera::Words to_words(const Rcpp::List& spec) {
  habanera::Words words;
  words.start = to_count(spec["start"]);
  // A card may take away from a sum; unsigned words wrap around and add up all the same.
  for (const double added : Rcpp::NumericVector(spec["added"]))
    words.added.push_back(static_cast<std::uint64_t>(static_cast<std::int64_t>(added)));
  for (const Rcpp::List groups : Rcpp::List(spec["groups"]))
    words.groups.push_back({to_numbers<std::uint16_t>(groups["group"]),
                            static_cast<std::size_t>(to_count(groups["groups"])), to_count(groups["step"]),
                            to_count(groups["size"]), Rcpp::as<bool>(groups["largest"])});
  for (const Rcpp::List place : Rcpp::List(spec["places"]))
    words.places.push_back({static_cast<std::size_t>(to_count(place["position"])), to_count(place["step"]),
                            to_numbers<std::uint8_t>(place["holds"])});
  for (const Rcpp::List category : Rcpp::List(spec["categories"]))
    words.categories.push_back({habanera::HandEvaluator(to_hand_rules(category["rules"])), to_count(category["step"])});
  words.cells = to_count(spec["cells"]);
  return words;
}

inline habanera::Condition to_condition(const Rcpp::List& spec) {
  return {to_words(spec["words"]), to_numbers<std::uint8_t>(spec["holds"])};
}

inline std::vector<habanera::Keep> to_ways(const Rcpp::List& specs) {
  std::vector<habanera::Keep> ways;
  for (const Rcpp::List spec : specs)
    ways.push_back({static_cast<habanera::Keep::What>(Rcpp::as<int>(spec["what"])),
                    to_numbers<std::uint16_t>(spec["value"]),
                    static_cast<std::size_t>(to_count(spec["values"])),
                    static_cast<std::size_t>(to_count(spec["at_least"]))});
  return ways;
}

inline habanera::Question to_question(const Rcpp::List& spec) {
  habanera::Question question;
  question.held = to_kinds(spec["held"]);
  question.size = static_cast<std::size_t>(to_count(spec["size"]));
  for (const Rcpp::List stage : Rcpp::List(spec["stages"])) {
    if (Rcpp::as<std::string>(stage["stage"]) == "redraw")
      question.stages.push_back(habanera::Redraw{
          to_condition(stage["condition"]), to_numbers<std::size_t>(stage["sizes"]),
          to_numbers<std::size_t>(stage["put_back"]), to_numbers<std::uint8_t>(stage["under_first"])});
    else
      question.stages.push_back(habanera::Exchange{to_ways(stage["ways"]),
                                                   static_cast<std::size_t>(to_count(stage["times"]))});
  }
  question.turns = static_cast<std::size_t>(to_count(spec["turns"]));
  question.turn_size = static_cast<std::size_t>(to_count(spec["turn_size"]));
  question.words = to_words(spec["words"]);
  for (const Rcpp::List word : Rcpp::List(spec["turn_words"]))
    question.turn_words.push_back(
        {to_condition(word["condition"]), Rcpp::as<bool>(word["every"]), to_count(word["step"])});
  question.cells = to_count(spec["cells"]);
  return question;
}

inline habanera::Until to_until(const Rcpp::List& spec) {
  return {static_cast<std::size_t>(to_count(spec["most"])), to_condition(spec["condition"])};
}

// Calls use(play) with what the spec plays: a question, or turning cards until.
template <class Use>
auto with_play(const Rcpp::List& spec, Use&& use) {
  if (Rcpp::as<bool>(spec["until"])) {
    const habanera::Until until = to_until(spec);
    return use(habanera::UntilTrial(until));
  }
  const habanera::Question question = to_question(spec);
  return use(habanera::QuestionTrial(question));
}
