#' Tune the rules of a game
#'
#' Which rules meet what is wished for, surely, and how near the others come. All candidates play the same deals in a
#' race: what surely misses a wish plays no further, so that most of the work goes to rules that are hard to tell apart.
#'
#' Candidates are looked at after 1,000 trials and at doubled numbers up to `nsim`. With L looks, K candidates, U
#' line-ups and W estimates each bound is wrong with at most the chance `level` / (L K U W), so that all that is called
#' sure is right with at least 1 - `level`, whenever the race ends. Chances lie in exact intervals (Clopper & Pearson
#' 1934), quantiles between order statistics (Conover 1999, section 3.2), means that the rules bound within empirical
#' Bernstein bounds (Maurer & Pontil 2009, theorem 4), other means within Student's t from 1,000 trials on, which is
#' only about so sure: it is said where that is so. An edge that can be worked out is exact, and nothing is played for
#' it. Whether a wish holds is told by interval arithmetic (Moore 1966, ch. 3).
#'
#' @param x A game.
#' @param over What may be changed, a list by name, each with the values to try: rules (`cards_each = 6:22`), `players`,
#'   lines of a pay table (`"full house" = 6:12`), and `copies`, a list of numbers of copies by conditions on cards
#'   (`copies = list('rank == "A"' = 0:4)`). Combinations that contradict themselves are passed over and counted.
#' @param want Conditions as text, all of which are to be met: on names of [estimate_names()]; on `edge` (the house's),
#'   `seat_spread` (the largest less the smallest chance of a seat to win) and `minutes` (with `minutes_p1` to
#'   `minutes_p99`); on `now(NAME)`, what an estimate is by the rules as they are; on rules themselves
#'   (`"cards_each * seats <= 44"`, `"printable(natural_pays)"`: a fraction with a denominator up to 10).
#' @param least,most `NULL`, or a number made of estimates, as text, that is to be least, or most, among the rules that
#'   meet the wishes: `least = "abs(edge - 0.02)"`.
#' @param line_ups `NULL`, or a list of players, or of lists with one for each seat: wishes must hold at every one of
#'   them, and the worst is named.
#' @param changes `NULL`, or a whole number: at most so many rules are other than now.
#' @param nsim The most trials that a candidate plays.
#' @param seconds After so long the race ends, and says what is open.
#' @param seed,threads,progress As in [simulate()][simulate.habanera_experiment].
#' @param level The chance that anything at all is called sure that is not so.
#' @param seconds_per_round What a round takes at the table, for `minutes`.
#' @return A `habanera_tuned`, a data frame with a row for each candidate: what was changed, by name; `changes` (how
#'   many are other than now), `meets` ("yes", "no" or "open", each but the last surely), `best` where something is to
#'   be least or most ("best", "worse", "open", "no"), `worst` (with line-ups, that at which it misses most), `misses`
#'   (the wish that it misses most, at its estimates), `trials` (played), and for each name that a wish holds three
#'   columns: `NAME`, `NAME.low`, `NAME.high` (at the worst line-up). `tidy()`: a row for each candidate and name.
#'   Attributes: `fresh`, what the best of them gave on deals on which nothing was chosen, a data frame as `tidy()` of
#'   counts; `front`, the rows that no other beats in both of two wishes; `trials`, all that were played.
#' @section Errors: `habanera_error_rules` for rules that do not exist; `habanera_error_language` for wishes that
#'   cannot be understood or that contradict each other; `habanera_error_work` for more than 20,000 combinations, and
#'   for wishes so narrow that no candidate could meet them surely within `nsim`; before anything is played.
#' @seealso [vary_rules()] for a whole grid, [price_for()] for a single price.
#' @examples
#' tune_rules(game_war(cards_each = 5), list(face_down = 0:3), want = "rounds_p90 <= 20", nsim = 4000, seed = 1)
#' tune_rules(game_high_card(), list(ties = c("bank", "half_back", "push"), packs = c(1, 6)),
#'            want = c("edge > 0.01", "edge < 0.04"))
#' @export
tune_rules <- function(x, over, want = NULL, least = NULL, most = NULL, line_ups = NULL, changes = NULL, nsim = 1e6,
                       seconds = 120, seed = NULL, threads = NULL, level = 0.05, seconds_per_round = NULL,
                       progress = NULL) {
  check_given()
  call <- rlang::current_env()
  checked_game(x)
  check_whole(nsim, first_look, 1e9)
  check_number(seconds, 0, 1e6, "seconds", call)
  check_between(level, 0, 1)
  if (!is.null(changes)) check_whole(changes, 0)
  if (!is.null(seconds_per_round)) check_number(seconds_per_round, 0.01, 1e5, "seconds_per_round", call)
  run <- list(nsim = nsim, seconds = seconds, seed = resolve_seed(seed), threads = resolve_threads(threads, call),
              level = level, seconds_per_round = seconds_per_round, progress = progress)
  tuning <- new_tuning(x, over, list(want = want, least = least, most = most), line_ups, changes, run, call)
  new_tuned(tuning, run_race(tuning, run), run)
}

