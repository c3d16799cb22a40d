test_that("a replay is the shuffle with the same address, move by move", {
  for (text in c("naive_swap", "riffle x2, strip, cut", "uniform", "none", "retry", "shelf")) {
    trace <- replay(procedure(text), seed = 3, trial = 7, deck = deck_numbered(9))
    expect_identical(trace$after, shuffle(deck_numbered(9), procedure(text), seed = 3, trial = 7))
  }
  swaps <- replay(shuffle_naive_swap(), seed = 1, deck = deck_numbered(4))$moves
  expect_equal(swaps$from, 1:4)
  deck <- 1:4
  for (i in 1:4) {
    deck[c(swaps$from[i], swaps$to[i])] <- deck[c(swaps$to[i], swaps$from[i])]
    expect_equal(swaps$cards[i], paste(deck, collapse = " "))
  }
  local_reproducible_output(unicode = FALSE)
  expect_snapshot({
    replay(procedure("riffle, piles piles=3"), seed = 1, trial = 1, deck = deck_numbered(9))
    replay(shuffle_overwrite(), seed = 1, trial = 1, deck = deck_numbered(3))
  })
  expect_error(replay(5, 1), class = "habanera_error_input")
})

test_that("a perfect interleave brings the deck back when it is known to", {
  expect_equal(restore_period(shuffle_faro("out"), 44)$period, 14)
  expect_equal(restore_period(shuffle_faro("in"), 44)$period, 12)
  # The order of 2 modulo n - 1 (out) and n + 1 (in) for even decks (Diaconis, Graham & Kantor 1983).
  order_of_two <- function(m) {
    powers <- Reduce(function(x, i) (2 * x) %% m, 1:m, 1, accumulate = TRUE)[-1]
    which(powers == 1 %% m)[1]
  }
  sizes <- seq(4, 40, by = 2)
  expect_equal(restore_period(shuffle_faro("out"), sizes)$period, vapply(sizes - 1, order_of_two, 0))
  expect_equal(restore_period(shuffle_faro("in"), sizes)$period, vapply(sizes + 1, order_of_two, 0))
  expect_equal(restore_period(shuffle_none(), 0:2)$period, c(1, 1, 1))
  for (text in c("piles piles=5", "faro, piles piles=3 pick_up=reversed")) {
    found <- restore_period(procedure(text), 21)
    expect_identical(shuffle(deck_numbered(21), rep(procedure(text), found$period), seed = 1), deck_numbered(21))
  }
  expect_error(restore_period(shuffle_riffle()), "is random: it has no period", class = "habanera_error_input")
  expect_error(restore_period(shuffle_faro(), -1), class = "habanera_error_input")
})

test_that("a card is followed forwards and back", {
  path <- follow(shuffle_faro(), position = 2, times = 14, deck = 44)
  expect_equal(path$position, c(2, 3, 5, 9, 17, 33, 22, 43, 42, 40, 36, 28, 12, 23, 2))
  back <- follow(shuffle_faro(), where_from = 27, times = 7, deck = 52)
  expect_equal(back$position[8], 2)
  law <- follow(shuffle_riffle(), position = 1, times = 2, deck = 5)
  # The top card of five stays on top with chance 1/2 + 1/32.
  expect_equal(law$probability[law$times == 1 & law$position == 1], 1 / 2 + 1 / 32)
  expect_equal(as.vector(tapply(law$probability, law$times, sum)), c(1, 1, 1))
  simulated <- follow(shuffle_riffle(), position = 1, times = 1, deck = 52, nsim = 20000, seed = 1)
  top <- simulated$probability[simulated$times == 1][1]
  expect_lt(abs(top - 0.5), standard_errors * sqrt(0.25 / 20000) + 2^-52)
  inverse <- follow(shuffle_top_to_random(), where_from = 1, times = 1, deck = 4)
  expect_equal(inverse$probability[inverse$times == 1], c(1 / 4, 3 / 4, 0, 0))
  whole <- follow(shuffle_faro(), times = 14, deck = 44)
  expect_equal(whole$card[whole$times == 14], 1:44)
  # A function that leaves nothing to chance is known for one, and answered at once.
  mine <- follow(shuffle_with(rev), position = 1, deck = 9, times = 2)
  expect_equal(mine$position, c(1, 9, 1))
  expect_equal(restore_period(shuffle_with(rev), 44)$period, 2)
  expect_equal(exact(shuffle_with(rev), deck_numbered(4))$outcomes$arrangement, "4 3 2 1")
  expect_equal(tidy(exact(shuffle_with(rev), deck_numbered(3)))$estimate[1], 5 / 6)
  expect_error(exact(shuffle_with(sample), deck_numbered(4)), "cannot be walked", class = "habanera_error_work")
})

test_that("a slow R function is played less often, and says so", {
  slow <- shuffle_with(function(deck) {
    Sys.sleep(0.02)
    sample(deck)
  })
  # 20 ms a trial or more: at most 1,500 fit into half a minute, in one digit 1,000 or 2,000.
  expect_message(count <- habanera:::affordable_trials(slow, deck_numbered(3)),
                 "ms a trial: [12],000 trials are played")
  expect_true(count %in% c(1000, 2000))
  expect_message(audit(slow, deck_numbered(3), nsim = 10, seed = 1), NA)
  expect_error(follow(shuffle_faro(), position = 60), class = "habanera_error_input")
  expect_error(follow(shuffle_faro(), position = 1, where_from = 2), "not both")
})

