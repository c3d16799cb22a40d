# The README's sessions: its blocks of R and shell hold the code, and below each call its output, from a run. Run as a
# script it fills the outputs in anew; the tests use the same functions to hold the README to what runs.
#
#   Rscript tools/readme.R

# The code of a block of R with the output of each call below it.
filled_r <- function(block, env) {
  code <- block[!startsWith(block, "#>")]
  parsed <- parse(text = code, keep.source = TRUE)
  ends <- vapply(utils::getSrcref(parsed), function(ref) as.integer(ref[3]), 0L)
  outputs <- lapply(parsed, function(expression) {
    utils::capture.output({
      value <- withVisible(eval(expression, env))
      if (value$visible) print(value$value)
    })
  })
  begins <- c(1, ends[-length(ends)] + 1)
  unlist(Map(function(begin, end, output) c(code[begin:end], if (length(output)) sub(" +$", "", paste("#>", output))),
             begins, ends, outputs))
}

# Commands after "$ ", each with its output; lines that are left out are shown as "...".
filled_console <- function(block) {
  commands <- block[startsWith(block, "$ ")]
  unlist(lapply(commands, function(command) {
    c(command, suppressWarnings(system2("sh", c("-c", shQuote(paste(substring(command, 3), "2>&1"))), stdout = TRUE)))
  }))
}

blocks_of <- function(lines, language) {
  starts <- which(lines == paste0("```", language))
  lapply(starts, function(start) (start + 1):(start + which(lines[-seq_len(start)] == "```")[1] - 1))
}

# Where the shell's session is run: the demo's data, and the command by name.
in_hall <- function(code) {
  hall <- tempfile("hall-")
  dir.create(hall)
  suppressMessages(habanera::install_command(hall))
  file.copy(vapply(habanera:::demo_data, habanera::demo_file, ""), hall)
  old <- setwd(hall)
  path <- Sys.getenv("PATH")
  columns <- Sys.getenv("COLUMNS", NA)
  Sys.setenv(PATH = paste0(hall, ":", path), COLUMNS = 116)
  on.exit({
    setwd(old)
    Sys.setenv(PATH = path)
    if (is.na(columns)) Sys.unsetenv("COLUMNS") else Sys.setenv(COLUMNS = columns)
    unlink(hall, recursive = TRUE)
  })
  code
}

filled_readme <- function(lines) {
  env <- new.env()
  r <- blocks_of(lines, "r")
  shell <- blocks_of(lines, "console")
  filled <- c(lapply(r, function(at) filled_r(lines[at], env)),
              in_hall(lapply(shell, function(at) filled_console(lines[at]))))
  at <- c(r, shell)
  for (i in order(-vapply(at, `[`, 0L, 1))) {
    lines <- c(lines[seq_len(at[[i]][1] - 1)], filled[[i]], lines[(max(at[[i]]) + 1):length(lines)])
  }
  lines
}

if (sys.nframe() == 0) {
  library(habanera)
  options(width = 110, cli.unicode = FALSE, cli.num_colors = 1L)
  writeLines(filled_readme(readLines("README.md")), "README.md")
}
