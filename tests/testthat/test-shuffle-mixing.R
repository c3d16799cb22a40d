test_that("distances are exact where a closed form or a walk gives them", {
  found <- mixing(list("riffle", "top_to_random"), times = 0:3, nsim = 500, seed = 1)
  expect_true(all(found$exact))
  expect_equal(found$distance[found$procedure == "riffle"][-1], exact_distance(shuffle_riffle(), 52,
                                                                               1:3)$total_variation)
  walked <- mixing("overhand", times = 2, deck = deck_numbered(5), nsim = 500, seed = 1)
  expect_true(walked$exact)
  expect_equal(walked$distance, summary(exact(shuffle_overhand(2), deck_numbered(5)))$terms$total_variation)
})

test_that("lower bounds lie below the exact distance, and near it where statistics tell all", {
  # A riffle and then nothing has no closed form here, but the distance of the riffle.
  times <- c(1, 3, 5, 6, 7, 8)
  bound <- mixing("riffle, none", times = times, nsim = 4e5, seed = 4)
  known <- exact_distance(shuffle_riffle(), 52, times)$total_variation
  expect_false(any(bound$exact))
  expect_true(all(bound$distance <= known))
  # The chance of an arrangement depends on its rising sequences alone (Bayer & Diaconis 1992), so that what
  # separates the bound from the distance is its interval (95% over 6 numbers of repeats and 11 statistics) and
  # the chance of 2e5 trials, whose standard error is at most 0.5/sqrt(2e5).
  interval <- qnorm(1 - 0.05 / 66)
  expect_true(all(known - bound$distance < (interval + standard_errors) * 0.5 / sqrt(2e5)))
  expect_true(all(bound$statistic %in% "rising_sequences" | bound$distance > 0.99))
})

test_that("the guesser gains all of a deck that lies as it was, and nothing of a fair one", {
  found <- mixing(list("uniform", "faro"), times = 0:1, nsim = 1e4, seed = 2)
  expect_equal(found$gain[c(1, 3, 4)], rep(52 - sum(1 / 1:52), 3))
  error <- sqrt((sum(1 / 1:52) - sum(1 / (1:52)^2)) / 5000)
  expect_lte(abs(found$gain[2]), standard_errors * error)
  expect_equal(found$distance[2], 0)
  expect_true(found$passes[2])
  expect_true(all(found$gain_low <= found$gain & found$gain <= found$gain_high))
})

test_that("seconds follow the steps, and the first number that passes is named", {
  found <- mixing(list(quick = "riffle", slow = "wash, riffle x2"), times = c(0, 2, 10), nsim = 2e4, seed = 1,
                  gain = 0.2)
  expect_equal(found$seconds, c(0, 16, 80, 0, 72, 360))
  expect_output(print(found), "quick: first passes after 10 repeats \\(80 s by hand\\)")
  expect_named(tidy(found), c("procedure", "times", "seconds", "distance", "exact", "statistic", "gain", "gain_low",
                              "gain_high", "passes"))
  expect_output(print(mixing("overhand", times = 1, nsim = 500, seed = 1)), "does not pass in 1 repeat")
})

test_that("bad settings of mixing are refused", {
  expect_refusals(list(
    list(quote(mixing(3)), "input", "must be a procedure or a list of them"),
    list(quote(mixing(list("riffle", "riffle"))), "input", "\"riffle\" twice"),
    list(quote(mixing("rifle")), "notation", "There is no step \"rifle\""),
    list(quote(mixing("riffle", times = -1)), "input", "`times` must be numbers of repeats"),
    list(quote(mixing("riffle", deck = deck_numbered(1))), "input", "one arrangement only"),
    list(quote(mixing(shuffle_with(rev))), "input", "R function"),
    list(quote(mixing("overwrite", times = 1, nsim = 100)), "input", "loses or doubles cards")
  ))
})
