# The laws, under a uniform shuffle of n cards, of what an audit reads off arrangements: chances of
# 0, 1, 2, ... up to the largest value.

largest_exact_law <- 400

# Worked out once for each size: a second or two for some hundred cards.
uniform_laws <- function(n) {
  key <- as.character(n)
  if (is.null(laws_worked_out[[key]])) laws_worked_out[[key]] <- work_out_laws(n)
  laws_worked_out[[key]]
}

laws_worked_out <- new.env(parent = emptyenv())

work_out_laws <- function(n) {
  list(stayed_put = stayed_law(n), still_together = together_law(n), rising_sequences = c(0, rising_shares(n)),
       inversions = inversion_law(n), cycles = cycle_law(n), total_distance = distance_law(n))
}

# Means and variances of the same, for decks too large for whole laws. Of inversions, and of rising
# sequences, whose number is one more than that of descents of the inverse: Feller 1968 (vol. I, p. 256)
# and Bona 2012, "Combinatorics of permutations", ch. 1; of the distance: Diaconis & Graham 1977,
# "Spearman's footrule as a measure of disarray", p. 264.
uniform_moments <- function(n) {
  harmonic <- sum(1 / seq_len(n))
  together <- (n - 1) / n
  data.frame(
    term = c("stayed_put", "still_together", "rising_sequences", "inversions", "cycles", "total_distance"),
    mean = c(1, together, (n + 1) / 2, n * (n - 1) / 4, harmonic, (n^2 - 1) / 3),
    variance = c(1, (n - 2) / n + together - together^2, (n + 1) / 12, n * (n - 1) * (2 * n + 5) / 72,
                 harmonic - sum(1 / seq_len(n)^2), (n + 1) * (2 * n^2 + 7) / 45)
  )
}

# Shares of arrangements of m things without any in its place, D(m)/m!, for m = 0, 1, ..., n.
derangement_shares <- function(n) cumsum((-1)^(0:n) / factorial(0:n))

# choose(n, k) D(n - k) / n! (Feller 1968, vol. I, p. 107).
stayed_law <- function(n) {
  k <- 0:n
  derangement_shares(n)[n - k + 1] / factorial(k)
}

# C(n-1, k) (D(n-k) + D(n-k-1)) / n! (Riordan 1958, "An introduction to combinatorial analysis", ch. 8).
together_law <- function(n) {
  if (n == 0) return(1)
  k <- 0:(n - 1)
  shares <- derangement_shares(n)
  rest <- n - k
  # D(m) + D(m - 1) over m! is the share of D(m), and that of D(m - 1) divided by m.
  c((shares[rest + 1] + shares[rest] / rest) * rest / n / factorial(k), 0)
}

# The i-th card adds 0 to i - 1 inversions, each equally likely (Knuth 1973, vol. 3, sec. 5.1.1).
inversion_law <- function(n) {
  law <- 1
  for (i in seq_len(n)[-1]) {
    sums <- cumsum(c(law, numeric(i - 1)))
    law <- (sums - c(numeric(i), sums[seq_len(length(sums) - i)])) / i
  }
  pmax(law, 0)
}

# Stirling numbers of the first kind: a new card closes a cycle of its own with chance 1/i.
cycle_law <- function(n) {
  law <- 1
  for (i in seq_len(n)) law <- (c(law, 0) * (i - 1) + c(0, law)) / i
  law
}

# The distance is always even.
distance_law <- function(n) {
  half <- core_distance_law(n)
  law <- numeric((n * n) %/% 2 + 1)
  law[2 * seq_along(half) - 1] <- half
  law
}

# Cuts a law into intervals of nearly equal probability, at most 20, each with at least 10 expected in so
# many trials: the number of each value's interval.
cut_law <- function(law, trials, most = 20, least = 10) {
  wanted <- max(1 / most, least / trials) * (1 - 1e-9)
  interval <- integer(length(law))
  now <- 1L
  held <- 0
  for (i in seq_along(law)) {
    interval[i] <- now
    held <- held + law[i]
    if (held >= wanted) {
      now <- now + 1L
      held <- 0
    }
  }
  # What is left over at the end goes to the last whole interval.
  if (held < wanted) interval[interval == now] <- max(now - 1L, 1L)
  interval
}

# Neighbours that share an attribute, in a row or in a grid (`below` cards wide; 0: a row): the expected
# number and its variance. A pair is alike with chance sum m(m-1) / n(n-1), m being how many cards share
# a value; the variance counts pairs of pairs that have a card in common, and that have none.
alike_law <- function(sharing, n, below) {
  degrees <- neighbour_numbers(n, below)
  edges <- sum(degrees) / 2
  touching <- sum(choose(degrees, 2))
  apart <- choose(edges, 2) - touching
  falling <- function(m, k) Reduce(`*`, lapply(seq_len(k) - 1, function(i) m - i), 1)
  two <- sum(falling(sharing, 2))
  both <- function(ways, k) if (n >= k) ways / falling(n, k) else 0
  one <- both(two, 2)
  pairs <- both(two^2 - sum(falling(sharing, 2)^2) + sum(falling(sharing, 4)), 4)
  mean <- edges * one
  list(mean = mean, variance = mean + 2 * touching * both(sum(falling(sharing, 3)), 3) +
         2 * apart * pairs - mean^2)
}

neighbour_numbers <- function(n, below) {
  width <- if (below > 0) below else n
  column <- (seq_len(n) - 1) %% width
  row <- (seq_len(n) - 1) %/% width
  (column > 0) + (column < width - 1 & seq_len(n) < n) +
    (if (below > 0) (row > 0) + (seq_len(n) + below <= n) else 0)
}
