test_that("the summary is Pearson's, by hand", {
  # Ten draws of one card from a deck of A, A, K, Q: E = 5, 2.5, 2.5. Counts 7, 2, 1:
  # 4/5 + 0.25/2.5 + 2.25/2.5 = 1.8 on 2 df (size 1: the factor is 3/3).
  deck <- as_cards("AS AS KD QC")
  x <- as_counts(c(AS = 7, KD = 2, QC = 1), deck = deck)
  s <- summary(x)
  expect_equal(s$test, list(statistic = 1.8, df = 2, too_few = FALSE, p.value = exp(-0.9)))
  expect_equal(s$table$card, c("AS", "KD", "QC", "total"))
  expect_equal(s$table$expected, c(5, 2.5, 2.5, 10))
  expect_equal(s$table$deviation, c(2, -0.5, -1.5, 0))
  expect_equal(s$table$percent, c(70, 20, 10, 100))
  expect_equal(s$table$z, c(2 / sqrt(2.5), -0.5 / sqrt(10 * 3 / 16), -1.5 / sqrt(10 * 3 / 16), NA))
  # Two cards a draw: the same sum is stretched by (4 - 1)/(4 - 2); with replacement it is not.
  two <- summary(as_counts(c(AS = 7, KD = 2, QC = 1), deck = deck, size = 2))
  expect_equal(two$test$statistic, 1.5 * 1.8)
  back <- summary(as_counts(c(AS = 7, KD = 2, QC = 1), deck = deck, size = 2, replace = TRUE))
  expect_equal(back$test$statistic, 1.8)
  # By suit: spades, diamonds, clubs here, so the same numbers under other names.
  by_suit <- summary(x, group = "suit")
  expect_equal(by_suit$test, s$test)
  expect_named(by_suit$table, c("suit", "count", "percent", "expected", "deviation", "z"))
  by_colour <- summary(as_counts(c(AS = 7, KD = 2, QC = 1),
                                 deck = set_attributes(deck, red = c(KD = TRUE, other = FALSE))),
                       group = "red")
  expect_equal(by_colour$test, list(statistic = 0.25 / 7.5 + 0.25 / 2.5, df = 1, too_few = FALSE,
                                    p.value = pchisq(2 / 15, 1, lower.tail = FALSE)))
})

test_that("where nothing can vary the test is NA, not a wrong number", {
  deck <- deck_standard()
  for (case in list(draws(deck, 52), draws(deck, 0), draws(as_cards("AS AS"), 1),
                    positions(deck_numbered(1)), positions(deck_numbered(0)))) {
    x <- simulate(case, nsim = 20, seed = 1)
    expect_equal(summary(x)$test$statistic, NA_real_)
    expect_match(paste(capture.output(print(x)), collapse = " "), "Nothing here could vary")
    expect_equal(compare(x, exact(case))$agree, NA)
  }
})

test_that("p-values are uniform when the draws are fair", {
  deck <- deck_standard(packs = 2)
  cases <- list(draws(deck, 5), draws(deck, 60), draws(deck_numbered(12), 4, replace = TRUE),
                positions(deck_standard(ranks = c("J", "Q", "K", "A"), suits = c("S", "H"))),
                positions(as_cards("AS AS AS KD KD QC")))
  groups <- list(NULL, "suit", NULL, "suit", NULL)
  for (i in seq_along(cases)) {
    p <- vapply(1:400, function(seed) {
      summary(simulate(cases[[i]], nsim = 2000, seed = seed), group = groups[[i]])$test$p.value
    }, 0)
    # Kolmogorov's test of 400 p-values: false alarms are as rare as a stray of four standard errors.
    expect_gt(suppressWarnings(ks.test(p, "punif"))$p.value, rare)
  }
})

