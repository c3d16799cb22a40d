# Runs a command inside this process: what it wrote, and its exit status.
run_words <- function(...) {
  out <- withr::local_tempfile()
  err <- withr::local_tempfile()
  out_file <- file(out, "w")
  sink(out_file)
  status <- tryCatch(run_command_quietly(c(...), err), finally = {
    sink()
    close(out_file)
  })
  said <- readLines(err)
  if (any(grepl("partial match", said))) stop(paste(said, collapse = "\n"))
  list(status = status, out = readLines(out), err = said)
}

# The command writes its notes to stderr(), which a message sink catches.
run_command_quietly <- function(words, err) {
  err_file <- file(err, "w")
  sink(err_file, type = "message")
  on.exit({
    sink(type = "message")
    close(err_file)
  })
  habanera:::run_command(words)
}

# The same as a user has it: a process of its own, through the installed launcher.
run_shell <- function(words) {
  launcher <- shQuote(system.file("exec", "habanera", package = "habanera"))
  err <- withr::local_tempfile()
  command <- sprintf("( %s ) 2>%s", gsub("habanera( |$)", paste0(launcher, "\\1"), words), shQuote(err))
  out <- suppressWarnings(system2("bash", c("-c", shQuote(command)), stdout = TRUE))
  status <- attr(out, "status")
  list(status = if (is.null(status)) 0 else status, out = as.character(out), err = readLines(err))
}

# Each case is list(words, part of the message): status 2, and nothing on standard output.
expect_bad_usage <- function(cases) {
  for (case in cases) {
    ran <- run_words(case[[1]])
    expect_equal(ran$status, 2, info = paste(case[[1]], collapse = " "))
    expect_length(ran$out, 0)
    expect_match(paste(ran$err, collapse = " "), case[[2]], fixed = TRUE)
  }
}

# Runs the command with these lines typed.
typed <- function(lines, ...) {
  input <- withr::local_tempfile()
  writeLines(lines, input)
  out <- withr::local_tempfile()
  err <- withr::local_tempfile()
  words <- vapply(c(...), shQuote, "")
  status <- suppressWarnings(system2(file.path(R.home("bin"), "Rscript"),
                                     c("-e", shQuote("quit(status = habanera:::run_command(commandArgs(TRUE)))"),
                                       words),
                                     stdin = input, stdout = out, stderr = err))
  list(status = status, out = readLines(out), err = readLines(err))
}
