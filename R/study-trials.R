# Runs whose trials may be played apart: by parts, by several processes, a thousand today and more tomorrow. A file of
# trials is a checkpoint that has come to its end.

# The counts of the wanted trials, of which those that lack are played; NULL where others are to play them, and `part`
# only has its own share of them.
counts_of_entry <- function(entry, key, experiment, job) {
  wanted <- wanted_trials(entry)
  share <- if (is.null(job$part)) wanted else share_of_trials(wanted, job$part, trials_in_chain(experiment))
  if (is.null(share)) return(NULL)
  seed <- as.list(entry$call)[["seed"]]
  there <- whole_ranges(job$folder, key, share, experiment)
  for (gap in gaps_between(there, share)) play_gap(experiment, seed, gap, key, entry$name, job)
  tally <- gathered_trials(job$folder, key, share, experiment, seed)
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

# Those files within what is wanted that can be read, are of this experiment, and do not overlap.
whole_ranges <- function(folder, key, wanted, experiment) {
  there <- ranges_there(folder, key)
  there <- there[there$first >= wanted[1] & there$last <= wanted[2], , drop = FALSE]
  digest <- experiment_digest(experiment)
  kept <- lapply(seq_len(nrow(there)), function(i) kept_trials(there$file[i], c(there$first[i], there$last[i])))
  ours <- vapply(kept, function(one) !is.null(one) && identical(one$about$experiment, digest), NA)
  there <- there[ours, , drop = FALSE]
  there[there$first > c(-Inf, there$last[-nrow(there)])[seq_len(nrow(there))], , drop = FALSE]
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
gathered_trials <- function(folder, key, range, experiment, seed) {
  there <- whole_ranges(folder, key, range, experiment)
  tallies <- Map(function(file, first, last) kept_trials(file, c(first, last))$tally, there$file, there$first,
                 there$last)
  tally <- add_all_tallies(unname(tallies))
  if (nrow(there) > 1) {
    bytes <- checkpoint_bytes(list(experiment = experiment, first = range[1]), state_of_range(seed, range, tally))
    write_bytes_whole(bytes, trials_file(folder, key, range), NULL)
  }
  unlink(ranges_within(folder, key, range))
  tally
}

# Files whose trials are all in the file of this range.
ranges_within <- function(folder, key, range) {
  files <- list.files(file.path(folder, "runs"), sprintf("^%s-[0-9]+-[0-9]+[.]trials$", key), full.names = TRUE)
  ends <- regmatches(basename(files), gregexpr("(?<=-)[0-9]+", basename(files), perl = TRUE))
  within <- vapply(ends, function(end) {
    end <- as.numeric(end)
    end[1] >= range[1] && end[2] <= range[2] && !identical(end, as.numeric(range))
  }, NA)
  files[within]
}
