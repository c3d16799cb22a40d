library(testthat)
library(habanera)

first_pair <- source("first_pair.R")$value

test_that("the game is sound, and gives what is expected of given cards", {
  expect_true(all(check_game(first_pair, expecting = list(
    list(deck = "AS AH", outcome = list(turned = 2, found = TRUE)),
    list(deck = "AS KH QD AD", outcome = list(turned = 4, found = TRUE))
  ))$passed))
})

test_that("what is simulated is what can be worked out", {
  small <- change_rules(first_pair, deck = deck_ranks(c("A", "K"), 2))
  # Of four cards the second is of the first's rank once in three; else the third surely is of one of both.
  expect_equal(sum(exact(small)$outcomes$turned * exact(small)$probability), 2 / 3 + 3 * 2 / 3)
})
