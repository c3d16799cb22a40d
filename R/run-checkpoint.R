# A checkpoint keeps the state of a run in a file, written whole between laps. It is data and nothing else: a line that
# names the format and the digest of all that follows, a line of JSON that says what it is of and how the numbers
# divide, and the numbers.

checkpoint_format <- "habanera checkpoint 5"

check_checkpoint <- function(file, call) {
  if (is.null(file)) return(NULL)
  check_path(file, call, "checkpoint")
  if (!dir.exists(dirname(file)) || !try_folder(dirname(file))) {
    refuse(sprintf("Cannot write the checkpoint %s: its folder is missing or not writable.",
                   quoted(file)), "file", call)
  }
  file
}

write_checkpoint <- function(run, state) {
  if (is.null(run$checkpoint) || state$done == 0) return(invisible())
  write_bytes_whole(checkpoint_bytes(run, state), run$checkpoint, NULL)
}

checkpoint_bytes <- function(run, state) {
  checkpoint_of(list(experiment = experiment_digest(run$experiment), words = in_words(run$experiment),
                     first = run$first, seed = state$seed, done = state$done,
                     ranges = c(rbind(state$ranges$first, state$ranges$last))), tally_parts(state$tally))
}

# Where what is kept may be lost without harm, for it comes back to whoever asked: a file that cannot be written is told
# once, and NULL, what the checkpoint is from then on.
keep_checkpoint <- function(file, about, parts) {
  tryCatch({
    write_bytes_whole(checkpoint_of(about, parts), file, NULL)
    file
  }, habanera_error_file = function(cnd) {
    warn_user(rlang::cnd_message(cnd), "unwritten")
    NULL
  })
}

refuse_other_checkpoint <- function(file, what, seed, call) {
  refuse(sprintf("The checkpoint %s is %s%s; say `anew = TRUE` (--anew) to begin this one anew.", quoted(file), what,
                 if (is.null(seed)) "" else sprintf(", with seed %s", whole_code(seed))), "checkpoint", call)
}

# What it is of, and vectors of numbers by name, as bytes.
checkpoint_of <- function(about, parts) {
  about <- c(about, list(parts = names(parts), lengths = as.double(lengths(parts))))
  content <- c(text_bytes(as.character(to_json(about))),
               writeBin(as.double(unlist(parts, use.names = FALSE)), raw(), endian = "little"))
  c(text_bytes(paste(checkpoint_format, cli::hash_raw_sha256(content))), content)
}

# A tally as named vectors of numbers, and back: rows of outcomes are columns called "row: ...", sums are called
# "sum: ...".
tally_parts <- function(tally) {
  nested <- c(rows = "row: ", sums = "sum: ")
  parts <- lapply(names(nested), function(name) {
    if (!is.null(tally[[name]])) rlang::set_names(as.list(tally[[name]]), paste0(nested[[name]], names(tally[[name]])))
  })
  c(Filter(Negate(is.null), tally[setdiff(names(tally), names(nested))]), unlist(parts, recursive = FALSE))
}

tally_from_parts <- function(parts) {
  marked <- function(mark) {
    found <- parts[startsWith(names(parts), mark)]
    if (length(found)) rlang::set_names(found, substring(names(found), nchar(mark) + 1))
  }
  tally <- parts[!grepl("^(row|sum): ", names(parts))]
  rows <- marked("row: ")
  # Of a thousand parts as.data.frame() takes longer than all else.
  if (!is.null(rows)) {
    tally[["rows"]] <- structure(rows, row.names = .set_row_names(length(rows[[1]])), class = "data.frame")
  }
  tally[["sums"]] <- marked("sum: ")
  tally
}

# The state to go on from, or NULL when there is no file yet.
read_checkpoint <- function(run, call) {
  file <- run$checkpoint
  kept <- whole_checkpoint(file, call)
  if (is.null(kept)) return(NULL)
  refuse_other_run(run, kept, call)
  state <- list(seed = as.double(kept$about$seed), done = as.double(kept$about$done),
                ranges = kept_ranges(kept$about), tally = kept$tally)
  if (!adds_up(run$experiment, state$tally[["n"]], state$done)) {
    refuse(sprintf("The checkpoint %s does not add up to its %s; say `anew = TRUE` (--anew) to begin the run anew.",
                   quoted(file), count_of(state$done, "trial")), "checkpoint", call)
  }
  state
}

# The trials that were played, a row for each stretch.
kept_ranges <- function(about) {
  ends <- matrix(as.double(about$ranges), ncol = 2, byrow = TRUE)
  data.frame(first = ends[, 1], last = ends[, 2])
}

# What a checkpoint holds, NULL where there is none yet.
whole_checkpoint <- function(file, call) {
  if (!file.exists(file)) return(NULL)
  check_readable(file, call)
  kept <- checkpoint_from(read_bytes(file))
  if (!is.null(kept)) return(kept)
  refuse(sprintf(paste("The checkpoint %s is damaged, of another version, or none at all.",
                       "To begin the run anew and write over it, say `anew = TRUE` (--anew)."), quoted(file)),
         "checkpoint", call)
}

# A list of `about` and `tally`, or NULL when the bytes are not all that was written.
checkpoint_from <- function(bytes) {
  ends <- which(utils::head(bytes, 1e6) == as.raw(10L))
  if (length(ends) < 2) return(NULL)
  content <- bytes[-seq_len(ends[1])]
  expected <- text_bytes(paste(checkpoint_format, cli::hash_raw_sha256(content)))
  if (!identical(bytes[seq_len(ends[1])], expected)) return(NULL)
  # What has its digest was written by us, so that it can be taken apart.
  about <- from_json(rawToChar(bytes[(ends[1] + 1):(ends[2] - 1)]))
  numbers <- readBin(bytes[-seq_len(ends[2])], "double", sum(about$lengths), endian = "little")
  parts <- split(numbers, factor(rep(seq_along(about$parts), about$lengths), levels = seq_along(about$parts)))
  list(about = about, tally = tally_from_parts(rlang::set_names(unname(parts), about$parts)))
}

refuse_other_run <- function(run, kept, call) {
  about <- kept$about
  other <- function(what) {
    refuse(sprintf("The checkpoint %s is of another run: %s.", quoted(run$checkpoint), what),
           "checkpoint", call)
  }
  if (!identical(about$experiment, experiment_digest(run$experiment))) {
    other(sprintf("its experiment is not this one but %s", about$words))
  }
  if (!is.null(run$seed) && run$seed != about$seed) {
    other(sprintf("its seed is %s, not %s", whole_code(about$seed), said(run$seed)))
  }
  if (run$first != about$first) {
    other(sprintf("it begins with trial %s, not %s", format_count(about$first), format_count(run$first)))
  }
  last <- max(about$ranges) - run$first + 1
  if (last > run$nsim) {
    other(sprintf("it holds %s trials already, more than the %s asked for", format_count(last),
                  format_count(run$nsim)))
  }
}
