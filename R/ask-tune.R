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
#' it. Whether a wish holds is told by interval arithmetic (Moore 1966, ch. 3). Of a shuffle's distance without a closed
#' form a lower bound alone is known, so that a wish for less is surely missed or stays open.
#'
#' @param x A game; a question of [draws()]; a [payout()] of an exact answer, its pays named by values; or a
#'   [procedure()], which is shuffled with once, on 52 cards, unless `over` says otherwise.
#' @param over What may be changed, a list by name, each with the values to try: rules (`cards_each = 6:22`), `players`,
#'   lines of a pay table (`"full house" = 6:12`), and `copies`, a list of numbers of copies by conditions on cards
#'   (`copies = list('rank == "A"' = 0:4)`); of draws `size` and `copies`, of a payout its lines by their values and
#'   `stake`, too; of a shuffle `procedure`, `times` and `cards`. Combinations that contradict themselves are passed
#'   over and counted. Of more than 20,000 combinations those along long sequences of numbers are tried coarsely first,
#'   then near what may still meet the wishes: the others, between such as surely miss the same, are not tried, which is
#'   told. Or the name of a file (.yaml, .json) that holds `over`, `copies`, `want`, `least`, `most`, `changes`,
#'   `line_ups`, in which "6:22" stands for the numbers from 6 to 22; what is given beside it wins.
#' @param want Conditions as text, all of which are to be met: on names of [estimate_names()], of draws on columns that
#'   are TRUE or FALSE or numbers; on `edge` (the house's), `seat_spread` (the largest less the smallest chance of a
#'   seat to win) and `minutes` (with `minutes_p1` to `minutes_p99`); of a payout on `edge`, `return_to_player`,
#'   `hit_frequency`, `mean_pay`, `std_deviation`; of a shuffle on `distance`, `gain` and `seconds` (see [mixing()]); on
#'   `now(NAME)`, what an estimate is by the rules as they are; on rules themselves (`"cards_each * seats <= 44"`,
#'   `"printable(natural_pays)"`: a fraction with a denominator up to 10).
#' @param least,most `NULL`, or a number made of estimates, as text, that is to be least, or most, among the rules that
#'   meet the wishes: `least = "abs(edge - 0.02)"`.
#' @param line_ups `NULL`, or a list of players, or of lists with one for each seat: wishes must hold at every one of
#'   them, and the worst is named.
#' @param changes `NULL`, or a whole number: at most so many rules are other than now.
#' @param nsim The most trials that a candidate plays.
#' @param seconds After so long the race ends, and says what is open.
#' @param checkpoint A file: what is known is kept in it at each look, and a call that finds it goes on from there. What
#'   is still open then plays its trials again, what is decided does not.
#' @param seed,threads,anew,progress As in [simulate()][simulate.habanera_experiment].
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
#'   cannot be understood or that contradict each other; `habanera_error_work` for more than 20,000 combinations that
#'   may meet the wishes, and for wishes so narrow that no candidate could meet them surely within `nsim`; before
#'   anything is played.
#' @seealso [vary_rules()] for a whole grid, [price_for()] for a single price.
#' @examples
#' tune_rules(game_war(cards_each = 5), list(face_down = 0:3), want = "rounds_p90 <= 20", nsim = 4000, seed = 1)
#' tune_rules(game_high_card(), list(ties = c("bank", "half_back", "push"), packs = c(1, 6)),
#'            want = c("edge > 0.01", "edge < 0.04"))
#' tune_rules(procedure("riffle"), list(procedure = c("riffle", "riffle, cut"), times = 1:12), want = "distance < 0.1",
#'            least = "seconds", nsim = 4000, seed = 1)
#' @export
tune_rules <- function(x, over, want = NULL, least = NULL, most = NULL, line_ups = NULL, changes = NULL, nsim = 1e6,
                       seed = NULL, threads = NULL, seconds = 120, level = 0.05, seconds_per_round = NULL,
                       checkpoint = NULL, anew = FALSE, progress = NULL) {
  check_given()
  call <- rlang::current_env()
  check_whole(nsim, first_look, 1e9)
  check_number(seconds, 0, 1e6, "seconds", call)
  check_between(level, 0, 1)
  if (!is.null(changes)) check_whole(changes, 0)
  if (!is.null(seconds_per_round)) check_number(seconds_per_round, 0.01, 1e5, "seconds_per_round", call)
  if (check_flag(anew) && is.null(checkpoint)) refuse("`anew` goes with `checkpoint`.")
  checkpoint <- check_checkpoint(checkpoint, call)
  run <- list(nsim = nsim, seconds = seconds, seed = seed_of_race(seed, checkpoint, anew, call),
              threads = resolve_threads(threads, call), level = level, seconds_per_round = seconds_per_round,
              checkpoint = checkpoint, anew = anew, progress = progress)
  subject <- tuning_subject(x, run, call)
  wished <- list(over = over, want = want, least = least, most = most, line_ups = line_ups, changes = changes)
  if (rlang::is_string(over)) wished <- with_wishes_from_file(wished, call)
  if (is.null(seconds_per_round)) refuse_minutes(wished[c("want", "least", "most")], subject$names, call)
  begun <- now()
  run_left <- function() replace(run, "seconds", max(0, seconds - (now() - begun)))
  tuning_of <- function(places, of) {
    new_tuning(subject, dimensions, list(places = places, of = of), wished[c("want", "least", "most")],
               subject$line_ups(wished$line_ups, wished$over), run, call)
  }
  dimensions <- subject$dimensions(wished$over)
  tried <- places_to_try(dimensions, wished$changes, function(places, of) {
    judged_shortly(tuning_of(places, of), run_left())
  }, call)
  tuning <- tuning_of(tried$places, tried$of)
  tuning$narrowed <- if (tried$of > nrow(tried$places)) tried[c("of", "trials")]
  new_tuned(tuning, run_race(tuning, run_left()), run)
}

