# A chi-square statistic scaled to its law: sum of (O - E)^2 / E times a factor, on `df` degrees of
# freedom. The factor is what draws without replacement, whose margins are fixed, ask for. With fewer than 10 entries,
# or fewer than the root of 10 times the cells, that law does not hold, and the p-value says little (Koehler & Larntz
# 1980, "An empirical investigation of goodness-of-fit statistics for sparse multinomials"). A single trial, however
# many entries it has, says nothing of how trials vary.
scaled_chi_square <- function(observed, expected, factor, df, trials = Inf) {
  undefined <- is.na(factor) || df < 1 || any(expected <= 0)
  statistic <- if (undefined) NA_real_ else sum((observed - expected)^2 / expected) * factor
  entries <- sum(expected)
  list(statistic = statistic, df = if (undefined) NA_real_ else df,
       too_few = entries < 10 || trials < 2 || entries^2 < 10 * length(expected),
       p.value = stats::pchisq(statistic, df, lower.tail = FALSE))
}

chi_square_in_words <- function(test) {
  if (is.na(test$statistic)) return("there is nothing that could vary, so no test")
  sprintf("chi-square %s on %s df, p %s", format_number(test$statistic, 4), format_count(test$df),
          format_p_value(test$p.value))
}

# The noncentrality at which a chi-square test of this level has this power.
needed_noncentrality <- function(df, level, power) {
  critical <- stats::qchisq(level, df, lower.tail = FALSE)
  short <- function(ncp) stats::pchisq(critical, df, ncp, lower.tail = FALSE) - power
  stats::uniroot(short, c(0, 1000 + 100 * sqrt(df)), tol = 1e-9)$root
}

# Below this p-value we say that counts and law do not agree; one in a hundred fair runs will.
verdict_level <- 0.01

agreement <- function(test) if (is.na(test$statistic) || test$too_few) NA else !is_surprising(test)

is_surprising <- function(test) !test$too_few && isTRUE(test$p.value < verdict_level)
