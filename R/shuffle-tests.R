# The tests of an audit. Each is a list: `term`; `statistic` and the `law` it has under a uniform shuffle
# ("chi_square" on `df`, "normal", "normal_above", "poisson" with mean `df`), which give the `p.value`;
# `per_trial`, how fast the noncentrality (or its root, for a normal law) grows if what was seen is real;
# `effect` and `could_see` in words, the latter a function of the level at which the test is judged.

audit_tests <- function(counted, plan) {
  all <- counted$halves$all
  n <- plan$spec$cards
  tests <- list(position_test(all, plan))
  if (plan$identity && n > 1) {
    tests <- c(tests, statistic_tests(all, n), list(parity_test(all, n), top_test(all, plan$spec),
                                                    successive_test(all, n)))
  }
  tests <- c(tests, alike_tests(all, plan))
  if (plan$identity && n > 1) tests <- c(tests, list(guesser_test(counted$halves$guessed, n)))
  c(tests, list(repeats_test(counted$repeated, all$trials, plan)))
}

new_test <- function(term, law, statistic, df, per_trial, effect, could_see) {
  list(term = term, law = law, statistic = statistic, df = df, p.value = law_p_value(law, statistic, df),
       per_trial = per_trial, effect = effect, could_see = could_see)
}

law_p_value <- function(law, statistic, df) {
  switch(
    law,
    chi_square = stats::pchisq(statistic, df, lower.tail = FALSE),
    normal = 2 * stats::pnorm(-abs(statistic)),
    normal_above = stats::pnorm(statistic, lower.tail = FALSE),
    poisson = min(1, 2 * min(stats::ppois(statistic, df), stats::ppois(statistic - 1, df, lower.tail = FALSE))),
    poisson_above = stats::ppois(statistic - 1, df, lower.tail = FALSE)
  )
}

# A test that could not be made, and why.
no_test <- function(term, why) {
  new_test(term, "chi_square", NA_real_, NA_real_, NA_real_, why, function(level) NA_character_)
}

# What a normal test must be off by, in standard errors, to be found with 95% power.
needed_z <- function(level, sides = 2) {
  stats::qnorm(level / sides, lower.tail = FALSE) + stats::qnorm(audit_power)
}

audit_power <- 0.95

position_test <- function(all, plan) {
  spec <- plan$spec
  n <- spec$cards
  trials <- all$trials
  term <- if (plan$identity) "position_by_card" else "position_by_kind"
  df <- (length(spec$copies) - 1) * (n - 1)
  if (n < 2 || df < 1) return(no_test(term, "There is nothing that could vary."))
  expected <- rep(trials * spec$copies / n, times = n)
  test <- scaled_chi_square(all$n$position, expected, (n - 1) / n, df)
  worst <- worst_places(all, plan, 1)
  effect <- sprintf("%s at position %d in %s of trials; %s expected", worst$card, worst$position,
                    format_percent(worst$share), format_percent(worst$expected / trials))
  new_test(term, "chi_square", test$statistic, df, max(0, (test$statistic - df) / trials), effect,
           function(level) position_power(level, df, n, trials))
}

# One card's chance at one place off by d, others making up for it in its row and column, gives a
# noncentrality of trials d^2 n^2 / (n - 1).
position_power <- function(level, df, n, trials) {
  off <- sqrt(needed_noncentrality(df, level, audit_power) * (n - 1) / trials) / n
  sprintf("a card at a place %s points too often", format_number(100 * off, 2))
}

# Counts by card and position that are furthest from what is expected.
worst_places <- function(all, plan, rows) {
  places <- place_table(all, plan)
  utils::head(places[order(-abs(places$z)), , drop = FALSE], rows)
}

place_table <- function(all, plan) {
  spec <- plan$spec
  n <- spec$cards
  chance <- spec$copies / n
  cards <- card_labels(plan)
  expected <- all$trials * rep(chance, times = n)
  count <- all$n$position
  sd <- sqrt(all$trials * rep(chance * (1 - chance), times = n))
  data.frame(card = rep(cards, times = n), position = rep(seq_len(n), each = length(cards)), count = count,
             share = count / all$trials, expected = expected, z = ifelse(sd > 0, (count - expected) / sd, 0))
}

# Codes; where copies are told apart, with the place they started from.
card_labels <- function(plan) {
  if (!plan$identity) return(kinds_of(plan$deck)$cards)
  codes <- as.character(plan$deck)
  if (anyDuplicated(codes)) sprintf("%s (place %d)", codes, seq_along(codes)) else codes
}

