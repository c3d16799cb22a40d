# What decides a result, as a short digest: the calls that make it, with all that they refer to written out, the files
# that these name, and the version of the numbers.

# Of trials that are `cut`, `nsim` and `first_trial` are no part of it, for their files tell which they hold.
entry_key <- function(entry, study, cut = is_cut(entry)) {
  code <- inlined(entry$call, study)
  if (cut) code <- code[!rlang::names2(as.list(code)) %in% c("nsim", "first_trial")]
  text <- c(version_of_numbers, if (!cut) whole_code(study$seed), expression_as_text(code),
            file_digests(texts_in(code), study))
  substr(cli::hash_sha256(paste(text, collapse = "\n")), 1, 20)
}

# Variables by what they stand for, so that another name changes nothing.
inlined <- function(code, study) {
  if (is.symbol(code)) {
    entry <- study$entries[[as.character(code)]]
    return(if (is.null(entry)) code else inlined(entry$call, study))
  }
  if (!is.call(code)) return(code)
  as.call(c(code[[1]], lapply(as.list(code)[-1], inlined, study)))
}

texts_in <- function(code) {
  if (is.character(code)) return(code)
  if (is.call(code)) unlist(lapply(as.list(code)[-1], texts_in))
}

# What is in the files that texts name, and in those that these name in turn: rules and decks may.
file_digests <- function(texts, study, known = character()) {
  texts <- as.character(texts)
  files <- sort(unique(setdiff(texts[nchar(texts) < 1000], known)))
  paths <- as.character(ifelse(grepl("^[/~]", files), path.expand(files), file.path(study$folder, files)))
  there <- file.exists(paths) & !dir.exists(paths)
  unlist(Map(function(file, path) {
    bytes <- read_bytes(path)
    c(cli::hash_raw_sha256(bytes), file_digests(files_named_in(bytes, path), study, c(known, file)))
  }, files[there], paths[there]), use.names = FALSE)
}

files_named_in <- function(bytes, path) {
  if (!file_kind(path) %in% c("yaml", "yml", "json")) return(character())
  text <- rawToChar(bytes[bytes != 0])
  as.character(unlist(regmatches(text, gregexpr("[^][:space:]\"',:{}[]+[.][A-Za-z]+", text, useBytes = TRUE))))
}

# Whether its trials may be played apart: those of simulate(), unless they end where they are precise enough.
is_cut <- function(entry) {
  settings <- as.list(entry$call)
  identical(entry$call[[1]], quote(simulate)) && is.null(settings[["precision"]]) &&
    is.numeric(wanted_number(settings[["nsim"]], 1e5)) && is.numeric(wanted_number(settings[["first_trial"]], 1))
}

wanted_number <- function(given, usual) if (is.null(given)) usual else given

# The first and the last of the trials that are wanted.
wanted_trials <- function(entry) {
  settings <- as.list(entry$call)
  first <- wanted_number(settings[["first_trial"]], 1)
  c(first, first + wanted_number(settings[["nsim"]], 1e5) - 1)
}
