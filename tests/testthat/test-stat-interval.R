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

test_that("each end of a quantile's interval leaves a fortieth or less, and is open where so few trials have none", {
  for (trials in c(1, 5, 6, 10, 35, 36, 100, 1000)) for (p in c(0.1, 0.5, 0.9)) {
    ranks <- quantile_ranks(trials, p)
    # The end at rank l misses when fewer than l lie at or below, that at rank h when h or more lie below.
    if (ranks$low > 0) expect_lte(pbinom(ranks$low - 1, trials, p), 0.025)
    expect_gt(pbinom(ranks$low, trials, p), 0.025 - 1e-12)
    if (ranks$high <= trials) expect_lte(pbinom(ranks$high - 1, trials, p, lower.tail = FALSE), 0.025)
    expect_gt(pbinom(ranks$high - 2, trials, p, lower.tail = FALSE), 0.025 - 1e-12)
  }
  # Nine tenths to the 36th is the first below a fortieth, a half to the sixth.
  open <- function(trials, p) unlist(column_quantiles(seq_len(trials), rep(1, trials), p, TRUE)[c("conf.low",
                                                                                                 "conf.high")])
  expect_equal(unname(open(35, 0.9)), c(open(35, 0.9)[[1]], Inf))
  expect_true(all(is.finite(open(36, 0.9))))
  expect_equal(open(35, 0.1)[[1]], -Inf)
  expect_equal(unname(open(5, 0.5)), c(-Inf, Inf))
  expect_equal(unname(open(6, 0.5)), c(1, 6))
  # By simulation, through the function that tables use: uniform values, whose quantiles are known.
  set.seed(1)
  for (trials in c(5, 10, 40)) for (p in c(0.1, 0.5, 0.9)) {
    covered <- mean(replicate(2000, {
      found <- column_quantiles(runif(trials), rep(1, trials), p, TRUE)
      found$conf.low <= p && p <= found$conf.high
    }))
    expect_gt(covered, 0.95 - standard_errors * sqrt(0.95 * 0.05 / 2000))
  }
  expect_equal(interval_in_words(c(1, -Inf, 2, -Inf, NA), c(3, 4, Inf, Inf, 1), as.character),
               c("95%: 1 to 3", "95%: at most 4", "95%: at least 2", "95%: too few to bound it", NA))
})

test_that("few trials leave open ends wherever quantiles stand", {
  counts <- simulate(game_war(), nsim = 10, seed = 3)
  row <- function(table, term) table[table$term == term, ]
  expect_equal(row(tidy(counts), "rounds_p90")$conf.high, Inf)
  expect_equal(row(estimates(counts, c("rounds_p10", "rounds_p99")), "rounds_p10")$conf.low, -Inf)
  expect_equal(row(tidy(summary(counts)), "rounds_p10")$conf.low, -Inf)
  expect_output(print(summary(counts)), "nine\\s+in\\s+ten up to [0-9]+ \\(at least [0-9]+\\)")
  settled <- convergence(counts, "rounds_p90")
  expect_equal(settled$conf.high[nrow(settled)], Inf)
  expect_output(print(settled), "95%: at least")
  varied <- vary_rules(game_war(), face_down = c(1, 3), nsim = 10, seed = 3)
  expect_equal(row(varied, "rounds_p90")$conf.high, c(Inf, Inf))
  expect_output(print(varied), "\\(at least [0-9]+\\)")
  drawn <- autoplot(varied)
  expect_true(all(is.infinite(ggplot2::layer_data(drawn, 2)$ymax)))
  expect_match(drawn$labels$caption, "open where they reach the edge")
  long <- simulate(game_war(), nsim = 1e6, seed = 1, precision = c(rounds_p90 = 4))
  at <- row(tidy(long), "rounds_p90")
  expect_true(max(at$conf.high - at$estimate, at$estimate - at$conf.low) <= 4 && trials_of(long) < 1e6)
  page <- withr::local_tempfile(fileext = ".html")
  report(counts, page)
  expect_match(paste(readLines(page), collapse = " "), "at least [0-9]+")
})

