five <- draws(deck_standard(), 5)

test_that("the counts do not depend on threads, laps, resuming or merging", {
  whole <- simulate(five, nsim = 30000, seed = 6, threads = 1)
  expect_identical(simulate(five, nsim = 30000, seed = 6, threads = 3)$n, whole$n)
  parts <- c(simulate(five, nsim = 10000, seed = 6, first_trial = 20001),
             simulate(five, nsim = 20000, seed = 6))
  expect_equal(as.data.frame(parts), as.data.frame(whole))
  expect_equal(provenance(parts)$trials, data.frame(first = 1, last = 30000))
  file <- withr::local_tempfile()
  simulate(five, nsim = 12345, seed = 6, checkpoint = file)
  resumed <- simulate(five, nsim = 30000, seed = 6, checkpoint = file)
  expect_equal(as.data.frame(resumed), as.data.frame(whole))
  # A finished run is taken from its checkpoint, seed and all.
  expect_equal(as.data.frame(simulate(five, nsim = 30000, checkpoint = file)), as.data.frame(whole))
})

test_that("other processes give the same counts", {
  skip_if_not_installed("future")
  whole <- simulate(five, nsim = 30000, seed = 6)
  old <- future::plan("multisession", workers = 2)
  withr::defer(future::plan(old))
  expect_identical(simulate(five, nsim = 30000, seed = 6)$n, whole$n)
})

test_that("counts that share trials, seeds or questions amiss do not merge", {
  one <- simulate(five, nsim = 100, seed = 1)
  expect_refusals(list(
    list(quote(c(one, one)), "merge", "Both counts hold trial 1"),
    list(quote(c(one, simulate(five, nsim = 10, seed = 1, first_trial = 50))), "merge", "trial 50"),
    list(quote(c(one, simulate(five, nsim = 10, seed = 2, first_trial = 101))), "merge", "different seeds, 1 and 2"),
    list(quote(c(one, simulate(draws(deck_standard(), 4), nsim = 10, seed = 1, first_trial = 101))),
         "merge", "different experiments: 5 cards"),
    list(quote(c(as_counts(c(AS = 1)), as_counts(c(AS = 1)))), "merge", "made elsewhere"),
    list(quote(c(one, 5)), "merge", "only be joined with counts")
  ))
  gap <- c(one, simulate(five, nsim = 10, seed = 1, first_trial = 201))
  expect_equal(provenance(gap)$trials, data.frame(first = c(1, 201), last = c(100, 210)))
})

test_that("an interrupt keeps what was counted", {
  stop_at <- function(at) {
    calls <- 0
    draws_with(function(deck) {
      calls <<- calls + 1
      if (calls == at) tools::pskill(Sys.getpid(), tools::SIGINT)
      deck[1]
    }, size = 1)
  }
  file <- withr::local_tempfile()
  expect_warning(x <- simulate(stop_at(1500), nsim = 5000, seed = 1, checkpoint = file),
                 "Interrupted: these are the counts of [0-9,]+ of 5,000 trials", class = "habanera_warning_interrupted")
  # Whole laps, of which the first has 16 trials; how long the others are is a matter of time.
  done <- provenance(x)$trials$last
  expect_gte(done, 16)
  expect_lt(done, 1500)
  expect_equal(x$n[x$outcomes$card == "2S"], done)
  expect_true(file.exists(file))
  # Before anything was counted there is nothing to keep.
  expect_equal(tryCatch(simulate(stop_at(5), nsim = 5000, seed = 1), interrupt = function(cnd) "stopped"),
               "stopped")
})

test_that("precision stops a run only at its fixed numbers of trials", {
  stops <- round(10000 * 2^(0:8 / 2))
  x <- simulate(five, nsim = 1e6, seed = 2, precision = c(card = 0.003))
  expect_true(provenance(x)$trials$last %in% stops)
  widths <- function(x) max(with(tidy(x), conf.high - conf.low) / 2)
  expect_lte(widths(x), 0.003)
  before <- stops[match(provenance(x)$trials$last, stops) - 1]
  expect_gt(widths(simulate(five, nsim = before, seed = 2)), 0.003)
  one <- simulate(five, nsim = 1e6, seed = 2, precision = c("card=AS" = 0.01))
  expect_equal(provenance(one)$trials$last, 10000)
  expect_equal(trials_of(simulate(five, nsim = 500, seed = 2, precision = c(card = 1e-9))), 500)
  # A card that never came does not stop a run at once: Wilson's half-width of 0 is not 0.
  never <- draws_with(function(deck) deck[1], size = 1)
  expect_gt(trials_of(simulate(never, nsim = 15000, seed = 1, precision = c(card = 1e-4))), 14142)
})

