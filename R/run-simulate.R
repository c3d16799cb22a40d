#' @importFrom stats simulate
#' @export
stats::simulate

#' Simulate an experiment
#'
#' Plays trials `first_trial` to `first_trial + nsim - 1` and returns counts. Trial t of seed s is
#' the same wherever and whenever it is played: the result does not depend on the number of threads,
#' on interruptions, or on whether the run was resumed.
#'
#' Memory does not grow with `nsim`. Interrupting keeps what was counted: the counts so far come back
#' with a warning.
#'
#' When a `future` plan with several workers is set, a run that lasts is cut into parts, which go to them: parts of
#' `part_seconds`, measured where they are played, handed out and taken back as they end. What is lost with a worker is
#' handed out again. See [run_study()] for runs over machines that do not wait for one another.
#'
#' @param object An experiment, such as `draws(deck_standard(), 5)`.
#' @param nsim Number of trials, up to 1e12; with `precision`, the most.
#' @param seed A whole number from 0 to below 2^53; `NULL` takes one from R's own generator. With a
#'   seed given, R's generator is left as it was.
#' @param ... Not used.
#' @param first_trial The first trial's number, 1 or more.
#' @param threads Number of threads; `NULL` uses the option `habanera.threads`, the environment
#'   variable `HABANERA_THREADS`, or the machine's cores.
#' @param precision `NULL`, or a named number such as `c(card = 0.001)`: stop once the 95% half-width
#'   of every estimate of that outcome column, or of that single `term` of [tidy()][tidy.habanera_counts],
#'   is at most this (per trial). Tested only after 10,000 x 2^(k/2) trials, rounded, k = 0, 1, ...,
#'   so where a run stops does not depend on the machine.
#' @param checkpoint `NULL`, or a file that keeps what is counted, so that the same call takes a
#'   stopped run up again. It holds data alone and knows when it was damaged.
#' @param anew With `checkpoint`: whether to begin the run anew and write over a file that is there.
#' @param progress Whether to show a progress bar on runs over about two seconds, and to say at their end how
#'   long they took; `NULL`: as the option `habanera.progress` says, else when interactive. Both go to standard error,
#'   and are no part of the result.
#' @param part_seconds How long a part lasts that is handed to a worker of a `future` plan; `NULL`: 60 seconds, or 2
#'   where the workers are processes of this machine.
#' @return Counts; see [counts].
#' @section Errors: `habanera_error_input` for settings out of range; `habanera_error_checkpoint` for
#'   a checkpoint that is damaged or belongs to something else; `habanera_error_file` when it cannot be written (what
#'   was counted is in `counts` of the error).
#' @examples
#' simulate(draws(deck_standard(), 5), nsim = 1e5, seed = 1)
#' @export
simulate.habanera_experiment <- function(object, nsim = 1e5, seed = NULL, ..., first_trial = 1,
                                         threads = NULL, precision = NULL, checkpoint = NULL, anew = FALSE,
                                         progress = NULL, part_seconds = NULL) {
  call <- rlang::current_env()
  refuse_unknown_settings(..., call = call)
  check_whole(nsim, 1, 1e12)
  check_whole(first_trial, 1)
  if (check_flag(anew) && is.null(checkpoint)) refuse("`anew` goes with `checkpoint`.")
  if (!is.null(part_seconds)) check_between(part_seconds, 0, 1e6)
  if (first_trial + nsim - 1 >= 2^53) refuse("Trial numbers must stay below 2^53.")
  check_simulation(object, list(nsim = nsim, precision = precision, checkpoint = checkpoint), call)
  run <- list(
    experiment = object, nsim = nsim, seed = seed, first = first_trial,
    threads = resolve_threads(threads, call), given_threads = threads, part_seconds = part_seconds,
    precision = check_precision(precision, object, call),
    checkpoint = check_checkpoint(checkpoint, call), anew = anew, progress = progress, workers = future_workers()
  )
  state <- start_state(run, call)
  run$seed <- state$seed
  state <- run_laps(run, state)
  if (run$workers$lost) inform_user("A worker of future's plan failed; what it had to play was played again.")
  finish_run(run, state)
}

# The tally of a run among others, which is a list of `nsim`, `seed` and `threads`; an interrupt ends the others, too.
tally_of_run <- function(experiment, run, call) {
  check_simulation(experiment, list(nsim = run$nsim), call)
  run <- list(experiment = experiment, nsim = run$nsim, first = 1, seed = run$seed, threads = run$threads,
              workers = future_workers())
  state <- run_laps(run, start_state(run, call))
  if (isTRUE(state$interrupted)) rlang::interrupt()
  state$tally
}

