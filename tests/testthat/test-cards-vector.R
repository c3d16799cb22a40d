test_that("cards behave as a vector", {
  deck <- deck_standard()
  expect_length(deck, 52)
  expect_equal(as.character(deck[c(1, 13, 52)]), c("2S", "AS", "AC"))
  expect_identical(c(deck[1:5], deck[6:52]), deck)
  expect_identical(rev(rev(deck)), deck)
  expect_equal(sum(deck == "AS"), 1)
  expect_identical(deck == deck, rep(TRUE, 52))
  expect_equal(as.vector(table(deck_standard(packs = 2))), rep(2L, 52))
  expect_equal(names(table(as_cards("AS 2S"))), c("2S", "AS"))
  frame <- data.frame(place = 1:2, card = as_cards("AS KD"))
  expect_identical(frame$card[2], as_cards("KD"))
  expect_length(unique(as_cards("AS AS KD")), 2)
  expect_identical(sort(as_cards("AS 2S")), as_cards("2S AS"))
  expect_identical(as_cards("AS KD") %in% as_cards("KD"), c(FALSE, TRUE))
  expect_identical(c(as_cards("AS"), "KD"), as_cards("AS KD"))
})

test_that("cards of different catalogues refuse to mix, and never match", {
  deck <- deck_standard()
  other <- set_attributes(deck, points = c(other = 1))
  expect_refusals(list(
    list(quote(c(deck, other)), "catalogue", "two catalogues do not mix"),
    list(quote(deck == other), "catalogue", "standard and standard with points set"),
    list(quote(as_cards(other, like = deck)), "catalogue", "do not mix"),
    list(quote(deck + 1), "input", "take an attribute"),
    list(quote(sum(deck)), "input", "take an attribute"),
    list(quote(deck == "1S"), "notation", "Unknown card \"1S\"")
  ))
  expect_false(any(deck %in% other))
  # The same catalogue made twice is the same.
  expect_identical(c(deck_numbered(3), deck_numbered(3))[4:6], deck_numbered(3))
})

test_that("attributes are looked up, one row per card", {
  table <- card_attributes(as_cards("AS 10H QD JOKER AS"))
  expect_equal(table$card, c("AS", "10H", "QD", "JOKER", "AS"))
  expect_equal(table$rank, c("A", "10", "Q", "joker", "A"))
  expect_equal(table$suit, c("spades", "hearts", "diamonds", NA, "spades"))
  expect_equal(table$rank_high, c(14, 10, 12, NA, 14))
  expect_equal(table$rank_low, c(1, 10, 12, NA, 1))
  expect_equal(table$points, c(1, 10, 10, NA, 1))
  expect_equal(sum(card_attributes(deck_standard())$points), 340)  # 4 x (1 + 2 + ... + 10 + 30)
  expect_equal(nrow(card_attributes(deck_standard()[0])), 0)
})

test_that("attributes are set by rank, suit, card or place", {
  deck <- deck_standard()
  honours <- set_attributes(deck, points = c(A = 4, K = 3, Q = 2, J = 1, other = 0))
  expect_equal(sum(card_attributes(honours)$points), 40)
  red <- set_attributes(deck, red = c(hearts = TRUE, diamonds = TRUE, other = FALSE))
  expect_equal(sum(card_attributes(red)$red), 26)
  one <- set_attributes(as_cards("AS KD AS"), value = c(AS = 7))
  expect_equal(card_attributes(one)$value, c(7, NA, 7))
  placed <- set_attributes(as_cards("AS KD AS"), value = c(7, 5, 7))
  expect_equal(card_attributes(placed)$value, c(7, 5, 7))
  expect_message(set_attributes(deck, points = c(A = 11)), "49 kinds of card keep their `points`")
  expect_refusals(list(
    list(quote(set_attributes(deck, points = c(A = 1, Z = 2))), "input", "\"Z\" is none"),
    list(quote(set_attributes(deck, points = c(A = 1, spades = 2))), "input", "a mixture"),
    list(quote(set_attributes(as_cards("AS AS"), value = c(1, 2))), "input", "two values to card \"AS\""),
    list(quote(set_attributes(deck, value = 1:3)), "input", "one value for each of the 52 cards, not 3"),
    list(quote(set_attributes(deck)), "input", "by name"),
    list(quote(set_attributes(deck, card = "x")), "input", "cannot be set"),
    list(quote(set_attributes(deck, n = c(A = 1))), "catalogue", "a column `n`")
  ))
})

