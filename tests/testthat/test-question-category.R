# The word category(), held to what hand_category() says of the very hands.

category_chances <- function(question) {
  found <- tidy(question)
  rlang::set_names(found$estimate, sub("kind=", "", found$term))
}

test_that("categories in questions come as often as all hands counted say", {
  cases <- list(
    list(deck_standard(), 5, hand_rules()),
    list(deck_standard(jokers = 2), 5, hand_rules(wild = rank == "joker", categories = c("five of a kind", "flush"))),
    list(deck_standard(ranks = c("J", "Q", "K", "A"), packs = 2), 6, hand_rules(wild_counts_as = "lowest")),
    list(deck_from(demo_file("orchard.csv")), 3, hand_rules(size = 3, rank_by = "rank", tie_break = "dealt_order"))
  )
  for (case in cases) {
    rules <- case[[3]]
    odds <- category_odds(case[[1]], case[[2]], rules)
    found <- category_chances(exact(draws(case[[1]], case[[2]], kind = category(rules))))
    expect_equal(found, rlang::set_names(odds$probability, odds$category)[names(found)], tolerance = 1e-12)
    expect_equal(sum(found), 1)
  }
})

test_that("beside other words, with and without replacement, all ways to draw are what they are one by one", {
  deck <- deck_from(demo_file("orchard.csv"))[c(1:3, 12:14, 23, 34)]
  rules <- hand_rules(size = 3, rank_by = "rank", wild = "rank == 3 & suit == \"fig\"")
  for (replace in c(FALSE, TRUE)) {
    question <- draws(deck, 3, kind = category(rules), good = category(rules) >= "straight" & count(rank <= 2) > 1,
                      replace = replace)
    places <- as.matrix(expand.grid(rep(list(1:8), 3)))
    if (!replace) places <- places[apply(places, 1, anyDuplicated) == 0, ]
    hands <- deck[as.vector(t(places))]
    kind <- hand_category(hands, rules, size = 3, deck = rep(deck, 3))
    low <- colSums(matrix(card_attributes(hands)$rank <= 2, nrow = 3))
    law <- as.data.frame(exact(question))
    slow <- table(paste(kind, kind >= "straight" & low > 1)) / length(kind)
    expect_same_law(rlang::set_names(law$probability, paste(law$kind, law$good)), slow)
    walked <- as.data.frame(exact(question, method = "walk"))
    expect_equal(walked, law, tolerance = 1e-12, ignore_attr = TRUE)
  }
})

test_that("hands with stages, turns and until a category are followed, and simulated alike", {
  deck <- deck_ranks(c("9", "10", "J", "Q"), copies = 3)
  pairs <- hand_rules(categories = c("full house", "three of a kind", "two pair", "one pair"))
  staged <- draws(deck, 4, kind = category(pairs), always = every_turn(category(pairs) >= "one pair")) |>
    redraw_if(category(pairs) == "high card") |>
    exchange_cards(keep_groups()) |>
    draw_more(1, times = 1)
  law <- exact(staged)
  found <- tidy(simulate(staged, nsim = 2e4, seed = 4))
  expect_equal(found$exact, tidy(law)$estimate, tolerance = 1e-12)
  expect_true(all(abs(found$statistic) < standard_errors, na.rm = TRUE))
  # Of four ranks the fifth card makes a pair at the latest; the second does with chance 2/11.
  until <- exact(draw_until(deck, category(pairs) >= "one pair"))
  expect_equal(until$outcomes$turned, 2:5)
  expect_equal(until$probability, c(2 / 11, 9 / 11 * 4 / 10, 9 / 11 * 6 / 10 * 6 / 9, 9 / 11 * 6 / 10 * 3 / 9))
})

