# Writing results, and how a command ends.

exit_status <- c(done = 0L, expectation_failed = 1L, usage = 2L, failed = 3L, interrupted = 130L)

# What was wrong with the words is bad usage; all else could not be done.
usage_classes <- paste0("habanera_error_", c("usage", "input", "notation", "language", "rules"))

report_error <- function(cnd) {
  cat("habanera: ", in_shell_words(rlang::cnd_message(cnd)), "\n", sep = "", file = stderr())
  exit_status[[if (inherits(cnd, usage_classes)) "usage" else "failed"]]
}

# Arguments of the functions behind a command as its options: `replace = TRUE` as --replace, `nsim` as `--trials`.
in_shell_words <- function(message) {
  options <- sub("^--", "", getOption("habanera.options"))
  named <- rlang::set_names(options, gsub("-", "_", options))
  if ("trials" %in% options) named[["nsim"]] <- "trials"
  # A rule may be called as an option is: it is meant where it was set.
  set <- intersect(set_rules(getOption("habanera.words")), names(named))
  named[set] <- paste("set", set)
  for (name in names(named)) {
    message <- gsub(sprintf("`%s = TRUE`", name), sprintf("--%s", named[[name]]), message, fixed = TRUE)
    message <- gsub(sprintf("`%s = ([^`]+)`", name), sprintf("--%s \\1", named[[name]]), message)
    message <- gsub(sprintf("`%s`", name), sprintf("`--%s`", named[[name]]), message, fixed = TRUE)
  }
  message
}

# The rules that --set names, as one word or two.
set_rules <- function(words) {
  given <- c(words[which(words == "--set") + 1], sub("^--set=", "", grep("^--set=", words, value = TRUE)))
  sub("=.*$", "", given[!is.na(given)])
}

report_interrupt <- function() {
  cat("habanera: interrupted; nothing was kept.\n", file = stderr())
  exit_status[["interrupted"]]
}

# To standard output. A reader that has gone (as in `| head`) is no error.
emit <- function(lines) {
  force(lines)  # an error in making them is not the reader's going
  if (sink.number() > 0) return(writeLines(lines))
  flush(stdout())
  problem <- core_write_output(text_bytes(lines))
  if (problem == "closed") rlang::abort("The reader has gone.", class = "habanera_pipe_closed")
  if (nzchar(problem)) refuse(sprintf("Cannot write to standard output: %s.", problem), "file", call = NULL)
}

emit_or_write <- function(lines, out) {
  if (is.null(out)) emit(lines) else write_lines_whole(lines, out, call = NULL)
}

# A result in a file is one that read_result() reads.
emit_result <- function(x, lines, options) {
  if (!is.null(options$out) && core_path_kind(options$out) != "other" && file_kind(options$out) %in% c("csv", "json") &&
      result_format(options) == file_kind(options$out)) {
    return(write_result(x, options$out))
  }
  emit_or_write(lines, options$out)
}

formats <- c("text", "json", "csv")

# As asked for, or as the name of the output file ends.
result_format <- function(options) {
  format <- option_word(options, "format", formats)
  if (!is.null(format)) return(format)
  if (is.null(options$out) || core_path_kind(options$out) == "other") return("text")
  kind <- if (grepl(".", basename(options$out), fixed = TRUE)) file_kind(options$out) else "txt"
  if (kind %in% c("json", "csv")) return(kind)
  if (kind %in% c("txt", "text", "log", "md")) return("text")
  refuse(sprintf("`--out` must end in .txt, .json or .csv, not %s; say --format for another ending.",
                 quoted(options$out)), "usage", call = NULL)
}

# Coloured when they go to a terminal that can; while they are written to a file, that file is not it.
printed_lines <- function(x, out, ...) {
  old <- options(cli.num_colors = if (is.null(out)) cli::num_ansi_colors(stdout()) else 1L)
  on.exit(options(old))
  lines_printed(function() print(x, ...))
}

# A table in another format than text: JSON, and CSV in a file, say where it comes from. `found` is the result whose
# rows these are; without it they are a plain list.
emit_table <- function(table, options, found = NULL) {
  made <- how_made(found)
  header <- list(result = if (is.null(found)) "table" else class(found)[1],
                 words = if (!is.null(found)) in_words(found), made_by = made[c("r", "shell")], seed = made$seed)
  rows <- if (is.null(found)) table else with_part(table, found)
  kept <- kept_table(plain_table(rows), header)
  emit_result(kept, if (result_format(options) == "csv") csv_lines(kept) else json_lines(kept), options)
}

# What is listed, not found: it has no page.
write_listed <- function(listed, options) {
  if (result_format(options) != "text") return(emit_table(plain_table(listed), options))
  emit_or_write(printed_lines(listed, options$out), options$out)
}

# A result that prints, with the table that it is in other formats, its figure (`...` says how it is drawn), its page.
write_found <- function(found, options, ..., table = plain_table(found)) {
  write_pictures(found, options, ...)
  if (result_format(options) == "text") emit_or_write(printed_lines(found, options$out), options$out) else {
    emit_table(table, options, found)
  }
  exit_status[["done"]]
}

# The page and the figure that were asked for.
write_pictures <- function(found, options, ...) {
  if (!is.null(options$report)) report(found, options$report)
  if (!is.null(options$figure)) write_figure(ggplot2::autoplot(found, ...), options$figure)
}

write_figure <- function(plot, file) {
  kind <- file_kind(file)
  if (!kind %in% c("png", "svg", "pdf")) {
    refuse(sprintf("A figure must end in .png, .svg or .pdf, not %s.", quoted(file)), "usage",
           call = NULL)
  }
  write_plot_file(plot, file, 11.6, 7.3)
}
