test_that("Wilson's interval ends where the score test just rejects, and covers as it should", {
  z <- qnorm(0.975)
  for (case in list(c(3, 20), c(1, 1000), c(500, 1000), c(999, 1000))) {
    share <- case[1] / case[2]
    found <- habanera:::wilson_interval(case[1], case[2])
    score <- function(p) (share - p) / sqrt(p * (1 - p) / case[2])
    expect_equal(score(found$low), z, tolerance = 1e-8)
    expect_equal(score(found$high), -z, tolerance = 1e-8)
  }
  expect_equal(habanera:::wilson_interval(0, 10)$low, 0)
  expect_equal(habanera:::wilson_interval(10, 10)$high, 1)
  # By its law, not by simulation: what 40 trials can give, with the chance of each. On average over p it covers as
  # often as it says, to a percentage point (Brown, Cai & DasGupta 2001, Stat. Sci. 16, section 3).
  covered <- function(p) {
    ends <- habanera:::wilson_interval(0:40, 40)
    sum(dbinom(0:40, 40, p)[ends$low <= p & p <= ends$high])
  }
  expect_equal(mean(vapply(seq(0.05, 0.95, 0.01), covered, 0)), 0.95, tolerance = 0.01)
})

test_that("what was never seen has the bound at which that is as unlikely as said", {
  for (trials in c(10, 1e5)) {
    expect_equal((1 - habanera:::none_seen_bound(trials))^trials, 0.025, tolerance = 1e-9)
    expect_equal((1 - habanera:::none_seen_bound(trials, 0.9))^trials, 0.05, tolerance = 1e-9)
  }
})

test_that("the variance from sums is that of the trials themselves", {
  each <- list(c(0, 2, 1, 0, 3, 0, 1), c(1, 1, 1, 1), c(5, 0))
  for (came in each) {
    found <- habanera:::entry_variance(sum(came), sum(came^2), length(came))
    expect_equal(found, var(came))
  }
  expect_true(is.na(habanera:::entry_variance(1, 0, 1)))
  # Through the interface: kings in a hand, trial by trial.
  x <- simulate(draws(deck_standard(), 8, replace = TRUE), nsim = 300, seed = 2)
  single <- trials(x$provenance$experiment, 2, 1:300)
  came <- rowSums(single[grepl("^card_", names(single))] == "KD")
  row <- tidy(x)[tidy(x)$term == "card=KD" | tidy(x)$term == "KD", ]
  expect_equal(row$estimate, mean(came))
  expect_equal(row$std.error, sd(came) / sqrt(300))
})

test_that("chi-square is the sum by hand, has its law's p, and none where nothing can vary", {
  # (12 - 10)^2 / 10 + (7 - 10)^2 / 10 + (11 - 10)^2 / 10 = 1.4; a tail of 2 df is exp(-x / 2).
  found <- habanera:::scaled_chi_square(c(12, 7, 11), rep(10, 3), 1, 2)
  expect_equal(found$statistic, 1.4)
  expect_equal(found$p.value, exp(-0.7))
  expect_equal(habanera:::scaled_chi_square(c(12, 7, 11), rep(10, 3), 0.5, 2)$p.value, exp(-0.35))
  expect_match(habanera:::chi_square_in_words(found), "chi-square 1.400 on 2 df, p = 0.50")
  for (none in list(list(3, 3, 1, 0), list(c(1, 0), c(1, 0), 1, 1), list(c(1, 2), c(1, 2), NA, 1))) {
    empty <- do.call(habanera:::scaled_chi_square, none)
    expect_true(is.na(empty$statistic) && is.na(empty$p.value))
    expect_match(habanera:::chi_square_in_words(empty), "nothing that could vary")
  }
})

test_that("the noncentrality asked for gives the power asked for", {
  for (df in c(1, 51, 2652)) for (power in c(0.5, 0.95)) {
    ncp <- habanera:::needed_noncentrality(df, 0.01, power)
    expect_equal(pchisq(qchisq(0.99, df), df, ncp, lower.tail = FALSE), power, tolerance = 1e-6)
  }
  # Of one degree of freedom it is a normal's shift: with so large a shift the other tail is nothing.
  expect_equal(habanera:::needed_noncentrality(1, 0.01, 0.95), (qnorm(0.995) + qnorm(0.95))^2, tolerance = 1e-4)
})
