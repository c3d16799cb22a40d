#' Counts against an exact answer
#'
#' Holds counts of draws or positions, ours or made elsewhere, against `exact(draws(...))` or
#' `exact(positions(...))` of the same deck and size, and says in words whether they agree.
#'
#' @param x Counts.
#' @param y A distribution of the same outcomes.
#' @param ... Not used.
#' @return A `habanera_comparison`: a list with `agree` (logical, at level 0.01, or `NA` where
#'   nothing can vary or there are too few trials to tell), `test` (the overall chi-square of [summary()][summary.habanera_counts]),
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
  refuse_other_question(x$provenance$experiment, y$provenance$experiment, rlang::current_env())
  experiment <- y$provenance$experiment
  law <- fair_law(experiment, kinds_of(experiment$deck)$copies)
  law$expected <- y$probability
  cells <- fit_table(list(outcomes = x$outcomes, n = x$n, law = law), trial_count(x))
  test <- scaled_chi_square(x$n, cells$expected, law$factor, law$df)
  structure(list(agree = agreement(test), test = test,
                 cells = cells, unseen = unseen_kinds(x), trials = trial_count(x),
                 words = run_in_words(x), question = in_words(x$provenance$experiment), counts = x),
            class = "habanera_comparison")
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

#' @rdname compare.habanera_counts
#' @rawNamespace S3method(generics::tidy, habanera_comparison)
tidy.habanera_comparison <- function(x, ...) {
  p <- 2 * stats::pnorm(-abs(x$cells$z))
  outcomes <- x$counts$outcomes
  rbind(
    data.frame(term = "overall", estimate = NA_real_, exact = NA_real_,
               statistic = x$test$statistic, p.value = x$test$p.value, p.adjusted = x$test$p.value),
    data.frame(term = outcome_terms(outcomes), estimate = x$cells$count / x$trials,
               exact = x$cells$expected / x$trials, statistic = x$cells$z, p.value = p,
               p.adjusted = stats::p.adjust(p, "holm"))
  )
}

comparison_in_words <- function(x) {
  if (is.na(x$agree) && !is.na(x$test$statistic)) {
    return(sprintf("Too few trials to tell whether they agree: %s.", chi_square_in_words(x$test)))
  }
  if (is.na(x$agree)) return("There is nothing that could differ: every draw holds the same cards.")
  sprintf("%s with the exact answer: %s.", if (x$agree) "They agree" else "They do not agree",
          chi_square_in_words(x$test))
}

#' @export
print.habanera_comparison <- function(x, rows = 5, ...) {
  cat("<comparison> ", x$question, "; ", x$words, "\n", sep = "")
  writeLines(c(comparison_in_words(x), unseen_in_words(x$unseen)))
  worst <- worst_cells(x$cells, rows)
  if (nrow(worst)) {
    cat("Furthest from what is expected:\n")
    print(printed_table(worst), row.names = FALSE)
  }
  invisible(x)
}
