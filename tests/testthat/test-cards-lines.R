# Rows of cards as they come: the pieces, where they stood, how often each came.
read <- function(..., deck = deck_standard()) habanera:::read_card_lines(c(...), deck, NULL)

test_that("lines keep their numbers, and what is no row of cards is passed over", {
  found <- read("# dealt at the hall", "", "one,two", "AS,KD", "  ", "10H,2C  # again")
  expect_equal(found$pieces, list(c("AS", "KD"), c("10H", "2C")))
  expect_equal(found$line, c(4, 6))
  expect_equal(found$weight, c(1, 1))
  expect_equal(found$remarks, "header skipped")
  expect_null(read("# nothing", "", "   "))
})

test_that("a card with a slip in it is no note, and uneven rows are left as they stand", {
  slip <- read("AS KD", "10H 2CC")
  expect_equal(slip$pieces[[2]], c("10H", "2CC"))
  expect_null(slip$remarks)
  uneven <- read("AS KD", "10H 2C 3C", "4C dropped it")
  expect_equal(lengths(uneven$pieces), c(2, 3, 3))
})

test_that("names with spaces, colons and our marks in them are kept whole", {
  deck <- deck_from(data.frame(card = c("late frost", "plum: ripe", "quince (3)", "fig")))
  expect_equal(read("late frost, fig", "plum: ripe, quince (3)", deck = deck)$pieces,
               list(c("late frost", "fig"), c("plum: ripe", "quince (3)")))
  expect_equal(read("Deal 1: fig, late frost", deck = deck)$pieces, list(c("fig", "late frost")))
  expect_equal(read("late frost", "fig", deck = deck)$pieces, list("late frost", "fig"))
})

test_that("counts beside the rows must be whole numbers that can be held", {
  file <- function(...) withr::local_tempfile(lines = c(...), .local_envir = parent.frame())
  bad <- file("a,b,count", "AS,KD,2", "2C,3C,-1")
  half <- file("a,b,count", "AS,KD,2.5", "2C,3C,1")
  many <- file("a,b,count", "AS,KD,9e6", "2C,3C,9e6")
  none <- file("a,b,count", "AS,KD,0", "2C,3C,4")
  expect_refusals(list(
    list(quote(draws_recorded(bad)), "file", "line 3: a count must be a whole number of 0 or more, not -1."),
    list(quote(draws_recorded(half)), "file", "line 2: a count must be a whole number"),
    list(quote(draws_recorded(many)), "work", "At most 10,000,000 rows are read, not 18,000,000.")
  ))
  expect_equal(sum(suppressMessages(draws_recorded(none))$n), 8)
})

test_that("a data frame's columns of cards are found among others", {
  frame <- data.frame(deal = 1:3, first = c("AS", "KD", "2C"), second = c("3C", "4C", "5C"), n = c(2, 1, 0))
  found <- habanera:::read_card_frame(frame, deck_standard(), NULL)
  expect_equal(found$pieces, list(c("AS", "3C"), c("KD", "4C"), c("2C", "5C")))
  expect_equal(found$weight, c(2, 1, 0))
  whole <- habanera:::read_card_frame(data.frame(hand = c("AS 3C", "KD4C")), deck_standard(), NULL)
  expect_equal(whole$pieces, list(c("AS", "3C"), c("KD", "4C")))
  expect_error(habanera:::read_card_frame(data.frame(n = 1:2), deck_standard(), NULL), "no column of cards",
               class = "habanera_error_file")
})
