# Lints the R code, and holds files to a length that can be read at a sitting.
linters <- lintr::linters_with_defaults(
  line_length_linter = lintr::line_length_linter(120), object_name_linter = NULL,
  object_length_linter = NULL,
  cyclocomp_linter = NULL, object_usage_linter = NULL, commented_code_linter = NULL,
  infix_spaces_linter = lintr::infix_spaces_linter(exclude_operators = "^"),
  brace_linter = NULL
)
folders <- c("R", "tests/testthat", "bench", "tools", "inst/examples")
files <- setdiff(list.files(folders, "\\.R$", full.names = TRUE), "R/RcppExports.R")
found <- do.call(c, parallel::mclapply(files, lintr::lint, linters = linters, mc.cores = parallel::detectCores(),
                                       mc.preschedule = FALSE))
for (lint in found) cat(sprintf("%s:%d: %s\n", lint$filename, lint$line_number, lint$message))
code <- c(files, list.files(c("src", "inst/include", "tests/core"), "\\.(cpp|hpp|h)$", full.names = TRUE,
                            recursive = TRUE))
long <- Filter(function(file) length(readLines(file)) > 400, setdiff(code, "src/RcppExports.cpp"))
for (file in long) cat(sprintf("%s: over 400 lines\n", file))
# Columns named by users are taken by their whole name: `$` also finds what only begins like it.
short <- unlist(lapply(list.files("R", full.names = TRUE), function(file) {
  at <- grep("\\b(outcomes|table)\\$", sub("#.*$", "", readLines(file)))
  if (length(at)) sprintf("%s:%d: write [[\"name\"]] instead of $name.", file, at)
}))
if (length(short)) cat(short, sep = "\n")
quit(status = if (length(found) || length(long) || length(short)) 1 else 0)
