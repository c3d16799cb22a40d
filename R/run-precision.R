# Stopping when estimates are precise enough. Tested only at fixed numbers of trials, so that where
# a run stops does not depend on laps or machines.

precision_stops <- function(nsim) {
  stops <- round(10000 * 2^(0:80 / 2))
  stops[stops < nsim]
}

check_precision <- function(precision, experiment, call) {
  if (is.null(precision)) return(NULL)
  fits <- is.numeric(precision) && length(precision) == 1 && !is.null(names(precision)) &&
    isTRUE(precision > 0)
  outcomes <- outcome_space(experiment)
  if (!fits) {
    refuse(sprintf("`precision` must be one named number above 0, as in c(%s = 0.001), not %s.",
                   names(outcomes)[1], said(precision)), call = call)
  }
  known <- c(names(outcomes), outcome_terms(outcomes))
  if (!names(precision) %in% known) {
    refuse(sprintf("`precision` names %s; it must name an outcome column (%s) or a term of tidy()%s",
                   quoted(names(precision)), join_words(names(outcomes)),
                   did_you_mean(names(precision), known)), call = call)
  }
  precision
}

reached_precision <- function(run, state) {
  if (is.null(run$precision) || !state$done %in% precision_stops(run$nsim)) return(FALSE)
  outcomes <- outcome_space(run$experiment)
  wanted <- names(run$precision)
  rows <- if (wanted %in% names(outcomes)) seq_len(nrow(outcomes)) else {
    match(wanted, outcome_terms(outcomes))
  }
  estimates <- estimate_cells(state$tally$n, state$tally$pairs, state$done)
  isTRUE(all(estimates$half_width[rows] <= run$precision))
}
