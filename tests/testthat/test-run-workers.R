five <- draws(deck_standard(), 5)
war <- game_war(record = c("winner", "rounds"))

# A run as the driver has it, of workers that are as told.
run_of_workers <- function(rate, cost, count = 4, far = TRUE, part_seconds = NULL, experiment = five) {
  workers <- list2env(list(rate = rate, cost = cost, count = count, far = far, failed = FALSE, lost = FALSE))
  list(experiment = experiment, workers = workers, part_seconds = part_seconds)
}
part_size <- function(trials, ...) {
  part <- first_part(list(list(1, trials)), run_of_workers(...))
  part[[2]] - part[[1]] + 1
}

test_that("parts last as long as they should, and never less than it is worth to reach a worker", {
  expect_equal(part_size(1e9, rate = 1000, cost = 0.1), 60 * 1000)
  expect_equal(part_size(1e9, rate = 1000, cost = 0.1, far = FALSE), 2 * 1000)
  expect_equal(part_size(1e9, rate = 1000, cost = 0.1, part_seconds = 7), 7 * 1000)
  # Slow to reach: longer parts, where the time was measured beside them, they shrank.
  expect_equal(part_size(1e9, rate = 1000, cost = 20), 5 * 20 * 1000)
  # What is left goes to all, but not in crumbs.
  expect_equal(part_size(40000, rate = 1000, cost = 0.1), 10000)
  expect_equal(part_size(8000, rate = 1000, cost = 1), 5000)
  expect_equal(part_size(3000, rate = 1000, cost = 1), 3000)
  expect_equal(part_size(3000, rate = 1000, cost = 4, part_seconds = 2), 2000)
  # Whole chains.
  retry <- game_blackjack(cut_after = 0.75)
  expect_equal(part_size(1000, rate = 10, cost = 0, experiment = retry) %% trials_in_chain(retry), 0)
  expect_true(is_worth_handing_out(run_of_workers(1000, 0.1), 5000))
  expect_false(is_worth_handing_out(run_of_workers(1000, 0.1), 500))
  expect_false(is_worth_handing_out(run_of_workers(1000, 10), 5000))
  expect_false(is_worth_handing_out(run_of_workers(NULL, 0), 5000))
})

test_that("trials that came back in another order are the same counts, and a checkpoint holds their ranges", {
  part <- function(state, first, count) add_lap(state, tally_of_range(war, 4, first, count, 1), first, count)
  for (order in list(1:4, c(3, 1, 4, 2), 4:1)) {
    run <- list(experiment = war, first = 11, nsim = 4000)
    state <- start_state(list(seed = 4), NULL)
    for (k in order[1:3]) state <- part(state, 11 + 1000 * (k - 1), 1000)
    file <- withr::local_tempfile()
    writeBin(checkpoint_bytes(run, state), file)
    rest <- simulate(war, 4000, seed = 4, first_trial = 11, checkpoint = file)
    expect_identical(rest, simulate(war, 4000, seed = 4, first_trial = 11))
    # An interrupted run tells which trials it holds.
    some <- counts_so_far(run, state)
    expect_equal(trial_count(some), 3000)
    expect_equal(sum(provenance(some)$trials$last - provenance(some)$trials$first + 1), 3000)
    missing <- 11 + 1000 * (order[4] - 1)
    expect_identical(as.data.frame(c(some, simulate(war, 1000, seed = 4, first_trial = missing))),
                     as.data.frame(rest))
    expect_error(simulate(war, 100, seed = 4, first_trial = 11, checkpoint = file), "more than the 100 asked for",
                 class = "habanera_error_checkpoint")
  }
})

test_that("a run stops for precision at the same trial, whatever was handed out", {
  run <- list(precision = c(card = 0.1), first = 1, nsim = 1e6)
  window <- function(...) next_window(run, list(ranges = data.frame(first = c(...), last = c(...) + 99)))
  expect_identical(next_window(run, list(ranges = data.frame(first = numeric(), last = numeric()))), c(1, 10000))
  expect_identical(window(1), c(1, 10000))
  expect_identical(window(1000, 5000), c(1, 10000))
  # What lacks before the last of them is played before anything after it.
  expect_identical(window(9901), c(1, 10000))
  expect_identical(window(9902), c(1, 14142))
  skip_if_not_installed("future")
  wanted <- c(rounds = 4)
  alone <- simulate(war, 1e6, seed = 3, precision = wanted)
  old <- future::plan("multisession", workers = 2)
  withr::defer(future::plan(old))
  for (seconds in c(0.05, 0.4)) {
    expect_identical(simulate(war, 1e6, seed = 3, precision = wanted, part_seconds = seconds), alone)
    expect_identical(simulate(five, 1e5, seed = 6, part_seconds = seconds), simulate(five, 1e5, seed = 6))
  }
  chained <- game_blackjack(cut_after = 0.5)
  expect_identical(simulate(chained, 2e4, seed = 6, part_seconds = 0.05), simulate(chained, 2e4, seed = 6))
  expect_error(simulate(five, 10, part_seconds = 0), "part_seconds", class = "habanera_error_input")
})

test_that("a worker that dies in the midst of its part costs no trial", {
  skip_on_os("windows")
  skip_if_not_installed("future")
  alone <- simulate(war, 2e6, seed = 5)
  old <- future::plan("multisession", workers = 2)
  withr::defer(future::plan(old))
  pid <- future::value(future::future(Sys.getpid()))
  system(sprintf("(sleep 0.5; kill -9 %d) >/dev/null 2>&1 &", pid))
  expect_message(parts <- simulate(war, 2e6, seed = 5, part_seconds = 0.3, threads = 1), "played again")
  expect_identical(parts, alone)
})

test_that("a player that fails in a worker is told as it is here", {
  skip_if_not_installed("future")
  failing <- draws_with(function(deck) {
    if (stats::runif(1) < 0.001) stop("the tablet fell")
    deck[1]
  }, size = 1)
  here <- tryCatch(simulate(failing, 1e5, seed = 1), error = identity)
  old <- future::plan("multisession", workers = 2)
  withr::defer(future::plan(old))
  there <- tryCatch(simulate(failing, 1e5, seed = 1, part_seconds = 0.1), error = identity)
  expect_match(rlang::cnd_message(there), "the tablet fell")
  expect_identical(class(there), class(here))
})