test_that("exchanges and payouts speak of hands", {
  best <- best_exchange("AS KS 9S 4S 9D", category() >= "flush", deck_standard())
  # Nine spades are left among 47 cards.
  expect_equal(best$keep[1], "AS KS 9S 4S")
  expect_equal(best$estimate[1], 9 / 47)
  law <- exact(draws(deck_standard(), 5, kind = category()))
  paid <- tidy(payout(law, c(flush = 10, straight = 5)))
  expect_equal(paid$estimate[4], (10 * 5108 + 5 * 10200) / choose(52, 5))
  drawn <- simulate(draws(deck_standard(), 5, kind = category(wild = rank == "2")), nsim = 2e4, seed = 9)
  expect_true(all(abs(tidy(drawn)$statistic) < standard_errors, na.rm = TRUE))
  file <- withr::local_tempfile(fileext = ".json")
  write_result(drawn, file)
  again <- read_result(file)
  expect_identical(tidy(again), tidy(drawn))
  expect_match(provenance(again)$experiment, "category(wild = \"rank == \\\"2\\\"\")", fixed = TRUE)
  ran <- run_words("draws", "--size", "5", "--ask", "good = category(wild = rank == \"2\") >= \"two pair\"", "--exact",
                   "--format", "csv")
  expect_equal(ran$status, 0)
})

test_that("what category() cannot be asked is told", {
  deck <- deck_standard()
  expect_refusals(list(
    list(quote(draws(deck, 5, k = category() == "flsh")), "language", "did you mean \"flush\""),
    list(quote(draws(deck, 5, k = category() > 3)), "language", "`3` is none of"),
    list(quote(draws(deck, 5, k = category() + 1)), "language", "`category()` is not a number"),
    list(quote(draws(deck, 5, k = category(size = 3) > category())), "language", "is none of"),
    list(quote(draws(deck, 5, k = category(3))), "language", "by name"),
    list(quote(draws(deck, 5, k = category(wid = 3))), "language", "not `wid`"),
    list(str2lang("draws(deck, 5, k = category(size = ))"), "language", "`size` has no value"),
    list(quote(draws(deck, 5, k = category(size = no_such))), "language", "`no_such` is not known here"),
    list(quote(draws(deck, 5, k = category(wild = colour == "red"))), "language", "colour"),
    list(quote(draws(deck, 5, k = category(wild = rank == "joker"))), "language", "no card of the deck"),
    list(quote(draws(deck_standard(jokers = 1), 5, k = category())), "input", "has no rank"),
    list(quote(best_exchange("AS KS", category(), deck)), "language", "is a text"),
    list(quote(exact(draws(deck_standard(packs = 6), 8, k = category()))), "work", "different hands")
  ))
  notes <- character()
  withCallingHandlers(draws(deck, 3, k = category(size = 5)), message = function(cnd) {
    notes <<- c(notes, conditionMessage(cnd))
    tryInvokeRestart("muffleMessage")
  })
  expect_length(notes, 1)
  expect_match(notes, "hands have at most 3")
})

test_that("categories are told the strongest first: in prints, tables and figures", {
  exactly <- exact(draws(deck_standard(), 5, hand = category(), aces = count(rank == "A")))
  strongest <- c("straight flush", "four of a kind", "full house", "flush", "straight", "three of a kind", "two pair",
                 "one pair", "high card")
  values <- as.data.frame(summary(exactly))
  expect_equal(values$value[values$column == "hand"], strongest)
  expect_equal(values$value[values$column == "aces"], as.character(0:4))
  terms <- tidy(summary(exactly))$term
  expect_equal(terms, c(paste0("hand=", strongest), "aces"))
  chance <- c(40, 624, 3744, 5108, 10200, 54912, 123552, 1098240, 1302540) / choose(52, 5)
  expect_equal(values$estimate[values$column == "hand"], chance)
  counted <- simulate(draws(deck_standard(), 5, hand = category()), nsim = 2000, seed = 1)
  found <- as.data.frame(summary(counted))
  expect_equal(found$value, strongest)
  expect_equal(found$n[found$value == "one pair"], sum(counted$n[counted$outcomes$hand == "one pair"]))
  drawn <- ggplot2::ggplot_build(ggplot2::autoplot(exactly))$layout$panel_params[[1]]$x$get_labels()
  expect_equal(gsub("\n", " ", unname(drawn))[c(1, 9)], c("straight flush", "high card"))
  printed <- capture.output(print(exactly))
  rows <- grep("^ *(straight flush|four of a kind) +[0-9]", printed, value = TRUE)
  expect_match(rows[1], "straight flush +0")
  # A column that is no category by itself keeps its order.
  mixed <- exact(draws(deck_standard(), 5, hand = ifelse(category() >= "flush", "good", "bad")))
  expect_equal(as.data.frame(summary(mixed))$value, c("bad", "good"))
})