test_that("cards print in neat rows, on a grid, and cut off", {
  local_reproducible_output(width = 80, unicode = FALSE)
  expect_snapshot({
    deck_standard()
    print(deck_standard(suits = "hearts"), grid = c(2, 7))
    print(deck_numbered(100), most = 20)
    deck_from(demo_file("windfall.yaml"))[13:17]
    deck_standard()[0]
  })
  local_reproducible_output(width = 80, unicode = TRUE)
  expect_equal(format(as_cards("AS 10H JOKER")), c("A\u2660", "10\u2665", "JOKER"))
  local_reproducible_output(unicode = TRUE, crayon = TRUE)
  painted <- paste(capture.output(print(as_cards("AS KD"))), collapse = "")
  expect_match(painted, paste0("\033[31m", "K\u2666"), fixed = TRUE)
  expect_refusals(list(
    list(quote(print(deck_standard(), grid = c(4, 12))), "input", "48 places, too few for 52 cards"),
    list(quote(print(deck_standard(), grid = 4)), "input", "c(rows, columns)")
  ))
})

test_that("cards taken and put by their places are what vctrs makes of them, whatever the places", {
  deck <- deck_standard()
  named <- rlang::set_names(as_cards("AS KD"), c("a", "b"))
  numbered <- deck_numbered(5)
  places <- list(3, 3L, c(2, 52, 2), 52:1, numeric(), integer(), 0, -1, c(-1, -2), 53, c(1, 53), 1.5, NA, NA_integer_,
                 TRUE, rep(c(TRUE, FALSE), 26), "a", c(a = 2), factor("2"), NULL, 1e18, Inf, NaN, list(1), quote(x))
  values <- list(deck[5], deck[5:6], deck[52:1], as_cards("JOKER"), named, numbered[1], "AS", 3L, NA, deck[0])
  told <- function(expression) suppressWarnings(tryCatch(expression, error = function(cnd) "refused"))
  put <- function(x, i, value) {
    x[i] <- value
    x
  }
  taken_and_put <- function(x) {
    lapply(places, function(i) {
      c(list(told(x[i]), told(x[[i]])), lapply(values, function(value) told(put(x, i, value))))
    })
  }
  # Cards with an attribute more are left to vctrs.
  without_note <- function(x) {
    attr(x, "note") <- NULL
    x
  }
  for (x in list(deck, named, numbered, deck[0])) {
    by_vctrs <- rapply(taken_and_put(structure(x, note = "slow")), without_note, how = "replace")
    expect_identical(taken_and_put(x), by_vctrs)
  }
})

test_that("single cards are taken and put, and places that are not there refused", {
  deck <- deck_standard()
  one <- deck
  one[[2]] <- deck[[52]]
  expect_equal(as.character(one[1:3]), c("2S", as.character(deck[52]), "4S"))
  expect_equal(as.character(deck[1:2]), c("2S", "3S"))
  expect_error(deck[[53]])
  expect_error(deck[[1:2]])
  expect_error(deck[1, 2])
})

test_that("a shuffle by swaps of cards is the shuffle by swaps of whole numbers", {
  swaps <- function(x) {
    for (i in length(x):2) {
      j <- sample.int(i, 1)
      kept <- x[i]
      x[i] <- x[j]
      x[j] <- kept
    }
    x
  }
  deck <- deck_standard()
  shuffled <- withr::with_seed(7, lapply(1:20, function(k) swaps(deck)))
  places <- withr::with_seed(7, lapply(1:20, function(k) swaps(1:52)))
  expect_identical(shuffled, lapply(places, function(i) deck[i]))
})
