# Folders of parts as one.

#' @rdname run_study
#' @export
merge_studies <- function(folders, folder) {
  check_given()
  call <- rlang::current_env()
  if (!is.character(folders) || !length(folders) || anyNA(folders)) {
    refuse(sprintf("`folders` must be folders of parts of a study, not %s.", said(folders)))
  }
  check_string(folder)
  titles <- vapply(folders, folder_of_parts, "", call)
  other <- which(titles != titles[1])
  if (length(other)) {
    refuse(sprintf("%s is of another study, %s, than %s, %s.", quoted(folders[other[1]]), quoted(titles[other[1]]),
                   quoted(folders[1]), quoted(titles[1])), "study")
  }
  into <- open_folder(folder, titles[[1]], call)
  all <- unique(normalizePath(c(into, folders)))
  results <- list.files(file.path(all, "runs"), "[.]result$", full.names = TRUE)
  for (name in unique(basename(results))) {
    merge_results(results[basename(results) == name], file.path(into, "runs", name))
  }
  trials <- files_of_trials(all)
  trials$merged <- dirname(trials$file) == file.path(into, "runs")
  for (key in unique(trials$key)) merge_trials(not_merged_yet(trials[trials$key == key, , drop = FALSE]), key, into)
  invisible(into)
}

folder_of_parts <- function(folder, call) {
  title <- if (dir.exists(folder)) folder_title(folder, call)
  if (is.null(title)) refuse(sprintf("%s is no folder of a study.", quoted(folder)), "study", call)
  title
}

# Without the parts that were merged before: what is in the folder holds them.
not_merged_yet <- function(files) {
  whole <- without_held(files[files$merged, , drop = FALSE])
  held <- vapply(seq_len(nrow(files)), function(i) any(whole$first <= files$first[i] & whole$last >= files$last[i]), NA)
  rbind(whole, files[!held, , drop = FALSE])
}

# The same twice counts once.
merge_results <- function(paths, file) {
  found <- list()
  for (path in paths) {
    bytes <- intact(path, function(bytes) if (!is.null(about_from_bytes(bytes))) bytes, FALSE)
    if (is.null(bytes)) next
    if (is.null(found$bytes)) found <- list(bytes = bytes, path = path)
    if (!identical(found$bytes, bytes)) refuse_unequal(found$path, path)
  }
  if (!is.null(found$bytes) && !file.exists(file)) write_bytes_whole(found$bytes, file, NULL)
}

refuse_unequal <- function(one, other) {
  refuse(sprintf("%s and %s should hold the same and do not: one of them was changed, or made in another way.",
                 quoted(one), quoted(other)), "study", NULL)
}

merge_trials <- function(files, key, into) {
  files <- files[order(files$first, files$last), , drop = FALSE]
  kept <- list()
  for (i in seq_len(nrow(files))) {
    file <- files[i, ]
    read <- kept_trials(file$file, c(file$first, file$last), FALSE)
    if (is.null(read)) next
    last <- if (length(kept)) kept[[length(kept)]]
    if (!is.null(last) && file$first <= last$last) {
      if (file$first != last$first || file$last != last$last) refuse_overlap(last, file)
      if (!identical(last$read, read)) refuse_unequal(last$file, file$file)
      next
    }
    kept[[length(kept) + 1]] <- list(file = file$file, first = file$first, last = file$last, read = read)
  }
  digests <- unique(vapply(kept, function(one) one$read$about$experiment, ""))
  if (length(digests) > 1) refuse_unequal(kept[[1]]$file, kept[[length(kept)]]$file)
  for (stretch in stretches_of(kept)) write_stretch(stretch, key, into)
}

refuse_overlap <- function(one, other) {
  told <- function(x) sprintf("%s (trials %s to %s)", quoted(x$file), format_count(x$first), format_count(x$last))
  refuse(sprintf("%s and %s hold some of the same trials and are not equal: merge the parts of one division alone.",
                 told(one), told(other)), "study", NULL)
}

# Files that follow one another without a gap.
stretches_of <- function(kept) {
  if (!length(kept)) return(list())
  firsts <- vapply(kept, `[[`, 0, "first")
  lasts <- vapply(kept, `[[`, 0, "last")
  unname(split(kept, cumsum(c(TRUE, firsts[-1] != lasts[-length(lasts)] + 1))))
}

write_stretch <- function(stretch, key, into) {
  range <- c(stretch[[1]]$first, stretch[[length(stretch)]]$last)
  file <- trials_file(into, key, range)
  if (!file.exists(file)) {
    about <- stretch[[1]]$read$about
    about$first <- range[1]
    about$done <- diff(range) + 1
    about$ranges <- range
    about$parts <- about$lengths <- NULL
    tally <- add_all_tallies(lapply(stretch, function(one) one$read$tally))
    write_bytes_whole(checkpoint_of(about, tally_parts(tally)), file, NULL)
  }
  unlink(files_within(into, key, range))
}
