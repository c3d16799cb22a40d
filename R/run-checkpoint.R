# A checkpoint keeps the state of a run in a file, written whole between laps.

checkpoint_format <- "habanera checkpoint 1"

check_checkpoint <- function(file, call) {
  if (is.null(file)) return(NULL)
  check_string(file, "checkpoint", call)
  if (!dir.exists(dirname(file)) || !try_folder(dirname(file))) {
    refuse(sprintf("Cannot write the checkpoint %s: its folder is missing or not writable.",
                   quoted(file)), "file", call)
  }
  file
}

write_checkpoint <- function(run, state) {
  if (is.null(run$checkpoint) || state$done == 0) return(invisible())
  kept <- list(format = checkpoint_format, experiment = as_plain(run$experiment),
               first_trial = run$first, state = state[c("seed", "done", "seconds", "tally")])
  write_whole_file(run$checkpoint, function(path) saveRDS(kept, path))
}

# The state to go on from, or NULL when there is no file yet.
read_checkpoint <- function(run, call) {
  file <- run$checkpoint
  if (!file.exists(file)) return(NULL)
  kept <- tryCatch(suppressWarnings(readRDS(file)), error = function(cnd) NULL)
  if (!is_checkpoint(kept)) {
    refuse(sprintf("The checkpoint %s is damaged or is no checkpoint; delete it to start anew.",
                   quoted(file)), "checkpoint", call)
  }
  refuse_other_run(run, kept, call)
  kept$state
}

is_checkpoint <- function(kept) {
  is.list(kept) && identical(kept$format, checkpoint_format) && is.list(kept$state) &&
    is.numeric(kept$state$done) && is.numeric(kept$state$seed) && is.numeric(kept$state$tally$n) &&
    length(kept$state$tally$n) == length(kept$state$tally$example_trial)
}

refuse_other_run <- function(run, kept, call) {
  other <- function(what) {
    refuse(sprintf("The checkpoint %s is of another run: %s.", quoted(run$checkpoint), what),
           "checkpoint", call)
  }
  if (!identical(kept$experiment, as_plain(run$experiment))) other("its experiment is not this one")
  if (!is.null(run$seed) && run$seed != kept$state$seed) {
    other(sprintf("its seed is %s, not %s", whole_code(kept$state$seed), said(run$seed)))
  }
  if (run$first != kept$first_trial) {
    other(sprintf("it begins with trial %s, not %s", format_count(kept$first_trial),
                  format_count(run$first)))
  }
  if (kept$state$done > run$nsim) {
    other(sprintf("it holds %s trials already, more than the %s asked for",
                  format_count(kept$state$done), format_count(run$nsim)))
  }
}
