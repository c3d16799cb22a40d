test_that("a run does not depend on threads, laps or merging, and survives files and checkpoints", {
  game <- game_war(cards_each = 6, seat_names = c("baker", "ferryman"), record = c("winner", "ended", "rounds", "ties"))
  whole <- simulate(game, nsim = 3000, seed = 5, threads = 2)
  parts <- c(simulate(game, nsim = 1000, seed = 5, threads = 1),
             simulate(game, nsim = 2000, seed = 5, first_trial = 1001))
  expect_equal(as.data.frame(parts), as.data.frame(whole))
  rows <- trials(game, 5, 1:3000)
  expect_equal(sum(whole$n[whole$outcomes$winner == "baker"]), sum(rows$winner == "baker"))
  expect_equal(whole$example_trial, vapply(seq_along(whole$n), function(i) {
    row <- whole$outcomes[i, ]
    like <- Reduce(`&`, Map(function(column, value) rows[[column]] == value, names(row), row))
    which(like)[1]
  }, 0) + 0)
  file <- withr::local_tempfile(fileext = ".csv")
  write_result(whole, file)
  expect_equal(as.data.frame(read_result(file)), as.data.frame(whole))
  checkpoint <- withr::local_tempfile()
  stopped <- simulate(game, nsim = 1000, seed = 5, checkpoint = checkpoint)
  expect_equal(provenance(stopped)$trials$last, 1000)
  precise <- simulate(game, nsim = 1e6, seed = 5, precision = c(rounds = 0.5))
  expect_equal(sum(precise$n), 10000)
})

test_that("games from piles and with other shuffles come back from files", {
  for (game in list(game_war(piles = list(baker = "AS KD 10H", ferryman = "2C 3C AC"), face_down = 1),
                    game_war(deck = deck_numbered(8), shuffle = "riffle x2", cards_each = 3),
                    game_war(deck = deck_from(demo_file("orchard.csv")), rank_by = "rank", cards_each = NULL))) {
    counts <- simulate(game, nsim = 200, seed = 3)
    file <- withr::local_tempfile(fileext = ".json")
    write_result(counts, file)
    again <- read_result(file)
    expect_equal(as.data.frame(again), as.data.frame(counts))
    expect_equal(as.data.frame(simulate(again$provenance$experiment, nsim = 200, seed = 3)), as.data.frame(counts))
    rebuilt <- eval(parse(text = habanera:::experiment_code(game)$r))
    expect_equal(as.data.frame(simulate(rebuilt, nsim = 200, seed = 3)), as.data.frame(counts))
  }
})

test_that("a shuffle written in R plays the games it deals", {
  deck <- deck_numbered(8)
  fixed <- game_war(deck = deck, shuffle = shuffle_with(function(cards) rev(cards)))
  same <- game_war(deck = deck, piles = list("8 6 4 2", "7 5 3 1"))
  expect_equal(trials(fixed, 1, 1)[-1], trials(same, 1, 1)[-1])
  random <- game_war(deck = deck, shuffle = shuffle_with(function(cards) cards[sample(length(cards))]))
  counts <- simulate(random, nsim = 300, seed = 2)
  rows <- trials(random, 2, 1:300)
  expect_equal(sum(counts$n[counts$outcomes$winner == "1"]), sum(rows$winner == "1"))
  expect_equal(attr(replay(random, 2, 17), "outcome")$rounds, rows$rounds[17])
})

test_that("summaries tell who wins, how long it takes and what was stopped", {
  game <- game_war(cards_each = 6, collect = "seat_order", face_down = 0)
  counts <- simulate(game, nsim = 2000, seed = 1)
  lines <- capture.output(print(counts))
  expect_match(lines[grep("^winner=1", lines)], "95%: [0-9.]+% to [0-9.]+%")
  told <- gsub(" +", " ", paste(lines, collapse = " "))
  expect_match(told, "one in ten up to [0-9]+ \\(95%: [0-9]+ to [0-9]+\\), half up to [0-9]+ \\(.*nine in ten up to")
  expect_true(any(grepl("of games that ended\\.", lines)))
  ending <- summary(counts, given = ended == "out_of_cards")
  tidied <- tidy(ending)
  rows <- trials(game, 1, 1:2000)
  kept <- rows$rounds[rows$ended == "out_of_cards"]
  expect_equal(tidied$estimate[tidied$term == "rounds"], mean(kept))
  expect_equal(tidied$estimate[tidied$term == "rounds_p90"], sort(kept)[ceiling(0.9 * length(kept))])
  # A seat is paid for winning: payouts work on games.
  paid <- payout(simulate(game_war(cards_each = 4), nsim = 1000, seed = 1), ifelse(winner == "1", 2, 0))
  shares <- tidy(paid)
  wins <- mean(trials(game_war(cards_each = 4), 1, 1:1000)$winner == "1")
  expect_equal(shares$estimate[shares$term == "hit_frequency"], wins)
  settling <- convergence(simulate(game, nsim = 500, seed = 1), "rounds")
  expect_equal(settling$estimate[nrow(settling)], mean(rows$rounds[1:500], na.rm = TRUE))
  page <- withr::local_tempfile(fileext = ".html")
  report(counts, page)
  expect_true(any(grepl("The rules of War as played", readLines(page))))
  bars <- ggplot2::layer_data(autoplot(counts, column = "rounds"), 1)
  expect_equal(sum(bars$y), 1, tolerance = 1e-12)
})
