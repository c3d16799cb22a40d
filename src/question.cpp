#include "question.h"

#include "draw.h"

#include "habanera/question/counting.hpp"

namespace {

Rcpp::List pack_entries(const habanera::SparseTally& tally) {
  const auto entries = tally.entries();
  const auto size = static_cast<R_xlen_t>(entries.size());
  Rcpp::NumericVector key(size), n(size), example(size);
  for (R_xlen_t i = 0; i < size; ++i) {
    const auto& entry = entries[static_cast<std::size_t>(i)];
    key[i] = static_cast<double>(entry.outcome);
    n[i] = static_cast<double>(entry.n);
    example[i] = static_cast<double>(entry.example);
  }
  return Rcpp::List::create(Rcpp::Named("key") = key, Rcpp::Named("n") = n,
                            Rcpp::Named("example_trial") = example);
}

// What one trial reported: its keys, and the hand at its end.
struct Played {
  std::vector<double> keys;
  Rcpp::IntegerVector hand;
};

template <class Play, class Shuffle>
Played play_once(Play& play, const std::vector<habanera::Card>& table, Shuffle&& shuffle) {
  Played played;
  play(table, shuffle, [&](std::uint64_t key) { played.keys.push_back(static_cast<double>(key)); });
  for (const habanera::Card card : play.hand()) played.hand.push_back(card + 1);
  return played;
}

Rcpp::List pack_played(const std::vector<Played>& all) {
  Rcpp::List keys(static_cast<R_xlen_t>(all.size())), hands(static_cast<R_xlen_t>(all.size()));
  for (std::size_t i = 0; i < all.size(); ++i) {
    keys[static_cast<R_xlen_t>(i)] = Rcpp::wrap(all[i].keys);
    hands[static_cast<R_xlen_t>(i)] = all[i].hand;
  }
  return Rcpp::List::create(Rcpp::Named("keys") = keys, Rcpp::Named("hands") = hands);
}

}  // namespace

// [[Rcpp::export(rng = false)]]
Rcpp::List core_count_question(Rcpp::List spec, double seed, double first, double count, int threads) {
  const habanera::Draw draw = to_draw(spec["draw"]);
  const auto run = [&](const auto& what, auto&& counter) {
    return pack_entries(counter(draw, what, to_count(seed), to_count(first), to_count(count),
                                to_crew(threads)));
  };
  if (Rcpp::as<bool>(spec["until"])) return run(to_until(spec), habanera::count_until);
  return run(to_question(spec), habanera::count_question);
}

// Single trials: for each its keys, turn by turn, and the kinds in the hand at its end.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_trial_question(Rcpp::List spec, double seed, Rcpp::NumericVector trials) {
  const habanera::Draw draw = to_draw(spec["draw"]);
  return with_play(spec, [&](auto play) {
    std::vector<Played> all;
    habanera::Workspace work;
    habanera::Silent silent;
    std::vector<habanera::Card> table;
    for (const double trial : trials) {
      habanera::RandomChance chance(to_count(seed), to_count(trial));
      draw.lay(table, chance);
      all.push_back(play_once(play, table, [&] { draw(table, work, chance, silent); }));
    }
    return pack_played(all);
  });
}

// The same on decks shuffled elsewhere, one in each row; nothing is shuffled again.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_play_on(Rcpp::List spec, Rcpp::IntegerMatrix tables) {
  return with_play(spec, [&](auto play) {
    std::vector<Played> all;
    for (int row = 0; row < tables.nrow(); ++row) {
      const Rcpp::IntegerVector kinds = tables(row, Rcpp::_);
      all.push_back(play_once(play, to_kinds(kinds), [] {}));
    }
    return pack_played(all);
  });
}

// The index of what words say of whole hands, one in each row.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_read_hands(Rcpp::List words, Rcpp::IntegerMatrix hands) {
  habanera::Reading reading(to_words(words));
  Rcpp::NumericVector index(hands.nrow());
  for (int row = 0; row < hands.nrow(); ++row) {
    const Rcpp::IntegerVector kinds = hands(row, Rcpp::_);
    reading.begin();
    for (const habanera::Card kind : to_kinds(kinds)) reading.draw(kind);
    index[row] = static_cast<double>(reading.index());
  }
  return index;
}
