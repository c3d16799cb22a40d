#include "blackjack.h"

#include "habanera_r/convert.hpp"

#include "habanera/blackjack/advice.hpp"
#include "habanera/blackjack/best_table.hpp"
#include "habanera/blackjack/blackjack.hpp"
#include "habanera/blackjack/mistakes.hpp"
#include "habanera/blackjack/solved.hpp"

namespace {

using habanera::BestKnows;
using habanera::BlackjackPieces;
using habanera::StrategyTable;
using habanera::UpCardPlay;

// `shoe`: a list of the `counts` of each kind, whether it is `endless`, and the `threads` to work with. What was worked
// out of the last shoe is kept: what is asked next is often of the same, or of the same by other rules.
habanera::SolvedBlackjack to_solved(const Rcpp::List& spec, const Rcpp::List& shoe, int threads) {
  static const auto last = std::make_shared<habanera::LawBook>();
  return habanera::SolvedBlackjack(to_blackjack_rules(spec), Rcpp::as<std::vector<double>>(shoe["counts"]),
                                   Rcpp::as<bool>(shoe["endless"]), to_crew(threads), last);
}
habanera::SolvedBlackjack to_solved(const Rcpp::List& spec, const Rcpp::List& shoe) {
  return to_solved(spec, shoe, Rcpp::as<int>(shoe["threads"]));
}

BestKnows to_knows(const std::string& knows) {
  if (knows == "total") return BestKnows::total;
  if (knows == "two_cards") return BestKnows::two_cards;
  if (knows == "all_cards") return BestKnows::all_cards;
  Rcpp::stop("internal error: best play cannot know \"%s\"", knows);
}

std::string word_of(const std::vector<habanera::Word>& words, std::int64_t number) {
  for (const habanera::Word& word : words)
    if (word.number == number) return word.name;
  return "none";
}
std::string move_name(std::size_t move) {
  static const std::vector<habanera::Word> words = habanera::Blackjack::move_words();
  return word_of(words, static_cast<std::int64_t>(move));
}
std::string total_name(std::int64_t total) {
  static const std::vector<habanera::Word> words = habanera::blackjack_words::totals();
  return word_of(words, total);
}
std::string opening_name(std::int64_t opening) {
  static const std::vector<habanera::Word> words = habanera::blackjack_words::openings();
  return word_of(words, opening);
}

// All rows of all up cards, in their order.
template <class Row, class Find>
std::vector<Row> over_up_cards(const habanera::SolvedBlackjack& house, Find&& find) {
  std::vector<std::vector<Row>> found(house.shoe().values().size());
  house.each_up_card([&](UpCardPlay& play, std::size_t place) { found[place] = find(play); });
  std::vector<Row> all;
  for (const std::vector<Row>& rows : found) all.insert(all.end(), rows.begin(), rows.end());
  return all;
}

template <class Row, class Read>
Rcpp::NumericVector numbers_of(const std::vector<Row>& rows, Read&& read) {
  Rcpp::NumericVector column(static_cast<R_xlen_t>(rows.size()));
  for (std::size_t i = 0; i < rows.size(); ++i) column[static_cast<R_xlen_t>(i)] = static_cast<double>(read(rows[i]));
  return column;
}
template <class Row, class Read>
Rcpp::CharacterVector words_of(const std::vector<Row>& rows, Read&& read) {
  Rcpp::CharacterVector column(static_cast<R_xlen_t>(rows.size()));
  for (std::size_t i = 0; i < rows.size(); ++i) column[static_cast<R_xlen_t>(i)] = read(rows[i]);
  return column;
}

std::string kind_name(const habanera::TableRow& row) {
  const std::array<const char*, 4> names{"hard", "soft", "pair", "cards"};
  return row.kind == habanera::TableRow::cards && row.split_value ? "split" : names[row.kind];
}

// The columns that say which row it is.
template <class Row>
Rcpp::List packed_rows(const std::vector<Row>& rows) {
  return Rcpp::List::create(
      Rcpp::Named("kind") = words_of(rows, [](const Row& row) { return kind_name(row.row); }),
      Rcpp::Named("value") = numbers_of(rows, [](const Row& row) { return row.row.value; }),
      Rcpp::Named("split") = numbers_of(rows, [](const Row& row) { return row.row.split_value; }),
      Rcpp::Named("early") = numbers_of(rows, [](const Row& row) { return row.row.early; }),
      Rcpp::Named("up") = numbers_of(rows, [](const Row& row) { return row.up; }));
}

void add_cells(Rcpp::IntegerMatrix& cells, int column, const StrategyTable::Row& row) {
  for (int up = 1; up <= 10; ++up) {
    cells(2 * up - 2, column) = row[static_cast<std::size_t>(up)].first;
    cells(2 * up - 1, column) = row[static_cast<std::size_t>(up)].otherwise;
  }
}
template <std::size_t size>
Rcpp::IntegerMatrix packed_cells(const std::array<StrategyTable::Row, size>& rows) {
  Rcpp::IntegerMatrix cells(20, static_cast<int>(size));
  for (std::size_t i = 0; i < size; ++i) add_cells(cells, static_cast<int>(i), rows[i]);
  return cells;
}

Rcpp::List packed_by_cards(const StrategyTable::RowsByCards& rows) {
  const auto size = static_cast<int>(rows.size());
  Rcpp::NumericVector held(size), split(size);
  Rcpp::IntegerMatrix cells(20, size);
  int i = 0;
  for (const auto& [key, row] : rows) {
    held[i] = static_cast<double>(key & ((std::uint64_t{1} << 52) - 1));
    split[i] = static_cast<double>(key >> 52);
    add_cells(cells, i++, row);
  }
  return Rcpp::List::create(Rcpp::Named("held") = held, Rcpp::Named("split") = split, Rcpp::Named("cells") = cells);
}

// What a side bet brings, on three cards of a seat and the dealer: mean, mean of the square, chance to win, in units.
Rcpp::NumericVector side_bet_moments(const habanera::BlackjackRules& rules, const std::vector<double>& counts,
                                     bool endless, std::size_t bet) {
  std::vector<double> left(rules.side_classes, 0);
  double cards = 0;
  for (std::size_t kind = 0; kind < counts.size(); ++kind) {
    left[rules.side_class[kind]] += counts[kind];
    cards += counts[kind];
  }
  const double wear = endless ? 0 : 1;
  double mean = 0, square = 0, won = 0;
  std::size_t place = 0;
  for (std::size_t one = 0; one < rules.side_classes; ++one) {
    for (std::size_t two = 0; two < rules.side_classes; ++two) {
      for (std::size_t up = 0; up < rules.side_classes; ++up) {
        const double net = static_cast<double>(rules.side_bets[bet].net[place++]);
        const double chance = left[one] / cards * std::max(0.0, left[two] - wear * (two == one)) / (cards - wear) *
                              std::max(0.0, left[up] - wear * ((up == one) + (up == two))) / (cards - 2 * wear);
        mean += chance * net;
        square += chance * net * net;
        won += net > 0 ? chance : 0;
      }
    }
  }
  return {mean, square, won};
}

}  // namespace

