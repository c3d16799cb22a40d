#include "hand.h"

#include "habanera/hand/category_counts.hpp"
#include "habanera/hand/showdown.hpp"

// The place of the category (from 0, the worst) and the strength of hands that lie end to end.
// [[Rcpp::export(rng = false)]]
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
    if ((i & 0xffff) == 0xffff) pause_for_user();
  }
  return Rcpp::List::create(Rcpp::Named("category") = categories, Rcpp::Named("strength") = strengths);
}

// How many hands of so many cards there are of each category, the worst first; `codes` are the kinds of the deck, each
// once, with their `copies`.
// [[Rcpp::export(rng = false)]]
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
  const auto counts = habanera::count_categories(table, deck, held, to_crew(threads));
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

// What reads the strength of hands of so many cards; `singles`: no two cards are alike and none is wild.
// [[Rcpp::export(rng = false)]]
SEXP core_strength_reader(Rcpp::List rules, double cards, bool singles) {
  return Rcpp::XPtr<habanera::StrengthReader>(
      new habanera::StrengthReader(to_hand_rules(rules), static_cast<std::size_t>(to_count(cards)), singles));
}

// What comes of showdowns: all that there can be, or so many trials of each, those of the first deal from trial `first`
// on. Each of `deals` says who has what; a list for each, by seat, and how many boards there were.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_showdowns(SEXP strength_reader, Rcpp::List deals, Rcpp::NumericVector trials, double seed,
                          double first, int threads) {
  const habanera::StrengthReader& reader = *Rcpp::XPtr<habanera::StrengthReader>(strength_reader).checked_get();
  std::uint64_t next = to_count(first);
  Rcpp::List packed;
  for (R_xlen_t i = 0; i < deals.size(); ++i) {
    const habanera::ShowdownSpec spec = to_showdown(deals[i]);
    habanera::ShowdownTally tally;
    if (trials.size() == 0) {
      habanera::StopSign sign(pause_for_user);
      habanera::Showdown showdown(spec, reader);
      showdown.heed(sign);
      tally = showdown.every();
    } else {
      tally = habanera::play_showdowns(spec, reader, to_count(seed), next, to_count(trials[i]),
                                       to_crew(threads));
      next += to_count(trials[i]);
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