# All that a race needs to know.
new_tuning <- function(game, over, wished, line_ups, changes, run, call) {
  base <- with_ending(game)
  known <- tunable_names(base, run$seconds_per_round)
  rules <- Filter(function(name) !name %in% known, names(game$rules))
  wishes <- parsed_wishes(wished$want, known, rules, call)
  aim <- parsed_aims(wished, known, rules, call)
  if (!length(wishes) && is.null(aim)) refuse("Say what is wished for: `want`, `least` or `most`.", call = call)
  refuse_contradiction(wishes, call)
  line_ups <- checked_line_ups(line_ups, game, over, call)
  dimensions <- game_dimensions(game, over, call)
  found <- possible_candidates(game, dimensions, candidate_places(dimensions, changes, call), call)
  found <- kept_by_rules(found, wishes, call)
  names <- unique(unlist(lapply(c(wishes, list(aim)), `[[`, "estimates")))
  tuning <- list(game = game, dimensions = dimensions, games = found$games, places = found$places,
                 passed_over = found$passed_over, against_rules = found$against_rules,
                 wishes = Filter(function(wish) length(wish$estimates), wishes), aim = aim,
                 names = names, line_ups = line_ups, wished = wished, allowed = 0.001,
                 candidate_of = rep(seq_along(found$games), length(line_ups)),
                 rules = rules_in_wishes(found$games, wishes, aim, rules, length(line_ups)))
  to_be_played(with_exact_edges(tuning, run, call), base, run, call)
}

parsed_aims <- function(wished, known, rules, call) {
  if (!is.null(wished$least) && !is.null(wished$most)) {
    refuse("Give `least` or `most`, not both; put the other among the wishes.", call = call)
  }
  aim <- parsed_aim(c(wished$least, wished$most), if (is.null(wished$most)) "least" else "most", known, rules, call)
  if (!is.null(aim)) aim$most <- !is.null(wished$most)
  aim
}

# Players by line-up, each with a name; of a game without line-ups a single one that changes nothing.
checked_line_ups <- function(line_ups, game, over, call) {
  if (is.null(line_ups)) return(list(NULL))
  if (!"players" %in% names(game$rules)) {
    refuse(sprintf("Nobody decides in %s: no `line_ups`.", kind_of(game)$title), call = call)
  }
  if ("players" %in% names(over)) refuse("Give players in `over` or as `line_ups`, not both.", call = call)
  if (!is.list(line_ups) || inherits(line_ups, "habanera_player") || !length(line_ups)) {
    refuse(sprintf("`line_ups` must be a list of players, or of lists with one for each seat, not %s.", said(line_ups)),
           call = call)
  }
  texts <- vapply(line_ups, function(players) rule_text(change_game(game, list(players = players), call)$rules$players),
                  "")
  given <- rlang::names2(line_ups)
  rlang::set_names(line_ups, make.unique(ifelse(nzchar(given), given, texts)))
}

# Candidates that wishes on rules alone leave.
kept_by_rules <- function(found, wishes, call) {
  on_rules <- Filter(function(wish) !length(wish$estimates), wishes)
  kept <- rep(TRUE, length(found$games))
  for (wish in on_rules) {
    kept <- kept & vapply(found$games, function(game) {
      isTRUE(interpret(wish$expr, list(values = game$rules, words = printable_words(wish$expr, game), rows = 1), call))
    }, NA)
  }
  if (!any(kept)) {
    refuse(sprintf("No combination meets %s.", join_words(quoted(vapply(on_rules, `[[`, "", "text")))), "rules", call)
  }
  list(games = found$games[kept], places = found$places[kept, , drop = FALSE], passed_over = found$passed_over,
       against_rules = sum(!kept))
}

# Of each printable(RULE) in a wish its answer, by its text.
printable_words <- function(expr, game) {
  if (!is.call(expr)) return(list())
  if (identical(expr[[1]], quote(printable))) {
    value <- game$rules[[as.character(expr[[2]])]]
    return(rlang::set_names(list(is_printable(value)), expression_text(expr)))
  }
  unlist(lapply(as.list(expr)[-1], printable_words, game), recursive = FALSE)
}

is_printable <- function(value) {
  is.numeric(value) && length(value) == 1 && any(abs(value * 1:10 - round(value * 1:10)) < 1e-9)
}

# Values of rules that stand beside estimates in wishes, for each row of the race.
rules_in_wishes <- function(games, wishes, aim, rules, line_ups) {
  named <- intersect(rules, unique(unlist(lapply(c(wishes, list(aim)), function(wish) all.vars(wish$expr)))))
  of_number <- Filter(function(name) all(vapply(games, function(game) {
    is.numeric(game$rules[[name]]) && length(game$rules[[name]]) == 1
  }, NA)), named)
  lapply(rlang::set_names(of_number), function(name) {
    rep(vapply(games, function(game) as.double(game$rules[[name]]), 0), line_ups)
  })
}