// What every opening is worth to a player by a table, and what side bets bring.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_blackjack_edge(Rcpp::List spec, Rcpp::List shoe, Rcpp::List table, bool insures) {
  const habanera::SolvedBlackjack house = to_solved(spec, shoe);
  const StrategyTable strategy = to_strategy_table(table);
  using Row = habanera::OpeningWorth;
  const std::vector<Row> rows = over_up_cards<Row>(house, [&](UpCardPlay& play) {
    return habanera::worth_by_opening(play, habanera::TablePolicy(strategy), insures);
  });
  return Rcpp::List::create(
      Rcpp::Named("first_hand") = words_of(rows, [](const Row& row) { return opening_name(row.first_hand); }),
      Rcpp::Named("up") = numbers_of(rows, [](const Row& row) { return row.up; }),
      Rcpp::Named("move") = words_of(rows, [](const Row& row) { return move_name(row.move); }),
      Rcpp::Named("probability") = numbers_of(rows, [](const Row& row) { return row.chance; }),
      Rcpp::Named("net") = numbers_of(rows, [](const Row& row) { return row.worth.net; }),
      Rcpp::Named("staked") = numbers_of(rows, [](const Row& row) { return row.worth.staked; }),
      Rcpp::Named("square") = numbers_of(rows, [](const Row& row) { return row.worth.square; }),
      Rcpp::Named("won") = numbers_of(rows, [](const Row& row) { return row.worth.won; }));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_blackjack_side_bets(Rcpp::List spec, Rcpp::List shoe) {
  const habanera::BlackjackRules rules = to_blackjack_rules(spec);
  const auto counts = Rcpp::as<std::vector<double>>(shoe["counts"]);
  Rcpp::List all;
  for (std::size_t bet = 0; bet < rules.side_bets.size(); ++bet)
    all.push_back(side_bet_moments(rules, counts, Rcpp::as<bool>(shoe["endless"]), bet));
  return all;
}

// The best strategy, as to_strategy_table() reads one.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_blackjack_best(Rcpp::List spec, Rcpp::List shoe, std::string knows) {
  const habanera::SolvedBlackjack house = to_solved(spec, shoe);
  const habanera::BestTable best(house, to_knows(knows));
  return Rcpp::List::create(Rcpp::Named("hard") = packed_cells(best.table().hard),
                            Rcpp::Named("soft") = packed_cells(best.table().soft),
                            Rcpp::Named("pair") = packed_cells(best.table().pair),
                            Rcpp::Named("by_cards") = packed_by_cards(*best.table().by_cards));
}

// What the best play brings the player, in stakes.
// [[Rcpp::export(rng = false)]]
double core_blackjack_best_worth(Rcpp::List spec, Rcpp::List shoe, std::string knows) {
  return habanera::worth_of_best(to_solved(spec, shoe), to_knows(knows));
}

