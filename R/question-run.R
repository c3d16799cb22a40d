# What the driver must know of a question.

#' @export
result_kind.habanera_asked <- function(experiment) c("question", "outcomes")
#' @export
entries_per_trial.habanera_question <- function(experiment) experiment$turns + 1

#' @export
run_lap.habanera_asked <- function(experiment, seed, first, count, threads) {
  if (played_in_r(experiment)) return(tally_of_plays(play_in_r(experiment, seed, first - 1 + seq_len(count)), first))
  tryCatch(core_count_question(experiment$spec, seed, first, count, threads),
           `std::length_error` = function(cnd) refuse_too_many_outcomes(experiment))
}

# The column whose words have most combinations.
#' @export
finest_outcome.habanera_question <- function(experiment) {
  cells <- vapply(names(experiment$columns), function(name) {
    texts <- names(calls_of(experiment$columns[[name]], c(hand_words, turn_words)))
    prod(vapply(experiment$words$each[texts], `[[`, 0, "size"))
  }, 0)
  names(experiment$columns)[which.max(cells)]
}

#' @export
precision_terms.habanera_question <- function(experiment) names(experiment$columns)

#' @export
half_widths.habanera_asked <- function(experiment, tally, done, wanted) {
  outcome_half_widths(counted_outcomes(experiment, tally), done, wanted)
}

# Keys of the core as rows of outcomes, like rows added up.
#' @export
counted_outcomes.habanera_asked <- function(experiment, tally) {
  rows <- gathered_rows(key_outcomes(experiment, tally$key))
  list(outcomes = rows$outcomes, n = rows$sum(tally$n), example_trial = rows$least(tally$example_trial))
}

#' @export
play_trials.habanera_asked <- function(experiment, seed, trials) {
  played <- if (played_in_r(experiment)) play_in_r(experiment, seed, trials) else {
    core_trial_question(experiment$spec, seed, trials)
  }
  played_rows(experiment, played, trials)
}

# A row for each trial and turn: the outcomes, then the cards in the hand at the end.
played_rows <- function(x, played, trials) {
  most <- max(lengths(played$hands), 0)
  hands <- t(vapply(played$hands, function(hand) x$pool$kinds$cards[hand[seq_len(most)]], character(most)))
  hands <- matrix(hands, nrow = length(trials), ncol = most,
                  dimnames = list(NULL, sprintf("card_%d", seq_len(most))))
  turns <- lengths(played$keys)
  row <- rep(seq_along(trials), times = turns)
  cbind(data.frame(trial = trials[row]), key_outcomes(x, unlist(played$keys)),
        as.data.frame(hands)[row, , drop = FALSE], row.names = NULL)
}

#' @export
check_simulation.habanera_question <- function(experiment, settings, call) {
  refuse_far_places(experiment, call)
  if (has_keep_function(experiment) && is.null(experiment$stages[[1]]$f)) {
    refuse("The keep function was not kept in the file; make the question again with exchange_cards().", call = call)
  }
}
