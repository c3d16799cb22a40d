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
  known <- folder_title(folder, call)
  refuse_other_title(folder, known, title, call)
  make_folder(file.path(folder, "runs"), call, "folder")
  if (is.null(known)) {
    write_lines_whole(to_json(list(format = study_folder_format, title = title)), file.path(folder, "study.json"), call)
  }
  normalizePath(folder)
}

refuse_other_title <- function(folder, known, title, call) {
  if (is.null(known) || identical(known, title)) return(invisible())
  refuse(sprintf("%s is of another study, %s, not of %s: name another folder.", quoted(folder), quoted(known),
                 quoted(title)), "study", call)
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

# The files of trials in folders, of all keys or of one: `file`, `key`, `first` and `last`, in order.
files_of_trials <- function(folders, key = "[0-9a-f]+") {
  files <- list.files(file.path(folders, "runs"), sprintf("^%s-[0-9]+-[0-9]+[.]trials$", key), full.names = TRUE)
  parts <- matrix(as.character(unlist(strsplit(sub("[.]trials$", "", basename(files)), "-", fixed = TRUE))), ncol = 3,
                  byrow = TRUE)
  found <- data.frame(file = files, key = parts[, 1], first = as.numeric(parts[, 2]), last = as.numeric(parts[, 3]))
  found[order(found$key, found$first, -found$last), , drop = FALSE]
}

# Those of a key that are there; what is held by another is left out.
ranges_there <- function(folder, key) without_held(files_of_trials(folder, key))

without_held <- function(files) {
  files[files$last > cummax(c(-Inf, files$last))[seq_along(files$last)], , drop = FALSE]
}

# Files whose trials are all in the file of this range.
files_within <- function(folder, key, range) {
  files <- files_of_trials(folder, key)
  files$file[files$first >= range[1] & files$last <= range[2] & (files$first != range[1] | files$last != range[2])]
}

# What is kept, NULL where it is not there, or damaged: then it is told, and out of the way.
stored_value <- function(folder, key) {
  file <- kept_file(folder, key)
  kept <- intact(file, function(bytes) value_from_bytes(bytes))
  if (!is.null(kept)) list(value = kept$value)
}

# The tally of a file of trials.
kept_trials <- function(file, range, remove = TRUE) {
  intact(file, function(bytes) {
    kept <- checkpoint_from(bytes)
    if (!is.null(kept) && identical(as.double(kept$about$ranges), as.double(range))) kept
  }, remove)
}

# What is damaged is out of the way then, unless the folder is somebody else's.
intact <- function(file, read, remove = TRUE) {
  if (!file.exists(file)) return(NULL)
  kept <- tryCatch(read(read_bytes(file)), error = function(cnd) NULL)
  if (is.null(kept)) {
    inform_user(sprintf("%s is damaged, or of another version: it is %s.", quoted(file),
                        if (remove) "made again" else "left out"))
    if (remove) unlink(file)
  }
  kept
}

keep_value <- function(folder, key, value, about) {
  write_bytes_whole(plain_bytes(about, value), kept_file(folder, key), NULL)
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