// What every move of the best play is worth.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_blackjack_expected(Rcpp::List spec, Rcpp::List shoe, std::string knows) {
  const habanera::SolvedBlackjack house = to_solved(spec, shoe);
  using Row = habanera::ExpectedRow;
  const std::vector<Row> rows = over_up_cards<Row>(
      house, [&](UpCardPlay& play) { return habanera::ExpectedOfBest(play, to_knows(knows)).rows(); });
  Rcpp::List packed = packed_rows(rows);
  packed.push_back(words_of(rows, [](const Row& row) { return move_name(row.move); }), "move");
  packed.push_back(numbers_of(rows, [](const Row& row) { return row.expected; }), "expected");
  packed.push_back(numbers_of(rows, [](const Row& row) { return row.best; }), "best");
  return packed;
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_blackjack_mistakes(Rcpp::List spec, Rcpp::List shoe, Rcpp::List table, Rcpp::List reference) {
  const habanera::SolvedBlackjack house = to_solved(spec, shoe);
  const StrategyTable player = to_strategy_table(table), best = to_strategy_table(reference);
  using Row = habanera::MistakeRow;
  const std::vector<Row> rows = over_up_cards<Row>(house, [&](UpCardPlay& play) {
    return habanera::mistakes(play, habanera::TablePolicy(player), habanera::TablePolicy(best));
  });
  Rcpp::List packed = packed_rows(rows);
  packed.push_back(words_of(rows, [](const Row& row) { return move_name(row.played); }), "played");
  packed.push_back(words_of(rows, [](const Row& row) { return move_name(row.best); }), "best");
  packed.push_back(numbers_of(rows, [](const Row& row) { return row.how_often; }), "how_often");
  packed.push_back(numbers_of(rows, [](const Row& row) { return row.loss; }), "loss");
  return packed;
}

// What the dealer ends on, by up card, when no other card is known. Totals by name, as outcomes have them.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_blackjack_dealer(Rcpp::List spec, Rcpp::List shoe) {
  const habanera::SolvedBlackjack house = to_solved(spec, shoe, 1);
  Rcpp::NumericVector ups, chances;
  Rcpp::CharacterVector totals;
  house.each_up_card([&](UpCardPlay& play, std::size_t) {
    play.alone().law(0, [&](std::size_t outcome, double chance) {
      ups.push_back(play.up().value);
      totals.push_back(
          total_name(habanera::BlackjackOutcome::total_of(house.pieces(), play.up().law.example(outcome))));
      chances.push_back(chance);
    });
  });
  return Rcpp::List::create(Rcpp::Named("up") = ups, Rcpp::Named("total") = totals,
                            Rcpp::Named("probability") = chances);
}

// `stated`: a list of the `values` of a hand, `up`, `split` (0, or the value of the cards that were split), `pair`,
// `pairs_left` and `hands`, as habanera::StatedHand.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_blackjack_advice(Rcpp::List spec, Rcpp::List shoe, Rcpp::List stated) {
  const habanera::SolvedBlackjack house = to_solved(spec, shoe);
  habanera::StatedHand hand;
  for (const int value : Rcpp::IntegerVector(stated["values"])) hand.values.push_back(static_cast<std::uint8_t>(value));
  hand.up = static_cast<std::uint8_t>(Rcpp::as<int>(stated["up"]));
  hand.split_value = static_cast<std::uint8_t>(Rcpp::as<int>(stated["split"]));
  hand.pair = Rcpp::as<bool>(stated["pair"]);
  hand.pairs_left = Rcpp::as<double>(stated["pairs_left"]);
  hand.hands = Rcpp::as<std::size_t>(stated["hands"]);
  habanera::BlackjackAdvice advice(house, hand);
  using Worth = habanera::BlackjackAdvice::Worth;
  using Ending = habanera::BlackjackAdvice::Ending;
  const auto& moves = advice.moves();
  const auto& endings = advice.endings();
  return Rcpp::List::create(
      Rcpp::Named("move") = words_of(moves, [](const Worth& worth) { return move_name(worth.move); }),
      Rcpp::Named("expected") = numbers_of(moves, [](const Worth& worth) { return worth.expected; }),
      Rcpp::Named("ending_move") = words_of(endings, [](const Ending& ending) { return move_name(ending.move); }),
      Rcpp::Named("total") = words_of(endings, [](const Ending& ending) { return total_name(ending.total); }),
      Rcpp::Named("chance") = numbers_of(endings, [](const Ending& ending) { return ending.chance; }),
      Rcpp::Named("win") = numbers_of(endings, [](const Ending& ending) { return ending.win; }),
      Rcpp::Named("push") = numbers_of(endings, [](const Ending& ending) { return ending.push; }),
      Rcpp::Named("loss") = numbers_of(endings, [](const Ending& ending) { return ending.loss; }));
}
