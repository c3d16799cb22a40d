# How two games differ that were played on the same deals: means and chances, with their intervals.

#' @export
tidy.habanera_counts_pairs <- function(x, conf.level = 0.95, ...) {
  check_between(conf.level, 0, 1)
  if (!is.null(x[["sums"]])) return(do.call(rbind, round_differences(x, conf.level)))
  do.call(rbind, lapply(x$provenance$experiment$record, function(name) {
    rows <- x$outcomes[["column"]] == name
    paired_estimates(x, name, x$outcomes[rows, , drop = FALSE], x$n[rows], conf.level)
  }))
}

# Of rounds: the difference of the means per round, with errors by trial that allow for what the deals have in common.
# A value of a category that never came has no row.
round_differences <- function(x, level) {
  experiment <- x$provenance$experiment
  columns <- total_columns(experiment)
  sums <- trial_sums(x[["sums"]], columns)
  trials <- trial_count(x)
  found <- lapply(unique(c(recorded_totals(experiment$x), recorded_totals(experiment$y))), function(term) {
    at <- function(name) cbind(as.double(columns == paste("x:", name)), as.double(columns == paste("y:", name)))
    units <- c(unit_of(experiment$x, term), unit_of(experiment$y, term))
    ratio <- function(combine) ratio_of_sums(sums, trials, at(term), at("entries"), combine / units)
    x <- ratio(c(1, 0))
    y <- ratio(c(0, 1))
    both <- ratio(c(-1, 1))
    separate <- x$std.error^2 + y$std.error^2
    z <- if (isTRUE(both$std.error > 0)) both$estimate / both$std.error else NA_real_
    half <- student_half_width(both$std.error, both$freedom, level)
    data.frame(term = term, estimate = both$estimate, std.error = both$std.error, conf.low = both$estimate - half,
               conf.high = both$estimate + half, statistic = z, p.value = 2 * stats::pt(-abs(z), both$freedom),
               x = x$estimate, y = y$estimate,
               saving = if (isTRUE(both$std.error > 0)) separate / both$std.error^2 else NA_real_, paired = 1,
               differed = NA_real_, differed.low = NA_real_, differed.high = NA_real_)
  })
  Filter(function(row) !grepl("=", row$term, fixed = TRUE) || row$x > 0 || row$y > 0, found)
}

# The mean difference of a number, or of the chance of each value of a category.
paired_estimates <- function(x, name, outcomes, n, level) {
  if (!"both" %in% outcomes[["part"]]) return(paired_number(x, name, outcomes, n, level))
  do.call(rbind, lapply(sort(unique(c(outcomes[["x"]], outcomes[["y"]]))), function(value) {
    in_x <- outcomes[["x"]] == value
    in_y <- outcomes[["y"]] == value
    more <- sum(n[in_y & !in_x])
    fewer <- sum(n[in_x & !in_y])
    row <- paired_row(paste0(name, "=", value), weighted_moments(in_y - in_x, n), weighted_moments(in_x, n),
                      weighted_moments(in_y, n), 1)
    interval <- matched_interval(more, fewer, sum(n), level)
    row[c("conf.low", "conf.high")] <- interval
    with_differing(row, matched_score(0, more, fewer, sum(n)), Inf, more + fewer, sum(n), level)
  }))
}

# Below this many differing deals the mean difference of a number is not told from a normal law.
enough_differing <- 20

paired_number <- function(x, name, outcomes, n, level) {
  of <- function(part) outcomes[["part"]] == part
  moments <- lapply(c(difference = "difference", x = "x", y = "y"), function(part) {
    weighted_moments(outcomes[["value"]][of(part)], n[of(part)])
  })
  total <- moments$difference$total
  differing <- sum(n[of("difference") & outcomes[["value"]] != 0])
  row <- paired_row(name, moments$difference, moments$x, moments$y, total / trial_count(x))
  if (differing >= enough_differing) {
    half <- student_half_width(row$std.error, total - 1, level)
    row[c("conf.low", "conf.high")] <- row$estimate + c(-half, half)
    return(with_differing(row, row$estimate / row$std.error, total - 1, differing, total, level))
  }
  most <- largest_difference(x$provenance$experiment, name) * exact_interval(differing, total, level)$high
  row[c("conf.low", "conf.high")] <- c(-most, most)
  with_differing(row, NA_real_, Inf, differing, total, level)
}

# How far apart the values of a number can lie by the rules of both games; NA where nothing bounds them.
largest_difference <- function(pair, name) {
  ends <- unlist(lapply(pair[c("x", "y")], function(game) {
    limits <- kind_of(game)$limits(game$rules)[[name]]
    if (is.null(limits)) c(NA, NA) else limits
  }))
  max(ends) - min(ends)
}

with_differing <- function(row, statistic, freedom, differing, total, level) {
  shares <- exact_interval(differing, total, level)
  cbind(row, statistic = statistic, p.value = 2 * stats::pt(-abs(statistic), freedom),
        differed = differing / total, differed.low = shares$low, differed.high = shares$high)[pair_terms]
}

pair_terms <- c("term", "estimate", "std.error", "conf.low", "conf.high", "statistic", "p.value", "x", "y", "saving",
                "paired", "differed", "differed.low", "differed.high")

weighted_moments <- function(values, n) {
  total <- sum(n)
  mean <- if (total > 0) sum(values * n) / total else NA_real_
  # A single value tells nothing of how they vary.
  list(mean = mean, variance = if (total > 1) sum(n * (values - mean)^2) / (total - 1) else NA_real_, total = total)
}

paired_row <- function(term, difference, x, y, paired) {
  data.frame(term = term, estimate = difference$mean, std.error = sqrt(difference$variance / difference$total),
             conf.low = NA_real_, conf.high = NA_real_, x = x$mean, y = y$mean,
             saving = if (isTRUE(difference$variance > 0)) (x$variance + y$variance) / difference$variance else
               NA_real_, paired = paired)
}
