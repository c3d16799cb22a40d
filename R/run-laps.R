# Laps: how many trials are played in one go, which of them lack, and how far a run has come.

# The trials up to where the run may stop next: where the precision is tested, and at its end.
next_window <- function(run, state) {
  stops <- c(if (!is.null(run$precision)) precision_stops(run$nsim), run$nsim)
  unbroken <- gaps_between(state$ranges, c(run$first, run$first + run$nsim - 1))[[1]][1] - run$first
  reached <- max(0, state$ranges$last - run$first + 1)
  c(run$first, run$first - 1 + stops[stops > unbroken & stops >= reached][1])
}

# What lacks of the trials from `wanted[1]` to `wanted[2]`, a list of first and last.
gaps_between <- function(ranges, wanted) {
  firsts <- c(wanted[1], ranges$last + 1)
  lasts <- c(ranges$first - 1, wanted[2])
  Map(c, firsts, lasts)[firsts <= lasts]
}

now <- function() proc.time()[["elapsed"]]

seconds_per_lap <- 0.3
seconds_worth_telling <- 2
seconds_between_checkpoints <- 5
most_entries_per_lap <- 2^32 - 1
first_lap <- 16

# As many trials as seem to fill a lap, but never ten times more than the last.
next_lap <- function(experiment, count, seconds) most_in_lap(experiment, lap_after(count, seconds))

lap_after <- function(count, seconds) {
  growth <- seconds_per_lap / max(seconds, 1e-6)
  ceiling(count * min(max(growth, 0.1), 10))
}

# Calls play(done, count) for one lap after the other of work that is no experiment.
each_lap <- function(nsim, play) {
  done <- 0
  lap <- first_lap
  while (done < nsim) {
    count <- min(lap, nsim - done)
    begun <- now()
    play(done, count)
    done <- done + count
    lap <- lap_after(count, now() - begun)
  }
}

most_in_lap <- function(experiment, count) {
  chain <- trials_in_chain(experiment)
  most <- min(count, floor(most_entries_per_lap / max(1, entries_per_trial(experiment), na.rm = TRUE)))
  chain * max(1, floor(most / chain))
}

add_lap <- function(state, tally, first, count) {
  state$tally <- add_tallies(state$tally, tally)
  state$ranges <- join_ranges(rbind(state$ranges, data.frame(first = first, last = first + count - 1)), NULL)
  state$done <- state$done + count
  state
}
