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

# The variance per trial of how often an outcome comes, from exact whole-number sums: `n` entries in all, and how often
# it came in each trial, squared, as `squares`.
entry_variance <- function(n, squares, trials) {
  if (trials < 2) return(rep(NA_real_, length(n)))
  (squares - n^2 / trials) / (trials - 1)
}
