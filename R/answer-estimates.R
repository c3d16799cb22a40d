# Estimates of a question in words, with the exact answer beside them.

# The columns `exact`, `statistic` and `p.value` for estimates from counts, by the exact variance.
beside_exact <- function(estimates, law) {
  if (is.null(law)) return(cbind(estimates, exact = NA_real_, statistic = NA_real_, p.value = NA_real_))
  key <- function(x) if ("turn" %in% names(x)) paste(x$term, x[["turn"]]) else x$term
  place <- match(key(estimates), key(law))
  estimates$exact <- ifelse(is.na(place), 0, law$estimate[place])
  variance <- ifelse(is.na(place), 0, law$variance[place])
  error <- if (is.null(estimates$by_trial)) sqrt(variance / estimates$total) else estimates$std.error
  off <- estimates$estimate - estimates$exact
  # Rounding in a column that cannot vary is no deviation.
  settled <- abs(off) <= 1e-9 * pmax(1, abs(estimates$exact))
  estimates$statistic <- ifelse(variance > 1e-12, off / error, ifelse(settled, NA, Inf))
  estimates$p.value <- 2 * stats::pnorm(-abs(estimates$statistic))
  estimates
}

# The exact answer beside a simulated one, when it takes no time to speak of; otherwise NULL.
quick_exact <- function(experiment) UseMethod("quick_exact")

#' @export
quick_exact.default <- function(experiment) NULL

# Counts beside their exact law, row by row of tidy(); `part` picks the outcomes looked at.
outcome_estimates <- function(x, level = 0.95, part = all_rows, law = quick_exact(x$provenance$experiment)) {
  rows <- part(x$outcomes)
  estimates <- column_estimates(x$outcomes[rows, , drop = FALSE], x$n[rows], trial_count(x), level,
                                sums = sums_of_counts(x, all(rows)))
  if (is.null(law)) return(beside_exact(estimates, NULL))
  rows <- part(law$outcomes)
  beside_exact(estimates, weighted_terms(law$outcomes[rows, , drop = FALSE], law$probability[rows]))
}

all_rows <- function(outcomes) rep(TRUE, nrow(outcomes))

#' @rawNamespace S3method(generics::tidy, habanera_counts_outcomes)
tidy.habanera_counts_outcomes <- function(x, conf.level = 0.95, ...) {
  check_between(conf.level, 0, 1)
  estimates <- outcome_estimates(x, conf.level)
  estimates[intersect(tidy_columns, names(estimates))]
}

tidy_columns <- c("turn", "term", "estimate", "std.error", "conf.low", "conf.high", "exact", "statistic", "p.value")

#' @rawNamespace S3method(generics::tidy, habanera_distribution_outcomes)
tidy.habanera_distribution_outcomes <- function(x, ...) {
  terms <- weighted_terms(x$outcomes, x$probability)
  terms[intersect(tidy_columns, names(terms))]
}

# "1 in 24", or nothing for what never comes or is not rare; of an exact chance to the last whole number.
one_in <- function(p, exactly = FALSE) {
  one <- 1 / pmax(p, 1e-300)
  whole <- exactly & (one >= 1e3 & one < 1e15 | abs(one - round(one)) <= 1e-9 * one)
  often <- ifelse(whole, format_count(round(one)), ifelse(one < 1e4, format_number(one, 4),
                                                          format_count(signif(one, 4))))
  ifelse(is.na(p) | p <= 0 | p > 0.05, "", paste("1 in", often))
}

exact_in_words <- function(estimate, is_chance) {
  if (!is_chance) return(format_statistic(estimate))
  if (estimate <= 1e-15) return("never")
  if (estimate >= 1 - 1e-12) return("always")
  fraction <- nearest_fraction(estimate)
  written <- if (!is.null(fraction)) paste(" =", paste(whole_text(fraction), collapse = "/"))
  paste(c(paste0(format_percent(estimate, 4), written), Filter(nzchar, one_in(estimate, TRUE))), collapse = ", ")
}

# What counts say of one term, with the exact value beside it.
term_in_words <- function(row) {
  paste0(term_name(row), if (row$is_chance) chance_in_words(row) else mean_in_words(row), exactly_in_words(row))
}

chance_in_words <- function(row) {
  if (row$estimate == 0 && is.null(row$by_trial)) {
    return(sprintf("none seen, at most %s (95%%)", format_number(none_seen_bound(row$total), 2)))
  }
  interval <- interval_in_words(row$conf.low, row$conf.high, function(end) format_percent(end, 4))
  written <- sprintf("%s%s", format_percent(row$estimate, 4), in_brackets(interval, row))
  paste(c(written, Filter(nzchar, one_in(row$estimate))), collapse = ", ")
}

mean_in_words <- function(row) {
  if (is.na(row$estimate)) return("no value in any trial")
  if (row$total == 1) return(sprintf("%s in a single trial", format_statistic(row$estimate)))
  if (isTRUE(row$std.error == 0) && is.null(row$by_trial)) {
    return(sprintf("%s in every trial", format_statistic(row$estimate)))
  }
  interval <- interval_in_words(row$conf.low, row$conf.high, format_statistic)
  sprintf("on average %s%s", format_statistic(row$estimate), in_brackets(interval, row))
}

# An interval, or why there is none.
in_brackets <- function(interval, row) {
  if (!is.na(interval)) return(sprintf(" (%s)", interval))
  clusters <- row[["clusters"]]
  if (is.null(clusters) || is.na(clusters)) return("")
  of <- count_of(clusters, "trial")
  if (clusters < fewest_clusters) sprintf(" (in %s, too few for an interval)", of) else
    sprintf(" (the same in all of %s)", of)
}

exactly_in_words <- function(row) {
  if (is.na(row$exact)) return("")
  z <- if (is.na(row$statistic)) "" else sprintf(" (z %+.1f)", row$statistic)
  sprintf("; exactly %s%s", exact_in_words(row$exact, row$is_chance), z)
}

term_name <- function(row) {
  paste0(row$term, if (!is.null(row[["turn"]])) sprintf(" at turn %s", format_count(row[["turn"]])), ": ")
}

# Whether counts and exact values agree, over all terms at once (Bonferroni); NA when there is nothing to compare, or
# too little was played to tell.
agrees <- function(estimates) {
  p <- estimates$p.value[!is.na(estimates$p.value)]
  if (!length(p) || max(estimates$total) < fewest_compared) return(NA)
  min(p) * length(p) >= verdict_level
}

# As of a chi-square test.
fewest_compared <- 10

agreement_in_words <- function(estimates) {
  agree <- agrees(estimates)
  if (is.na(agree)) {
    few <- any(!is.na(estimates$p.value))
    return(if (few) "Too few trials to tell whether they agree with the exact answer.")
  }
  sprintf("They %s (largest |z| %.1f of %s).",
          if (agree) "agree with the exact answer" else "lie further from the exact answer than 99 in 100 such runs",
          max(abs(estimates$statistic), na.rm = TRUE), count_of(sum(!is.na(estimates$p.value)), "estimate"))
}