test_that("a bias is found, and a kind that never came is named with how unlikely that is", {
  # A draw that never takes the last card: of 500 draws of one of 52, (51/52)^500.
  x <- simulate(draws_with(function(deck) sample(deck[1:51], 1), size = 1), nsim = 500, seed = 1)
  s <- summary(x)
  expect_true("AC" %in% s$unseen$card)
  expect_equal(s$unseen$log10_chance[s$unseen$card == "AC"], 500 * log10(51 / 52))
  # The largest chance p with (1 - p)^500 = 0.025.
  expect_equal(s$unseen$at_most[1], 1 - 0.025^(1 / 500))
  three <- as_counts(c(AS = 30, KD = 30, QC = 0, JH = 0), deck = as_cards("AS KD QC JH"), size = 2)
  # Two of four cards miss a given one with chance 1/2.
  expect_equal(summary(three)$unseen$log10_chance, rep(30 * log10(0.5), 2))
  expect_match(paste(capture.output(print(three)), collapse = " "), "Biased: .*Never came: JH \\(chance 9.3e-10")
})

test_that("counts agree or not with the exact answer, in words and as a tidy table", {
  fair <- exact(draws(deck_standard(), 5))
  ours <- compare(simulate(draws(deck_standard(), 5), nsim = 20000, seed = 3), fair)
  expect_true(ours$agree)
  table <- tidy(ours)
  expect_equal(table$term[1:2], c("overall", "card=2S"))
  expect_equal(table$statistic[1], ours$test$statistic)
  expect_equal(table$p.adjusted[-1], p.adjust(table$p.value[-1], "holm"))
  expect_equal(table$estimate[-1], ours$cells$count / 20000)
  orchard <- deck_from(demo_file("orchard.csv"))
  tablet <- draws_recorded(demo_file("tablet-draws.txt"), orchard, numbering = list(first = 0))
  wrong <- compare(tablet, exact(draws(orchard, 3)))
  expect_false(wrong$agree)
  expect_equal(wrong$unseen$card, "11P")
  local_reproducible_output(width = 100, unicode = FALSE)
  expect_snapshot({
    wrong
    summary(tablet, group = "suit")
  })
  expect_refusals(list(
    list(quote(compare(tablet, fair)), "input", "These are not the same draws"),
    list(quote(compare(tablet, 5)), "input", "`y` must be a distribution"),
    list(quote(summary(tablet, group = "seson")), "input", "did you mean \"season\"?")
  ))
})

test_that("draws_needed() gives the trials at which a bias is seen as often as it says", {
  deck <- deck_numbered(8)
  needed <- draws_needed(deck, 1, off_by = 0.3)
  expect_equal(needed$test[3], "overall chi-square")
  # By hand for the named card: p = 1/8, q = 0.1625.
  p <- 1 / 8
  q <- 1.3 / 8
  by_hand <- (qnorm(0.975) * sqrt(p * (1 - p)) + qnorm(0.95) * sqrt(q * (1 - q)))^2 / (q - p)^2
  expect_equal(needed$trials[1], ceiling(by_hand))
  # By simulation, at a small bias: the biased counts' covariance differs from the fair one by at most
  # a share e in any direction, so the power lies between those at spreads 1 - e and 1 + e.
  small <- 0.02
  n <- draws_needed(deck, 1, off_by = small)$trials[3]
  rates <- c(p * (1 + small), rep((1 - p * (1 + small)) / 7, 7))
  e <- max(abs(rates / p - 1)) + small^2
  lambda <- n * sum((rates - p)^2 / p)
  power <- function(s) pchisq(qchisq(0.95, 7) / s, 7, lambda / s, lower.tail = FALSE)
  withr::local_seed(1)
  seen <- mean(colSums((rmultinom(4000, n, rates) - n * p)^2) / (n * p) > qchisq(0.95, 7))
  sampling <- standard_errors * sqrt(0.95 * 0.05 / 4000)
  expect_gt(seen, power(1 - e) - sampling)
  expect_lt(seen, power(1 + e) + sampling)
  expect_equal(power(1), 0.95, tolerance = 1e-4)  # n was rounded up to a whole number
  expect_lt(draws_needed(deck, 1, 0.3, power = 0.5)$trials[1], needed$trials[1])
  expect_refusals(list(
    list(quote(draws_needed(deck, 8, 0.1)), "input", "every draw holds the same cards"),
    list(quote(draws_needed(deck, 4, 2)), "input", "`off_by` must be below 1.00"),
    list(quote(draws_needed(deck, 4, -1)), "input", "`off_by` must be a number above 0"),
    list(quote(draws_needed(deck, 4, 0.1, card = "9")), "notation", "Unknown card \"9\"")
  ))
})
