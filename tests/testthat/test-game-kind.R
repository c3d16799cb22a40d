# See helper-toy.R.

test_that("a kind of one's own plays, exactly and by simulation, and comes back from a file", {
  local_turning()
  toy <- game("turning", deck = deck_numbered(4), enough = 2)
  # The stop is first or second with chance 1/4 each; else two are enough.
  law <- as.data.frame(exact(toy))
  expect_equal(law, data.frame(how = c("enough", "stopped", "stopped"), turned = c(2, 1, 2),
                               probability = c(0.5, 0.25, 0.25)))
  counts <- simulate(toy, 1e5, seed = 4)
  z <- (counts$n / 1e5 - law$probability) / sqrt(law$probability * (1 - law$probability) / 1e5)
  expect_true(all(abs(z) < standard_errors))
  expect_output(print(summary(counts)), "2 are turned at most.*a card stopped it")
  expect_equal(estimate_names(toy)[1:4], c("how_stopped", "how_enough", "how_no_cards", "turned"))
  file <- withr::local_tempfile(fileext = ".json")
  write_result(counts, file)
  expect_equal(as.data.frame(read_result(file)), as.data.frame(counts))
  by_function <- game("turning", deck = deck_numbered(4), enough = 2,
                      shuffle = shuffle_with(function(cards) rev(cards)))
  expect_equal(unique(trials(by_function, 1, 1:3)$how), "stopped")
  kinds <- getFromNamespace("added_kinds", "habanera")
  kinds$all <- list()
  expect_error(read_result(file), "There is no game \"turning\"")
})

# How many cards are turned in each of all arrangements, in plain R.
shown_turned <- function(cards, from, enough) {
  first <- expand.grid(rep(list(seq_len(cards)), enough))
  first <- first[apply(first, 1, function(row) !anyDuplicated(row)), ]
  apply(first, 1, function(row) {
    stop <- which(row >= from)
    if (length(stop)) stop[1] else enough
  })
}

test_that("a kind of one's own is replayed, compared, varied, drawn and reported", {
  local_turning()
  toy <- game("turning", deck = deck_numbered(6))
  shown <- replay(simulate(toy, 500, seed = 1), longest = "turned")
  expect_equal(names(shown)[7:8], c("stock", "row"))
  expect_equal(shown$stock + shown$row, rep(6, nrow(shown)))
  expect_output(print(shown), "laid out.*turned: [1-6].*stops")
  expect_s3_class(ggplot2::layer_data(autoplot(shown)), "data.frame")
  compared <- tidy(compare(toy, change_rules(toy, enough = 1), nsim = 2e4, seed = 1))
  turned <- compared[compared$term == "turned", ]
  expect_lt(abs(turned$estimate - (1 - mean(shown_turned(6, 4, 3)))), standard_errors * turned$std.error)
  varied <- vary_rules(toy, enough = 1:3, nsim = 2000, seed = 1, want = "turned_p90 <= 1")
  expect_equal(unique(varied$meets[varied$enough == 1]), "yes")
  # A mean of values that are all the same has no interval, and so no sure wish.
  mean_one <- vary_rules(toy, enough = 1, nsim = 2000, seed = 1, want = "turned <= 1")
  expect_true(is.na(mean_one$conf.high[mean_one$term == "turned"]) && all(mean_one$meets == "open"))
  expect_s3_class(autoplot(varied), "ggplot")
  page <- withr::local_tempfile(fileext = ".html")
  report(simulate(toy, 500, seed = 1), page)
  expect_match(paste(readLines(page), collapse = " "), "Turning on a deck of 6 cards")
  expect_error(card_impact(toy), "deals no hands", class = "habanera_error_input")
  expect_error(game("turning", piles = list("1", "2")), "does not start from given", class = "habanera_error_rules")
  expect_output(print(rules(toy)), "Turning")
})

test_that("a kind of one's own stands in the shell", {
  local_turning()
  deck <- c("--deck", "numbered 6")
  expect_match(run_words("play", "turning", deck, "--exact")$out, "how=stopped", all = FALSE)
  expect_match(run_words("play", "--help")$out, "habanera play turning --exact", all = FALSE)
  expect_match(run_words("games", "turning")$out, "cards that are enough", all = FALSE)
  expect_match(run_words("replay", "turning", deck, "--seed", "3")$out, "laid out", all = FALSE)
  expect_match(run_words("compare", "turning", deck, "--other", "enough=1", "--trials", "500")$out, "turned",
               all = FALSE)
  expect_match(run_words("vary", "turning", deck, "--over", "enough=1:2", "--trials", "500")$out, "enough", all = FALSE)
  expect_equal(run_words("play", "turning", deck, "--trials", "500", "--expect", "turned < 1")$status, 1)
})

test_that("every outcome of a kind's core has a meaning, and every ending a legend", {
  words <- game_war()$words
  kind <- game_kind("war")
  expect_setequal(words$outcomes, names(kind$columns))
  expect_setequal(names(words$categories$ended), names(kind$columns$ended$legend))
  expect_setequal(c("deal", names(words$actions)), names(kind$step_words))
})

test_that("no file but War's own names War or what only War has", {
  files <- list.files(testthat::test_path("..", "..", "R"), full.names = TRUE)
  skip_if_not(length(files) > 0, "the sources, which are not in the built package")
  own <- sprintf("^((%s)-|study-demo|RcppExports)", paste(names(game_kinds()), collapse = "|"))
  only_war <- paste("\\b[Ww]ar\\b|war_|cards_each|deal_pattern|face_down|tie_seat|never_ends",
                    "seat_order|weighted_pile|\"(rounds|ended|takes|winner)\"", sep = "|")
  for (file in files[!grepl(own, basename(files))]) {
    lines <- readLines(file)
    # Where money is told of, `rounds` is how many are played, of any game.
    about_money <- basename(file) %in% c("bank-growth.R", "bank-takings.R", "bank-edge-table.R",
                                         "cli-edges.R", "cli-bank.R", "plot-bank.R")
    named <- grepl(if (about_money) sub("rounds|", "", only_war, fixed = TRUE) else only_war, lines) &
      !grepl("^#'", lines)
    expect_equal(lines[named], character(), info = basename(file))
  }
})
