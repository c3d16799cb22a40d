# Trials on other processes or machines, through the future package, when the user has set a plan: the run is cut into
# parts that are long beside what it costs to reach a worker, which are handed out and taken back as they end.

# The workers of one run: how many there are; how fast one plays (`rate`, trials a second, measured where they are
# played); what it takes to reach one (`cost`, seconds); whether none can be had any more, after which the run goes on
# without; whether a part was lost on the way.
future_workers <- function() {
  workers <- new.env(parent = emptyenv())
  workers$count <- if (isNamespaceLoaded("future")) future::nbrOfWorkers() else 1
  # A plan without a limit, such as a batch system's.
  if (!is.finite(workers$count)) workers$count <- most_unlimited_workers
  workers$far <- workers$count > 1 && !inherits(future::plan(), c("multisession", "multicore", "sequential"))
  workers$cost <- 0
  workers$rate <- NULL
  workers$failed <- FALSE
  workers$lost <- FALSE
  workers
}

most_unlimited_workers <- 100
part_seconds_near <- 2
part_seconds_far <- 60
# A part lasts at least so many times what it costs to have it played elsewhere.
least_part_in_costs <- 5
tries_of_part <- 3
# A batch system lets jobs wait: no reason for parts of hours.
most_cost <- 30
longest_pause <- 0.2

uses_workers <- function(run) {
  run$workers$count > 1 && !run$workers$failed && !plays_at_once(run$experiment)
}

# Plays the trials of these gaps, a list of first and last, as long as there are workers: `taken(tally, first, count)`
# takes what came back.
play_on_workers <- function(run, gaps, taken) {
  team <- run$workers
  queue <- gaps
  out <- list()
  pause <- 0.005
  while (length(queue) || length(out)) {
    while (!team$failed && length(out) < team$count && length(queue)) {
      part <- first_part(queue, run)
      handed <- hand_out(part, run)
      if (is.null(handed)) break
      queue <- rest_of_queue(queue, part)
      out <- c(out, list(handed))
    }
    if (!length(out)) return(invisible())
    ended <- vapply(out, has_ended, NA)
    if (!any(ended)) {
      Sys.sleep(pause)
      pause <- min(longest_pause, pause * 1.5)
      next
    }
    pause <- 0.005
    for (handed in out[ended]) queue <- c(taken_back(handed, run, taken), queue)
    out <- out[!ended]
  }
}

# One that was lost has ended, too.
has_ended <- function(handed) tryCatch(future::resolved(handed$future), error = function(cnd) TRUE)

# As many trials as last as long as a part should, or fewer where all workers are to have some of what is left.
first_part <- function(queue, run) {
  gap <- queue[[1]]
  if (!is.null(gap[["tries"]])) return(gap)
  team <- run$workers
  left <- sum(vapply(queue, function(one) one[[2]] - one[[1]] + 1, 0))
  least <- min(least_part_in_costs * team$cost, run$part_seconds)
  seconds <- max(least, part_seconds(run))
  count <- min(team$rate * seconds, max(left / team$count, team$rate * least))
  list(gap[[1]], min(gap[[2]], gap[[1]] + most_in_lap(run$experiment, ceiling(count)) - 1))
}

part_seconds <- function(run) {
  if (!is.null(run$part_seconds)) return(run$part_seconds)
  if (run$workers$far) part_seconds_far else part_seconds_near
}

rest_of_queue <- function(queue, part) {
  gap <- queue[[1]]
  if (part[[2]] == gap[[2]]) queue[-1] else c(list(list(part[[2]] + 1, gap[[2]])), queue[-1])
}

# `seed = NULL` tells future that we mind R's generator ourselves. What goes along is data: the experiment and numbers.
hand_out <- function(part, run) {
  order <- list(experiment = run$experiment, seed = run$seed, first = part[[1]], count = part[[2]] - part[[1]] + 1,
                threads = run$given_threads, numbers = version_of_numbers)
  begun <- now()
  started <- tryCatch(future::future(play_part(order), packages = "habanera", seed = NULL,
                                     globals = list(play_part = play_part, order = order)),
                      error = function(cnd) NULL)
  if (!is.null(started)) return(list(future = started, part = part, begun = begun))
  # Whoever cannot be reached any more is not asked again.
  run$workers$count <- run$workers$count - 1
  if (run$workers$count < 1) run$workers$failed <- TRUE
  run$workers$lost <- TRUE
  NULL
}

# In the worker.
play_part <- function(order) {
  if (!identical(order$numbers, version_of_numbers)) {
    stop("a worker has another version of habanera, whose numbers are not these")
  }
  begun <- now()
  threads <- if (is.null(order$threads)) threads_of_worker() else order$threads
  tally <- tally_of_range(order$experiment, order$seed, order$first, order$count, threads)
  list(tally = tally, seconds = now() - begun)
}

# As many as its plan or batch system lets it have.
threads_of_worker <- function() {
  allowed <- if (isNamespaceLoaded("future")) future::availableCores() else Inf
  max(1, min(resolve_threads(NULL), allowed))
}

# In laps, so that a worker can be interrupted, and notices when there is too much to count.
tally_of_range <- function(experiment, seed, first, count, threads) {
  tally <- NULL
  done <- 0
  lap <- most_in_lap(experiment, first_lap)
  while (done < count) {
    played <- min(lap, count - done)
    begun <- now()
    tally <- add_tallies(tally, run_lap(experiment, seed, first + done, played, threads))
    if (tally_size(tally) > most_outcomes) refuse_too_many_outcomes(experiment)
    done <- done + played
    lap <- next_lap(experiment, played, now() - begun)
  }
  tally
}

# What came back is taken; what was lost goes back into the queue (the value), and in the end is played here. A trial
# that fails does so here, too, and is told as it always is.
taken_back <- function(handed, run, taken) {
  part <- handed$part
  count <- part[[2]] - part[[1]] + 1
  back <- tryCatch(future::value(handed$future), error = function(cnd) cnd)
  if (!inherits(back, "error")) {
    team <- run$workers
    team$rate <- count / max(back$seconds, 1e-6)
    team$cost <- min(most_cost, max(0, now() - handed$begun - back$seconds))
    taken(back$tally, part[[1]], count)
    return(NULL)
  }
  tries <- 1 + if (is.null(part[["tries"]])) 0 else part[["tries"]]
  was_lost <- inherits(back, "FutureError")
  run$workers$lost <- run$workers$lost || was_lost
  if (was_lost && tries < tries_of_part) return(list(list(part[[1]], part[[2]], tries = tries)))
  taken(tally_of_range(run$experiment, run$seed, part[[1]], count, run$threads), part[[1]], count)
  # Where it can be played here, it is the workers that cannot, such as those with another version.
  if (!was_lost) run$workers$failed <- run$workers$lost <- TRUE
  NULL
}

# How fast trials are, from laps that are played here.
measure_rate <- function(run, count, seconds) {
  least <- if (is.null(run$part_seconds)) least_seconds_to_measure else run$part_seconds / 10
  if (seconds > min(least, least_seconds_to_measure)) run$workers$rate <- count / seconds
}

least_seconds_to_measure <- 0.1

# Whether what is left is worth handing out: it lasts longer than it costs to reach somebody.
is_worth_handing_out <- function(run, left) {
  team <- run$workers
  if (is.null(team$rate)) return(FALSE)
  !is.null(run$part_seconds) || left / team$rate > max(1, 2 * team$cost)
}
