# Files are read whole and written whole: to a temporary neighbour first, which then takes the name.

# write(path) writes to the path it is given.
write_whole_file <- function(file, write, call = rlang::caller_env()) {
  check_string(file, "file", call)
  folder <- dirname(file)
  if (!dir.exists(folder)) {
    refuse(sprintf("Cannot write %s: there is no folder %s.", quoted(file), quoted(folder)),
           "file", call)
  }
  if (dir.exists(file)) {
    refuse(sprintf("Cannot write %s: it is a folder.", quoted(file)), "file", call)
  }
  if (file.access(folder, 2) != 0 || !try_folder(folder)) {
    refuse(sprintf("Cannot write %s: the folder %s does not let us write.", quoted(file),
                   quoted(folder)), "file", call)
  }
  partial <- tempfile(".partial-", tmpdir = folder)
  on.exit(unlink(partial))
  refuse_if_fails(write(partial), sprintf("Cannot write %s.", quoted(file)), "file", call)
  if (!file.rename(partial, file)) {
    refuse(sprintf("Cannot write %s.", quoted(file)), "file", call)
  }
  invisible(file)
}

# Whether a file can be made there: file.access() says yes to root even where the disk is read-only.
try_folder <- function(folder) {
  probe <- tempfile(".probe-", tmpdir = folder)
  on.exit(unlink(probe))
  suppressWarnings(file.create(probe))
}

# The lines that write(path) writes. utils::capture.output() would do, but its time grows with the
# square of the number of lines.
lines_written <- function(write) {
  path <- tempfile()
  on.exit(unlink(path))
  write(path)
  readLines(path, encoding = "UTF-8")
}

fwrite_lines <- function(table) {
  lines_written(function(path) data.table::fwrite(table, path, quote = "auto", na = ""))
}

write_lines_whole <- function(lines, file, call = rlang::caller_env()) {
  write_whole_file(file, function(path) {
    connection <- file(path, "wb")
    on.exit(close(connection))
    writeLines(enc2utf8(lines), connection, useBytes = TRUE)
  }, call)
}

# The lines of a UTF-8 text file; "-" is standard input.
read_text_lines <- function(file, call = rlang::caller_env()) {
  check_string(file, "file", call)
  source <- if (file == "-") file("stdin") else file
  if (file != "-") check_readable(file, call) else on.exit(close(source))
  lines <- readLines(source, warn = FALSE, encoding = "UTF-8", skipNul = FALSE)
  if (length(lines)) lines[1] <- sub("^\ufeff", "", lines[1], useBytes = FALSE)
  bad <- which(!validUTF8(lines))
  if (length(bad)) {
    refuse(sprintf("%s is not UTF-8 text: line %s has bytes that are not.", file_name(file),
                   format_count(bad[1])), "file", call)
  }
  lines
}

check_readable <- function(file, call = rlang::caller_env()) {
  check_string(file, "file", call)
  if (dir.exists(file)) refuse(sprintf("%s is a folder, not a file.", quoted(file)), "file", call)
  if (!file.exists(file)) refuse(sprintf("There is no file %s.", quoted(file)), "file", call)
  if (file.access(file, 4) != 0) {
    refuse(sprintf("The file %s cannot be read.", quoted(file)), "file", call)
  }
  invisible(file)
}

file_name <- function(file) if (file == "-") "Standard input" else quoted(file)

file_kind <- function(file) tolower(sub("^.*\\.", "", basename(file)))
