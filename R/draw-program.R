#' @rdname draws_recorded
#' @param command One shell command line.
#' @param time_limit Whole seconds that the program may take in all.
#' @param each_trial Whether the program is started anew for each trial, for programs that write one draw and stop.
#' @export
draws_program <- function(command, deck = deck_standard(), size = NULL, replace = FALSE,
                          numbering = NULL, time_limit = 600, each_trial = FALSE) {
  check_given()
  call <- rlang::current_env()
  check_string(command)
  check_deck(deck)
  check_flag(replace)
  check_whole(time_limit, 1, 1e6)
  check_flag(each_trial)
  x <- new_experiment(c("habanera_draws_program", "habanera_draws"), deck = deck, size = NULL,
                      replace = replace, shuffle = NULL, command = command, numbering = numbering,
                      time_limit = time_limit, each_trial = each_trial)
  x["size"] <- list(size)
  if (is.null(size)) x$size <- as.double(ncol(run_program(x, 1, call)))
  x$size <- check_draw_size(x$size, parted_deck(deck), replace, call)
  x
}

# Starts the program once and reads a draw for each deck it was given: a matrix of kinds.
run_program <- function(x, count, call) {
  answers <- ask_program(x$command, rep(paste(as.character(x$deck), collapse = " "), count), x$time_limit, x$each_trial)
  if (!is.null(answers$failure)) refuse_program(answers, call)
  label <- function(line) sprintf("%s, line %s", quoted(x$command), format_count(line))
  kinds <- kinds_from_lines(answers$lines, x$deck, x$size, x$numbering, label, call)
  refuse_doubled(kinds, x$deck, x$replace, label, call)
  kinds
}

#' @export
plays_at_once.habanera_draws_program <- function(experiment) TRUE

#' @export
check_simulation.habanera_draws_program <- function(experiment, settings, call) {
  if (!is.null(settings$precision) || !is.null(settings$checkpoint)) {
    refuse("A program is started once for all trials: `precision` and `checkpoint` are not for it.",
           call = call)
  }
  check_whole(settings$nsim, 1, most_program_trials, "nsim", call)
}

#' @export
source_of.habanera_draws_program <- function(experiment) {
  sprintf("the program %s", quoted(experiment$command))
}

#' @export
run_lap.habanera_draws_program <- function(experiment, seed, first, count, threads) {
  kinds <- run_program(experiment, count, call = NULL)
  tally_of_draws(kinds, nrow(outcome_space(experiment)), first, can_repeat(experiment))
}

#' @export
play_trials.habanera_draws_program <- function(experiment, seed, trials) {
  refuse("A program's draws have no addresses: its chance is its own.", call = NULL)
}

#' @export
in_words.habanera_draws_program <- function(x, ...) {
  paste0(NextMethod(), ", by a program")
}

#' @export
as_plain.habanera_draws_program <- function(experiment) {
  list(kind = "draws_program", deck = plain_deck(experiment$deck), size = experiment$size,
       replace = experiment$replace, command = experiment$command,
       numbering = experiment$numbering, each_trial = experiment$each_trial)
}

#' @export
from_plain.draws_program <- function(plain, game) {
  new_experiment(c("habanera_draws_program", "habanera_draws"), deck = deck_from_plain(plain$deck),
                 size = as.double(plain$size), replace = plain$replace, shuffle = NULL,
                 command = plain$command, numbering = plain$numbering, time_limit = 600,
                 each_trial = isTRUE(plain$each_trial))
}

#' @export
exact.habanera_draws_program <- function(x, ...) refuse_exact_elsewhere(x, rlang::current_env())
