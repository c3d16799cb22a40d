# A seeded random test may stray this many standard errors from its exact law: a chance of 6e-5.
standard_errors <- 4

# The chance that a test at four standard errors gives a false alarm.
rare <- 2 * stats::pnorm(-standard_errors)

# Runs the code and gives the classes of the condition it raised, or "none".
error_classes <- function(code) {
  tryCatch({
    code
    "none"
  }, error = function(cnd) class(cnd))
}

# Each case is list(code as expression, finer class, words of the message).
expect_refusals <- function(cases, env = parent.frame()) {
  for (case in cases) {
    what <- deparse(case[[1]])[1]
    cnd <- tryCatch(eval(case[[1]], env), error = identity)
    expect_s3_class(cnd, paste0("habanera_error_", case[[2]]))
    expect_s3_class(cnd, "habanera_error")
    expect_match(conditionMessage(cnd), case[[3]], fixed = TRUE, info = what)
  }
}

# What an experiment says of itself when printed.
in_words_of <- function(experiment) capture.output(print(experiment))

# Everything a reader would look at works on these counts.
expect_no_error_summary <- function(x) {
  expect_s3_class(summary(x), "habanera_draw_summary")
  expect_output(print(x), "<counts>")
  expect_output(print(summary(x)), "<summary>")
  expect_s3_class(tidy(x), "data.frame")
}

trials_of <- function(x) {
  ranges <- provenance(x)$trials
  sum(ranges$last - ranges$first + 1)
}

expect_no_match_words <- function(text, words) {
  for (word in words) expect_false(grepl(word, text, fixed = TRUE), info = word)
}
