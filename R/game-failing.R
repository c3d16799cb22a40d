# What goes wrong in a trial, by the code of a user: told with its trial and step, and how to play it again.

refuse_in_trial <- function(cnd, game, seed, trial) {
  refuse(c(rlang::cnd_message(cnd),
           i = sprintf("%s, seed %s, trial %s; the same again: trials(x, seed = %s, trials = %s).", kind_of(game)$title,
                       whole_code(seed), format_count(trial), whole_code(seed), whole_code(trial))), "function", NULL)
}

# Runs the core on trials; if one fails, `failing()` tells the first that does, for the core does not.
with_failing_trial <- function(game, seed, code, failing) {
  tryCatch(until_the_end(game, seed, code), habanera_error_function = function(cnd) {
    trial <- failing()
    said <- rlang::cnd_message(cnd)
    compiled <- able(game, "compiled")
    if (!is.null(compiled)) {
      said <- sprintf("%s (step %s).", said, format_count(compiled$failing_step(game, seed, trial)))
    }
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

# Plays a trial in which R functions may decide: their luck is the trial's, and what they do wrong is told with it.
in_trial <- function(game, seed, trial, code) {
  if (!runs_in_r(game)) return(with_failing_trial(game, seed, code, function() trial))
  tryCatch(with_trial_generator(seed, trial, player_lane, until_the_end(game, seed, code)),
           habanera_error_function = function(cnd) refuse_in_trial(cnd, game, seed, trial))
}
