# How the combinations of vary_rules() are played: each once, and beside the first on the same deals, whose trials are
# remembered. What is done is kept in a checkpoint.

many_remembered <- 1e5

# A list of `counts` and `beside` (a tidy table) for each combination that was played.
play_combinations <- function(variants, run, call) {
  kept <- kept_combinations(variants, run, call)
  run$seed <- kept$seed
  variants <- lapply(variants, with_ending)
  first <- remembering(variants[[1]], run$nsim)
  done <- kept$tallies
  saved <- now()
  took <- 0
  bar <- local_progress("Playing combinations", run$progress, length(variants))
  played <- lapply_until_interrupted(seq_along(variants), function(at) {
    if (at <= length(kept$tallies)) return(played_combination(variants, at, kept$tallies[[at]], run))
    tallies <- tallies_beside(variants[[at]], if (at > 1) first, first, run, call)
    done <<- c(done, list(tallies))
    # What was remembered of it lies outside R, whose collector does not know how much that is.
    if (run$nsim > many_remembered) gc(verbose = FALSE)
    # A large file is written more rarely, so that it never takes much of the time.
    if (now() - saved > max(seconds_between_checkpoints, 20 * took)) {
      begun <- now()
      run["checkpoint"] <<- list(keep_combinations(variants, done, run))
      saved <<- now()
      took <<- saved - begun
    }
    played_combination(variants, at, tallies, run)
  }, "combination", bar)
  keep_combinations(variants, done, run)
  played
}

# The tally of a combination, and of how it differs from the first (`beside`; NULL where deals cannot be compared).
tallies_beside <- function(variant, beside, first, run, call) {
  if (is.null(beside)) return(list(counts = tally_of_run(first, run, call)))
  variant <- remembering(variant, run$nsim)
  list(counts = tally_of_run(variant, run, call),
       beside = tryCatch(tally_of_run(new_game_pair(first, variant, NULL), run, call),
                         habanera_error_input = function(cnd) NULL))
}

played_combination <- function(variants, at, tallies, run) {
  counts_of <- function(experiment, tally) {
    counts_so_far(list(experiment = experiment), state_of_range(run$seed, c(1, run$nsim), tally))
  }
  beside <- if (!is.null(tallies$beside)) new_game_pair(variants[[1]], variants[[at]], NULL)
  list(counts = counts_of(variants[[at]], tallies$counts),
       beside = if (!is.null(beside)) tidy(counts_of(beside, tallies$beside)))
}

# The checkpoint of a grid: the tallies of the combinations done, one after the other.
keep_combinations <- function(variants, done, run) {
  if (is.null(run$checkpoint) || !length(done)) return(run$checkpoint)
  parts <- lapply(seq_along(done), function(at) {
    unlist(lapply(names(done[[at]]), function(name) {
      found <- tally_parts(done[[at]][[name]])
      rlang::set_names(found, sprintf("%d %s %s", at, name, names(found)))
    }), recursive = FALSE)
  })
  about <- list(grid = grid_digest(variants, run), seed = run$seed, done = length(done))
  keep_checkpoint(run$checkpoint, about, unlist(parts, recursive = FALSE))
}

# What a checkpoint holds, `tallies` and their `seed`; nothing where there is none.
kept_combinations <- function(variants, run, call) {
  kept <- if (!is.null(run$checkpoint) && !run$anew) whole_checkpoint(run$checkpoint, call)
  if (is.null(kept)) return(list(seed = resolve_seed(run$seed, call), tallies = list()))
  about <- kept$about
  if (!identical(about$grid, grid_digest(lapply(variants, with_ending), run)) ||
        !is.null(run$seed) && run$seed != about$seed) {
    refuse_other_checkpoint(run$checkpoint, "of another grid", if (!is.null(about$grid)) about$seed, call)
  }
  parts <- kept$tally
  tallies <- lapply(seq_len(about$done), function(at) {
    each <- lapply(rlang::set_names(c("counts", "beside")), function(name) {
      mark <- sprintf("%d %s ", at, name)
      found <- parts[startsWith(names(parts), mark)]
      if (length(found)) tally_from_parts(rlang::set_names(found, substring(names(found), nchar(mark) + 1)))
    })
    Filter(Negate(is.null), each)
  })
  list(seed = about$seed, tallies = tallies)
}

grid_digest <- function(variants, run) {
  digests <- c(vapply(variants, experiment_digest, ""), format(run$nsim, digits = 17))
  cli::hash_sha256(paste(digests, collapse = " "))
}
