# Runs the core's own tests, then testthat's, and ends with the number of tests that passed, failed
# and were skipped. Exit status 1 if any failed.

# Snapshots are compared here; games in C++ are compiled once for all tests.
Sys.setenv(NOT_CRAN = "true", R_USER_CACHE_DIR = file.path(getwd(), "build", "kept"))

core_results <- function() {
  lines <- suppressWarnings(system2("build/core-tests", "--no-colors", stdout = TRUE, stderr = TRUE))
  cat(lines, sep = "\n")
  summary <- grep("test cases:", lines, value = TRUE)
  pattern <- "test cases: +([0-9]+) \\| +([0-9]+) passed \\| +([0-9]+) failed \\| +([0-9]+) skipped"
  if (length(summary) != 1 || !grepl(pattern, summary)) {
    cat("The core's tests ended without a summary.\n")
    return(c(passed = 0, failed = 1, skipped = 0))
  }
  numbers <- vapply(2:4, function(i) as.numeric(sub(paste0("^.*", pattern, ".*$"), paste0("\\", i),
                                                    summary)), 0)
  c(passed = numbers[1], failed = numbers[2], skipped = numbers[3])
}

package_results <- function() {
  results <- as.data.frame(testthat::test_dir("tests/testthat", package = "habanera",
                                              load_package = "installed",
                                              reporter = testthat::SummaryReporter$new(),
                                              stop_on_failure = FALSE))
  # A warning that nobody expected is a failure, too.
  failed <- results$failed > 0 | results$error | results$warning > 0
  skipped <- results$skipped & !failed
  c(passed = sum(!failed & !skipped), failed = sum(failed), skipped = sum(skipped))
}

total <- core_results() + package_results()
cat(sprintf("\n%d passed, %d failed, %d skipped\n", total[["passed"]], total[["failed"]],
            total[["skipped"]]))
quit(status = if (total[["failed"]] > 0 || total[["passed"]] == 0) 1 else 0)
