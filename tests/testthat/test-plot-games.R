small <- game_war(cards_each = 5)

test_that("bars of an outcome are its shares, exact and simulated", {
  counts <- simulate(small, nsim = 800, seed = 5)
  bars <- ggplot2::layer_data(autoplot(counts, column = "winner"), 1)
  shares <- tapply(counts$n, counts$outcomes[["winner"]], sum) / 800
  expect_setequal(round(bars$y, 12), round(unname(shares), 12))
  tiny <- game_war(deck = deck_numbered(6), collect = "seat_order")
  law <- exact(tiny)
  exactly <- ggplot2::layer_data(autoplot(law, column = "ended"), 1)
  expect_setequal(round(exactly$y, 12), round(unname(tapply(law$probability, law$outcomes[["ended"]], sum)), 12))
  expect_match(autoplot(law)$labels$caption, "exact", fixed = TRUE)
  expect_error(autoplot(counts, column = "winer"), "did you mean \"winner\"?", class = "habanera_error_input")
})

test_that("a pile's course is that of the cards themselves", {
  trace <- replay(small, seed = 1, trial = 3)
  drawn <- ggplot2::layer_data(autoplot(trace), 1)
  for (round in c(1, 4, max(trace$round))) {
    at <- max(trace$step[trace$round == round])
    piles <- piles_at(trace, step = at)
    expect_equal(sort(drawn$y[drawn$x == round]), sort(unname(lengths(unclass(piles)))))
  }
  expect_match(autoplot(trace)$labels$title, "wins after [0-9]+ rounds")
})

test_that("differences and effects are drawn with their intervals, chances in percentage points", {
  pair <- compare(small, game_war(cards_each = 5, face_down = 1), nsim = 500, seed = 2)
  told <- tidy(pair)
  chance <- grepl("=", told$term)
  points <- ggplot2::layer_data(autoplot(pair), 3)
  expect_setequal(round(points$x, 9), round(ifelse(chance, 100, 1) * told$estimate, 9))
  worth <- card_impact(small, "rank", nsim = 500, seed = 2)
  figure <- autoplot(worth)
  expect_setequal(round(ggplot2::layer_data(figure, 3)$x, 9), round(100 * worth$estimate, 9))
  lines <- ggplot2::layer_data(figure, 2)
  expect_setequal(round(c(lines$x, lines$xend), 9), round(100 * c(worth$conf.low, worth$conf.high), 9))
  cards <- autoplot(card_impact(small, "card", "rounds", nsim = 500, seed = 2))
  expect_match(cards$labels$subtitle, "The 26 largest of 52 effects")
  expect_match(cards$labels$x, "mean of rounds")
})

test_that("minutes are of rounds", {
  varied <- vary_rules(small, face_down = 0:1, nsim = 50, seed = 1)
  expect_error(autoplot(varied, outcome = "winner=1", seconds_per_round = 5), "turns rounds into minutes",
               class = "habanera_error_input")
})
