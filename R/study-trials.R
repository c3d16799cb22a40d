# Runs whose trials may be played apart: by parts, by several processes, a thousand today and more tomorrow. A file of
# trials is a checkpoint that has come to its end.

# The counts of the wanted trials, of which those that lack are played; NULL where others are to play them, and `part`
# only has its own share of them.
counts_of_entry <- function(entry, key, experiment, job) {
  wanted <- wanted_trials(entry)
  check_whole(diff(wanted) + 1, 1, 1e12, "nsim", NULL)
  check_whole(wanted[1], 1, 2^53 - 1e12, "first_trial", NULL)
  share <- if (is.null(job$part)) wanted else share_of_trials(wanted, job$part, trials_in_chain(experiment))
  if (is.null(share)) return(NULL)
  seed <- as.list(entry$call)[["seed"]]
  there <- whole_ranges(job$folder, key, share, experiment)
  gaps <- gaps_between(there$ranges, share)
  for (gap in gaps) play_gap(experiment, seed, gap, key, entry$name, job)
  if (length(gaps)) there <- whole_ranges(job$folder, key, share, experiment)
  tally <- gathered_trials(there, job$folder, key, share, experiment, seed)
  if (!is.null(job$part)) return(NULL)
  counts_so_far(list(experiment = experiment, first = wanted[1]), state_of_range(seed, wanted, tally))
}

# Part k of n: whole chains, as evenly as can be. NULL where nothing is left for it.
share_of_trials <- function(wanted, part, chain) {
  chains <- ceiling((diff(wanted) + 1) / chain)
  cuts <- floor(chains * c(part$k - 1, part$k) / part$n) * chain
  if (cuts[1] >= cuts[2]) return(NULL)
  c(wanted[1] + cuts[1], min(wanted[1] + cuts[2] - 1, wanted[2]))
}

# Those files within what is wanted that can be read, are of this experiment, and do not overlap: their `ranges`, and
# their `tallies`.
whole_ranges <- function(folder, key, wanted, experiment) {
  there <- ranges_there(folder, key)
  there <- there[there$first >= wanted[1] & there$last <= wanted[2], , drop = FALSE]
  digest <- experiment_digest(experiment)
  kept <- Map(function(file, first, last) kept_trials(file, c(first, last)), there$file, there$first, there$last)
  ours <- vapply(kept, function(one) !is.null(one) && identical(one$about$experiment, digest), NA)
  apart <- which(ours)
  apart <- apart[there$first[apart] > c(-Inf, there$last[apart])[seq_along(apart)]]
  list(ranges = there[apart, , drop = FALSE], tallies = unname(lapply(kept[apart], `[[`, "tally")))
}

play_gap <- function(experiment, seed, gap, key, name, job) {
  going <- going_file(job$folder, key, gap[1])
  begun <- now()
  play <- function(anew) {
    in_whole_runs(simulate(experiment, nsim = diff(gap) + 1, seed = seed, first_trial = gap[1], checkpoint = going,
                           anew = anew, progress = FALSE))
  }
  # What was begun may be damaged, or go further than what is wanted now.
  tryCatch(play(FALSE), habanera_error_checkpoint = function(cnd) play(TRUE))
  file <- trials_file(job$folder, key, gap)
  if (!file.rename(going, file)) refuse(sprintf("Cannot write %s.", quoted(file)), "file", NULL)
  note_in_manifest(job$folder, file, name, now() - begun)
}

# All trials of a range as one tally, and as one file in the place of several.
gathered_trials <- function(there, folder, key, range, experiment, seed) {
  tally <- add_all_tallies(there$tallies)
  if (length(there$tallies) > 1) {
    bytes <- checkpoint_bytes(list(experiment = experiment, first = range[1]), state_of_range(seed, range, tally))
    write_bytes_whole(bytes, trials_file(folder, key, range), NULL)
  }
  unlink(files_within(folder, key, range))
  tally
}
