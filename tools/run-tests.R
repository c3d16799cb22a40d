# Lints, runs testthat's tests, files side by side, then the core's own, and ends with the number of tests that passed,
# failed and were skipped. Exit status 1 if any failed.
#
#   make test              all
#   make test FILE=hand    the files with this in their names, and nothing of the core
library(testthat)

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

# All lint is one test; what is wrong is printed.
lint_results <- function() {
  sound <- system2("make", c("-s", "lint")) == 0
  if (!sound) cat("make lint: not clean.\n")
  c(passed = as.numeric(sound), failed = as.numeric(!sound), skipped = 0)
}

# What the tests of a file came to, test by test, and the processor time of the file; what failed is printed.
file_results <- function(file) {
  cat(basename(file), "\n")
  # Whatever the file before it has left behind.
  RNGkind("default", "default", "default")
  begun <- proc.time()
  results <- as.data.frame(test_file(file, package = "habanera", load_package = "installed",
                                     reporter = CheckReporter$new(), stop_on_failure = FALSE))
  took <- proc.time() - begun
  # A warning that nobody expected is a failure, too.
  failed <- results$failed > 0 | results$error | results$warning > 0
  skipped <- results$skipped & !failed
  list(tests = data.frame(file = basename(file), test = results$test, seconds = results$real,
                          passed = !failed & !skipped, failed = failed, skipped = skipped),
       processor = sum(took[c("user.self", "sys.self", "user.child", "sys.child")]))
}

# Files that took longest come first, so that none is left over for one process alone.
by_length <- function(files) {
  kept <- "build/test-seconds.csv"
  if (!file.exists(kept)) return(files)
  before <- utils::read.csv(kept)
  before <- tapply(before$seconds, before$file, sum)
  files[order(-before[basename(files)], na.last = FALSE)]
}

package_results <- function(files) {
  cores <- min(parallel::detectCores(), length(files))
  cluster <- parallel::makePSOCKcluster(cores, outfile = "")
  workers <- unlist(parallel::clusterCall(cluster, Sys.getpid))
  on.exit({
    parallel::stopCluster(cluster)
    # What they say as they end must not come after the last line.
    for (i in 1:100) if (any(tools::pskill(workers, 0))) Sys.sleep(0.1)
  })
  parallel::clusterEvalQ(cluster, {
    suppressMessages({
      library(testthat)
      library(habanera)
    })
    # Snapshots are compared here; games in C++ are compiled once for all tests.
    Sys.setenv(NOT_CRAN = "true", R_USER_CACHE_DIR = file.path(getwd(), "build", "kept"))
  })
  parallel::clusterApplyLB(cluster, by_length(files), file_results)
}

tell_slowest <- function(tests, processor) {
  slowest <- utils::head(tests[order(-tests$seconds), ], 10)
  cat(sprintf("\n%.0f s of processor time; the slowest, in seconds:\n", processor))
  cat(sprintf("  %5.1f  %s: %s\n", slowest$seconds, slowest$file, slowest$test), sep = "")
}

only <- Sys.getenv("FILE")
files <- list.files("tests/testthat", "^test-.*[.]R$", full.names = TRUE)
files <- files[grepl(only, basename(files))]
if (!length(files)) stop("No file of tests has \"", only, "\" in its name.")
linted <- if (!nzchar(only)) lint_results()
results <- package_results(files)
tests <- do.call(rbind, lapply(results, `[[`, "tests"))
tell_slowest(tests, sum(vapply(results, `[[`, 0, "processor")))
total <- colSums(tests[c("passed", "failed", "skipped")])
failed <- sprintf("%s: %s", tests$file, tests$test)[tests$failed]
if (!nzchar(only)) {
  utils::write.csv(tests[c("file", "test", "seconds")], "build/test-seconds.csv", row.names = FALSE)
  core <- core_results()
  total <- total + linted + core
  failed <- c(failed, if (linted[["failed"]] > 0) "make lint", if (core[["failed"]] > 0) "the core's tests")
}
if (length(failed)) cat("\nFailed:", failed, sep = "\n  ")
cat(sprintf("\n%d passed, %d failed, %d skipped\n", total[["passed"]], total[["failed"]],
            total[["skipped"]]))
quit(status = if (total[["failed"]] > 0 || total[["passed"]] == 0) 1 else 0)
