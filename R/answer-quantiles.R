# Quantiles of the numbers of a result.

# Quantiles of a number by its counts or chances. The interval of counts is that of order statistics (Conover 1999,
# Practical Nonparametric Statistics, section 3.2).
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
  # A share of chances that adds up to p but for rounding has reached it.
  at <- function(rank) values[findInterval(rank, reached, left.open = TRUE, all.inside = FALSE) + 1]
  if (!simulated) return(data.frame(estimate = at(p * total - 1e-12), conf.low = NA_real_, conf.high = NA_real_))
  low <- stats::qbinom((1 - level) / 2, total, p)
  high <- stats::qbinom((1 + level) / 2, total, p) + 1
  data.frame(estimate = at(pmax(ceiling(p * total), 1)), conf.low = at(pmax(low, 1)), conf.high = at(pmin(high, total)))
}

told_quantiles <- c(0.1, 0.5, 0.9)

# A row for each number and quantile: `term` such as rounds_p90.
quantile_rows <- function(x, level = 0.95, p = told_quantiles, rows = all_rows(x$outcomes)) {
  # Rounds of a shoe hang together: their quantiles have no intervals by order statistics.
  simulated <- inherits(x, "habanera_counts") && is.null(x[["sums"]])
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
