# Somebody else's program, one shell command line: started once, given a deck a line on standard input, it writes a
# line for each on standard output; it may read all before it writes. One that says far more than it was asked is
# stopped, so that it cannot fill the disk.

# What it wrote: `lines`; `failure`, in words, NULL when all went well; and what it `said` on standard error.
# With `each_trial` it is started anew for every deck.
ask_program <- function(command, decks, time_limit, each_trial = FALSE) {
  folder <- tempfile("program-")
  dir.create(folder)
  on.exit(unlink(folder, recursive = TRUE))
  files <- rlang::set_names(file.path(folder, c("decks", "written", "said", "status")),
                            c("decks", "written", "said", "status"))
  refuse_if_fails(write_bytes(text_bytes(decks), files[["decks"]]), "The decks cannot be handed to the program.",
                  "file", NULL)
  lines <- 2 * length(decks) + 10
  bytes <- 4 * sum(nchar(decks, "bytes") + 1) + 1e6
  started <- bounded_command(if (isTRUE(each_trial)) once_a_deck(command) else command, files, lines, bytes)
  ended <- suppressWarnings(system2("sh", c("-c", shQuote(started)), timeout = time_limit))
  status <- if (file.exists(files[["status"]])) as.integer(readLines(files[["status"]], warn = FALSE)[1]) else NA
  # The status of a program that was stopped by Ctrl-C is that of the shell which it stopped, too.
  if (ended %in% c(2, 130) && (is.na(status) || status == 130)) rlang::interrupt()
  written <- readLines(files[["written"]], warn = FALSE)
  written <- written[grepl("[^[:space:]]", written, useBytes = TRUE)]
  list(command = command, lines = written, said = utils::tail(readLines(files[["said"]], 1000, warn = FALSE), 5),
       failure = program_failure(if (ended == 124) ended else status, written, length(decks), time_limit, lines))
}

# A loop over the decks; the program has each on a standard input of its own.
once_a_deck <- function(command) {
  sprintf("while IFS= read -r deck; do printf '%%s\\n' \"$deck\" | { %s\n} || exit; done", command)
}

# Its output passes through two counters, of bytes and of lines, which end when they have seen enough.
bounded_command <- function(command, files, lines, bytes) {
  files <- vapply(files, shQuote, "")
  sprintf("{ ( %s\n) 2>&3 <%s; echo $? >%s; } 3>%s | head -c %.0f | head -n %.0f >%s", command, files[["decks"]],
          files[["status"]], files[["said"]], bytes, lines, files[["written"]])
}

program_failure <- function(status, lines, asked, time_limit, most) {
  if (length(lines) > asked) {
    return(sprintf("wrote %s lines%s for %s", format_count(length(lines)),
                   if (length(lines) >= most) " or more" else "",
                   count_of(asked, "deck")))
  }
  if (identical(as.integer(status), 124L)) return(sprintf("took longer than %s", count_of(time_limit, "second")))
  if (is.na(status)) return("was stopped")
  if (status != 0) return(sprintf("ended with status %d", status))
  if (!all(validUTF8(lines))) return("wrote something that is not text")
  if (length(lines) != asked) {
    once <- if (length(lines) == 1 && asked > 1) {
      "; if it writes one and stops, run it once a trial: `each_trial = TRUE` (--each-trial)"
    }
    return(paste0(sprintf("wrote %s for %s", count_of(length(lines), "line"), count_of(asked, "deck")), once))
  }
  NULL
}

# `kept` says what was kept, and `...` keeps it as fields of the error.
refuse_program <- function(answers, call, kept = NULL, ...) {
  refuse(c(sprintf("The program %s %s.", quoted(answers$command), answers$failure),
           if (length(answers$said)) c(i = paste("It said:", paste(shortened(answers$said, 200), collapse = " / "))),
           kept), "program", call, ...)
}

most_program_trials <- 1e7
