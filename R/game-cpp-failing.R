# What goes wrong in a game in C++ of one's own, told with its trial and step.

# What the code of a game of one's own throws is an error of the user's function; what the core has to say of any game
# is said as of any.
told_of_own_code <- function(game, code) {
  if (is.null(game$kind$file)) return(code)
  tryCatch(code, `C++Error` = function(cnd) {
    if (inherits(cnd, c("habanera::EndlessGame", "habanera::OutOfReach", "std::length_error"))) stop(cnd)
    said <- sub("^trial [0-9]+ ", "", conditionMessage(cnd))
    refuse(sprintf("%s failed: %s", basename(game$kind$file), sub("[.]?[[:space:]]*$", "", said)), "function", NULL)
  })
}

# Runs the core on trials, one of which fails: `which()` tells the first that does, for the core does not.
with_failing_trial <- function(game, seed, code, which) {
  run <- function(code) until_the_end(game, seed, code)
  if (is.null(game$kind$file)) return(run(code))
  tryCatch(run(code), habanera_error_function = function(cnd) {
    # An R function has told it already.
    if (grepl("; the same again: ", paste(cnd$body, collapse = ""), fixed = TRUE)) stop(cnd)
    trial <- which()
    said <- sprintf("%s (step %s).", rlang::cnd_message(cnd),
                    format_count(game$kind$failing_step(game, seed, trial)))
    refuse_in_trial(rlang::error_cnd(message = said), game, seed, trial)
  })
}

# The first of so many trials that fails, found by halves.
first_failing <- function(game, seed, first, count) {
  machine <- game_machine(game)
  while (count > 1) {
    half <- count %/% 2
    if (fails_in_core(core_count_game(machine, game$spec, seed, first, half, 1))) count <- half else {
      first <- first + half
      count <- count - half
    }
  }
  first
}

first_failing_of <- function(game, seed, trials) {
  machine <- game_machine(game)
  Find(function(trial) fails_in_core(core_trial_game(machine, game$spec, seed, trial)), trials)
}

fails_in_core <- function(code) {
  tryCatch({
    code
    FALSE
  }, error = function(cnd) TRUE)
}
