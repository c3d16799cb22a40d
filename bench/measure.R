# Times are processor times, of this process and all its threads: on a machine that others use, too, the clock on the
# wall lies.
processor_seconds <- function(code) sum(system.time(code)[c("user.self", "sys.self")])

ours_seconds <- function(job, threads) processor_seconds(job$run(job$trials, threads))
bare_seconds <- function(job, threads) processor_seconds(bare_counts(job$bare, job$bare_trials, threads))

# That the loop beside us plays the same deals: every count of some trials must be the same.
check_tallies <- function(job) {
  trials <- min(job$trials, 20000)
  ours <- job$tally(job$run(trials, 1))
  bare <- job$of_bare(bare_counts(job$bare, trials))
  if (!identical(as.numeric(ours), as.numeric(bare))) {
    stop(sprintf("%s: of %d counts %d are not those of the bare loop", job$name, length(bare), sum(ours != bare)))
  }
}

markdown <- function(table) {
  cat("|", paste(names(table), collapse = " | "), "|\n")
  cat("|", paste(rep("---", ncol(table)), collapse = " | "), "|\n")
  for (row in seq_len(nrow(table))) cat("|", paste(unlist(table[row, ]), collapse = " | "), "|\n")
}
