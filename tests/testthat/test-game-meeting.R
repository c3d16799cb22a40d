four <- list(baker = player_full_memory(), ferryman = player_forgetful(0.7), twin = player_careful())

test_that("scores are what the exact games of every line-up give", {
  game <- game_pairs(pairs = 3)
  x <- round_robin(game, c("full_memory", "careful"), nsim = 20000, seed = 1)
  score <- function(...) {
    law <- exact(game_pairs(pairs = 3, players = c(...), record = "score_1"))
    sum(law$outcomes$score_1 * law$probability)
  }
  first <- c(score("full_memory", "careful"), score("careful", "full_memory"))
  expected <- c(full_memory = mean(c(first[1], 1 - first[2])), careful = mean(c(first[2], 1 - first[1])),
                `seat 1` = mean(first), `seat 2` = 1 - mean(first))
  found <- tidy(x)
  rows <- found[match(names(expected), found$term), ]
  expect_true(all(abs(rows$estimate - expected) < standard_errors * rows$std.error))
  expect_equal(sum(found$estimate[found$part == "player"]), 1, tolerance = 1e-12)
  expect_equal(sum(found$estimate[found$part == "variation"]), 1, tolerance = 1e-12)
})

test_that("estimates, errors and parts of the variation are those of the single games, in plain R", {
  game <- game_pairs(pairs = 4)
  x <- round_robin(game, four, nsim = 400, seed = 3)
  lines <- list(c(1, 2), c(1, 3), c(2, 1), c(2, 3), c(3, 1), c(3, 2))
  scores <- lapply(lines, function(line) {
    line_up <- game_pairs(pairs = 4, players = unname(four[line]), record = c("score_1", "score_2"))
    as.matrix(trials(line_up, 3, 1:400)[-1])
  })
  of_player <- function(player) {
    each <- lapply(seq_along(lines), function(i) if (player %in% lines[[i]]) scores[[i]][, match(player, lines[[i]])])
    Reduce(`+`, Filter(Negate(is.null), each)) / 4
  }
  found <- tidy(x)
  for (player in 1:3) {
    expect_equal(found$estimate[player], mean(of_player(player)), tolerance = 1e-12)
    expect_equal(found$std.error[player], sd(of_player(player)) / 20, tolerance = 1e-9)
  }
  beside <- as.data.frame(x)
  row <- beside[beside$player == "baker" & beside$against == "twin", ]
  met <- (scores[[2]][, 1] + scores[[5]][, 2]) / 2
  expect_equal(c(row$score, row$std.error), c(mean(met), sd(met) / 20), tolerance = 1e-9)
  expect_equal(row$lead, 2 * mean(met) - 1, tolerance = 1e-12)

  covariance <- lapply(1:2, function(seat) cov(vapply(scores, function(score) score[, seat], numeric(400))))
  shared <- mean(vapply(covariance, function(one) mean(one[row(one) != col(one)]), 0))
  total <- mean(unlist(scores)^2) - 1 / 4
  variation <- rlang::set_names(found$estimate[found$part == "variation"], found$term[found$part == "variation"])
  expect_equal(variation[["deal"]], max(0, shared) / total, tolerance = 1e-9)
  # What the deals alone scatter the means is taken off: the mean variance of the means about their common mean.
  own <- vapply(1:3, of_player, numeric(400))
  by_deals <- mean(diag(cov(own - rowMeans(own)))) / 400
  expect_equal(variation[["players"]], (mean((found$estimate[1:3] - 0.5)^2) - by_deals) / total, tolerance = 1e-9)
  seats <- vapply(1:2, function(seat) Reduce(`+`, lapply(scores, function(score) score[, seat])) / 6, numeric(400))
  by_deals <- mean(diag(cov(seats - rowMeans(seats)))) / 400
  expect_equal(variation[["seat"]], max(0, mean((colMeans(seats) - 0.5)^2) - by_deals) / total, tolerance = 1e-9)
})

test_that("R functions meet, too, by the same sums", {
  games <- round_robin(game_pairs(pairs = 3), four, nsim = 60, seed = 2)
  meeting <- games$provenance$experiment
  in_r <- habanera:::sums_in_r(meeting$games, 2, 1, 60, habanera:::meeting_families(meeting))
  expect_equal(in_r, games$sums)
  with_function <- round_robin(game_pairs(pairs = 2),
                               list("full_memory", player_with(function(view, moves) moves[length(moves)], "last")),
                               nsim = 20, seed = 1)
  expect_equal(tidy(with_function)$term[1:2], c("full_memory", "last"))
})

test_that("a round robin prints, draws, is kept and can be made again", {
  x <- round_robin(game_pairs(pairs = 3), four, nsim = 200, seed = 1)
  printed <- capture.output(print(x))
  expect_match(printed, "Of the win .* has [0-9.]+%", all = FALSE)
  expect_match(printed, "Of how results vary", all = FALSE)
  data <- ggplot2::layer_data(autoplot(x), 2)
  expect_equal(nrow(data), 6)
  expect_match(autoplot(x)$labels$title, "comes first with")
  file <- withr::local_tempfile(fileext = ".json")
  write_result(x, file)
  expect_identical(tidy(read_result(file)), tidy(x))
  expect_error(c(x, round_robin(game_pairs(pairs = 3), four, nsim = 10, seed = 1)), "Both counts hold trial 1",
               class = "habanera_error_merge")
  page <- withr::local_tempfile(fileext = ".html")
  report(x, page)
  code <- grep("round_robin\\(", readLines(page), value = TRUE)[1]
  again <- eval(parse(text = gsub("&quot;", "\"", gsub(".*(round_robin\\(.*seed = 1\\)).*", "\\1", code))))
  expect_identical(tidy(again), tidy(x))
})

test_that("who cannot meet is told why", {
  expect_refusals(list(
    list(quote(round_robin(game_pairs(), "careful")), "input", "needs two players or more"),
    list(quote(round_robin(game_pairs(), c("careful", "careful"))), "input", "Two players are called \"careful\""),
    list(quote(round_robin(game_pairs(seats = 1), c("careful", "random"))), "input", "two seats or more"),
    list(quote(round_robin(game_high_card(), c("careful", "random"))), "input", "nobody decides"),
    list(quote(round_robin(game_pairs(), c("careful", "dealer"))), "input", "There is no player \"dealer\""),
    list(quote(round_robin(game_pairs(seats = 6), sprintf("forgetful:recall=0.%d", 1:7))), "work", "line-ups")
  ))
})

test_that("the shell seats everyone, solves and prices", {
  ran <- run_words("round-robin", "pairs", "--set", "pairs=3", "--players", "full_memory,careful,forgetful:recall=0.7",
                   "--trials", "200", "--seed", "1", "--format", "json")
  expect_equal(ran$status, 0)
  table <- jsonlite::fromJSON(paste(ran$out, collapse = "\n"))
  expect_equal(nrow(table), 6)
  expect_equal(run_words("round-robin", "pairs")$status, 2)
  expect_match(run_words("best", "pairs", "--set", "seats=1", "--set", "pairs=2")$out, "2.66667 turns", all = FALSE)
  expect_match(run_words("edge", "high_card")$out, "5.882% = 1/17", all = FALSE)
  expect_equal(run_words("edge", "pairs")$status, 2)
})
