test_that("dealing follows its pattern, and the stock keeps the rest", {
  deck <- deck_numbered(10)
  hands <- deal(deck, 3, 2)
  expect_named(hands, c("hand_1", "hand_2", "hand_3", "stock"))
  expect_equal(as.character(hands$hand_1), c("1", "4"))
  expect_equal(as.character(hands$hand_3), c("3", "6"))
  expect_equal(as.character(hands$stock), c("7", "8", "9", "10"))
  blocks <- deal(deck, c("north", "south"), 3, pattern = "block")
  expect_equal(as.character(blocks$south), c("4", "5", "6"))
  all <- deal(deck, 4)
  expect_equal(lengths(unclass(all)), c(hand_1 = 3, hand_2 = 3, hand_3 = 2, hand_4 = 2, stock = 0))
  expect_equal(as.character(all$hand_1), c("1", "5", "9"))
  expect_equal(as.character(deal(deck, 4, pattern = "block")$hand_2), c("4", "5", "6"))
  expect_equal(lengths(unclass(deal(deck[0], 2))), c(hand_1 = 0, hand_2 = 0, stock = 0))
})

test_that("no card is lost in a deal, and too much is refused", {
  deck <- shuffle(deck_standard(), seed = 3)
  for (pattern in c("alternate", "block")) {
    dealt <- do.call(c, unname(unclass(deal(deck, 5, 7, pattern))))
    expect_equal(nrow(check_cards(dealt, against = deck)), 0)
  }
  expect_refusals(list(
    list(quote(deal(deck, 5, 11)), "input", "`size` must be at most 10 for 5 hands from 52 cards, not 11"),
    list(quote(deal(deck, 0)), "input", "`hands` must be a whole number from 1"),
    list(quote(deal(deck, c("a", "a"))), "input", "different names"),
    list(quote(deal("AS KD", 2)), "input", "`x` must be cards")
  ))
})

test_that("a deal prints hand by hand", {
  local_reproducible_output(width = 80, unicode = FALSE)
  expect_snapshot(deal(deck_standard(), 2, 3))
})
