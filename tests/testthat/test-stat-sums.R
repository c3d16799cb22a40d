plain_jackknife <- function(tops, bases) {
  ratios <- vapply(seq_along(tops), function(i) sum(tops[-i]) / sum(bases[-i]), 0)
  sqrt((length(tops) - 1) / length(tops) * sum((ratios - mean(ratios))^2))
}

# Counts beyond the range of a table are put with the outermost.
in_range <- function(counts, found) pmin(pmax(counts, min(found$true_count)), max(found$true_count))

counted_game <- function(...) {
  game_blackjack(packs = 1, players = player_counting(bets = c("0" = 1, "1" = 4)), cut_after = 0.7, ...)
}

test_that("of few shoes every count has the error that leaving out one shoe after the other tells", {
  shoes <- simulate(counted_game(), nsim = 40, seed = 5)
  found <- by_true_count(shoes)
  rounds <- trials(counted_game(record = c("true_count", "net_per_bet")), 5, 1:40)
  rounds$true_count <- in_range(rounds$true_count, found)
  for (i in seq_len(nrow(found))) {
    at <- rounds[rounds$true_count == found$true_count[i], ]
    tops <- as.vector(tapply(at$net_per_bet, at$trial, sum))
    bases <- as.vector(table(at$trial))
    expect_equal(found$mean[i], sum(tops) / sum(bases), tolerance = 1e-9)
    if (length(tops) < 6 || sd(tops / bases) == 0) {
      expect_true(is.na(found$std.error[i]) && is.na(found$conf.low[i]), info = i)
    } else {
      error <- plain_jackknife(tops, bases)
      expect_equal(found$std.error[i], error, tolerance = 1e-9)
      expect_equal(found$conf.high[i], found$mean[i] + qt(0.975, length(tops) - 1) * error, tolerance = 1e-9)
    }
  }
  # In all rounds, over the shoes; and the bets with them.
  per_shoe <- function(x) as.vector(tapply(x, rounds$trial, sum))
  bets <- ifelse(rounds$true_count >= 1, 4, 1)
  gain <- tidy(found)[1, ]
  expect_equal(gain$std.error, 100 * plain_jackknife(per_shoe(bets * rounds$net_per_bet),
                                                     per_shoe(rep(1, nrow(rounds)))),
               tolerance = 1e-9)
  net <- tidy(simulate(game_high_card(cut_after = 30), nsim = 12, seed = 1))
  single <- trials(game_high_card(cut_after = 30), 1, 1:12)
  error <- plain_jackknife(as.vector(tapply(single$net, single$trial, sum)), as.vector(table(single$trial)))
  expect_equal(net$conf.high[net$term == "net"], mean(single$net) + qt(0.975, 11) * error, tolerance = 1e-9)
  expect_true(all(is.na(tidy(simulate(game_high_card(cut_after = 30), nsim = 5, seed = 1))$conf.low)))
  expect_output(print(simulate(game_high_card(cut_after = 30), nsim = 5, seed = 1)),
                "in 5 trials, too few for an interval")
})

test_that("a count that came in few of many shoes is told by these", {
  many <- simulate(counted_game(), nsim = 600, seed = 5)
  found <- by_true_count(many)
  sums <- sums_of_counts(many)
  expect_null(sums$classes[[1]]$values)
  rounds <- trials(counted_game(record = c("true_count", "net_per_bet")), 5, 1:600)
  rounds$true_count <- in_range(rounds$true_count, found)
  shoes <- vapply(found$true_count, function(count) length(unique(rounds$trial[rounds$true_count == count])), 0)
  few <- which(shoes >= 6 & shoes <= 64)
  expect_gt(length(few), 2)
  for (i in few) {
    at <- rounds[rounds$true_count == found$true_count[i], ]
    error <- plain_jackknife(as.vector(tapply(at$net_per_bet, at$trial, sum)), as.vector(table(at$trial)))
    expect_equal(found$std.error[i], error, tolerance = 1e-9)
  }
  # Of a count that came in more, their squares are enough: by hand (Cochran 1977, section 6.4).
  i <- which.max(shoes)
  at <- rounds[rounds$true_count == found$true_count[i], ]
  tops <- as.vector(tapply(at$net_per_bet, at$trial, sum))
  bases <- as.vector(table(at$trial))
  expect_equal(found$std.error[i], sqrt(length(tops) / (length(tops) - 1) * sum((tops - found$mean[i] * bases)^2)) /
                 sum(bases), tolerance = 1e-9)
})

test_that("what is kept of shoes does not depend on threads, parts, files or who decides", {
  game <- counted_game()
  whole <- simulate(game, nsim = 90, seed = 2, threads = 1)
  expect_identical(simulate(game, nsim = 90, seed = 2, threads = 2)$sums, whole$sums)
  parts <- lapply(c(61, 1, 31), function(first) simulate(game, nsim = 30, seed = 2, first_trial = first))
  expect_identical(c(parts[[1]], parts[[2]], parts[[3]])$sums, whole$sums)
  expect_identical(sums_in_r(list(game), 2, 1, 90), whole$sums)
  for (kind in c(".json", ".csv", ".parquet")) {
    file <- withr::local_tempfile(fileext = kind)
    write_result(whole, file)
    expect_identical(read_result(file)$sums, whole$sums)
  }
  kept <- withr::local_tempfile()
  simulate(game, nsim = 50, seed = 2, checkpoint = kept)
  expect_identical(simulate(game, nsim = 90, seed = 2, checkpoint = kept)$sums, whole$sums)
})
