# The programs of docs/cpp.md, which use the core without R.
compiled_programs <- function(page, folder) {
  lines <- readLines(page)
  begins <- which(lines == "```cpp")
  ends <- vapply(begins, function(at) min(which(lines == "```" & seq_along(lines) > at)), 0)
  vapply(seq_along(begins), function(i) {
    source <- file.path(folder, sprintf("program-%d.cpp", i))
    writeLines(lines[seq(begins[i] + 1, ends[i] - 1)], source)
    program <- sub("[.]cpp$", "", source)
    include <- c(system.file("include", package = "habanera"), system.file("examples", package = "habanera"))
    said <- system2("g++", c("-std=c++17", "-O1", "-Wall", "-Wextra", "-Wshadow", "-Wconversion", "-Werror",
                             paste0("-I", shQuote(include)), shQuote(source), "-o", shQuote(program), "-pthread"),
                    stdout = TRUE, stderr = TRUE)
    expect_equal(as.character(said), character())
    system2(program, stdout = TRUE)
  }, "")
}

test_that("programs that use the core alone compile without a warning, and count what R counts", {
  page <- testthat::test_path("..", "..", "docs", "cpp.md")
  skip_if_not(file.exists(page) && nzchar(Sys.which("g++")), "the sources and a compiler")
  said <- compiled_programs(page, withr::local_tempdir())
  # Of 10 ranks each is higher than rank - 1 of the 9 others: told right from the middle on, in 70 of 90 deals.
  right <- as.numeric(sub("^.* right in ", "", said[1]))
  expect_lt(abs(right - 7 / 9), standard_errors * sqrt(7 / 9 * 2 / 9 / 1e5))
  lift <- game_cpp(system.file("examples", "lift.cpp", package = "habanera"), enough = 40,
                   players = list("daring", "random"))
  counts <- simulate(lift, 20000, seed = 7)
  told <- regmatches(said[2], gregexpr("[0-9.]+", said[2]))[[1]]
  expect_equal(as.numeric(told[1]), sum(counts$n[counts$outcomes$winner == "1"]) / 20000, tolerance = 1e-5)
  expect_equal(as.numeric(told[2]), sum(counts$n * counts$outcomes$turned) / 20000, tolerance = 1e-5)
})
