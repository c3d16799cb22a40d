test_that("exact answers are those of every deal played in plain R", {
  deck <- deck_from(data.frame(card = c("a1", "b1", "a2", "b2", "a3", "b3"), rank = c(1, 1, 2, 2, 3, 3)))
  orders <- as.matrix(expand.grid(rep(list(1:6), 6)))
  orders <- orders[apply(orders, 1, function(order) !anyDuplicated(order)), ]
  for (rules in list(list(face_down = 1), list(tie = "split", collect = "loser_first"),
                     list(collect = "seat_order", face_down = 0, max_rounds = 50))) {
    record <- c("winner", "ended", "rounds", "ties")
    game <- do.call(game_war, c(list(deck = deck, rank_by = "rank", record = record), rules))
    all <- unclass(rules(game))
    all$rank <- c(1, 1, 2, 2, 3, 3)
    played <- apply(orders, 1, function(order) {
      found <- slow_war(list(order[c(1, 3, 5)], order[c(2, 4, 6)]), all)
      if (found$winner == 0) found$winner <- "nobody"
      paste(unlist(found[c("winner", "ended", "rounds", "ties")]), collapse = " ")
    })
    law <- exact(game)
    ours <- tapply(law$probability, do.call(paste, law$outcomes), sum)
    theirs <- table(played) / 720
    expect_setequal(names(ours), names(theirs))
    expect_equal(as.vector(ours[names(theirs)]), as.vector(theirs), tolerance = 1e-12)
  }
})

test_that("simulated games lie within the bands of exact ones", {
  for (shuffle in list(NULL, shuffle_riffle(), procedure("naive_swap"))) {
    game <- game_war(deck = deck_numbered(5), shuffle = shuffle)
    law <- exact(game)
    expect_equal(sum(law$probability), 1, tolerance = 1e-12)
    counts <- simulate(game, nsim = 40000, seed = 11)
    key <- function(x) do.call(paste, x$outcomes)
    expect_true(all(key(counts) %in% key(law)))
    n <- counts$n[match(key(law), key(counts))]
    n[is.na(n)] <- 0
    p <- law$probability
    # The largest |z| of as many cells stays below 4.5 but once in a thousand such tests; rare cells have none.
    common <- 40000 * p >= 20
    expect_lt(max(abs(n - 40000 * p)[common] / sqrt(40000 * p * (1 - p))[common]), 4.5)
    expect_true(compare(counts, law)$agree)
  }
})

test_that("of a symmetric game each seat wins half, and an unfair tie is shown to be", {
  law <- tidy(exact(game_war(deck = deck_numbered(6))))
  expect_equal(law$estimate[law$term == "winner=1"], 0.5, tolerance = 1e-12)
  pairs <- deck_from(data.frame(card = c("a1", "b1", "a2", "b2"), rank = c(1, 1, 2, 2)))
  favoured <- tidy(exact(game_war(deck = pairs, rank_by = "rank", tie = "seat", tie_seat = 2)))
  # Seat 1 wins only when it is dealt both twos, in 1 of the 6 hands of two: any tie gives seat 2 the upper hand.
  expect_equal(favoured$estimate[favoured$term == "winner=2"], 5 / 6, tolerance = 1e-12)
  # Two cards: the higher is dealt to either seat.
  expect_equal(exact(game_war(deck = deck_numbered(2)))$probability, c(0.5, 0.5))
})

test_that("a shuffled pot is walked too, within a limit", {
  # 2 1 against 3: 3 takes 2, then 3 2 or 2 3 face 1, and seat 2 wins in any case.
  law <- exact(game_war(deck = deck_numbered(3), collect = "shuffled", piles = list("2 1", "3")))
  expect_equal(law$outcomes$winner, "2")
  expect_equal(law$outcomes$rounds, 2)
  expect_error(exact(game_war(collect = "shuffled", deck = deck_numbered(4)), most = 1000), "at most 1,000",
               class = "habanera_error_work")
})

test_that("what is out of reach says how large it is", {
  expect_error(exact(game_war()), "deals .* at most 5,000,000", class = "habanera_error_work")
  expect_error(exact(game_war(deck = deck_numbered(12))), "479,001,600 deals", class = "habanera_error_work")
  # 12 cards of three ranks are dealt in only 12! / 4!^3 ways.
  deck <- deck_from(data.frame(card = sprintf("c%d", 1:12), rank = rep(1:3, 4)))
  expect_equal(habanera:::count_of_deals(game_war(deck = deck, rank_by = "rank")), factorial(12) / factorial(4)^3)
  expect_error(exact(game_war(shuffle = shuffle_with(rev))), "cannot walk an R function", class = "habanera_error_work")
})

test_that("quantiles by hand, exact and with their intervals", {
  law <- exact(game_war(deck = deck_numbered(8)))
  rounds <- tapply(law$probability, law$outcomes$rounds, sum)
  by_hand <- as.numeric(names(rounds))[match(TRUE, cumsum(rounds) >= 0.9 - 1e-12)]
  tidied <- tidy(law)
  expect_equal(tidied$estimate[tidied$term == "rounds_p90"], by_hand)
  found <- habanera:::column_quantiles(1:100, rep(1, 100), 0.5, TRUE)
  # Order statistics 40 and 61 of 100 hold the median with at least 95% (binomial).
  expect_equal(unlist(found, use.names = FALSE), c(50, 40, 61))
  expect_gte(sum(dbinom(40:60, 100, 0.5)), 0.95)
})
