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
  known <- precision_terms(experiment)
  if (!fits) {
    refuse(sprintf("`precision` must be one named number above 0, as in c(%s = 0.001), not %s.",
                   known[1], said(precision)), call = call)
  }
  if (!names(precision) %in% known) {
    refuse(sprintf("`precision` names %s; it must name an outcome column or a term of tidy() (%s)%s",
                   quoted(names(precision)), join_some(known, 8), did_you_mean(names(precision), known)),
           call = call)
  }
  precision
}

reached_precision <- function(run, state) {
  if (is.null(run$precision) || !state$done %in% precision_stops(run$nsim)) return(FALSE)
  widths <- half_widths(run$experiment, state$tally, state$done, names(run$precision))
  isTRUE(all(widths <= run$precision))
}
