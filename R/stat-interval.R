# Intervals for what was counted.

# Wilson's interval for a probability (Wilson 1927, "Probable inference", p. 209).
wilson_interval <- function(successes, trials, level = 0.95) {
  z <- stats::qnorm((1 + level) / 2)
  share <- successes / trials
  middle <- (share + z^2 / (2 * trials)) / (1 + z^2 / trials)
  half <- z / (1 + z^2 / trials) * sqrt(share * (1 - share) / trials + z^2 / (4 * trials^2))
  # The ends that are exactly 0 or 1 must not suffer from rounding.
  low <- ifelse(successes == 0, 0, pmax(0, middle - half))
  high <- ifelse(successes == trials, 1, pmin(1, middle + half))
  list(low = low, high = high, half_width = half)
}

# The largest probability that would still give none in so many trials with chance (1 - level)/2
# (Clopper & Pearson 1934): what a simulated 0 says.
none_seen_bound <- function(trials, level = 0.95) -expm1(log((1 - level) / 2) / trials)

# Half of the interval of a mean by its standard error (Student 1908, Biometrika 6, 1-25). Values that are all the same
# say nothing of their error, and give none.
student_half_width <- function(error, freedom, level = 0.95) {
  known <- !is.na(error) & error > 0 & !is.na(freedom) & freedom >= 1
  ifelse(known, stats::qt((1 + level) / 2, ifelse(known, freedom, 1)) * error, NA_real_)
}

# The interval of a share that is a mean of clusters: Wilson's for as many independent trials as would have the same
# error, with Student's t in place of the normal. It never leaves 0 to 1.
share_interval <- function(share, error, freedom, level = 0.95) {
  known <- !is.na(error) & error > 0 & !is.na(freedom) & freedom >= 1
  alike <- ifelse(known, share * (1 - share) / error^2, NA_real_)
  t <- stats::qt((1 + level) / 2, ifelse(known, freedom, 1))
  middle <- (share + t^2 / (2 * alike)) / (1 + t^2 / alike)
  half <- t / (1 + t^2 / alike) * sqrt(share * (1 - share) / alike + t^2 / (4 * alike^2))
  list(low = pmax(0, middle - half), high = pmin(1, middle + half))
}

# The exact interval of a probability (Clopper & Pearson 1934, "The use of confidence or fiducial limits", Biometrika
# 26, 404-413): each end leaves (1 - level)/2 or less.
exact_interval <- function(successes, trials, level = 0.95) {
  tail <- (1 - level) / 2
  list(low = ifelse(successes == 0, 0, stats::qbeta(tail, successes, trials - successes + 1)),
       high = ifelse(successes == trials, 1, stats::qbeta(1 - tail, successes + 1, trials - successes)))
}

# The score interval of a difference of two probabilities told on the same trials, of which `more` had only the second
# and `fewer` only the first (Tango 1998, "Equivalence test and confidence interval for the difference in proportions
# for the paired-sample design", Stat. Med. 17, 891-908).
matched_interval <- function(more, fewer, trials, level = 0.95) {
  z <- stats::qnorm((1 + level) / 2)
  beyond <- function(difference) matched_score(difference, more, fewer, trials)
  seen <- (more - fewer) / trials
  end <- function(outer, side) {
    if (abs(seen - outer) < 1e-15) return(outer)
    short <- function(difference) beyond(difference) - side * z
    # The score grows without bound towards the ends, where it is worked out just inside them.
    inner <- outer - sign(outer - seen) * 1e-12
    stats::uniroot(short, sort(c(seen, inner)), tol = 1e-12)$root
  }
  list(low = end(-1, 1), high = end(1, -1))
}

# The score of a difference: how many standard errors what was seen lies above it, its other share being the likeliest.
matched_score <- function(difference, more, fewer, trials) {
  a <- 2 * trials
  b <- (2 * trials - more + fewer) * difference - more - fewer
  c <- -fewer * difference * (1 - difference)
  share <- pmax(0, (sqrt(pmax(0, b^2 - 4 * a * c)) - b) / (2 * a))
  variance <- trials * (2 * share + difference * (1 - difference))
  excess <- more - fewer - trials * difference
  if (excess == 0) 0 else excess / sqrt(max(variance, 1e-300))
}

# The variance per trial of how often an outcome comes, from exact whole-number sums: `n` entries in all, and how often
# it came in each trial, squared, as `squares`.
entry_variance <- function(n, squares, trials) {
  if (trials < 2) return(rep(NA_real_, length(n)))
  (squares - n^2 / trials) / (trials - 1)
}

# Between which order statistics a quantile lies (Conover 1999, Practical Nonparametric Statistics, section 3.2): each
# end leaves at most (1 - level)/2. Rank 0, or one beyond the trials: so few trials have no such end.
quantile_ranks <- function(trials, p, level = 0.95) {
  list(low = stats::qbinom((1 - level) / 2, trials, p), high = stats::qbinom((1 + level) / 2, trials, p) + 1)
}

# "95%: 12 to 30"; of an interval that is open at an end, "95%: at least 12"; NA where there is none.
interval_in_words <- function(low, high, show, level = "95%") {
  known <- !is.na(low) & !is.na(high)
  ends <- ifelse(is.infinite(low) | is.infinite(high), open_in_words(low, high, show),
                 paste(show(low), "to", show(high)))
  ifelse(known, sprintf("%s: %s", level, ends), NA_character_)
}

open_in_words <- function(low, high, show) {
  ifelse(is.infinite(low) & is.infinite(high), "too few to bound it",
         ifelse(is.infinite(high), paste("at least", show(low)), paste("at most", show(high))))
}
