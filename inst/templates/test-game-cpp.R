library(testthat)
library(habanera)

NAME <- game_cpp("NAME.cpp", players = "daring")

test_that("the game is sound, and gives what is expected of given cards", {
  # Seat 1 has 8 and 7 and stops; a knave ends the turn of seat 2; 9 and 6 are enough.
  expect_true(all(check_game(NAME, expecting = list(deck = "8S 7S JS 9S 6S", outcome = list(winner = "1", turned = 5)))
                  $passed))
})

test_that("what is simulated is what can be worked out", {
  small <- change_rules(NAME, enough = 5, deck = deck_standard(ranks = c("A", "2", "3", "J"), suits = c("hearts", "spades")))
  worked_out <- tidy(exact(small))
  found <- tidy(simulate(small, nsim = 10000, seed = 1))
  # Within five standard errors.
  expect_lt(abs(found$estimate[1] - worked_out$estimate[1]), 5 * found$std.error[1])
})
