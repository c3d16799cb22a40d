# Every arrangement of n cards, one a row.
all_arrangements <- function(n) {
  if (n < 2) return(matrix(seq_len(n), nrow = 1))
  rest <- all_arrangements(n - 1)
  do.call(rbind, lapply(seq_len(n), function(first) cbind(first, matrix(setdiff(seq_len(n), first)[rest],
                                                                        ncol = n - 1))))
}

count_cycles <- function(cards) {
  found <- 0
  seen <- rep(FALSE, length(cards))
  for (i in seq_along(cards)) {
    if (!seen[i]) found <- found + 1
    while (!seen[i]) {
      seen[i] <- TRUE
      i <- cards[i]
    }
  }
  found
}

statistics_by_hand <- list(
  stayed_put = function(cards) sum(cards == seq_along(cards)),
  still_together = function(cards) sum(diff(cards) == 1),
  rising_sequences = function(cards) 1 + sum(diff(order(cards)) < 0),
  inversions = function(cards) sum(outer(seq_along(cards), seq_along(cards), function(i,
                                                                                      j) i < j & cards[i] > cards[j])),
  cycles = count_cycles,
  total_distance = function(cards) sum(abs(cards - seq_along(cards)))
)

test_that("laws under a uniform shuffle are those of all arrangements, with the moments said", {
  for (n in 2:7) {
    rows <- all_arrangements(n)
    laws <- habanera:::uniform_laws(n)
    moments <- habanera:::uniform_moments(n)
    for (name in names(statistics_by_hand)) {
      values <- apply(rows, 1, statistics_by_hand[[name]])
      law <- tabulate(values + 1, length(laws[[name]])) / nrow(rows)
      expect_equal(laws[[name]], law, tolerance = 1e-12, info = paste(name, n))
      row <- moments[moments$term == name, ]
      expect_equal(row$mean, mean(values), tolerance = 1e-12, info = paste(name, n))
      expect_equal(row$variance, mean(values^2) - mean(values)^2, tolerance = 1e-9, info = paste(name, n))
    }
  }
})

test_that("laws of large decks have the means and variances of their formulas", {
  for (n in c(52, 130)) {
    laws <- habanera:::uniform_laws(n)
    moments <- habanera:::uniform_moments(n)
    for (name in names(laws)) {
      value <- seq_along(laws[[name]]) - 1
      expect_equal(sum(laws[[name]]), 1, tolerance = 1e-12)
      expect_equal(sum(laws[[name]] * value), moments$mean[moments$term == name], tolerance = 1e-9)
      expect_equal(sum(laws[[name]] * value^2) - sum(laws[[name]] * value)^2,
                   moments$variance[moments$term == name], tolerance = 1e-7)
    }
  }
})

test_that("neighbours that share a value have the mean and variance of all arrangements, in rows and grids", {
  group <- c(1, 1, 1, 2, 2, 3)
  rows <- all_arrangements(6)
  for (below in c(0, 2, 3)) {
    edges <- if (below == 0) cbind(1:5, 2:6) else {
      across <- cbind(1:5, 2:6)[(1:5) %% below != 0, ]
      rbind(across, cbind(seq_len(6 - below), seq_len(6 - below) + below))
    }
    like <- apply(rows, 1, function(cards) sum(group[cards[edges[, 1]]] == group[cards[edges[, 2]]]))
    law <- habanera:::alike_law(c(3, 2, 1), 6, below)
    expect_equal(law$mean, mean(like), tolerance = 1e-12)
    expect_equal(law$variance, mean(like^2) - mean(like)^2, tolerance = 1e-12)
  }
})

test_that("a law is cut into intervals that are nearly equal and hold enough", {
  law <- habanera:::uniform_laws(52)$inversions
  for (trials in c(25, 300, 1e6)) {
    share <- rowsum(law, habanera:::cut_law(law, trials))[, 1]
    expect_lte(length(share), 20)
    expect_true(all(share * trials >= 10 - 1e-6))
  }
  expect_equal(max(habanera:::cut_law(law, 15)), 1)
})
