# Files are read whole and written whole: to a neighbour first, whose last byte is known to be on the disk, and which
# then takes the name. What fails leaves the old file as it was.

write_lines_whole <- function(lines, file, call = rlang::caller_env()) {
  write_bytes_whole(text_bytes(lines), file, call)
}

write_bytes_whole <- function(bytes, file, call = rlang::caller_env()) {
  write_whole_file(file, function(path) write_bytes(bytes, path), call)
}

write_bytes <- function(bytes, path) {
  problem <- core_write_file(path.expand(path), bytes)
  if (nzchar(problem)) stop(problem)
}

text_bytes <- function(lines) {
  if (!length(lines)) return(raw())
  c(charToRaw(paste(enc2utf8(lines), collapse = "\n")), charToRaw("\n"))
}

# write(path) writes to the path it is given, and fails when it could not.
write_whole_file <- function(file, write, call = rlang::caller_env()) {
  file <- check_target(file, call)
  failed <- sprintf("Cannot write %s.", quoted(file))
  # A device or a pipe has no name that another file could take.
  if (core_path_kind(file) == "other") return(invisible(refuse_if_fails(write(file), failed, "file", call)))
  remove_leftovers(dirname(file))
  partial <- partial_name(dirname(file))
  on.exit(unlink(partial))
  refuse_if_fails(write(partial), failed, "file", call)
  if (!suppressWarnings(file.rename(partial, file))) refuse(failed, "file", call)
  invisible(file)
}

# Where it is to be written: a link is followed.
check_target <- function(file, call) {
  check_path(file, call)
  path <- path.expand(file)
  folder <- dirname(path)
  if (!dir.exists(folder)) {
    refuse(sprintf("Cannot write %s: there is no folder %s.", quoted(file), quoted(folder)), "file", call)
  }
  if (dir.exists(path)) refuse(sprintf("Cannot write %s: it is a folder.", quoted(file)), "file", call)
  if (file.exists(path)) path <- normalizePath(path)
  if (core_path_kind(path) != "other" && !try_folder(dirname(path))) {
    refuse(sprintf("Cannot write %s: the folder %s does not let us write.", quoted(file), quoted(dirname(path))),
           "file", call)
  }
  path
}

# Whether a file can be made there: file.access() says yes to root even where the disk is read-only.
try_folder <- function(folder) {
  if (file.access(folder, 2) != 0) return(FALSE)
  probe <- partial_name(folder)
  on.exit(unlink(probe))
  suppressWarnings(file.create(probe))
}

# Tells the process that writes it, so that what a killed one left behind can be known.
partial_name <- function(folder) tempfile(paste0(partial_mark(), Sys.getpid(), "-"), tmpdir = folder)

partial_mark <- function() sprintf(".habanera-%s-", gsub("[^A-Za-z0-9]", "", Sys.info()[["nodename"]]))

remove_leftovers <- function(folder) {
  found <- list.files(folder, pattern = paste0("^", gsub(".", "\\.", partial_mark(), fixed = TRUE), "[0-9]+-"),
                      all.files = TRUE, full.names = TRUE)
  process <- as.integer(sub(paste0("^", partial_mark(), "([0-9]+)-.*$"), "\\1", basename(found)))
  unlink(found[!vapply(process, tools::pskill, TRUE, signal = 0)])
}

# The lines that write() prints, kept in memory: a temporary folder may be full. utils::capture.output() would do, but
# its time grows with the square of the number of lines.
lines_printed <- function(write) {
  kept <- rawConnection(raw(), "w")
  on.exit(close(kept))
  sink(kept)
  tryCatch(write(), finally = sink())
  text <- rawToChar(rawConnectionValue(kept))
  Encoding(text) <- "UTF-8"
  strsplit(text, "\n", fixed = TRUE)[[1]]
}

