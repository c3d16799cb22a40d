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
    list(quote(round_robin(game_high_card(), c("careful", "random"))), "input",
         "High card does not say what each seat has"),
    list(quote(round_robin(game_pairs(), c("careful", "dealer"))), "input", "There is no player \"dealer\""),
    list(quote(round_robin(game_pairs(seats = 6), sprintf("forgetful:recall=0.%d", 1:7))), "work", "line-ups")
  ))
})

test_that("the shell seats everyone, solves and prices", {
  ran <- run_words("round-robin", "pairs", "--set", "pairs=3", "--players", "full_memory,careful,forgetful:recall=0.7",
                   "--trials", "200", "--seed", "1", "--format", "json")
  expect_equal(ran$status, 0)
  table <- jsonlite::fromJSON(paste(ran$out, collapse = "\n"))[["table"]]
  expect_equal(nrow(as.data.frame(table)), 6)
  expect_equal(run_words("round-robin", "pairs")$status, 2)
  expect_match(run_words("best", "pairs", "--set", "seats=1", "--set", "pairs=2")$out, "2.66667 turns", all = FALSE)
  expect_match(run_words("edge", "high_card")$out, "5.882% = 1/17", all = FALSE)
  expect_equal(run_words("edge", "pairs")$status, 2)
})

test_that("shares of the win stay between nothing and all, and who wins all has the exact interval", {
  x <- round_robin(game_pairs(pairs = 1), c("full_memory", "careful"), nsim = 8, seed = 1)
  # Of one pair the first turn wins: seat 1 has all, seat 2 nothing, each player half.
  seats <- tidy(x)[tidy(x)$part == "seat", ]
  expect_equal(seats$estimate, c(1, 0))
  expect_equal(c(seats$conf.low[1], seats$conf.high[1]), as.numeric(binom.test(8, 8)$conf.int), tolerance = 1e-9)
  expect_equal(c(seats$conf.low[2], seats$conf.high[2]), as.numeric(binom.test(0, 8)$conf.int), tolerance = 1e-9)
  # Each player has half in every deal, which tells nothing of an error.
  expect_true(all(is.na(tidy(x)$conf.low[1:2])))
  for (nsim in c(6, 20, 300)) {
    rows <- tidy(round_robin(game_pairs(pairs = 3), c("full_memory", "random"), nsim = nsim, seed = 2))
    expect_true(all(rows$conf.low >= 0 & rows$conf.high <= 1, na.rm = TRUE))
    lead <- as.data.frame(round_robin(game_pairs(pairs = 3), c("full_memory", "random"), nsim = nsim, seed = 2))
    expect_true(all(lead$lead.low >= -1 & lead$lead.high <= 1))
  }
  # Five deals are too few for an interval; of the variation 319 are.
  expect_true(all(is.na(tidy(round_robin(game_pairs(pairs = 4), four, nsim = 5, seed = 2))$conf.low)))
  expect_true(all(is.na(tidy(round_robin(game_pairs(pairs = 4), four, nsim = 319, seed = 2))$conf.low[6:9])))
})

test_that("parts of the variation have no bias of few deals, and their intervals hold", {
  # What the players are of a result, by the exact laws of both line-ups.
  names <- c("full_memory", "careful")
  laws <- lapply(list(names, rev(names)), function(line) {
    exact(game_pairs(pairs = 3, players = line, record = c("score_1", "score_2")))
  })
  mean_of <- function(law, seat, power = 1) sum(law$probability * law$outcomes[[seat]]^power)
  player <- c(mean_of(laws[[1]], 1) + mean_of(laws[[2]], 2), mean_of(laws[[1]], 2) + mean_of(laws[[2]], 1)) / 2
  total <- mean(c(mean_of(laws[[1]], 1, 2), mean_of(laws[[1]], 2, 2), mean_of(laws[[2]], 1, 2),
                  mean_of(laws[[2]], 2, 2))) - 1 / 4
  share <- mean((player - 0.5)^2) / total
  meeting <- function(nsim, seed) round_robin(game_pairs(pairs = 3), names, nsim = nsim, seed = seed, threads = 1)
  # Of thirty deals the plain variance of the means would be larger by far.
  few <- vapply(1:300, function(seed) {
    x <- meeting(30, seed)
    grouped_estimate(x$sums, function(sums) {
      variation_parts(sums, meeting_families(x$provenance$experiment))
    })$estimate[["players"]]
  }, 0)
  expect_lt(abs(mean(few) - share), standard_errors * sd(few) / sqrt(300))
  holds <- vapply(1:200, function(seed) {
    row <- tidy(meeting(320, seed))[5, ]
    row$estimate >= 0 && row$conf.low <= share && share <= row$conf.high
  }, NA)
  expect_gt(mean(holds), 0.95 - standard_errors * sqrt(0.95 * 0.05 / 200))
  # Leaving out one group after the other, in plain R.
  x <- round_robin(game_pairs(pairs = 3), c("full_memory", "careful"), nsim = 640, seed = 3)
  lines <- list(c("full_memory", "careful"), c("careful", "full_memory"))
  scores <- lapply(lines, function(line) {
    as.matrix(trials(game_pairs(pairs = 3, players = line, record = c("score_1", "score_2")), 3, 1:640)[-1])
  })
  shared <- function(rows) {
    covariance <- vapply(1:2, function(seat) cov(scores[[1]][rows, seat], scores[[2]][rows, seat]), 0)
    each <- unlist(lapply(scores, function(score) score[rows, ]))
    mean(covariance) / (mean(each^2) - mean(each)^2)
  }
  without <- vapply(0:31, function(group) shared(which(1:640 %% 32 != group)), 0)
  deal <- tidy(x)[tidy(x)$term == "deal", ]
  expect_equal(deal$std.error, sqrt(31 / 32 * sum((without - mean(without))^2)), tolerance = 1e-9)
  expect_equal(deal$estimate, max(0, shared(1:640)), tolerance = 1e-9)
})

test_that("two strategies meet at a table of three, in every seating; of money it is said what all have", {
  x <- round_robin(game_blackjack(seats = 3), c("basic", "never_busts"), nsim = 40, seed = 1)
  expect_equal(x$provenance$experiment$line_ups,
               rbind(c(1, 1, 2), c(1, 2, 1), c(1, 2, 2), c(2, 1, 1), c(2, 1, 2), c(2, 2, 1)))
  rows <- tidy(x)
  # Everybody sits in three places of six line-ups, so that the mean of players is that of seats.
  expect_equal(mean(rows$estimate[rows$part == "player"]), mean(rows$estimate[rows$part == "seat"]), tolerance = 1e-12)
  net <- function(line) {
    as.matrix(trials(game_blackjack(seats = 3, players = as.list(line), record = paste0("net_", 1:3)), 1, 1:40)[-1])
  }
  names <- c("basic", "never_busts")
  lines <- apply(x$provenance$experiment$line_ups, 1, function(line) names[line], simplify = FALSE)
  basic <- Reduce(`+`, lapply(lines, function(line) rowSums(net(line)[, line == "basic", drop = FALSE]))) / 9
  expect_equal(rows$estimate[1], mean(basic), tolerance = 1e-9)
  expect_output(print(x), "all seats\\s+have -?[0-9.]+% on\\s+average")
})
