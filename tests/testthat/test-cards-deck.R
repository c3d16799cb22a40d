test_that("standard decks have what they should, in the order asked for", {
  expect_equal(as.character(deck_standard(ranks = c("K", "A"), suits = c("hearts", "S"))),
               c("KH", "AH", "KS", "AS"))
  expect_equal(as.character(deck_standard(ranks = c("K", "A"), suits = c("hearts", "S"),
                                          arranged = "rank")), c("KH", "KS", "AH", "AS"))
  two <- deck_standard(packs = 2, jokers = 1)
  expect_length(two, 106)
  expect_equal(which(two == "JOKER"), c(53, 106))
  expect_length(deck_standard(packs = 40), 2080)
})

test_that("numbered and crossed decks carry their numbers", {
  expect_equal(card_attributes(deck_numbered(3))$points, 1:3)
  for (n in c(0, 1, 2, 2000)) expect_length(deck_numbered(n), n)
  orchard <- deck_crossed(rank = 1:11, suit = c("fig", "gage", "medlar", "pear"))
  expect_length(orchard, 44)
  expect_equal(as.character(orchard[c(1, 11, 44)]), c("1F", "11F", "11P"))
  expect_equal(card_attributes(orchard)$rank_high[c(1, 44)], c(1, 11))
  named <- deck_crossed(rank = c("low", "high"), suit = c(PE = "pear", PL = "plum"))
  expect_equal(as.character(named), c("LPE", "HPE", "LPL", "HPL"))
  expect_equal(card_attributes(named)$suit, c("pear", "pear", "plum", "plum"))
})

test_that("catalogues come from data frames, CSV, JSON, YAML and plain lists alike", {
  data <- data.frame(card = c("plum", "quince"), copies = c(3, 1), cost = c(2, 3))
  expect_equal(as.character(deck_from(data)), c("plum", "plum", "plum", "quince"))
  write <- function(text, extension) {
    file <- withr::local_tempfile(fileext = extension, .local_envir = parent.frame())
    writeLines(text, file)
    file
  }
  files <- c(
    write(c("card,copies,cost", "plum,3,2", "quince,1,3"), ".csv"),
    write('[{"card":"plum","copies":3,"cost":2},{"card":"quince","cost":3}]', ".json"),
    write("- {card: plum, copies: 3, cost: 2}\n- {card: quince, copies: 1, cost: 3}", ".yaml")
  )
  files[2] <- write('[{"card":"plum","copies":3,"cost":2},{"card":"quince","copies":1,"cost":3}]', ".json")
  for (file in files) {
    deck <- deck_from(file)
    expect_equal(as.character(deck), as.character(deck_from(data)), info = file)
    expect_equal(card_attributes(deck)$cost, c(2, 2, 2, 3), info = file)
  }
  list <- write(c("# a comment", "", "3 plum", "1 quince  # the last"), ".txt")
  expect_equal(as.character(deck_from(list)), as.character(deck_from(data)))
  expect_length(deck_from(demo_file("orchard.csv")), 44)
  expect_length(deck_from(demo_file("windfall.yaml")), 48)
  expect_length(deck_from(demo_file("stall.txt")), 40)
})

test_that("impossible decks are refused", {
  dirty <- function(file) deck_from(demo_file(file))
  expect_refusals(list(
    list(quote(deck_standard(packs = 0)), "input", "`packs` must be a whole number from 1"),
    list(quote(deck_standard(jokers = 0.5)), "input", "not 0.5"),
    list(quote(deck_standard(ranks = "1")), "input", "`ranks` must be among"),
    list(quote(deck_standard(suits = "harts")), "input", "did you mean \"hearts\"?"),
    list(quote(deck_standard(arranged = "rnk")), "input", "did you mean \"rank\"?"),
    list(quote(deck_standard(ranks = c("A", "A"))), "input", "\"A\" twice"),
    list(quote(deck_numbered(-1)), "input", "not -1"),
    list(quote(deck_crossed(1:2, c("pear", "plum"))), "input", "\"pear\" and \"plum\" would both be \"P\""),
    list(quote(deck_crossed(integer(), "a")), "input", "`rank` must be a vector"),
    list(quote(deck_from(list(1))), "input", "a data frame or the path"),
    list(quote(deck_from(data.frame(fruit = "x"))), "catalogue", "needs a column `card`; it has `fruit`"),
    list(quote(deck_from(data.frame(card = c("a", NA)))), "catalogue", "no `card` in row 2"),
    list(quote(deck_from(data.frame(card = "a,b"))), "catalogue", "comma"),
    list(quote(deck_from(data.frame(card = "a", copies = -1))), "catalogue", "not -1, in row 1 (a)"),
    list(quote(deck_from(data.frame(card = "a", copies = 70000))), "catalogue", "at most 65,535 cards"),
    list(quote(deck_from(data.frame(card = "a", probability = 1))), "catalogue", "`probability`"),
    list(quote(deck_from("nowhere.csv")), "file", "There is no file \"nowhere.csv\""),
    list(quote(deck_from(tempdir())), "file", "is a folder"),
    list(quote(dirty("dirty-deck.csv")), "catalogue", "lists card \"1F\" twice, in rows 1 and 3"),
    list(quote(dirty("dirty-copies.yaml")), "catalogue", "not 1.5, in row 2 (basket)"),
    list(quote(dirty("dirty-deck.json")), "file", "is no JSON"),
    list(quote(dirty("dirty-list.txt")), "file", "line 2 must be a number of copies and a name"),
    list(quote(dirty("dirty-latin1.csv")), "file", "is not UTF-8 text: line 2")
  ))
  truncated <- withr::local_tempfile(lines = c("card,cost", "plum,1", "quince"), fileext = ".csv")
  expect_refusals(list(list(quote(deck_from(truncated)), "file", "not a whole CSV table")))
})

test_that("a sampled deck keeps to weights and copies and says what never came", {
  kinds <- data.frame(card = c("a", "b", "c"), weight = c(1, 1, 0))
  expect_message(deck <- deck_sampled(kinds, 4, weights = "weight", max_copies = 2, seed = 1),
                 "Never came: c")
  expect_equal(sort(as.character(deck)), c("a", "a", "b", "b"))
  expect_identical(suppressMessages(deck_sampled(kinds, 20, seed = 5)),
                   suppressMessages(deck_sampled(kinds, 20, seed = 5)))
  # Weights 3 to 1 over many one-card decks: binomial, held to four standard errors.
  first <- vapply(1:2000, function(seed) {
    as.character(suppressMessages(deck_sampled(kinds[1:2, ], 1, weights = c(3, 1), seed = seed)))
  }, "")
  expect_lt(abs(sum(first == "a") - 1500), standard_errors * sqrt(2000 * 3 / 16))
  expect_refusals(list(
    list(quote(deck_sampled(kinds, 7, max_copies = 2)), "input", "`size` must be at most 6"),
    list(quote(deck_sampled(kinds, 2, weights = c(1, -1, 1))), "input", "3 numbers of 0 or more"),
    list(quote(deck_sampled(kinds, 2, weights = c(0, 0, 0))), "input", "not all 0"),
    list(quote(deck_sampled(kinds, 2, max_copies = 0.5)), "input", "`max_copies`")
  ))
})
