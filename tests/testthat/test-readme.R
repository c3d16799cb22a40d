# The README's sessions are run word for word; only the time taken may differ.
timeless <- function(lines) trimws(sub("in [0-9.]+ s", "in some time", lines), "right")

blocks <- function(lines, language) {
  starts <- which(lines == paste0("```", language))
  ends <- vapply(starts, function(start) start + which(lines[-seq_len(start)] == "```")[1], 0)
  Map(function(start, end) lines[(start + 1):(end - 1)], starts, ends)
}

# The outputs of code, as a session would show them.
session_output <- function(code, env) {
  capture.output(for (expression in parse(text = code)) {
    value <- withVisible(eval(expression, env))
    if (value$visible) print(value$value)
  })
}

readme <- testthat::test_path("..", "..", "README.md")

test_that("the README's R session gives what it shows", {
  skip_if_not(file.exists(readme), "README.md, which is not in the built package")
  local_reproducible_output(width = 80, unicode = FALSE)
  env <- new.env()
  shown <- blocks(readLines(readme), "r")
  expect_gt(length(shown), 3)
  for (block in shown) {
    is_output <- startsWith(block, "#>")
    output <- session_output(block[!is_output], env)
    expect_equal(timeless(output), timeless(sub("^#> ?", "", block[is_output])))
  }
})

test_that("the README's shell session gives what it shows", {
  skip_if_not(file.exists(readme), "README.md, which is not in the built package")
  readme_lines <- readLines(readme)
  hall <- withr::local_tempdir()
  suppressMessages(install_command(hall))
  file.copy(vapply(habanera:::demo_data, demo_file, ""), hall)
  withr::local_dir(hall)
  withr::local_envvar(PATH = paste0(hall, ":", Sys.getenv("PATH")))
  shown <- blocks(readme_lines, "console")
  expect_gt(length(shown), 2)
  for (block in shown) {
    command <- sub("^\\$ ", "", block[1])
    output <- suppressWarnings(system2("sh", c("-c", shQuote(paste(command, "2>&1"))), stdout = TRUE))
    expect_equal(sort(timeless(output)), sort(timeless(block[-1])), info = command)
  }
})
