# An experiment is a value object that says what one trial is. The driver knows it through these
# generics alone.

# Raised whenever the same call with the same seed gives other numbers (NEWS lists when it did): what a study kept by
# then is made again, and machines with another version play no parts.
version_of_numbers <- 1

new_experiment <- function(class, ...) {
  structure(list(...), class = c(class, "habanera_experiment"))
}

# The outcomes a trial can have: a data frame, one row per cell of a tally, in its order.
outcome_space <- function(experiment) UseMethod("outcome_space")

# How many entries each trial adds.
entries_per_trial <- function(experiment) UseMethod("entries_per_trial")

# Plays trials `first` to `first + count - 1`: a tally, a list of `n`, `example_trial` (Inf where
# none) and `squares` (NULL or per cell), over the outcome space.
run_lap <- function(experiment, seed, first, count, threads) UseMethod("run_lap")

# The outcome of single trials: a data frame with a row per trial (or several), `trial` first.
play_trials <- function(experiment, seed, trials) UseMethod("play_trials")

# A whole tally as a list of `outcomes` (data frame), `n`, `example_trial`, `squares` and `sums`. A tally of an
# experiment whose outcomes are not known beforehand has a `key` or a row of `rows` for each of its cells instead.
counted_outcomes <- function(experiment, tally) UseMethod("counted_outcomes")

#' @export
counted_outcomes.habanera_experiment <- function(experiment, tally) {
  c(list(outcomes = outcome_space(experiment)), tally)
}

# Of an experiment whose outcomes are not known beforehand: the column that tells most trials apart.
finest_outcome <- function(experiment) UseMethod("finest_outcome")

refuse_too_many_outcomes <- function(experiment) {
  refuse(sprintf("There are more than %s different outcomes to count; drop or coarsen `%s`.",
                 format_count(most_outcomes), finest_outcome(experiment)), "work", call = NULL)
}

#' @export
adds_up.habanera_experiment <- function(experiment, n, trials) sum(n) == trials * entries_per_trial(experiment)

# What `precision` may name, and the half-widths of what it names.
precision_terms <- function(experiment) UseMethod("precision_terms")
half_widths <- function(experiment, tally, done, wanted) UseMethod("half_widths")

#' @export
precision_terms.habanera_experiment <- function(experiment) {
  outcomes <- outcome_space(experiment)
  c(names(outcomes), outcome_terms(outcomes))
}

#' @export
half_widths.habanera_experiment <- function(experiment, tally, done, wanted) {
  outcomes <- outcome_space(experiment)
  rows <- if (wanted %in% names(outcomes)) seq_len(nrow(outcomes)) else match(wanted, outcome_terms(outcomes))
  estimate_cells(tally$n, tally[["squares"]], done)$half_width[rows]
}

# Stops with a clear error if the experiment cannot be simulated with these settings (a list with
# `nsim`, `precision`, `checkpoint`).
check_simulation <- function(experiment, settings, call) UseMethod("check_simulation")

#' @export
check_simulation.habanera_experiment <- function(experiment, settings, call) invisible()

# What is counted: our own simulation, or something made elsewhere, in words.
source_of <- function(experiment) UseMethod("source_of")

#' @export
source_of.habanera_experiment <- function(experiment) "simulation"

# Whether all trials must be played in one lap: a program that is started once.
plays_at_once <- function(experiment) UseMethod("plays_at_once")

#' @export
plays_at_once.habanera_experiment <- function(experiment) FALSE

# Trials that belong together, so that laps and shares must hold whole multiples of them.
trials_in_chain <- function(experiment) UseMethod("trials_in_chain")

#' @export
trials_in_chain.habanera_experiment <- function(experiment) 1

#' @export
print.habanera_experiment <- function(x, ...) {
  cat("<experiment> ", in_words(x), "\n", sep = "")
  invisible(x)
}

check_experiment <- function(x, name = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (inherits(x, "habanera_experiment")) return(x)
  refuse(sprintf("`%s` must be an experiment, such as draws(deck_standard(), 5), not %s.", name,
                 said(x)), call = call)
}

#' Exact answers
#'
#' The distribution of an experiment's outcome, worked out rather than simulated. Work over two seconds shows that it
#' goes on, where somebody sits there or the option `habanera.progress` is `TRUE`; an interrupt ends it.
#'
#' @param x An experiment.
#' @param ... Further settings of the method.
#' @return A distribution; see [counts].
#' @section Errors: `habanera_error_work` when the work is out of reach: the error says how large it
#'   is.
#' @examples
#' exact(draws(deck_standard(), 5))
#' @export
exact <- function(x, ...) {
  check_given()
  local_progress("Working it out")
  UseMethod("exact")
}

#' @export
exact.default <- function(x, ...) check_experiment(x)

