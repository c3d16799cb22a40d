# Laps on other processes or machines, through the future package, when the user has set a plan.

future_workers <- function() {
  if (!isNamespaceLoaded("future")) return(1)
  workers <- future::nbrOfWorkers()
  if (is.finite(workers)) workers else 1
}

# Shares a lap out and adds it up again. A share that fails is played again: its address is all it
# needs.
play_on_workers <- function(run, done, count, workers) {
  chain <- trials_in_chain(run$experiment)
  shares <- min(workers, count)
  cuts <- unique(c(chain * floor(seq(0, count / chain, length.out = shares + 1))[seq_len(shares)], count))
  firsts <- run$first + done + cuts[-length(cuts)]
  counts <- diff(cuts)
  shares <- Map(function(first, count) start_share(run, first, count), firsts, counts)
  tallies <- Map(function(share, first, count) {
    tryCatch(future::value(share), error = function(cnd) future::value(start_share(run, first, count)))
  }, shares, firsts, counts)
  Reduce(add_tallies, tallies)
}

# `seed = NULL` tells future that we mind R's generator ourselves.
start_share <- function(run, first, count) {
  play_share <- function() run_lap(run$experiment, run$seed, first, count, run$threads)
  future::future(play_share(), packages = "habanera", seed = NULL,
                 globals = list(play_share = play_share))
}
