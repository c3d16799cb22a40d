test_that("the two classic slips, exactly", {
  # 27 equally likely paths onto 6 arrangements: 4 or 5 each.
  law <- exact(shuffle_naive_swap(), deck_numbered(3))
  expect_equal(rlang::set_names(law$probability * 27, law$outcomes$arrangement),
               c("1 2 3" = 4, "1 3 2" = 5, "2 1 3" = 5, "2 3 1" = 5, "3 1 2" = 4, "3 2 1" = 4))
  s <- summary(law)
  expect_equal(s$terms$total_variation, 3 * (5 / 27 - 1 / 6))
  expect_equal(s$terms$separation, 1 - 6 * 4 / 27)
  local_reproducible_output(unicode = FALSE)
  expect_snapshot(s)
  expect_equal(nrow(exact(shuffle_one_cycle(), deck_numbered(4))$outcomes), 6)
})

test_that("repeats are convolved, in order", {
  one <- exact(procedure("riffle x3, cut spread=1"), deck_numbered(4))
  # The law of steps one by one: Chapman and Kolmogorov by matrices over the 24 arrangements.
  all <- exact(shuffle_uniform(), deck_numbered(4))$outcomes$arrangement
  as_places <- function(text) as.numeric(strsplit(text, " ")[[1]])
  matrix_of <- function(text) {
    law <- exact(procedure(text), deck_numbered(4))
    step <- matrix(0, 24, 24)
    for (i in 1:24) for (j in seq_along(law$probability)) {
      to <- paste(as_places(all[i])[as_places(law$outcomes$arrangement[j])], collapse = " ")
      step[i, match(to, all)] <- step[i, match(to, all)] + law$probability[j]
    }
    step
  }
  start <- as.numeric(all == "1 2 3 4")
  riffle <- matrix_of("riffle")
  by_matrix <- start %*% riffle %*% riffle %*% riffle %*% matrix_of("cut spread=1")
  expect_equal(one$probability[match(all, one$outcomes$arrangement)], as.vector(by_matrix), tolerance = 1e-13)
})

test_that("like cards make like arrangements, and small decks are sensible", {
  law <- exact(shuffle_uniform(), as_cards("AS AS KD"))
  expect_equal(law$probability, rep(1 / 3, 3))
  expect_equal(tidy(law)$estimate, c(0, 0, log2(3)))
  for (size in 0:2) expect_equal(sum(exact(shuffle_riffle(), deck_numbered(size))$probability), 1)
  overwritten <- summary(exact(shuffle_overwrite(), deck_numbered(2)))
  expect_equal(c(overwritten$possible, overwritten$lost, overwritten$all), c(1, 1, 2))
  expect_equal(overwritten$terms$total_variation, 0.5)  # half the time one card stands twice
})

test_that("what is out of reach is refused with its size", {
  expect_refusals(list(
    list(quote(exact(shuffle_riffle(), deck_numbered(9))), "work", "at most 8 cards, not 9: there are 3.6e+05"),
    list(quote(exact(shuffle_retry(), deck_numbered(3))), "work", "have no end"),
    list(quote(exact(shuffle_random_keys(), deck_numbered(3))), "work", "about 7.3e+47 paths"),
    list(quote(exact(c(shuffle_uniform(), shuffle_uniform()), deck_numbered(8))), "work", "40320 by 40320"),
    list(quote(exact_distance(shuffle_wash())), "work", "A closed form is known for riffles"),
    list(quote(exact_distance(shuffle_riffle(clump = 0.3))), "work", "not for \"riffle clump=0.3\""),
    list(quote(exact_distance(shuffle_riffle(), 52, -1)), "input", "`times`")
  ))
})

test_that("closed forms agree with walked paths, and with known values at full size", {
  for (text in c("riffle", "top_to_random", "shelf shelves=1", "shelf shelves=2")) {
    sizes <- if (startsWith(text, "shelf")) 1:5 else 1:6
    for (size in sizes) {
      distance <- exact_distance(procedure(text), size, 0:4)$total_variation
      walked <- vapply(0:4, function(k) tidy(exact(rep(procedure(text), k), deck_numbered(size)))$estimate[1], 0)
      expect_equal(distance, walked, tolerance = 1e-12, info = paste(text, size))
    }
  }
  # Bayer & Diaconis 1992, table 1: 52 cards after 1 to 10 riffles, to three decimals.
  published <- c(1, 1, 1, 1, 0.924, 0.614, 0.334, 0.167, 0.085, 0.043)
  expect_equal(round(exact_distance(shuffle_riffle(), 52, 1:10)$total_variation, 3), published)
  large <- exact_distance(shuffle_riffle(), 416, c(4, 9, 12, 30))$total_variation
  expect_true(all(diff(large) < 0) && large[1] <= 1 && large[4] > 0 && large[4] < 1e-5)
  # Two passes of m shelves equal one of 2 m^2.
  expect_equal(exact_distance(shuffle_shelf(3), 20, 2)$total_variation,
               exact_distance(shuffle_shelf(18), 20, 1)$total_variation)
  expect_equal(exact_distance(rep(shuffle_riffle(), 2), 52, 3)$total_variation,
               exact_distance(shuffle_riffle(), 52, 6)$total_variation)
})