test_that("two procedures are told apart or not, exactly and by simulation", {
  expect_true(compare(shuffle_riffle(2), procedure("riffle x2"), deck = deck_numbered(4))$same)
  expect_true(compare(shuffle_faro(), procedure("faro side=out"))$same)
  expect_false(compare(shuffle_faro("in"), shuffle_faro("out"))$same)
  differ <- compare(shuffle_naive_swap(), shuffle_uniform(), deck = deck_numbered(3))
  expect_equal(differ$distance, 3 * (5 / 27 - 1 / 6))
  expect_output(print(differ), "total variation 0.05556 = 1/18")
  mine <- shuffle_with(function(x) x[sample(length(x))])
  expect_true(compare(mine, shuffle_uniform(), deck_numbered(6), nsim = 800, seed = 1)$same)
  seen <- compare(shuffle_naive_swap(), shuffle_uniform(), nsim = 20000, seed = 1)
  expect_false(seen$same)
  expect_equal(tidy(seen)$term[1:2], c("overall", "position=1"))
  # Equal in law though not in code: at level 1% a false alarm is as rare as that, over 100 seeds.
  alarms <- sum(vapply(1:100, function(seed) {
    !compare(shuffle_uniform(), shuffle_random_keys(), deck_numbered(8), nsim = 500, seed = seed)$same
  }, TRUE))
  expect_lte(alarms, 1 + standard_errors * sqrt(100 * 0.01 * 0.99))
})

test_that("what was looked at is drawn", {
  figures <- list(
    autoplot(exact(shuffle_naive_swap(), deck_numbered(3))), autoplot(restore_period(shuffle_faro(), 2:60)),
    autoplot(follow(shuffle_faro(), times = 4)), autoplot(follow(shuffle_faro(), position = 3, times = 4)),
    autoplot(follow(shuffle_riffle(), position = 1, times = 3, deck = 6))
  )
  for (figure in figures) expect_silent(ggplot2::ggplot_build(figure))
  expect_equal(ggplot2::layer_data(figures[[1]], 1)$y * 27, c(4, 5, 5, 5, 4, 4))
  expect_equal(nrow(ggplot2::layer_data(figures[[2]], 2)), 59)
})

test_that("the shell lists, shuffles, follows, and works out", {
  run <- function(...) {
    status <- NULL
    out <- capture.output(status <- suppressMessages(habanera:::run_command(c(...))))
    list(status = status, out = out)
  }
  expect_match(paste(run("procedures")$out, collapse = "\n"), "riffle: Cuts the deck in two packets")
  shown <- run("shuffle", "riffle x2, cut", "--show", "--seed", "1", "--deck", "numbered 12")
  expect_match(shown$out[1], "<trace> \"riffle x2, cut\" on a deck of 12")
  expect_match(run("follow", "faro", "--position", "2", "--times", "14", "--deck-size", "44")$out[16],
               "after 14: place 2")
  expect_match(run("period", "faro side=in", "--deck-size", "42:46")$out[5], "44 +12")
  exactly <- run("exact", "naive_swap", "--deck-size", "3", "--format", "csv")
  expect_equal(exactly$out[2], "1 2 3,0.14814814814814814")
  expect_equal(run("exact", "riffle", "--deck-size", "30")$status, 3L)
  expect_equal(run("period", "riffle")$status, 2L)
  expect_equal(run("shuffle")$status, 2L)
  expect_equal(run("follow", "rifle")$status, 2L)
  expect_equal(run("period", "faro", "--deck-size", "a")$status, 2L)
  biased <- run("draws", "--positions", "--shuffle", "riffle x3", "--trials", "5000", "--seed", "1", "--expect", "fair")
  expect_equal(biased$status, 1L)
})

test_that("axes of cards and places show whole numbers alone, places from 1", {
  expect_equal(place_breaks(c(0.5, 9.5)), 1:9)
  expect_equal(place_breaks(c(52, 1)), c(1, 10, 20, 30, 40, 50, 60))
  expect_equal(whole_breaks(c(-0.2, 3.3)), 0:3)
  for (ends in list(c(1, 44), c(0, 1.5), c(2, 1e4))) expect_true(all(whole_breaks(ends) == round(whole_breaks(ends))))
})

test_that("followed R functions play what they can afford, and say so", {
  slow <- shuffle_with(function(cards) {
    Sys.sleep(0.02)
    cards[sample(length(cards))]
  })
  expect_message(nsim <- affordable_trials(slow, deck_numbered(5)), "are played; `nsim` asks", fixed = TRUE)
  expect_lt(nsim, 1e5)
  expect_output(print(follow(slow, 1, deck = 8, nsim = 10, seed = 1)), "a shuffle by an R function, 8 cards")
})

test_that("a fixed shuffle is watched without a seed, and text is audited as what it stands for", {
  expect_equal(replay(procedure("faro x3"), deck = deck_numbered(8))$moves,
               replay(procedure("faro x3"), seed = 7, deck = deck_numbered(8))$moves)
  expect_error(replay(procedure("riffle"), deck = deck_numbered(8)), "`seed` is missing",
               class = "habanera_error_input")
  by_text <- audit("transpositions x20", nsim = 200, seed = 1)
  by_procedure <- audit(procedure("transpositions x20"), nsim = 200, seed = 1)
  # Each tells the call that made it, and they are alike in all else.
  attr(by_text, "made") <- attr(by_procedure, "made") <- NULL
  expect_equal(by_text, by_procedure)
})
