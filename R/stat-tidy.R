#' @importFrom generics tidy
#' @export
generics::tidy

#' Estimates as a tidy table
#'
#' One row per outcome: how often it comes in a trial. Of a question, one row per outcome column (and `turn`,
#' where there are turns): the chance of a logical, the mean of a number, and of a text a row per value.
#'
#' @param x Counts or a distribution.
#' @param conf.level Level of the intervals, between 0 and 1.
#' @param ... Not used.
#' @return A data frame: `term` (text: column and value, as `"card=AS"`), `estimate` (number per
#'   trial); for counts `std.error`, `conf.low`, `conf.high` (Wilson's interval where an outcome
#'   comes at most once in a trial, else normal with the standard error per trial; `NA` where the
#'   counts do not tell) and, where an exact value is known, `exact`, `statistic` (z, from the exact
#'   variance) and `p.value` (two-sided).
#' @examples
#' head(tidy(simulate(draws(deck_standard(), 5), nsim = 1000, seed = 1)))
#' @name tidy.habanera_counts
NULL

#' @rdname tidy.habanera_counts
#' @rawNamespace S3method(generics::tidy, habanera_counts)
tidy.habanera_counts <- function(x, conf.level = 0.95, ...) {
  check_between(conf.level, 0, 1)
  estimates <- estimate_cells(x$n, x[["squares"]], trial_count(x), conf.level)
  table <- cbind(term = outcome_terms(x$outcomes), estimates[c("estimate", "std.error", "conf.low",
                                                               "conf.high")])
  cbind(table, exact_columns(x))
}

#' @rdname tidy.habanera_counts
#' @rawNamespace S3method(generics::tidy, habanera_distribution)
tidy.habanera_distribution <- function(x, ...) {
  data.frame(term = outcome_terms(x$outcomes), estimate = x$probability)
}

outcome_terms <- function(outcomes) {
  each <- Map(function(name, values) paste0(name, "=", values, recycle0 = TRUE), names(outcomes), outcomes)
  do.call(paste, c(unname(each), sep = ",", recycle0 = TRUE))
}

estimate_cells <- function(n, squares, trials, level = 0.95) {
  estimate <- n / trials
  if (is.null(squares)) {
    interval <- wilson_interval(n, trials, level)
    return(data.frame(estimate = estimate, std.error = sqrt(estimate * (1 - estimate) / trials),
                      conf.low = interval$low, conf.high = interval$high,
                      half_width = interval$half_width))
  }
  error <- sqrt(entry_variance(n, squares, trials) / trials)
  half <- stats::qnorm((1 + level) / 2) * error
  data.frame(estimate = estimate, std.error = error, conf.low = estimate - half,
             conf.high = estimate + half, half_width = half)
}

# The columns `exact`, `statistic` and `p.value` beside an estimate, where an exact value is known.
exact_columns <- function(x) UseMethod("exact_columns")
