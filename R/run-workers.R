# Laps on other processes or machines, through the future package, when the user has set a plan.

# The workers of one run: how many there are, and whether one of them failed, after which the run goes on without.
future_workers <- function() {
  workers <- new.env(parent = emptyenv())
  workers$count <- if (isNamespaceLoaded("future")) future::nbrOfWorkers() else 1
  if (!is.finite(workers$count)) workers$count <- 1
  workers$failed <- FALSE
  workers
}

# Shares a lap out and adds it up again. A share whose worker fails, or cannot be reached, is played here: its address
# is all it needs.
play_on_workers <- function(run, done, count) {
  chain <- trials_in_chain(run$experiment)
  shares <- min(run$workers$count, count)
  cuts <- unique(c(chain * floor(seq(0, count / chain, length.out = shares + 1))[seq_len(shares)], count))
  firsts <- run$first + done + cuts[-length(cuts)]
  counts <- diff(cuts)
  here <- function(first, count) {
    run$workers$failed <- TRUE
    run_lap(run$experiment, run$seed, first, count, run$threads)
  }
  started <- Map(function(first, count) tryCatch(start_share(run, first, count), error = function(cnd) NULL), firsts,
                 counts)
  tallies <- Map(function(share, first, count) {
    if (is.null(share)) return(here(first, count))
    tryCatch(future::value(share), error = function(cnd) here(first, count))
  }, started, firsts, counts)
  Reduce(add_tallies, tallies)
}

# `seed = NULL` tells future that we mind R's generator ourselves.
start_share <- function(run, first, count) {
  play_share <- function() run_lap(run$experiment, run$seed, first, count, run$threads)
  future::future(play_share(), packages = "habanera", seed = NULL,
                 globals = list(play_share = play_share))
}
