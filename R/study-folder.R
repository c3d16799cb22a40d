# The folder of a study: a file for each result, named by what decides it, so that nothing is done twice, and nothing is
# taken for what it is not. Every file is written whole or not at all; what is damaged is told, and done again.
#
#   study.json     which study it is of
#   runs/          results: KEY.result, and trials as KEY-FIRST-LAST.trials; KEY-FIRST.going while these are played
#   answers        what the study says by what is there, and what it said before
#   manifest.csv   who made which file, with what, and how long it took

study_folder_format <- "habanera study 1"

usual_folder <- function(study) {
  file.path(study$folder, paste0(sub("[.][^.]*$", "", basename(study$file)), "-results"))
}

open_folder <- function(folder, title, call) {
  make_folder(file.path(folder, "runs"), call, "folder")
  about <- file.path(folder, "study.json")
  known <- folder_title(folder, call)
  if (is.null(known)) {
    write_lines_whole(to_json(list(format = study_folder_format, title = title)), about, call)
  } else if (!identical(known, title)) {
    refuse(sprintf("%s is of another study, %s, not of %s: name another folder.", quoted(folder), quoted(known),
                   quoted(title)), "study", call)
  }
  normalizePath(folder)
}

# NULL where it is of no study yet.
folder_title <- function(folder, call) {
  about <- file.path(folder, "study.json")
  if (!file.exists(about)) return(NULL)
  known <- list_data(about, call)
  if (identical(known$format, study_folder_format) && rlang::is_string(known$title)) return(known$title)
  refuse(sprintf("%s does not tell of which study its folder is; name another folder.", quoted(about)), "study", call)
}

kept_file <- function(folder, key) file.path(folder, "runs", paste0(key, ".result"))

trials_file <- function(folder, key, range) {
  file.path(folder, "runs", sprintf("%s-%.0f-%.0f.trials", key, range[1], range[2]))
}

going_file <- function(folder, key, first) {
  file.path(folder, "runs", sprintf("%s-%.0f.going", key, first))
}

# The trials of a key that are there, a row for each file, in order. What is held by another is left out.
ranges_there <- function(folder, key) {
  files <- list.files(file.path(folder, "runs"), sprintf("^%s-[0-9]+-[0-9]+[.]trials$", key))
  ends <- matrix(as.numeric(unlist(regmatches(files, gregexpr("(?<=-)[0-9]+", files, perl = TRUE)))), ncol = 2,
                 byrow = TRUE)
  there <- data.frame(file = file.path(folder, "runs", files), first = ends[, 1], last = ends[, 2])
  there <- there[order(there$first, -there$last), , drop = FALSE]
  there[there$last > cummax(c(-Inf, there$last))[seq_along(there$last)], , drop = FALSE]
}

# What is kept, NULL where it is not there, or damaged: then it is told, and out of the way.
stored_value <- function(folder, key) {
  file <- kept_file(folder, key)
  kept <- intact(file, function(bytes) value_from_bytes(bytes))
  if (!is.null(kept)) list(value = kept$value)
}

# The tally of a file of trials.
kept_trials <- function(file, range) {
  fits <- function(kept) {
    identical(as.double(kept$about$ranges), as.double(range))
  }
  intact(file, function(bytes) {
    kept <- checkpoint_from(bytes)
    if (!is.null(kept) && fits(kept)) kept
  })
}

intact <- function(file, read) {
  if (!file.exists(file)) return(NULL)
  kept <- tryCatch(read(read_bytes(file)), error = function(cnd) NULL)
  if (is.null(kept)) {
    inform_user(sprintf("%s is damaged, or of another version: it is made again.", quoted(file)))
    unlink(file)
  }
  kept
}

keep_value <- function(folder, key, value, about, call) {
  write_bytes_whole(plain_bytes(about, value), kept_file(folder, key), call)
}

# A line is added in one go, so that processes side by side do not mix theirs.
note_in_manifest <- function(folder, file, name, seconds) {
  manifest <- file.path(folder, "manifest.csv")
  head <- if (!file.exists(manifest)) "run,file,seconds,finished,process,machine,habanera,R\n"
  info <- Sys.info()
  values <- c(name, basename(file), sprintf("%.2f", seconds), format(Sys.time(), "%Y-%m-%dT%H:%M:%S%z"), Sys.getpid(),
              paste(info[["nodename"]], info[["sysname"]], info[["machine"]]), package_version_text(),
              paste0(R.version$major, ".", R.version$minor))
  line <- paste(paste0("\"", gsub("\"", "\"\"", values), "\""), collapse = ",")
  # What cannot be noted is no reason to lose what was made.
  suppressWarnings(try(cat(head, line, "\n", sep = "", file = manifest, append = TRUE), silent = TRUE))
}
