# What the driver must know of a game. Its outcomes are whole numbers in the core and columns of text and numbers
# here; counts of them are read like those of a question without cards of its own.

#' @export
result_kind.habanera_game <- function(experiment) c("game", "outcomes")
#' @export
entries_per_trial.habanera_game <- function(experiment) if (holds_rounds(experiment)) NA else 1

#' @export
adds_up.habanera_game <- function(experiment, n, trials) {
  if (holds_rounds(experiment)) sum(n) >= trials else sum(n) == trials
}

#' @export
total_columns.habanera_game <- function(experiment) {
  c("entries", recorded_totals(experiment), class_columns(experiment))
}

#' @export
total_units.habanera_game <- function(experiment) {
  c(unit_of(experiment, c("entries", recorded_totals(experiment))), class_units(experiment))
}

recorded_totals <- function(game) {
  unlist(lapply(game$record, function(name) {
    words <- category_words(game, name)
    if (is.null(words)) name else paste0(name, "=", words)
  }))
}

# How many values each recorded column has, 0 for a number.
value_counts <- function(game) vapply(game$record, function(name) length(category_words(game, name)), 0)

#' @export
run_lap.habanera_game <- function(experiment, seed, first, count, threads) {
  if (has_r_function(experiment)) {
    trials <- first - 1 + seq_len(count)
    played <- trials_in_r(experiment, seed, trials)
    rows <- recorded_rows(played$rows, experiment$record)
    tally <- tally_of_rows(rows, rep(trials, times = played$each))
    if (holds_rounds(experiment)) {
      tally$sums <- sums_of_rounds(list(experiment), list(round_totals(experiment, rows, played$each)), trials)
    }
    return(tally)
  }
  machine <- game_machine(experiment)
  tally <- with_failing_trial(experiment, seed, if (holds_rounds(experiment)) {
    core_count_rounds(list(machine), list(experiment$spec), list(value_counts(experiment)),
                      list(core_classes(experiment)), list(), seed, first, count, threads)
  } else core_count_game(machine, experiment$spec, seed, first, count, threads),
  function() first_failing(experiment, seed, first, count))
  counted_rows(tally, experiment$record)
}

# What trials add up to, of games on the same deals that are played here since an R function decides.
sums_in_r <- function(games, seed, first, count, families = NULL) {
  trials <- first - 1 + seq_len(count)
  totals <- lapply(games, function(game) {
    played <- if (has_r_function(game)) trials_in_r(game, seed, trials) else {
      until_the_end(game, seed, core_trial_game(game_machine(game), game$spec, seed, trials))
    }
    round_totals(game, recorded_rows(played$rows, game$record), played$each)
  })
  c(sums_of_rounds(games, totals, trials),
    if (length(families)) plain_grouped(do.call(cbind, unname(totals)), trials, families))
}

# All columns of the games together, and the classes of each.
sums_of_rounds <- function(games, totals, trials) {
  sizes <- vapply(totals, ncol, 0L)
  # Those of classes stand last, behind the number of rows and what is recorded.
  plain <- 1 + vapply(games, function(game) length(recorded_totals(game)), 0L)
  offsets <- cumsum(c(0, sizes))[seq_along(sizes)] + plain
  classes <- do.call(rbind, c(list(data.frame(first = 1, size = sum(sizes))),
                              Map(column_classes, unname(games), unname(offsets))))
  plain_sums(do.call(cbind, unname(totals)), trials, classes)
}

# What each trial adds up to, a row each, from its `each` rows of the core: how many rows there are, of a number its
# sum, of a category how often each value came.
round_totals <- function(game, rows, each) {
  trial <- rep(seq_along(each), times = each)
  totals <- lapply(game$record, function(name) {
    words <- category_words(game, name)
    values <- if (is.null(words)) rows[[name]] else outer(rows[[name]] + 1, seq_along(words), `==`) + 0
    unname(rowsum(values, trial))
  })
  do.call(cbind, c(list(each), totals, list(class_totals(game, rows, trial))))
}

# A tally of the core with its rows as a data frame.
counted_rows <- function(tally, names) {
  tally$rows <- recorded_rows(tally$rows, names)
  tally
}

# Trials played one by one, their like rows put together.
tally_of_rows <- function(rows, trials) {
  found <- gathered_rows(rows)
  list(rows = found$outcomes, n = found$sum(rep(1, nrow(rows))), example_trial = found$least(trials))
}

#' @export
counted_outcomes.habanera_game <- function(experiment, tally) {
  in_text_order(game_outcomes(experiment, tally$rows), tally)
}

# Rows in the order of their words, as counts that are joined have them.
in_text_order <- function(outcomes, tally) {
  rows <- gathered_rows(outcomes)
  list(outcomes = rows$outcomes, n = rows$sum(tally$n), example_trial = rows$least(tally$example_trial))
}

#' @export
finest_outcome.habanera_game <- function(experiment) {
  experiment$record[length(experiment$record)]
}

#' @export
precision_terms.habanera_game <- function(experiment) {
  numbers <- experiment$record[!is_category(experiment, experiment$record)]
  c(experiment$record, if (!holds_rounds(experiment)) unlist(lapply(numbers, percentile_names)))
}

#' @export
half_widths.habanera_game <- function(experiment, tally, done, wanted) {
  found <- counted_outcomes(experiment, tally)
  if (is_percentile(wanted, found)) {
    row <- percentile_row(wanted, new_counts("game", found$outcomes, found$n, found$example_trial, NULL, NULL))
    return(max(row$conf.high - row$estimate, row$estimate - row$conf.low))
  }
  column_estimates(found$outcomes, found$n, done, 0.95, wanted, round_sums(experiment, tally[["sums"]]))$half_width
}

#' @export
play_trials.habanera_game <- function(experiment, seed, trials) {
  played <- if (has_r_function(experiment)) trials_in_r(experiment, seed, trials) else {
    with_failing_trial(experiment, seed, core_trial_game(game_machine(experiment), experiment$spec, seed, trials),
                       function() first_failing_of(experiment, seed, trials))
  }
  cbind(data.frame(trial = rep(trials, times = played$each)),
        game_outcomes(experiment, recorded_rows(played$rows, experiment$record)))
}

#' @export
as_plain.habanera_game <- function(experiment) {
  settings <- experiment$settings
  code <- kind_of(experiment)$code
  list(kind = "game", game = experiment$game, deck = plain_deck(experiment$rules$deck),
       rules = plain_given(experiment$given), shuffle = procedure_text(experiment$shuffle),
       piles = if (!is.null(experiment$piles)) lapply(experiment$piles, as.character),
       seat_names = experiment$seat_names, record = experiment$record,
       code = code,
       has_function = if (has_r_function(experiment) || !is.null(code) || has_function_rule(experiment)) TRUE,
       named = !is.null(settings$seat_names))
}

# A rule that is an R function, such as what makes a hand better.
has_function_rule <- function(game) any(vapply(game$given, is.function, NA))

plain_given <- function(given) {
  given$deck <- NULL
  plain_rules(given)
}