refuse_unknown_settings <- function(..., call) {
  if (!...length()) return(invisible())
  given <- names(list(...))
  if (is.null(given)) refuse("simulate() takes its settings by name.", call = call)
  known <- c("nsim", "seed", "first_trial", "threads", "precision", "checkpoint", "anew", "progress", "part_seconds")
  refuse(sprintf("simulate() has no setting `%s`%s", given[1], did_you_mean(given[1], known)),
         call = call)
}

# How far a run has come: the trials done (`ranges`, and how many they are) and their tally, changed in one assignment
# each lap, so that an interrupt always finds it whole.
start_state <- function(run, call) {
  kept <- if (!is.null(run$checkpoint) && !run$anew) read_checkpoint(run, call)
  if (!is.null(kept)) return(kept)
  list(seed = resolve_seed(run$seed, call), done = 0, ranges = data.frame(first = numeric(), last = numeric()),
       tally = NULL)
}

run_laps <- function(run, state) {
  bar <- local_progress("Simulating", run$progress, run$nsim)
  started <- saved <- now()
  taken <- function(tally, first, count) {
    state <<- add_lap(state, tally, first, count)
    if (tally_size(state$tally) > most_outcomes) refuse_too_many_outcomes(run$experiment)
    bar$move(state$done)
    if (now() - saved > seconds_between_checkpoints) {
      keep_state(run, state)
      saved <<- now()
    }
  }
  lap <- if (plays_at_once(run$experiment)) run$nsim else most_in_lap(run$experiment, first_lap)
  tryCatch(
    while (state$done < run$nsim && !reached_precision(run, state)) {
      gaps <- gaps_between(state$ranges, next_window(run, state))
      left <- sum(vapply(gaps, diff, 0) + 1)
      if (uses_workers(run) && is_worth_handing_out(run, left)) {
        play_on_workers(run, lapply(gaps, as.list), taken)
        next
      }
      count <- min(lap, diff(gaps[[1]]) + 1)
      begun <- now()
      taken(run_lap(run$experiment, run$seed, gaps[[1]][1], count, run$threads), gaps[[1]][1], count)
      measure_rate(run, count, now() - begun)
      lap <- next_lap(run$experiment, count, now() - begun)
    },
    interrupt = function(cnd) state$interrupted <<- TRUE,
    habanera_error_function = function(cnd) refuse_with_counts(cnd, run, state),
    habanera_error_endless = function(cnd) refuse_with_counts(cnd, run, state)
  )
  keep_state(run, state)
  if (bar$wanted && bar$alone && now() - started > seconds_worth_telling) {
    inform_user(sprintf("%s in %s.", count_of(state$done, "trial"), format_seconds(now() - started)))
  }
  state
}

# A player or a game that fails in one trial leaves what was counted before it.
refuse_with_counts <- function(cnd, run, state) {
  if (state$done == 0) rlang::cnd_signal(cnd)
  keep_state(run, state)
  refuse(c(rlang::cnd_message(cnd), i = sprintf("The counts of the %s before it are in `counts` of this error.",
                                                count_of(state$done, "trial"))),
         sub("^habanera_error_", "", class(cnd)[1]), NULL, counts = counts_so_far(run, state))
}

# What was counted comes back even when it cannot be written.
keep_state <- function(run, state) {
  tryCatch(
    write_checkpoint(run, state),
    habanera_error_file = function(cnd) {
      refuse(c(rlang::cnd_message(cnd), i = sprintf("The counts of %s are in `counts` of this error.",
                                                    count_of(state$done, "trial"))),
             "file", NULL, counts = counts_so_far(run, state))
    }
  )
}

finish_run <- function(run, state) {
  if (state$done == 0) rlang::interrupt()
  counts <- counts_so_far(run, state)
  if (!isTRUE(state$interrupted)) return(counts)
  counts$provenance$interrupted_of <- run$nsim
  warn_interrupted(state$done, run$nsim)
  counts
}

warn_interrupted <- function(done, nsim) {
  warn_user(sprintf("Interrupted: these are the counts of %s of %s trials.", format_count(done),
                    format_count(nsim)), "interrupted")
}

# As it is at the end of a run of these trials.
state_of_range <- function(seed, range, tally) {
  list(seed = seed, done = diff(range) + 1, ranges = data.frame(first = range[1], last = range[2]), tally = tally)
}

counts_so_far <- function(run, state) {
  from <- new_provenance(run$experiment, entries_per_trial(run$experiment), state$seed, state$ranges,
                         source_of(run$experiment))
  found <- counted_outcomes(run$experiment, state$tally)
  new_counts(result_kind(run$experiment), found$outcomes, found$n, found$example_trial, found[["squares"]], from,
             state$tally[["sums"]])
}
