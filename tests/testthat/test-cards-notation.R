test_that("codes are read in every notation and come back", {
  expect_equal(as.character(as_cards("AS KD 10H")), c("AS", "KD", "10H"))
  expect_equal(as.character(as_cards("as, tH\t10c")), c("AS", "10H", "10C"))
  expect_equal(as.character(as_cards(c("A\u2660 T\u2665", "7\u2666\ufe0f", "3\u2667"))),
               c("AS", "10H", "7D", "3C"))
  expect_equal(as.character(as_cards("SA DK H10 ST joker", notation = "suit_first")),
               c("AS", "KD", "10H", "10S", "JOKER"))
  deck <- deck_standard(jokers = 2)
  expect_identical(as_cards(as.character(deck)), deck)
  expect_identical(as_cards(paste(as.character(deck), collapse = " ")), deck)
  expect_length(as_cards(""), 0)
  expect_length(as_cards(character()), 0)
})

test_that("codes of other catalogues may have spaces, and forgive case where it is clear", {
  deck <- deck_from(data.frame(card = c("late frost", "plum", "a", "A")))
  expect_equal(as.character(as_cards("Late Frost", like = deck)), "late frost")
  expect_equal(as.character(as_cards("plum, late frost, a", like = deck)),
               c("plum", "late frost", "a"))
  expect_equal(as.character(as_cards("plum PLUM A", like = deck)), c("plum", "plum", "A"))
  expect_identical(as_cards(deck, like = deck), deck)
})

test_that("unknown codes are refused with place and suggestion", {
  orchard <- deck_from(demo_file("orchard.csv"))
  expect_refusals(list(
    list(quote(as_cards("AS 2H 1S")), "notation",
         "Unknown card \"1S\" at position 3. Codes are rank then suit, like \"AS\", \"10H\"; did you mean \"AS\"?"),
    list(quote(as_cards("SA", notation = "rank_first")), "notation", "Unknown card \"SA\""),
    list(quote(as_cards("AS", notation = "suit_first")), "notation", "suit then rank"),
    list(quote(as_cards(c("AS", NA))), "notation", "A card is missing (NA) at position 2"),
    list(quote(as_cards("12F", like = orchard)), "notation", "Codes of orchard.csv are like \"1F\""),
    list(quote(as_cards("1F", like = orchard, notation = "suit_first")), "notation", "standard cards"),
    list(quote(as_cards(5)), "input", "`x` must be text or cards, not 5"),
    list(quote(as_cards("AS", like = "KD")), "input", "`like` must be cards")
  ))
})
