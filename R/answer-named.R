#' Estimates by name
#'
#' The estimates of a result by names that can stand in a condition, as `want` of [vary_rules()] and `--expect` of the
#' command use them: a number's mean by its own name, its percentiles as `rounds_p90`, the chance of a value as
#' `winner_1`.
#'
#' @param x Counts or a distribution of outcomes, of a question or a game; of `estimate_names()` also the experiment.
#' @param names Some of `estimate_names(x)`; `NULL`: those that [tidy()][tidy.habanera_counts] gives.
#' @return `estimates()`: a data frame with `term` (the name), `estimate`, `conf.low`, `conf.high` (95%; of an exact
#'   answer the estimate itself). `estimate_names()`: text.
#' @section Errors: `habanera_error_input` for a name that is none.
#' @examples
#' counts <- simulate(game_war(), nsim = 1000, seed = 1)
#' estimates(counts, c("winner_1", "rounds", "rounds_p75"))
#' @export
estimates <- function(x, names = NULL) {
  check_given()
  if (!inherits(x, c("habanera_counts_outcomes", "habanera_distribution_outcomes"))) {
    refuse(sprintf("`x` must be counts or a distribution of outcomes, not %s.", said(x)))
  }
  found <- last_turn(tidy(x))
  found$term <- sub("=", "_", found$term, fixed = TRUE)
  found$term <- ifelse(grepl("_", found$term), plain_name(found$term), found$term)
  if (is.null(names)) names <- found$term
  known <- union(found$term, estimate_names(x))
  unknown <- if (is.character(names)) setdiff(names, known) else said(names)
  if (length(unknown)) {
    refuse(sprintf("`names` must be names of estimates, such as %s, not %s%s", join_some(known, 4), quoted(unknown[1]),
                   did_you_mean(unknown[1], known)))
  }
  do.call(rbind, lapply(names, estimate_by_name, x = x, found = found))
}

#' @rdname estimates
#' @export
estimate_names <- function(x) {
  check_given()
  if (is_result(x)) x <- x$provenance$experiment
  check_experiment(x)
  named_estimates(x)
}

# What can be known of names before anything is played; a game tells more.
named_estimates <- function(experiment) UseMethod("named_estimates")

#' @export
named_estimates.habanera_experiment <- function(experiment) precision_terms(experiment)

plain_name <- function(words) gsub("[^A-Za-z0-9]+", "_", words)

percentile_names <- function(name) sprintf("%s_p%d", name, 1:99)

estimate_by_name <- function(name, x, found) {
  at <- match(name, found$term)
  if (!is.na(at)) {
    interval <- if (is.null(found[["conf.low"]])) rep(found$estimate[at], 2) else {
      c(found[["conf.low"]][at], found[["conf.high"]][at])
    }
    return(term_row(name, found$estimate[at], interval))
  }
  if (is_percentile(name, x)) return(percentile_row(name, x))
  # A value that never came.
  term_row(name, 0, c(0, if (inherits(x, "habanera_counts")) none_seen_bound(trial_count(x)) else 0))
}

is_percentile <- function(name, x) {
  column <- sub("_p[0-9]+$", "", name)
  column != name && is.numeric(x$outcomes[[column]])
}

# `endless` is what a trial without a value counts as; NA: it is left out.
percentile_row <- function(name, x, endless = NA) {
  values <- x$outcomes[[sub("_p[0-9]+$", "", name)]]
  values[is.na(values)] <- endless
  at <- column_quantiles(values, if (is.null(x$n)) x$probability else x$n, as.numeric(sub("^.*_p", "", name)) / 100,
                         has_single_trials(x))
  # An exact value is its own interval.
  term_row(name, at$estimate, if (inherits(x, "habanera_distribution")) rep(at$estimate, 2) else
    c(at$conf.low, at$conf.high))
}

term_row <- function(term, estimate, interval) {
  data.frame(term = term, estimate = estimate, conf.low = interval[1], conf.high = interval[2])
}
