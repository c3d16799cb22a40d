test_that("numbers are written with what is known of them", {
  expect_equal(habanera:::format_count(c(54145, 0.5, 18472, NA, 1e15)), c("54,145", "0.5", "18,472", "NA",
                                                                          "1,000,000,000,000,000"))
  expect_equal(habanera:::one_in(c(1 / 54145, 1 / 21, 0.3, 0, 1 / 2598960), TRUE),
               c("1 in 54,145", "1 in 21", "", "", "1 in 2,598,960"))
  expect_equal(habanera:::one_in(1 / c(54145, 30.123)), c("1 in 54,140", "1 in 30.12"))
  said <- capture.output(print(exact(draws(deck_standard(), 5, four = largest_group(rank) == 4,
                                           two = count(rank == "A")))))
  expect_true("four: 0.0240% = 1/4165, 1 in 4,165" %in% sub("0.02401%", "0.0240%", said))
  expect_false(any(grepl("[0-9],[0-9]{3}\\.0", said)))
})

test_that("one trial tells no interval", {
  one <- tidy(simulate(draws(deck_standard(), 5, a = count(rank == "A"), worth = total(points)), nsim = 1, seed = 1))
  expect_equal(is.nan(one$std.error), c(FALSE, FALSE))
  expect_equal(is.na(one$conf.low), c(TRUE, TRUE))
  expect_output(print(simulate(game_war(), nsim = 1, seed = 1)), "rounds: [0-9]+ in a single trial")
})

test_that("bounds are said before any work is done", {
  deck <- deck_standard()
  took <- system.time(expect_refusals(list(
    list(quote(draws(deck, 5, a = count(rank_high %in% 1:1e9))), "language", "at most 10,000 whole numbers"),
    list(quote(trials(draws(deck, 5), 1, rep(1, 2e7))), "input", "`trials` must be trial numbers"),
    list(quote(as_cards("\xff")), "notation", "is not UTF-8 text"),
    list(quote(game_war(deck = "\xff")), "notation", "is not UTF-8 text"),
    list(quote(game_war(record = "\xff")), "notation", "is not UTF-8 text"),
    list(quote(draws(deck, 5, a = card_at(, rank == "K"))), "language", "Something is missing"),
    list(quote(procedure("\xff")), "notation", "is not UTF-8 text"),
    list(quote(game_war(deck = "nofile.csv")), "file", "There is no file \"nofile.csv\""),
    list(quote(compare(simulate(draws(deck, 5), nsim = 10))), "input", "`y` is missing")
  )))
  expect_bad_usage(list(
    list(c("audit", "riffle", "--sizes", "0:1e9"), "holds at most 10,000 numbers"),
    list(c("mixing", "riffle", "--times", "0:1e9"), "holds at most 10,000 numbers"),
    list(c("period", "faro", "--deck-size", "2:1e9"), "holds at most 10,000 numbers"),
    list(c("draws", "--sizes", "\xff"), "not UTF-8"),
    list(c("draws", "--out", "x.xlsx"), "must end in .txt, .json or .csv")
  ))
  expect_lt(took[["elapsed"]], 5)
})
