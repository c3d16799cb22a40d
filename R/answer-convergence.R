#' How an estimate settles
#'
#' Plays the trials of a simulation once more and notes the estimate on the way, with its 95% band and the exact
#' value where it can be had at once.
#'
#' @param x Counts of a question or of [draw_until()], made by `simulate()`.
#' @param column Name of an outcome column, or a term of [tidy()][tidy.habanera_counts], such as "rounds_p90"; `NULL`:
#'   the first.
#' @return A data frame of class `habanera_convergence`: `trials` (how many so far), `estimate`, `conf.low`,
#'   `conf.high`, `exact` (`NA` where not known), `share_ended` (the share of games that the estimate is of: 1 but where
#'   games do not end). Of a question with turns, of the last turn.
#' @section Errors: `habanera_error_input` for counts that were not simulated here, or an unknown column.
#' @examples
#' x <- simulate(draws(deck_standard(), 5, two_up = count(rank == "A") >= 2), nsim = 1e4, seed = 1)
#' convergence(x, "two_up")
#' @export
convergence <- function(x, column = NULL) {
  check_given()
  call <- rlang::current_env()
  if (!inherits(x, "habanera_counts_outcomes")) {
    refuse(sprintf("`x` must be counts of a question, from simulate(), not %s.", said(x)))
  }
  estimates <- last_turn(tidy(x))
  column <- settled_term(column, estimates, call)
  exact <- estimates$exact[estimates$term == column]
  from <- x$provenance
  if (nrow(from$trials) > 1) refuse("`x` must hold one unbroken run of trials.")
  first <- from$trials$first
  stops <- settling_stops(trial_count(x))
  so_far <- NULL
  rows <- list()
  for (i in seq_along(stops)) {
    done <- c(0, stops)[i]
    part <- in_whole_runs(simulate(from$experiment, nsim = stops[i] - done, seed = from$seed,
                                   first_trial = first + done))
    so_far <- if (is.null(so_far)) part else c(so_far, part)
    rows[[i]] <- settled_row(so_far, column, exact)
  }
  structure(do.call(rbind, rows), made = call_made(), class = table_class("habanera_convergence"), term = column,
            question = in_words(from$experiment), seed = from$seed)
}

settled_term <- function(column, estimates, call) {
  if (is.null(column)) return(estimates$term[1])
  check_string(column, "column", call)
  if (column %in% estimates$term) return(column)
  refuse(sprintf("`column` must be one of %s, not %s%s", join_words(estimates$term), quoted(column),
                 did_you_mean(column, estimates$term)), call = call)
}

# Numbers of trials at even steps on a logarithmic scale.
settling_stops <- function(trials) unique(round(exp(seq(log(min(10, trials)), log(trials), length.out = 60))))

settled_row <- function(counts, column, exact) {
  trials <- trial_count(counts)
  row <- settled_estimate(counts, column, trials)
  # A text that has not come yet has no row.
  if (!nrow(row)) row <- data.frame(estimate = 0, conf.low = 0, conf.high = none_seen_bound(trials))
  data.frame(trials = trials, estimate = row$estimate, conf.low = row$conf.low, conf.high = row$conf.high,
             exact = exact, share_ended = share_with_value(counts, column))
}

settled_estimate <- function(counts, term, trials) {
  estimates <- last_turn(column_estimates(counts$outcomes, counts$n, trials, 0.95, sums = sums_of_counts(counts)))
  row <- estimates[estimates$term == term, , drop = FALSE]
  if (nrow(row) || !is_percentile(term, counts)) row else percentile_row(term, counts)
}

# The share of the trials that a term tells of.
share_with_value <- function(counts, term) {
  values <- counts$outcomes[[sub("(=.*|_p[0-9.]+)$", "", term)]]
  if (anyNA(values)) 1 - sum(counts$n[is.na(values)]) / sum(counts$n) else 1
}

#' @export
tell.habanera_convergence <- function(x, rows = 10, ...) {
  cat_wrapped("<convergence> ", attr(x, "term"), ": ", attr(x, "question"))
  cat_wrapped(settled_in_words(x))
  plain <- plain_table(x)
  if (all(plain$share_ended == 1)) plain$share_ended <- NULL
  print_head(plain[rev(seq_len(nrow(plain))), ], rows)
  invisible(x)
}

settled_in_words <- function(x) {
  last <- x[nrow(x), ]
  interval <- interval_in_words(last$conf.low, last$conf.high, function(end) format_number(end, 4))
  sprintf("After %s: %s%s%s%s.", count_of(last$trials, "trial"), format_number(last$estimate, 4),
          if (is.na(interval)) "" else sprintf(" (%s)", interval),
          if (is.na(last$exact)) "" else sprintf("; exactly %s", format_number(last$exact, 4)),
          if (last$share_ended == 1) "" else sprintf("; of the %s of games that ended",
                                                     share_below_one(last$share_ended)))
}