# The lines of a UTF-8 text file; "-" is standard input.
read_text_lines <- function(file, call = rlang::caller_env()) {
  check_string(file, "file", call)
  if (file != "-") check_readable(file, call)
  lines <- lines_of_bytes(if (is_stream(file)) read_stream(file, call) else read_bytes(file, call), file, call)
  bad <- which(!validUTF8(lines))
  if (length(bad)) {
    refuse(sprintf("%s is not UTF-8 text: line %s has bytes that are not.", file_name(file),
                   format_count(bad[1])), "file", call)
  }
  lines
}

lines_of_bytes <- function(bytes, file, call) {
  zero <- match(as.raw(0), bytes)
  if (!is.na(zero)) {
    refuse(sprintf("%s is no text: line %s has a byte of zero.", file_name(file),
                   format_count(1 + sum(bytes[seq_len(zero)] == as.raw(10)))), "file", call)
  }
  if (identical(utils::head(bytes, 3), as.raw(c(0xef, 0xbb, 0xbf)))) bytes <- bytes[-(1:3)]
  text <- rawToChar(bytes)
  if (any(bytes == as.raw(13))) text <- gsub("\r\n?", "\n", text, useBytes = TRUE)
  lines <- strsplit(text, "\n", fixed = TRUE, useBytes = TRUE)[[1]]
  Encoding(lines) <- "UTF-8"
  lines
}

# The first lines of a regular file, as they are.
head_lines <- function(file, n) readLines(file, n, warn = FALSE)

# What is read whole is held in memory.
most_bytes_read <- 1e9

read_bytes <- function(path, call = NULL) {
  if (file.size(path) > most_bytes_read) refuse_long(path, call)
  readBin(path, "raw", file.size(path))
}

doubles_of_bytes <- function(bytes) readBin(bytes, "double", length(bytes) / 8, endian = "little")

# Standard input, and what the shell opened for us as in <(command).
is_stream <- function(file) file == "-" || core_path_kind(file) == "other"

read_stream <- function(file, call) {
  source <- file(if (file == "-") "stdin" else file, "rb")
  on.exit(close(source))
  chunks <- list(raw())
  read <- 0
  while (length(chunk <- readBin(source, "raw", 1e6))) {
    read <- read + length(chunk)
    if (read > most_bytes_read) refuse_long(file, call)
    chunks[[length(chunks) + 1]] <- chunk
  }
  unlist(chunks)
}

refuse_long <- function(file, call) {
  refuse(sprintf("%s has more than %s bytes; take it in parts.", file_name(file), format_count(most_bytes_read)),
         "file",
         call)
}

check_readable <- function(file, call = rlang::caller_env()) {
  check_path(file, call)
  if (dir.exists(file)) refuse(sprintf("%s is a folder, not a file.", quoted(file)), "file", call)
  if (!file.exists(file)) refuse(sprintf("There is no file %s.", quoted(file)), "file", call)
  if (file.access(file, 4) != 0) {
    refuse(sprintf("The file %s cannot be read.", quoted(file)), "file", call)
  }
  # A pipe that nobody writes to is waited for without end; one that the shell opened has its writer.
  if (core_path_kind(path.expand(file)) == "other" && !grepl("^(/dev|/proc/self)/fd/[0-9]+$", file)) {
    refuse(sprintf("%s is a pipe or a device, not a file; \"-\" is standard input.", quoted(file)), "file", call)
  }
  invisible(file)
}

# Beyond this no system has names.
most_in_path <- 4096

# Whether a text, which may be anything, names a file that is there.
names_a_file <- function(text) nchar(text, "bytes") <= most_in_path && file.exists(text)

check_path <- function(file, call, name = "file") {
  check_string(file, name, call)
  if (nchar(file, "bytes") <= most_in_path) return(file)
  refuse(sprintf("`%s` is no name of a file: it has more than %s letters.", name, format_count(most_in_path)),
         call = call)
}

# NULL stands for what a program wrote.
file_name <- function(file) if (is.null(file)) "its output" else if (file == "-") "Standard input" else quoted(file)

# What stands after the last point of the name; basename() would complain of a text that is too long to be one.
file_kind <- function(file) if (validUTF8(file)) tolower(sub("^.*[./]", "", file)) else ""