test_that("threads come from the argument, the option or the environment", {
  for (threads in list(0, 1.5, NA, "two")) {
    expect_error(simulate(five, nsim = 10, seed = 1, threads = threads), class = "habanera_error_input")
  }
  withr::with_options(list(habanera.threads = -1), {
    expect_error(simulate(five, nsim = 10, seed = 1), "option habanera.threads")
  })
  withr::with_envvar(c(HABANERA_THREADS = "many"), {
    expect_error(simulate(five, nsim = 10, seed = 1), "HABANERA_THREADS.*\"many\"")
    expect_s3_class(simulate(five, nsim = 10, seed = 1, threads = 2), "habanera_counts")
  })
  withr::with_envvar(c(HABANERA_THREADS = "2"), {
    expect_s3_class(simulate(five, nsim = 10, seed = 1), "habanera_counts")
  })
})

test_that("bad settings are refused before anything runs", {
  nowhere <- file.path(tempdir(), "no", "such", "file")
  expect_refusals(list(
    list(quote(simulate(five, nsim = -1)), "input",
         "`nsim` must be a whole number from 1 to 1,000,000,000,000, not -1"),
    list(quote(simulate(five, nsim = NA)), "input", "not NA"),
    list(quote(simulate(five, nsim = 0.5)), "input", "not 0.5"),
    list(quote(simulate(five, nsim = 1e13)), "input", "not 1e+13"),
    list(quote(simulate(five, nsim = 10, seed = 2^53)), "input", "`seed` must be a whole number"),
    list(quote(simulate(five, nsim = 10, seed = -3)), "input", "not -3"),
    list(quote(simulate(five, nsim = 10, first_trial = 2^53 - 5)), "input", "below 2^53"),
    list(quote(simulate(five, n_sim = 10)), "input", "no setting `n_sim`; did you mean \"nsim\"?"),
    list(quote(simulate(five, nsim = 10, precision = c(crad = 0.1))), "input", "did you mean \"card\"?"),
    list(quote(simulate(five, nsim = 10, precision = 0.1)), "input", "one named number"),
    list(quote(simulate(five, nsim = 10, checkpoint = nowhere)), "file", "Cannot write the checkpoint"),
    list(quote(simulate(five, nsim = 10, progress = "yes")), "input", "`progress` must be TRUE or FALSE")
  ))
})

test_that("a checkpoint of another run is refused, and left as it is", {
  file <- withr::local_tempfile()
  simulate(five, nsim = 2000, seed = 1, checkpoint = file)
  kept <- readBin(file, "raw", file.size(file))
  expect_refusals(list(
    list(quote(simulate(draws(deck_standard(), 4), nsim = 3000, seed = 1, checkpoint = file)), "checkpoint",
         "its experiment is not this one"),
    list(quote(simulate(five, nsim = 3000, seed = 2, checkpoint = file)), "checkpoint", "its seed is 1, not 2"),
    list(quote(simulate(five, nsim = 3000, seed = 1, first_trial = 5, checkpoint = file)), "checkpoint",
         "begins with trial 1, not 5"),
    list(quote(simulate(five, nsim = 100, seed = 1, checkpoint = file)), "checkpoint", "holds 2,000 trials already")
  ))
  expect_identical(readBin(file, "raw", file.size(file)), kept)
})

test_that("a progress bar can be asked for", {
  withr::local_options(cli.progress_show_after = 0)
  x <- suppressMessages(simulate(five, nsim = 1e5, seed = 1, progress = TRUE))
  expect_equal(trials_of(x), 1e5)
})

test_that("with a seed given R's generator is neither read nor made", {
  clean <- function(call) {
    kept <- if (exists(".Random.seed", globalenv())) get(".Random.seed", globalenv())
    withr::defer(if (!is.null(kept)) assign(".Random.seed", kept, globalenv()))
    if (!is.null(kept)) rm(".Random.seed", envir = globalenv())
    force(call)
    !exists(".Random.seed", globalenv(), inherits = FALSE)
  }
  first <- function(view, moves) moves[1]
  expect_true(clean(simulate(draws(deck_standard(), 5), 100, seed = 1)))
  expect_true(clean(simulate(game_blackjack(players = player_with(first)), 20, seed = 1)))
  expect_true(clean(simulate(draws_with(function(deck) deck[1:2], deck_numbered(5), 2), 20, seed = 1)))
  expect_true(clean(audit(shuffle_riffle(), nsim = 100, seed = 1)))
  expect_true(clean(showdown(list("AS KS", "QH QD"), nsim = 100, seed = 1)))
  expect_true(clean(house_edge(game_blackjack())))
  expect_true(clean(exact(game_pairs(pairs = 2))))
  expect_true(clean(round_robin(game_pairs(), c("random", "careful"), nsim = 50, seed = 1)))
})
