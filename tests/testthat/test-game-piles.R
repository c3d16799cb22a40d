blocks <- function(...) {
  file <- tempfile(fileext = ".txt")
  writeLines(c(...), file)
  file
}

test_that("piles come from lists, text blocks, CSV and YAML alike", {
  want <- list(baker = c("AS", "KD", "10H"), ferryman = c("2C", "3C", "AC"))
  text <- blocks("baker:", "AS KD", "10H", "", "ferryman:  # the top first", "2C, 3C, AC")
  csv <- tempfile(fileext = ".csv")
  writeLines(c("seat,card", paste("baker", want$baker, sep = ","), paste("ferryman", want$ferryman, sep = ",")), csv)
  yaml <- tempfile(fileext = ".yaml")
  writeLines(c("baker: [AS, KD, 10H]", "ferryman: 2C 3C AC"), yaml)
  beside <- blocks("baker: AS KD 10H", "ferryman: 2C 3C AC")
  typed <- "baker: AS KD 10H | ferryman: 2C 3C AC"
  for (piles in list(want, list(baker = "AS KD 10H", ferryman = as_cards("2C 3C AC")), text, csv, yaml, beside,
                     typed)) {
    game <- game_war(piles = piles)
    expect_equal(lapply(game$piles, as.character), want)
    expect_equal(game$seat_names, names(want))
    expect_equal(rules(game)$seats, 2)
  }
  for (piles in list("AS KD 10H | 2C 3C AC", blocks("AS KD 10H", "", "2C 3C AC"))) {
    expect_equal(lapply(unname(game_war(piles = piles)$piles), as.character), unname(want))
  }
  expect_equal(lengths(game_war(piles = "1 3 5 | 2 3 4", deck = deck_from(data.frame(card = 1:5, rank = 1:5,
                                                                                     copies = 2)),
                                rank_by = "rank")$piles), c(`1` = 3, `2` = 3))
  twice <- game_war(piles = "2 5 6 7 | 2 3 4 1", face_down = 0)
  expect_equal(lapply(unname(twice$piles), as.character), list(c("2", "5", "6", "7"), c("2", "3", "4", "1")))
  expect_equal(trials(twice, 1, 1)$winner, "1")  # a tie of twos, then five beats three, and so on
  expect_equal(trials(game_war(piles = text), 1, 1)$winner, trials(game_war(piles = want), 1, 1)$winner)
})

test_that("bad piles are refused with the line", {
  expect_error(game_war(piles = blocks("baker:", "AS", "ferryman:", "2C", "3Q")), "line 5: unknown card \"3Q\"",
               class = "habanera_error_notation")
  expect_error(game_war(piles = blocks("baker:", "AS 2C", "ferryman:", "2C")),
               "card \"2C\" is there 2 times; the deck has it once",
               class = "habanera_error_conservation")
  expect_error(game_war(piles = list("AS", "AS")), "card \"AS\" is there 2 times",
               class = "habanera_error_conservation")
  expect_error(game_war(piles = blocks("AS", "baker:", "2C")), "line 1 holds cards before",
               class = "habanera_error_file")
  expect_error(game_war(piles = blocks("baker:", "AS", "baker:", "2C")), "line 3 names \"baker\" a second time",
               class = "habanera_error_file")
  expect_error(game_war(piles = blocks("AS 2C", "left:", "3D")), "line 1 holds cards before",
               class = "habanera_error_file")
  expect_error(game_war(piles = blocks("AS 2C")), "2 to 6 seats, not 1 piles", class = "habanera_error_rules")
  expect_error(game_war(piles = list("AS", "2S"), cards_each = 1), "dealt already", class = "habanera_error_rules")
  expect_error(game_war(piles = list("AS", "2S"), shuffle = "riffle"), "as they lie", class = "habanera_error_rules")
  expect_error(game_war(piles = list("AS", "2S"), seats = 3), "2 piles for 3 seats", class = "habanera_error_rules")
  expect_error(game_war(piles = list("AS")), "2 to 6 seats", class = "habanera_error_rules")
  expect_error(game_war(piles = 3), "must be a list of cards", class = "habanera_error_rules")
  csv <- tempfile(fileext = ".csv")
  writeLines(c("# piles", "seat,card", "baker,AS", "ferryman,3X"), csv)
  expect_error(game_war(piles = csv), "line 4: unknown card \"3X\"", class = "habanera_error_notation")
})