# All that a race needs to know. `tried` are the `places` that take part, `of` all that there are.
new_tuning <- function(subject, dimensions, tried, wished, line_ups, run, call) {
  known <- subject$names
  rules <- setdiff(subject$rules, known)
  wishes <- parsed_wishes(wished$want, known, rules, call)
  aim <- parsed_aims(wished, known, rules, call)
  if (!length(wishes) && is.null(aim)) refuse("Say what is wished for: `want`, `least` or `most`.", call = call)
  refuse_contradiction(wishes, call)
  found <- possible_candidates(subject, dimensions, tried$places, call)
  found <- kept_by_rules(subject, found, wishes, call)
  names <- unique(unlist(lapply(c(wishes, list(aim)), `[[`, "estimates")))
  tuning <- list(subject = subject, dimensions = dimensions, candidates = found$candidates, places = found$places,
                 beside = tried$of - nrow(tried$places),
                 passed_over = found$passed_over, against_rules = found$against_rules,
                 wishes = Filter(function(wish) length(wish$estimates), wishes), aim = aim, names = names,
                 line_ups = line_ups, candidate_of = rep(seq_along(found$candidates), length(line_ups)),
                 rules = rules_in_wishes(subject, found$candidates, c(wishes, list(aim)), rules, length(line_ups),
                                         call))
  tuning$known <- subject$known(tuning, names)
  to_be_played(tuning, run, call)
}

refuse_minutes <- function(texts, known, call) {
  if (!any(grepl("\\bminutes(_p[0-9]+)?\\b", unlist(texts))) || "minutes" %in% known) return(invisible())
  refuse("A wish on minutes needs `seconds_per_round`, what a round takes at the table.", call = call)
}

parsed_aims <- function(wished, known, rules, call) {
  if (!is.null(wished$least) && !is.null(wished$most)) {
    refuse("Give `least` or `most`, not both; put the other among the wishes.", call = call)
  }
  aim <- parsed_aim(c(wished$least, wished$most), if (is.null(wished$most)) "least" else "most", known, rules, call)
  if (!is.null(aim)) aim$most <- !is.null(wished$most)
  aim
}

