# Every function that can run long, interrupted.

test_that("every exported function is known to be quick, or to end when it is interrupted", {
  # Second ways of vary_rules(), tune_rules() and equilibrium().
  others <- c("vary_edges", "vary_values", "tune_edges", "equilibrium_of_bets")
  expect_setequal(c(setdiff(names(long_calls()), others), quick_exports), getNamespaceExports("habanera"))
  expect_length(intersect(names(long_calls()), quick_exports), 0)
  expect_setequal(names(functions_of_commands), names(commands()))
  expect_identical(setdiff(functions_of_commands, getNamespaceExports("habanera")), character())
})

test_that("what runs long ends soon after an interrupt, and says what is only a part", {
  skip_on_os("windows")
  calls <- long_calls()
  # Those whose first part is done within a fraction of a second keep what they have.
  keep <- c("audit", "card_impact", "compare", "round_robin")
  for (name in names(calls)) {
    found <- interrupted_call(calls[[name]])
    # A busy machine may take longer for the first part.
    for (after in c(1, 4)) {
      if (name %in% keep && found$ended == "nothing") found <- interrupted_call(calls[[name]], after)
    }
    expect_true(found$ended %in% c("part", "nothing"), info = paste(name, found$ended))
    if (name %in% keep) expect_identical(found$ended, "part", info = name)
  }
})

test_that("a part tells that it is one, in its first lines and in files", {
  few <- structure(rule_effects(game_high_card()), part = "2 of 5 rules")
  expect_match(capture.output(print(few))[1:2], "interrupted: 2 of 5 rules", all = FALSE)
  file <- withr::local_tempfile(fileext = ".csv")
  write_result(few, file)
  expect_identical(unique(utils::read.csv(file)$part), "2 of 5 rules")
  expect_null(with_part(data.frame(a = 1), rule_effects(game_high_card()))$part)

  stop_at <- function(trial) {
    at <- 0
    draws_with(function(deck) {
      at <<- at + 1
      if (at == trial) rlang::interrupt()
      deck[1]
    }, deck_numbered(3), 1)
  }
  expect_warning(counts <- simulate(stop_at(200), 1000, seed = 1), class = "habanera_warning_interrupted")
  done <- sum(counts$n)
  expect_lt(done, 200)
  expect_match(capture.output(print(counts)), all = FALSE,
               sprintf("%d trials, seed 1 \\(interrupted: 1,000 trials were asked for\\)", done))
  expect_identical(provenance(counts)$interrupted_of, 1000)
})

test_that("a bar is shown where it is wanted, only one at a time, and the core lets it turn", {
  seen <- NULL
  outer <- function(progress) {
    bar <- local_progress("Outer", progress, 3)
    inner <- function() local_progress("Inner", NULL, 5)
    seen <<- list(shown = shown_bar(), alone = c(bar$alone, inner()$alone))
    bar$move(1)
    show_that_it_goes_on()
  }
  outer(TRUE)
  expect_false(is.null(seen$shown))
  expect_identical(seen$alone, c(TRUE, FALSE))
  expect_null(shown_bar())
  outer(FALSE)
  expect_null(seen$shown)
  expect_error(category_odds(progress = "yes"), "`progress` must be TRUE or FALSE", class = "habanera_error_input")
})