statistic_words <- c(
  stayed_put = "cards stayed put on average", still_together = "neighbours still together on average",
  rising_sequences = "rising sequences on average", inversions = "pairs turned round on average",
  cycles = "cycles on average", total_distance = "places travelled in all on average"
)

statistic_tests <- function(all, n) {
  moments <- uniform_moments(n)
  laws <- if (n <= largest_exact_law) uniform_laws(n)
  lapply(names(statistic_words), function(term) {
    row <- moments[moments$term == term, ]
    mean <- observed_mean(all, term)
    effect <- sprintf("%s %s; %s expected", format_statistic(mean), statistic_words[[term]], format_statistic(row$mean))
    if (n > largest_exact_law) return(mean_test(term, mean, row, all$trials, effect))
    law_test(term, all$n[[term]], laws[[term]], all$trials, effect)
  })
}

observed_mean <- function(all, term) {
  counts <- all$n[[term]]
  if (length(counts)) return(sum(counts * (seq_along(counts) - 1)) / all$trials)
  all$n$sums[match(term, c("inversions", "total_distance"))] / all$trials
}

mean_test <- function(term, mean, row, trials, effect) {
  error <- sqrt(row$variance / trials)
  if (!isTRUE(error > 0)) return(no_test(term, effect))
  z <- (mean - row$mean) / error
  new_test(term, "normal", z, NA_real_, abs(z) / sqrt(trials), effect,
           function(level) sprintf("%s off on average", format_number(needed_z(level) * error, 2)))
}

# Counts of 0, 1, ... against their whole law.
law_test <- function(term, counts, law, trials, effect) {
  interval <- cut_law(law, trials)
  if (max(interval) < 2) return(no_test(term, paste0(effect, " (too few trials to judge)")))
  expected <- rowsum(law, interval)[, 1]
  observed <- rowsum(counts, interval)[, 1]
  test <- scaled_chi_square(observed, trials * expected, 1, length(expected) - 1)
  new_test(term, "chi_square", test$statistic, test$df, max(0, (test$statistic - test$df) / trials), effect,
           function(level) tilt_power(level, law, interval, trials))
}

# The law tilted a little: chances in proportion to 1 + t (value - mean). Its mean moves by t times the
# variance, and every trial adds t^2 times the variance between intervals.
tilt_power <- function(level, law, interval, trials) {
  value <- seq_along(law) - 1
  mean <- sum(law * value)
  share <- rowsum(law, interval)[, 1]
  between <- sum(share * (rowsum(law * value, interval)[, 1] / share - mean)^2)
  variance <- sum(law * (value - mean)^2)
  ncp <- needed_noncentrality(length(share) - 1, level, audit_power)
  sprintf("%s off on average", format_number(variance * sqrt(ncp / trials / between), 2))
}

# An arrangement of n cards with c cycles is even when n - c is.
parity_test <- function(all, n) {
  counts <- all$n$cycles
  even <- sum(counts[(n - (seq_along(counts) - 1)) %% 2 == 0])
  trials <- all$trials
  z <- (even - trials / 2) / sqrt(trials / 4)
  new_test("parity", "normal", z, NA_real_, abs(z) / sqrt(trials),
           sprintf("%s of arrangements are even; 50%% expected", format_percent(even / trials, 4)), function(level) {
             sprintf("even %s points too often", format_number(100 * needed_z(level) / 2 / sqrt(trials), 2))
           })
}

top_test <- function(all, spec) {
  n <- spec$cards
  trials <- all$trials
  cells <- prod(n - seq_len(spec$top) + 1)
  # Of the core's n^top cells those that name a card twice stay empty.
  counts <- all$n$top_cards
  what <- if (spec$top == n) "arrangements" else sprintf("ordered top %s", if (spec$top == 1) "cards" else spec$top)
  often <- sprintf("of %s %s, the most frequent came %s times; %s expected each", format_count(cells), what,
                   format_count(max(counts)), format_statistic(trials / cells))
  if (trials / cells >= 5) {
    statistic <- sum(counts^2) * cells / trials - trials
    return(new_test("top_cards", "chi_square", statistic, cells - 1, max(0, (statistic - cells + 1) / trials), often,
                    function(level) uneven_words(needed_noncentrality(cells - 1, level, audit_power) / trials)))
  }
  pairs <- sum(counts * (counts - 1) / 2)
  mean <- trials * (trials - 1) / (2 * cells)
  new_test("top_cards", "poisson", pairs, mean, max(0, pairs - mean) / max(1, trials * (trials - 1) / 2),
           sprintf("%s pairs of trials with the same %s; %s expected", format_count(pairs), what,
                   format_statistic(mean)),
           function(level) uneven_words(needed_z(level) / sqrt(mean)))
}

