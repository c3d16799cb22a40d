#include "convert.h"

#include <string>
#include <utility>

#include "habanera/hand/category_counts.hpp"
#include "habanera/hand/showdown.hpp"

namespace {

using Category = habanera::HandCategory;

Category to_category(const std::string& name) {
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
Number or_none(double value, Number none) {
  return value < 0 ? none : static_cast<Number>(value);
}

// The rules as core_hand_rules() in R gives them, over the cards of a catalogue.
habanera::HandRules to_hand_rules(const Rcpp::List& spec) {
  habanera::HandRules rules;
  rules.size = static_cast<std::size_t>(to_count(spec["size"]));
  rules.ranks = static_cast<std::size_t>(to_count(spec["ranks"]));
  rules.suits = static_cast<std::size_t>(to_count(spec["suits"]));
  rules.low_ace = or_none<std::size_t>(Rcpp::as<double>(spec["low_ace"]), habanera::HandRules::no_ace);
  rules.dealt_order = Rcpp::as<bool>(spec["dealt_order"]);
  rules.wild_lowest = Rcpp::as<bool>(spec["wild_lowest"]);
  for (const double rank : Rcpp::NumericVector(spec["rank"])) rules.rank.push_back(static_cast<std::uint8_t>(rank));
  for (const double suit : Rcpp::NumericVector(spec["suit"]))
    rules.suit.push_back(or_none<std::uint8_t>(suit, habanera::HandRules::no_suit));
  for (const int wild : Rcpp::LogicalVector(spec["wild"])) rules.wild.push_back(wild != 0);
  for (const Rcpp::List category : Rcpp::List(spec["categories"]))
    rules.categories.push_back({to_category(Rcpp::as<std::string>(category["what"])),
                                static_cast<std::size_t>(to_count(category["from"]))});
  return rules;
}

}  // namespace

// The place of the category (from 0, the worst) and the strength of hands that lie end to end.
// [[Rcpp::export]]
Rcpp::List core_hand_worth(Rcpp::List rules, Rcpp::IntegerVector codes, Rcpp::IntegerVector sizes) {
  const habanera::HandEvaluator evaluate(to_hand_rules(rules));
  const habanera::HandStrength strength(evaluate.rules());
  const std::vector<habanera::Card> cards = to_kinds(codes);
  Rcpp::NumericVector categories(sizes.size()), strengths(sizes.size());
  std::size_t at = 0;
  for (R_xlen_t i = 0; i < sizes.size(); ++i) {
    const auto size = static_cast<std::size_t>(sizes[i]);
    const habanera::HandWorth worth = evaluate(cards.data() + at, size);
    categories[i] = static_cast<double>(worth.category);
    strengths[i] = static_cast<double>(strength(worth));
    at += size;
    if ((i & 0xffff) == 0xffff) Rcpp::checkUserInterrupt();
  }
  return Rcpp::List::create(Rcpp::Named("category") = categories, Rcpp::Named("strength") = strengths);
}

// How many hands of so many cards there are of each category, the worst first; `codes` are the kinds of the deck, each
// once, with their `copies`.
// [[Rcpp::export]]
Rcpp::NumericVector core_count_categories(Rcpp::List rules, Rcpp::IntegerVector codes, Rcpp::IntegerVector copies,
                                          double size, int threads) {
  const habanera::HandRules by = to_hand_rules(rules);
  const std::vector<habanera::Card> cards = to_kinds(codes);
  std::vector<habanera::DealtKind> deck;
  std::vector<std::size_t> of_rank(by.ranks, 0);
  std::size_t wild = 0;
  for (std::size_t i = 0; i < cards.size(); ++i) {
    const auto count = static_cast<std::size_t>(copies[static_cast<R_xlen_t>(i)]);
    deck.push_back({cards[i], count});
    (by.wild[cards[i]] ? wild : of_rank[by.rank[cards[i]]]) += count;
  }
  const auto held = static_cast<std::size_t>(to_count(size));
  const std::size_t most = of_rank.empty() ? 0 : *std::max_element(of_rank.begin(), of_rank.end());
  const habanera::HandTable table(by, held, std::min(held, most), std::min(held, wild));
  const auto counts = habanera::count_categories(table, deck, held, static_cast<unsigned>(threads));
  return Rcpp::NumericVector(counts.begin(), counts.end());
}

namespace {

habanera::ShowdownSpec to_showdown(const Rcpp::List& spec) {
  habanera::ShowdownSpec showdown;
  for (const Rcpp::IntegerVector cards : Rcpp::List(spec["seats"])) showdown.seats.push_back(to_kinds(cards));
  for (const double unknown : Rcpp::NumericVector(spec["unknown"]))
    showdown.unknown.push_back(static_cast<std::size_t>(to_count(unknown)));
  showdown.board = to_kinds(spec["board"]);
  showdown.board_unknown = static_cast<std::size_t>(to_count(spec["board_unknown"]));
  showdown.rest = to_kinds(spec["rest"]);
  showdown.own_cards = static_cast<std::size_t>(to_count(spec["own_cards"]));
  return showdown;
}

}  // namespace

// What comes of showdowns: all that there can be, or so many trials. Each of `deals` says who has what; a list for
// each, by seat, and how many boards there were. `singles`: no two cards are alike and none is wild; `cards` are in a
// hand.
// [[Rcpp::export]]
Rcpp::List core_showdowns(Rcpp::List rules, Rcpp::List deals, double cards, bool singles, Rcpp::NumericVector trials,
                          double seed, int threads) {
  const habanera::HandRules by = to_hand_rules(rules);
  const auto held = static_cast<std::size_t>(to_count(cards));
  const habanera::StrengthReader reader(by, held, singles);
  std::uint64_t first = 1;
  Rcpp::List packed;
  for (R_xlen_t i = 0; i < deals.size(); ++i) {
    const habanera::ShowdownSpec spec = to_showdown(deals[i]);
    habanera::ShowdownTally tally;
    if (trials.size() == 0) {
      tally = habanera::Showdown(spec, reader, [] { Rcpp::checkUserInterrupt(); }).every();
    } else {
      tally = habanera::play_showdowns(spec, reader, to_count(seed), first, to_count(trials[i]),
                                       static_cast<unsigned>(threads));
      first += to_count(trials[i]);
    }
    const auto seats = static_cast<std::ptrdiff_t>(spec.seats.size());
    const auto numbers = [&](const auto& values) {
      return Rcpp::NumericVector(values.begin(), values.begin() + seats);
    };
    packed.push_back(Rcpp::List::create(Rcpp::Named("win") = numbers(tally.win),
                                        Rcpp::Named("tie") = numbers(tally.tie),
                                        Rcpp::Named("lose") = numbers(tally.lose),
                                        Rcpp::Named("share") = numbers(tally.share),
                                        Rcpp::Named("squares") = numbers(tally.squares),
                                        Rcpp::Named("boards") = static_cast<double>(tally.boards)));
  }
  return packed;
}
