#include "game.h"
#include "habanera_r/function_player.hpp"
#include "question.h"

#include "habanera/game/seated.hpp"
#include "habanera/video_poker/many_pays.hpp"
#include "habanera/video_poker/players.hpp"
#include "habanera/video_poker/solved.hpp"
#include "habanera/video_poker/video_poker.hpp"

namespace {

using habanera::VideoPoker;
using Rules = habanera::VideoPokerRules;
using SeatPlayer = std::shared_ptr<const habanera::Player<VideoPoker::View>>;

std::vector<std::int64_t> to_pays(const Rcpp::NumericVector& pays) {
  std::vector<std::int64_t> whole;
  for (const double pay : pays) whole.push_back(static_cast<std::int64_t>(to_count(pay)));
  return whole;
}

std::size_t to_hand_size(const Rcpp::List& spec) { return static_cast<std::size_t>(to_count(spec["cards"])); }

Rules to_rules(const Rcpp::List& spec) {
  Rules rules;
  rules.hands = to_hand_rules(spec["hands"]);
  rules.pays = to_pays(spec["pays"]);
  rules.lines = Rcpp::as<std::vector<std::string>>(spec["lines"]);
  rules.stake = static_cast<std::int64_t>(to_count(spec["stake"]));
  rules.worth = std::make_shared<const habanera::WorthOnDemand>(rules.hands, to_kinds(spec["deck"]),
                                                                to_hand_size(spec), rules.pays);
  return rules;
}

habanera::KeepRule to_keep_rule(const Rcpp::List& spec, const habanera::HandRules& hands) {
  using Rule = habanera::KeepRule;
  Rule rule;
  rule.what = to_choice<Rule::What>(spec, "what",
                                    {{"made", Rule::made}, {"towards", Rule::towards}, {"open", Rule::open},
                                     {"inside", Rule::inside}, {"high", Rule::high},
                                     {"high_suited", Rule::high_suited}, {"condition", Rule::condition}});
  rule.cards = static_cast<std::size_t>(to_count(spec["cards"]));
  rule.from_rank = static_cast<std::size_t>(to_count(spec["from_rank"]));
  if (rule.what == Rule::condition) rule.asked = to_condition(spec["asked"]);
  if (!Rf_isNull(spec["hands"])) {
    habanera::HandRules of_two = hands;
    of_two.categories = to_hand_rules(spec["hands"]).categories;
    rule.evaluate.emplace(of_two);
  }
  return rule;
}

habanera::KeepList to_keep_list(const Rcpp::List& specs, const Rules& rules) {
  std::vector<habanera::KeepRule> list;
  for (const Rcpp::List spec : specs) list.push_back(to_keep_rule(spec, rules.hands));
  return {list, rules.hands, rules.worth->size()};
}

// The hand as R has it.
struct HandView {
  std::size_t size;
  Rcpp::IntegerVector operator()(const VideoPoker::View& view) const { return hand(view.dealt()); }
  Rcpp::IntegerVector hand(const std::array<habanera::Card, habanera::most_kept>& dealt) const {
    Rcpp::IntegerVector kinds;
    for (std::size_t i = 0; i < size; ++i) kinds.push_back(dealt[i] + 1);
    return kinds;
  }
};

SeatPlayer to_player(const Rcpp::List& spec, const Rules& rules) {
  const std::string name = Rcpp::as<std::string>(spec["name"]);
  if (name == "solved") return std::make_shared<habanera::BestKeeper>(rules.worth);
  if (name == "keep") return std::make_shared<habanera::ListKeeper>(to_keep_list(spec["list"], rules));
  if (name == "random") return std::make_shared<habanera::RandomPlayer<VideoPoker::View>>();
  if (name == "with") return function_player<VideoPoker::View>(spec["f"], HandView{rules.worth->size()});
  Rcpp::stop("internal error: no player is called \"%s\"", name);
}

}  // namespace

// [[Rcpp::export(rng = false)]]
SEXP core_video_poker(Rcpp::List spec) {
  const Rules rules = to_rules(spec);
  return game_pointer(std::make_unique<habanera::Playable<habanera::Seated<VideoPoker>>>(
      habanera::Seated<VideoPoker>::Rules{rules, {to_player(spec["player"], rules)}}));
}

// The mean pay, in units, of each way to keep cards of a hand, by the number whose bits are the cards kept.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_keep_ways(Rcpp::List spec, Rcpp::IntegerVector hand) {
  std::array<habanera::Card, habanera::most_kept> cards{};
  const std::vector<habanera::Card> kinds = to_kinds(hand);
  std::copy(kinds.begin(), kinds.end(), cards.begin());
  const std::vector<double> worth = habanera::BestKeeper(to_rules(spec).worth).worth_of_moves(cards);
  return {worth.begin(), worth.end()};
}

// A deck made ready for the pays of core_keep_mean().
// [[Rcpp::export(rng = false)]]
SEXP core_keep_deck(Rcpp::List spec) {
  return Rcpp::XPtr<habanera::SolvedDeck>(
      new habanera::SolvedDeck(to_hand_rules(spec["hands"]), to_kinds(spec["deck"]), to_hand_size(spec)));
}

// [[Rcpp::export(rng = false)]]
double core_keep_mean(SEXP deck, Rcpp::NumericVector pays) {
  return Rcpp::XPtr<habanera::SolvedDeck>(deck).checked_get()->mean_pay(to_pays(pays), to_bound(1));
}

// What best play brings by many pay tables, a row each, of a spec whose own pays do not matter.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_keep_means(Rcpp::List spec, Rcpp::NumericMatrix pays) {
  std::vector<habanera::ManyPays::Pays> tables;
  for (int row = 0; row < pays.nrow(); ++row) {
    const Rcpp::NumericVector table = pays(row, Rcpp::_);
    tables.emplace_back(table.begin(), table.end());
  }
  return Rcpp::wrap(habanera::ManyPays(to_hand_rules(spec["hands"]), to_kinds(spec["deck"]), to_hand_size(spec),
                                       std::move(tables), to_bound(1)).means(to_bound(1)));
}

// What the player keeps wrongly, and what he should, by the numbers (from 1) of the first of `described` that tells it;
// where none does, beyond them by how many cards are kept (0 first); with the dearest hand as an example.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_keep_mistakes(Rcpp::List spec, Rcpp::List described) {
  const Rules rules = to_rules(spec);
  const auto found = habanera::KeepMistakes(rules, to_keep_list(described, rules))(*to_player(spec["player"], rules),
                                                                                  to_bound(1));
  Rcpp::NumericVector played, best, how_often, loss, kept, should;
  Rcpp::List hands;
  for (const auto& [labels, mistake] : found) {
    played.push_back(static_cast<double>(labels.first) + 1);
    best.push_back(static_cast<double>(labels.second) + 1);
    how_often.push_back(mistake.how_often);
    loss.push_back(mistake.loss);
    kept.push_back(static_cast<double>(mistake.example.kept));
    should.push_back(static_cast<double>(mistake.best));
    hands.push_back(HandView{rules.worth->size()}.hand(mistake.example.dealt));
  }
  return Rcpp::List::create(Rcpp::Named("played") = played, Rcpp::Named("best") = best,
                            Rcpp::Named("how_often") = how_often, Rcpp::Named("loss") = loss,
                            Rcpp::Named("kept") = kept, Rcpp::Named("should") = should, Rcpp::Named("hands") = hands);
}