#' Single trials
#'
#' The outcome of each listed trial, for those who want to look. A trial is the same here as in
#' `simulate()` with the same seed, whatever else was played.
#'
#' @param x An experiment.
#' @param seed A whole number from 0 to below 2^53.
#' @param trials Trial numbers.
#' @return A data frame of class `habanera_trials` with a row per trial: `trial` (number), then `card_1`, `card_2`,
#'   ... (codes, in the order drawn). Of a question: `turn` where there are turns (a row for each), the outcomes, then
#'   the cards in the hand at the end. Of a game: the outcomes it records. Printed, the cards of a row stand together.
#' @examples
#' trials(draws(deck_standard(), 5), seed = 1, trials = 1:3)
#' @export
trials <- function(x, seed, trials) {
  check_given()
  check_experiment(x)
  check_seed(seed)
  fits <- is.numeric(trials) && length(trials) > 0 && length(trials) <= 1e7 && all(is.finite(trials)) &&
    all(trials >= 0 & trials < 2^53 & trials == floor(trials))
  if (!fits) refuse(sprintf("`trials` must be trial numbers, such as 1:10, not %s.", said(trials)))
  check_simulation(x, list(nsim = length(trials)), rlang::current_env())
  played <- play_trials(x, seed, as.double(trials))
  class(played) <- table_class("habanera_trials")
  played
}

#' @export
in_words.habanera_trials <- function(x, ...) sprintf("%s, one by one", count_of(nrow(x), "trial"))

#' @export
tell.habanera_trials <- function(x, rows = 30, ...) {
  data <- plain_table(x)
  is_card <- grepl("^card_[0-9]+$", names(data))
  outcomes <- data[!is_card]
  if (sum(is_card) < 2) return(invisible(print_head(data, rows)))
  cards <- apply(as.matrix(data[is_card]), 1, function(row) paste(row[!is.na(row)], collapse = ", "))
  if (max(nchar(cards)) < getOption("width") - 8 * ncol(outcomes)) {
    outcomes[["cards"]] <- format(cards)
    print_head(outcomes, rows)
  } else {
    print_wrapped_trials(outcomes, cards, rows)
  }
  invisible(x)
}

# Hands too long for a column: each is a paragraph of its own.
print_wrapped_trials <- function(outcomes, cards, rows) {
  shown <- seq_len(min(rows, nrow(outcomes)))
  for (row in shown) {
    values <- vapply(outcomes[row, , drop = FALSE], format, "", big.mark = ",")
    cat(strwrap(sprintf("%s: %s", paste(names(outcomes), values, collapse = ", "), cards[row]), getOption("width"),
                exdent = 2), sep = "\n")
  }
  if (nrow(outcomes) > rows) cat(sprintf("# ... with %s more\n", format_count(nrow(outcomes) - rows)))
}

# A row for each trial with the cards drawn in it: `codes` is a matrix with a row per trial.
drawn_rows <- function(trials, codes) {
  colnames(codes) <- sprintf("card_%d", seq_len(ncol(codes)))
  cbind(data.frame(trial = trials), as.data.frame(codes))
}

add_tallies <- function(one, two) {
  if (is.null(one)) return(two)
  if (!is.null(one$key)) return(add_keyed_tallies(one, two))
  if (!is.null(one$rows)) return(add_rowed_tallies(one, two))
  list(n = one$n + two$n, example_trial = pmin(one$example_trial, two$example_trial),
       squares = if (!is.null(one[["squares"]])) one[["squares"]] + two[["squares"]])
}

# Of many tallies: two by two, so that what is large is not carried along for each that is small.
add_all_tallies <- function(tallies) {
  while (length(tallies) > 1) {
    first <- seq(1, length(tallies), by = 2)
    tallies <- lapply(first, function(i) if (i < length(tallies)) add_tallies(tallies[[i]], tallies[[i + 1]]) else
      tallies[[i]])
  }
  if (length(tallies)) tallies[[1]]
}

# Keys are joined by sorting: R's hashing of numbers is slow where they differ in few of their bits.
add_keyed_tallies <- function(one, two) {
  both <- sort(c(one$key, two$key))
  key <- both[c(TRUE, diff(both) > 0)]
  laid <- function(values, tally, missing) {
    all <- rep(missing, length(key))
    all[findInterval(tally$key, key)] <- values
    all
  }
  list(key = key, n = laid(one$n, one, 0) + laid(two$n, two, 0),
       example_trial = pmin(laid(one$example_trial, one, Inf), laid(two$example_trial, two, Inf)))
}

add_rowed_tallies <- function(one, two) {
  rows <- gathered_rows(rbind(one$rows, two$rows))
  list(rows = rows$outcomes, n = rows$sum(c(one$n, two$n)),
       example_trial = rows$least(c(one$example_trial, two$example_trial)), sums = add_sums(one$sums, two$sums))
}

# How many different outcomes came, where they are not known beforehand.
tally_size <- function(tally) if (is.null(tally$rows)) length(tally$key) else nrow(tally$rows)

most_outcomes <- 1e6
