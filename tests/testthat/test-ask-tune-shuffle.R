test_that("shuffles are tuned by their exact distances where there are such, and nothing is played", {
  found <- tune_rules(procedure("riffle"), list(times = 1:12, cards = c(40, 52)),
                      want = c("distance < 0.1", "cards == 52 | times > 9"), least = "seconds")
  law <- exact_distance(procedure("riffle"), 52, 1:12)
  of_52 <- found[found$cards == 52, ]
  expect_equal(of_52$distance[order(of_52$times)], law$total_variation)
  expect_equal(of_52$seconds, 8 * of_52$times)
  expect_equal(found[found$best == "best", c("times", "cards")], data.frame(times = 9L, cards = 52),
               ignore_attr = TRUE)
  expect_equal(sort(found$times[found$meets == "yes" & found$cards == 40]), 10:12)
  expect_equal(attr(found, "trials"), 0)
  now <- tune_rules(procedure("riffle"), list(times = 1:8), want = "distance < now(distance) / 2")
  expect_equal(sort(now$times[now$meets == "yes"]), which(law$total_variation[1:8] < law$total_variation[1] / 2))
})

test_that("a shuffle without a closed form is surely missed or open, by the bounds of mixing()", {
  found <- tune_rules(procedure("overhand"), list(times = c(2, 60), procedure = c("overhand", "overhand, cut")),
                      want = c("distance < 0.3", "gain < 2"), nsim = 4000, seed = 5, threads = 1)
  expect_setequal(found$meets, c("no", "open"))
  expect_equal(unique(found$times[found$meets == "no"]), 2)
  expect_true(all(is.infinite(found$distance.high)))
  mixed <- mixing(list("overhand", "overhand, cut"), times = c(2, 60), nsim = max(found$trials), seed = 5)
  row <- found[found$times == 60 & found$procedure == "overhand", ]
  of_mixing <- mixed[mixed$times == 60 & mixed$procedure == "overhand", ]
  expect_equal(row$gain, of_mixing$gain)
  # Surer than each alone.
  expect_lt(row$gain.low, of_mixing$gain_low)
  expect_lte(row$distance, of_mixing$distance)
  expect_output(print(found), "at least [0-9.]+%")
  expect_false(attr(found, "sure"))
  fresh <- attr(found, "fresh")
  expect_setequal(fresh$term, c("distance", "gain"))
  other <- mixing("overhand", times = 60, nsim = fresh$trials[1], seed = 6)
  expect_lt(abs(fresh$estimate[fresh$term == "gain" & fresh$procedure == "overhand"] - other$gain),
            standard_errors * sqrt(2) * (other$gain_high - other$gain) / stats::qnorm(0.975))
})

test_that("what cannot be tuned of a shuffle is said", {
  one <- procedure("riffle")
  expect_refusals(list(
    list(quote(tune_rules(one, list(time = 1:3), want = "gain < 1")), "rules", "did you mean \"times\""),
    list(quote(tune_rules(one, list(times = 1.5), want = "gain < 1")), "rules", "whole numbers from 0 to 10,000"),
    list(quote(tune_rules(one, list(cards = 1:3), want = "gain < 1")), "rules", "whole numbers from 2 to 4,096"),
    list(quote(tune_rules(one, list(procedure = "shuffel"), want = "gain < 1")), "notation", "shuffel"),
    list(quote(tune_rules(one, list(times = 1:3), want = "gian < 1")), "language", "gain"),
    list(quote(tune_rules(one, list(times = 1:3), want = "gain < 1", line_ups = list(1))), "input", "Nobody decides"),
    list(quote(tune_rules(shuffle_with(function(deck) deck), list(times = 1:3), want = "gain < 1")), "input",
         "R function")
  ))
})