# The edge of each candidate, where it can be worked out.
with_exact_edges <- function(tuning, run, call) {
  wanted <- intersect(c("edge", now_name("edge")), tuning$names)
  if (!length(wanted) || holds_rounds(tuning$game)) return(tuning)
  seated <- function(game, at) at_line_up(game, tuning$line_ups[[at]], call)
  found <- tryCatch({
    edge_of <- edge_of_players(seated(tuning$games[[1]], 1), call)
    bar <- local_progress("Solving", run$progress, length(tuning$candidate_of))
    edges <- vapply(seq_along(tuning$candidate_of), function(row) {
      bar$move(row)
      edge_of(seated(tuning$games[[tuning$candidate_of[row]]], line_up_of(tuning, row)))
    }, 0)
    present <- vapply(seq_along(tuning$line_ups), function(at) edge_of(seated(tuning$game, at)), 0)
    list(edge = edges, present = rep(present, each = length(tuning$games)))
  }, habanera_error_work = function(cnd) NULL)
  if (is.null(found)) return(tuning)
  tuning$known <- rlang::set_names(found, c("edge", now_name("edge")))[wanted]
  tuning
}

line_up_of <- function(tuning, row) (row - 1) %/% length(tuning$games) + 1

at_line_up <- function(game, players, call = NULL) {
  if (is.null(players)) game else change_game(game, list(players = players), call)
}

# What has to be played for the names that are not known, and what is recorded for it.
to_be_played <- function(tuning, base, run, call) {
  unknown <- setdiff(tuning$names, names(tuning$known))
  own <- Filter(function(name) !startsWith(name, "now("), unknown)
  tuning$now_names <- sub("^now\\((.*)\\)$", "\\1", setdiff(unknown, own))
  tuning$played <- own
  estimators <- lapply(union(own, tuning$now_names), estimator, base, run$seconds_per_round)
  tuning$parts <- max(1, sum(vapply(estimators, parts_of, 0)))
  refuse_shoe_quantiles(base, estimators, call)
  if (!is.null(ending_of(base))) {
    together <- Reduce(function(one, other) call("&", one, other), lapply(tuning$wishes, `[[`, "expr"))
    tuning$allowed <- allowed_unended(together, base)
  }
  columns <- unique(c(vapply(estimators, `[[`, "", "column"), ending_of(base)$column))
  seats <- function(game, at) recording(at_line_up(game, tuning$line_ups[[at]]), columns)
  tuning$present <- if (length(tuning$now_names)) lapply(seq_along(tuning$line_ups), seats, game = tuning$game)
  tuning$game_at <- remembered(length(tuning$candidate_of), function(row) {
    seats(tuning$games[[tuning$candidate_of[row]]], line_up_of(tuning, row))
  })
  refuse_undecidable(tuning, estimators, run, call)
  tuning
}

# A function of whole numbers whose answers are kept.
remembered <- function(most, f) {
  kept <- vector("list", most)
  function(at) {
    if (is.null(kept[[at]])) kept[[at]] <<- f(at)
    kept[[at]]
  }
}

refuse_shoe_quantiles <- function(game, estimators, call) {
  if (!holds_rounds(game)) return(invisible())
  if (any(vapply(estimators, function(each) each$kind == "quantile", NA))) {
    refuse("Rounds of a shoe hang together: their quantiles have no bounds. Wish for a mean or a chance.", "rules",
           call)
  }
}

# A chance that must lie between two numbers too near for `nsim` trials: nothing could be called sure.
refuse_undecidable <- function(tuning, estimators, run, call) {
  ends <- wished_ends(tuning$wishes)
  shares <- vapply(estimators, function(each) each$kind == "share", NA)
  error <- error_of_each(tuning, run, length(look_sizes(run$nsim)))
  for (name in intersect(tuning$played[shares[seq_along(tuning$played)]], ends$name)) {
    low <- max(0, ends$low[ends$name == name])
    high <- min(1, ends$high[ends$name == name])
    middle <- (low + high) / 2
    interval <- exact_interval(round(middle * run$nsim), run$nsim, 1 - error)
    if (low == 0 || high == 1 || interval$high - interval$low < high - low) next
    needed <- (2 * stats::qnorm(1 - error / 2) / (high - low))^2 * middle * (1 - middle)
    refuse(sprintf("That %s lies between %s and %s could be sure of no rules within %s; it takes about %s.", name,
                   format_statistic(low), format_statistic(high), count_of(run$nsim, "trial"),
                   format_count(signif(needed, 2))), "work", call)
  }
}
