# The checkpoint of a race: at each look what is known of all candidates. Their tallies are not kept: whoever is still
# in the race when it goes on plays the same trials again, which costs less than the looks that follow.

# The file, NULL once it could not be written: that is told once, and the race goes on.
keep_race <- function(tuning, state, run) {
  if (is.null(run$checkpoint)) return(NULL)
  about <- list(race = race_digest(tuning, run), words = tuning$subject$words(character()), seed = run$seed,
                sure = state$sure)
  keep_checkpoint(run$checkpoint, about, lapply(state[race_parts], as.double))
}

race_parts <- c("estimate", "low", "high", "done")

# All that decides what a race finds.
race_digest <- function(tuning, run) {
  parts <- list(experiment_digest(tuning$subject$x), candidate_table(tuning$places, tuning$dimensions, tuning$subject),
                vapply(tuning$wishes, `[[`, "", "text"), tuning$aim[c("most", "text")], names(tuning$line_ups),
                tuning$names, run[c("nsim", "level", "seconds_per_round")])
  cli::hash_sha256(paste(deparse(parts, 500L), collapse = ""))
}

# A race from its beginning with what its checkpoint holds, or as it is where there is none.
with_kept_race <- function(state, tuning, run) {
  kept <- if (!is.null(run$checkpoint) && !run$anew) whole_checkpoint(run$checkpoint, NULL)
  if (is.null(kept)) return(state)
  about <- kept$about
  if (!identical(about$race, race_digest(tuning, run)) || about$seed != run$seed) {
    refuse_other_checkpoint(run$checkpoint, "of another race", if (!is.null(about$race)) about$seed, NULL)
  }
  for (part in race_parts) state[[part]][] <- kept$tally[[part]]
  state$sure <- about$sure
  state
}

# A seed that was not given is that of the checkpoint, where there is one.
seed_of_race <- function(seed, checkpoint, anew, call) {
  kept <- if (is.null(seed) && !is.null(checkpoint) && !anew) whole_checkpoint(checkpoint, call)
  resolve_seed(if (is.null(kept)) seed else kept$about$seed, call)
}