# Candidates that wishes on rules alone leave.
kept_by_rules <- function(subject, found, wishes, call) {
  on_rules <- Filter(function(wish) !length(wish$estimates), wishes)
  kept <- rep(TRUE, length(found$candidates))
  for (wish in on_rules) {
    kept <- kept & vapply(found$candidates, function(candidate) {
      rules <- subject$rules_of(candidate)
      isTRUE(interpret(wish$expr, list(values = rules, words = printable_words(wish$expr, rules), rows = 1), call))
    }, NA)
  }
  if (!any(kept)) {
    refuse(sprintf("No combination meets %s.", join_words(quoted(vapply(on_rules, `[[`, "", "text")))), "rules", call)
  }
  list(candidates = found$candidates[kept], places = found$places[kept, , drop = FALSE],
       passed_over = found$passed_over, against_rules = sum(!kept))
}

# Of each printable(RULE) in a wish its answer, by its text.
printable_words <- function(expr, rules) {
  if (!is.call(expr)) return(list())
  if (identical(expr[[1]], quote(printable))) {
    return(rlang::set_names(list(is_printable(rules[[as.character(expr[[2]])]])), expression_text(expr)))
  }
  unlist(lapply(as.list(expr)[-1], printable_words, rules), recursive = FALSE)
}

is_printable <- function(value) {
  is.numeric(value) && length(value) == 1 && any(abs(value * 1:10 - round(value * 1:10)) < 1e-9)
}

# Values of rules that stand beside estimates in wishes, and in what is aimed at, for each row of the race.
rules_in_wishes <- function(subject, candidates, wishes, rules, line_ups, call) {
  beside <- Filter(function(wish) length(wish$estimates) || !is_condition(wish$expr), wishes)
  named <- intersect(rules, unique(unlist(lapply(beside, function(wish) all.vars(wish$expr)))))
  lapply(rlang::set_names(named), function(name) {
    values <- lapply(candidates, function(candidate) subject$rules_of(candidate)[[name]])
    other <- Filter(function(value) !is.numeric(value) || length(value) != 1, values)
    if (length(other)) {
      refuse(sprintf("`%s` can stand beside estimates only where it is a number; here it is %s.", name,
                     quoted(rule_text(other[[1]]))), "rules", call)
    }
    rep(as.double(unlist(values)), line_ups)
  })
}

# What has to be played for the names that are not known, and what is played for it.
to_be_played <- function(tuning, run, call) {
  subject <- tuning$subject
  unknown <- setdiff(tuning$names, names(tuning$known))
  tuning$played <- Filter(function(name) !startsWith(name, "now("), unknown)
  tuning$now_names <- sub("^now\\((.*)\\)$", "\\1", setdiff(unknown, tuning$played))
  names <- union(tuning$played, tuning$now_names)
  tuning$parts <- max(1, sum(vapply(names, subject$parts_of, 0)))
  if (!length(names)) return(tuning)
  tuning$allowed <- subject$allowed_unended(tuning$wishes)
  subject$check_played(names)
  seated <- function(candidate, at) subject$to_play(candidate, tuning$line_ups[[at]], names)
  tuning$present <- lapply(if (length(tuning$now_names)) seq_along(tuning$line_ups), seated, candidate = subject$x)
  tuning$game_at <- remembered(length(tuning$candidate_of), function(row) {
    seated(tuning$candidates[[tuning$candidate_of[row]]], line_up_of(tuning, row))
  })
  refuse_undecidable(tuning, run, call)
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

# A chance that must lie between two numbers too near for `nsim` trials: nothing could be called sure.
refuse_undecidable <- function(tuning, run, call) {
  ends <- wished_ends(tuning$wishes)
  error <- error_of_each(tuning, run, length(look_sizes(run$nsim)))
  for (name in intersect(Filter(tuning$subject$is_share, tuning$played), ends$name)) {
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
