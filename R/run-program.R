# Somebody else's program, one shell command line: started once, given a deck a line on standard input,
# it writes a line for each on standard output; it may read all before it writes.

# What it wrote: `lines`; `failure`, in words, NULL when all went well; and what it `said` on standard
# error.
ask_program <- function(command, decks, time_limit) {
  folder <- tempfile("program-")
  dir.create(folder)
  on.exit(unlink(folder, recursive = TRUE))
  files <- file.path(folder, c("decks", "written", "said"))
  writeLines(decks, files[1])
  status <- suppressWarnings(system2("sh", c("-c", shQuote(command)), stdin = files[1], stdout = files[2],
                                     stderr = files[3], timeout = time_limit))
  lines <- readLines(files[2], warn = FALSE)
  lines <- lines[grepl("[^[:space:]]", lines, useBytes = TRUE)]
  list(command = command, lines = lines, said = utils::tail(readLines(files[3], warn = FALSE), 5),
       failure = program_failure(status, lines, length(decks), time_limit))
}

program_failure <- function(status, lines, asked, time_limit) {
  if (status == 124) return(sprintf("took longer than %s", count_of(time_limit, "second")))
  if (status != 0) return(sprintf("ended with status %d", status))
  if (length(lines) != asked) {
    return(sprintf("wrote %s for %s", count_of(length(lines), "line"), count_of(asked, "deck")))
  }
  if (!all(validUTF8(lines))) return("wrote something that is not text")
  NULL
}

# `kept` says what was kept, and `...` keeps it as fields of the error.
refuse_program <- function(answers, call, kept = NULL, ...) {
  refuse(c(sprintf("The program %s %s.", quoted(answers$command), answers$failure),
           if (length(answers$said)) c(i = paste("It said:", paste(answers$said, collapse = " / "))), kept),
         "program", call, ...)
}

most_program_trials <- 1e7
