test_that("a shuffle is that of its trial, and loses no card", {
  deck <- deck_standard()
  expect_identical(shuffle(deck, seed = 1), shuffle(deck, seed = 1, trial = 1))
  expect_false(identical(shuffle(deck, seed = 1), shuffle(deck, seed = 1, trial = 2)))
  for (n in c(0, 1, 2, 52, 2000)) {
    cards <- deck_numbered(n)
    expect_equal(nrow(check_cards(shuffle(cards, seed = 7), against = cards)), 0)
  }
  # Known answer: tells when numbers change under the same seed.
  expect_equal(as.character(shuffle(deck_numbered(10), seed = 1)), c("5", "4", "7", "10", "2", "8", "3", "6", "1", "9"))
})

test_that("a draw is the top of the shuffle with the same address", {
  deck <- deck_standard()
  drawn <- trials(draws(deck, 5), seed = 9, trials = c(1, 50, 2^40))
  for (row in 1:3) {
    top <- shuffle(deck, seed = 9, trial = drawn$trial[row])[1:5]
    expect_equal(unlist(drawn[row, -1], use.names = FALSE), as.character(top))
  }
  placed <- trials(positions(deck_numbered(6)), seed = 9, trials = 3)
  expect_equal(unlist(placed[1, -1], use.names = FALSE),
               as.character(shuffle(deck_numbered(6), seed = 9, trial = 3)))
})

test_that("set.seed() governs when no seed is given, and a given seed leaves R's generator alone", {
  withr::local_seed(5)
  one <- shuffle(deck_standard())
  set.seed(5)
  expect_identical(shuffle(deck_standard()), one)
  before <- .Random.seed
  shuffle(deck_standard(), seed = 3)
  simulate(draws(deck_standard(), 5), nsim = 10, seed = 3)
  simulate(draws_with(function(deck) sample(deck, 2), size = 2), nsim = 10, seed = 3)
  expect_identical(.Random.seed, before)
})

test_that("impossible shuffles are refused", {
  expect_refusals(list(
    list(quote(shuffle("AS")), "input", "must be cards"),
    list(quote(shuffle(deck_standard(), "riffle")), "input", "must be a shuffling procedure"),
    list(quote(shuffle(deck_standard(), seed = -1)), "input", "`seed` must be a whole number of 0 or more"),
    list(quote(shuffle(deck_standard(), seed = 2^53)), "input", "below 2^53"),
    list(quote(shuffle(deck_standard(), trial = 0.5)), "input", "`trial`"),
    list(quote(shuffle(as_cards("AS")[c(1, NA)])), "input", "missing card")
  ))
  expect_output(print(shuffle_uniform()), "<procedure> uniform")
})