# Half of the cells likelier by a share r, half less: a noncentrality of r^2 a trial.
uneven_words <- function(squared) {
  if (!is.finite(squared) || squared >= 1) return("nothing: too few trials")
  sprintf("half of them %s likelier than the rest", format_percent((1 + sqrt(squared)) / (1 - sqrt(squared)) - 1))
}

successive_test <- function(all, n) {
  pairs <- all$n$successive[1]
  if (pairs == 0) return(no_test("successive", "There are no successive trials."))
  mean <- (all$n$successive[2] / pairs - n * (n - 1)^2 / 4) / (n * (n^2 - 1) / 12)
  error <- 1 / sqrt((n - 1) * pairs)
  new_test("successive", "normal", mean / error, NA_real_, abs(mean) * sqrt(n - 1),
           sprintf("a mean correlation of %s with the trial before; 0 expected", format_number(mean, 2)),
           function(level) sprintf("a mean correlation of %s", format_number(needed_z(level) * error, 2)))
}

alike_tests <- function(all, plan) {
  below <- if (is.null(plan$grid)) 0 else plan$grid[2]
  Map(function(attribute, counts, like) {
    group <- if (plan$identity) like$group else rep(like$group, plan$spec$copies)
    law <- alike_law(tabulate(group), plan$spec$cards, below)
    mean <- sum(counts * (seq_along(counts) - 1)) / all$trials
    effect <- sprintf("%s pairs of neighbours share a %s on average; %s expected", format_statistic(mean), attribute,
                      format_statistic(law$mean))
    mean_test(paste0("alike_", attribute), mean, law, all$trials, effect)
  }, names(plan$spec$alike), all$n$alike, plan$spec$alike)
}

guesser_test <- function(guessed, n) {
  if (is.null(guessed)) return(no_test("guesser", "Too few trials to teach a guesser."))
  gain <- guesser_gain(guessed, n)
  z <- gain$gain / gain$error
  new_test("guesser", "normal_above", z, NA_real_, max(0, z) / sqrt(guessed$trials * 2),
           sprintf("gains %s cards a deck: names %s, %s expected", format_number(gain$gain, 3),
                   format_statistic(gain$gain + gain$expected), format_statistic(gain$expected)),
           function(level) sprintf("%s cards gained per deck", format_number(needed_z(level, 1) * gain$error, 2)))
}

# Cards a deck that the guesser names beyond what it would in a uniform shuffle.
guesser_gain <- function(guessed, n) {
  right <- guessed$n$right_guesses
  left <- seq_len(n)
  list(gain = sum(right * (seq_along(right) - 1)) / guessed$trials - sum(1 / left), expected = sum(1 / left),
       error = sqrt((sum(1 / left) - sum(1 / left^2)) / guessed$trials))
}

repeats_test <- function(repeated, trials, plan) {
  if (is.null(repeated)) return(NULL)
  copies <- plan$spec$copies
  mean <- exp(log(trials) + log(max(trials - 1, 1e-300)) - log(2) - lfactorial(sum(copies)) + sum(lfactorial(copies)))
  pairs <- repeated[["pairs"]]
  effect <- if (pairs == 0) "no arrangement came again" else {
    sprintf("%s of trials with the same arrangement; %s expected. First: trial %s repeats trial %s",
            count_of(pairs, "pair"), format_statistic(signif(mean, 3)), format_count(repeated[["again"]]),
              format_count(repeated[["before"]]))
  }
  new_test("repeats", "poisson_above", pairs, mean, max(0, pairs - mean) / max(1, trials * (trials - 1) / 2), effect,
           function(level) repeats_power(level, mean, trials))
}

# A generator with S starting points adds N(N-1)/(2 S) pairs on average.
repeats_power <- function(level, mean, trials) {
  found <- stats::qpois(level, mean, lower.tail = FALSE) + 1
  needed <- stats::uniroot(function(m) stats::ppois(found - 1, m, lower.tail = FALSE) - audit_power,
                           c(mean, mean + 100 + 20 * sqrt(mean + 1)))$root - mean
  sprintf("a generator with up to %s starting points", format_count(signif(trials * (trials - 1) / 2 / needed, 2)))
}
