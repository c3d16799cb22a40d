# Quantiles of the numbers of a result.

# Quantiles of a number by its counts or chances. The interval of counts is that of order statistics; an end that so few
# trials do not have is open. Trials without a value are left out.
column_quantiles <- function(values, weight, p, simulated, level = 0.95) {
  weight <- weight[!is.na(values)]
  values <- values[!is.na(values)]
  if (!length(values)) {
    return(data.frame(estimate = rep(NA_real_, length(p)), conf.low = NA_real_, conf.high = NA_real_))
  }
  order <- order(values)
  values <- values[order]
  reached <- cumsum(weight[order])
  total <- reached[length(reached)]
  # A share that adds up to p but for rounding has reached it.
  at <- function(rank) values[pmin(findInterval(rank - 1e-12 * total, reached, left.open = TRUE) + 1, length(values))]
  estimate <- at(p * total)
  if (!simulated) return(data.frame(estimate = estimate, conf.low = NA_real_, conf.high = NA_real_))
  ranks <- quantile_ranks(total, p, level)
  data.frame(estimate = estimate, conf.low = ifelse(ranks$low < 1, -Inf, at(pmax(ranks$low, 1))),
             conf.high = ifelse(ranks$high > total, Inf, at(ranks$high)))
}

# Rounds of a shoe hang together: their quantiles have no intervals by order statistics.
has_single_trials <- function(x) inherits(x, "habanera_counts") && is.null(x[["sums"]])

told_quantiles <- c(0.1, 0.5, 0.9)

# A row for each number and quantile: `term` such as rounds_p90.
quantile_rows <- function(x, level = 0.95, p = told_quantiles, rows = all_rows(x$outcomes)) {
  simulated <- has_single_trials(x)
  weight <- (if (is.null(x$n)) x$probability else x$n)[rows]
  numbers <- names(x$outcomes)[vapply(x$outcomes, is.numeric, TRUE)]
  found <- lapply(numbers, function(name) {
    cbind(term = sprintf("%s_p%s", name, format(100 * p, trim = TRUE)), column = name, p = p,
          column_quantiles(x$outcomes[[name]][rows], weight, p, simulated, level))
  })
  do.call(rbind, found)
}

with_quantiles <- function(estimates, quantiles) {
  if (is.null(quantiles)) return(estimates)
  more <- estimates[rep(NA_integer_, nrow(quantiles)), , drop = FALSE]
  more[c("term", "estimate")] <- quantiles[c("term", "estimate")]
  if ("conf.low" %in% names(more)) more[c("conf.low", "conf.high")] <- quantiles[c("conf.low", "conf.high")]
  found <- rbind(estimates, more)
  rownames(found) <- NULL
  found
}
