#' Counts against an exact answer
#'
#' Holds counts of draws or positions, ours or made elsewhere, against `exact(draws(...))` or
#' `exact(positions(...))` of the same deck and size, and says in words whether they agree. Recorded hands are asked the
#' question of the distribution, where it has one.
#'
#' @param x Counts.
#' @param y A distribution of the same outcomes.
#' @param ... Not used.
#' @return A `habanera_comparison`: a list with `agree` (logical, at level 0.01, or `NA` where
#'   nothing can vary or there are too few trials to tell), `test` (the overall chi-square of
#'   [summary()][summary.habanera_counts]),
#'   `cells` (data frame with a row per outcome: the outcome columns, `count`, `expected`,
#'   `deviation`, `z`) and `unseen`. `tidy()`: a row per test, `term` = "overall" first, then one per
#'   outcome, with `estimate` and `exact` per trial, `statistic`, `p.value` and `p.adjusted` (by
#'   Holm, over the outcomes).
#' @section Errors: `habanera_error_input` when the two are not about the same draws.
#' @examples
#' fair <- exact(draws(deck_standard(), 5))
#' compare(simulate(draws(deck_standard(), 5), nsim = 1e4, seed = 1), fair)
#' @name compare.habanera_counts
NULL

#' @rdname compare.habanera_counts
#' @export
compare.habanera_counts <- function(x, y, ...) {
  if (!inherits(y, "habanera_distribution")) {
    refuse(sprintf("`y` must be a distribution, such as exact(draws(deck, 5)), not %s.", said(y)))
  }
  if ((!is.null(x$hands) || lacks_hands(x)) && inherits(y, "habanera_distribution_outcomes")) {
    return(compare(ask_records(x, y$provenance$experiment, rlang::current_env()), y))
  }
  refuse_other_question(x$provenance$experiment, y$provenance$experiment, rlang::current_env())
  experiment <- y$provenance$experiment
  law <- fair_law(experiment, kinds_of(experiment$deck)$copies)
  law$expected <- y$probability
  cells <- fit_table(list(outcomes = x$outcomes, n = x$n, law = law), trial_count(x))
  test <- scaled_chi_square(x$n, cells$expected, law$factor, law$df, trial_count(x))
  structure(list(agree = agreement(test), test = test,
                 cells = cells, unseen = unseen_kinds(x), trials = trial_count(x),
                 words = run_in_words(x), question = in_words(x$provenance$experiment), counts = x),
            made = call_made(), class = result_class("habanera_comparison"))
}

refuse_other_question <- function(counted, exact, call) {
  same_cards <- identical(sort(as.character(counted$deck)), sort(as.character(exact$deck)))
  same_draw <- identical(result_kind(counted), result_kind(exact)) &&
    entries_per_trial(counted) == entries_per_trial(exact) &&
    isTRUE(counted$replace) == isTRUE(exact$replace)
  if (same_cards && same_draw) return(invisible())
  refuse(sprintf("These are not the same draws: the counts are of %s; the distribution is of %s.",
                 in_words(counted), in_words(exact)), call = call)
}