test_that("exact intervals and matched pairs are those of their definitions", {
  for (case in list(c(0, 10), c(3, 10), c(10, 10))) {
    found <- exact_interval(case[1], case[2])
    known <- binom.test(case[1], case[2])$conf.int
    expect_equal(c(found$low, found$high), as.numeric(known), tolerance = 1e-9)
  }
  # The score of matched pairs by its definition: the largest likelihood of the shares, found numerically.
  slow_score <- function(difference, more, fewer, trials) {
    same <- trials - more - fewer
    loss <- function(q) {
      p <- c(q + difference, q, 1 - 2 * q - difference)
      if (any(p < 0)) Inf else -sum(ifelse(c(more, fewer, same) > 0, c(more, fewer, same) * log(pmax(p, 1e-300)), 0))
    }
    q <- optimize(loss, c(max(0, -difference), (1 - difference) / 2), tol = 1e-12)$minimum
    (more - fewer - trials * difference) / sqrt(trials * (2 * q + difference - difference^2))
  }
  for (case in list(c(12, 2, 44), c(4, 4, 30), c(3, 1, 1000), c(30, 5, 60))) {
    found <- matched_interval(case[1], case[2], case[3])
    expect_equal(slow_score(found$low, case[1], case[2], case[3]), qnorm(0.975), tolerance = 1e-4)
    expect_equal(slow_score(found$high, case[1], case[2], case[3]), -qnorm(0.975), tolerance = 1e-4)
  }
  # Where none differed the end is at z^2 / (n + z^2), worked by hand from the score.
  z <- qnorm(0.975)
  expect_equal(matched_interval(0, 0, 500), list(low = -z^2 / (500 + z^2), high = z^2 / (500 + z^2)),
               tolerance = 1e-6)
  # What it covers by its law, all ways that deals can differ, also where they rarely do.
  covered <- function(more, fewer, trials, most) {
    grid <- expand.grid(a = 0:most, b = 0:most)
    grid <- grid[grid$a + grid$b <= trials, ]
    chance <- apply(grid, 1, function(row) dmultinom(c(row, trials - sum(row)),
                                                     prob = c(more, fewer, 1 - more - fewer)))
    holds <- apply(grid, 1, function(row) {
      ends <- matched_interval(row[1], row[2], trials)
      ends$low <= more - fewer && more - fewer <= ends$high
    })
    c(sum(chance[holds]), sum(chance))
  }
  for (case in list(c(0.1, 0.05, 30, 15), c(0.003, 0.001, 1000, 15), c(1e-4, 2e-5, 5000, 8), c(0.3, 0.3, 12, 12))) {
    found <- covered(case[1], case[2], case[3], case[4])
    expect_gt(found[2], 0.999)
    expect_gt(found[1], 0.93)
  }
})

test_that("intervals of ratios hold what they promise with few clusters, seen in all or in a third of shoes", {
  set.seed(2)
  pays <- c(-2, -1, 0, 1, 1.5, 2)
  chances <- c(0.05, 0.43, 0.09, 0.33, 0.045, 0.055)
  # Rounds of a shoe at a count: 1 or more, and one shoe is luckier than another.
  repeated <- function(shoes, share, repeats) {
    size <- ifelse(rbinom(shoes * repeats, 1, share) == 1, 1 + rpois(shoes * repeats, 3), 0)
    round <- rep(seq_along(size), size)
    net <- sample(pays, length(round), TRUE, chances) + rep(rnorm(length(size), 0, 0.3), size)
    won <- runif(length(round)) < plogis(rnorm(length(size)))[round]
    each <- function(x) {
      found <- numeric(length(size))
      added <- rowsum(as.double(x), round)
      found[as.integer(rownames(added))] <- added
      matrix(found, repeats)
    }
    list(size = matrix(size, repeats), net = each(net), won = each(won))
  }
  half <- integrate(function(x) plogis(x) * dnorm(x), -Inf, Inf)$value
  for (share in c(1, 1 / 3)) for (clusters in c(6, 10, 20, 40)) {
    drawn <- repeated(round(clusters / share), share, 10000)
    held <- vapply(seq_len(10000), function(i) {
      spread <- jackknife_error(cbind(drawn$net[i, ]), cbind(drawn$size[i, ]), 1)
      freedom <- if (spread$clusters >= fewest_clusters) spread$clusters - 1 else NA_real_
      wide <- student_half_width(spread$error, freedom)
      off <- sum(drawn$net[i, ]) / sum(drawn$size[i, ]) - sum(pays * chances)
      spread <- jackknife_error(cbind(drawn$won[i, ]), cbind(drawn$size[i, ]), 1)
      ends <- share_interval(sum(drawn$won[i, ]) / sum(drawn$size[i, ]), spread$error, freedom)
      c(abs(off) <= wide, ends$low <= half && half <= ends$high)
    }, c(NA, NA))
    shown <- !is.na(held[1, ])
    expect_true(all(rowMeans(held[, shown]) > 0.93 & rowMeans(held[, shown]) < 0.97),
                info = paste(share, clusters, paste(rowMeans(held[, shown]), collapse = " ")))
  }
})
