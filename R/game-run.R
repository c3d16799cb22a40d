# What the driver must know of a game. Its outcomes are whole numbers in the core and columns of text and numbers
# here; counts of them are read like those of a question without cards of its own.

#' @export
result_kind.habanera_game <- function(experiment) c("game", "outcomes")
#' @export
entries_per_trial.habanera_game <- function(experiment) 1

#' @export
run_lap.habanera_game <- function(experiment, seed, first, count, threads) {
  if (has_function(experiment$shuffle)) {
    trials <- first - 1 + seq_len(count)
    return(tally_of_rows(recorded_rows(play_shuffled_in_r(experiment, seed, trials), experiment$record), trials))
  }
  counted_rows(core_count_game(game_machine(experiment), experiment$spec, seed, first, count, threads),
               experiment$record)
}

# A tally of the core with its rows as a data frame.
counted_rows <- function(tally, names) {
  tally$rows <- recorded_rows(tally$rows, names)
  tally
}

recorded_rows <- function(columns, names) as.data.frame(rlang::set_names(columns, names), optional = TRUE)

# Trials played one by one, their like rows put together.
tally_of_rows <- function(rows, trials) {
  found <- gathered_rows(rows)
  list(rows = found$outcomes, n = found$sum(rep(1, nrow(rows))), example_trial = found$least(trials))
}

#' @export
counted_outcomes.habanera_game <- function(experiment, tally) {
  in_text_order(game_outcomes(experiment, tally$rows), tally)
}

# Rows in the order of their words, as counts that are joined have them.
in_text_order <- function(outcomes, tally) {
  rows <- gathered_rows(outcomes)
  list(outcomes = rows$outcomes, n = rows$sum(tally$n), example_trial = rows$least(tally$example_trial), pairs = NULL)
}

# Whole numbers of the core as text and numbers.
game_outcomes <- function(game, rows) {
  for (name in names(rows)) {
    words <- category_words(game, name)
    if (!is.null(words)) rows[[name]] <- words[rows[[name]] + 1]
  }
  rows
}

#' @export
finest_outcome.habanera_game <- function(experiment) {
  experiment$record[length(experiment$record)]
}

#' @export
precision_terms.habanera_game <- function(experiment) experiment$record

#' @export
half_widths.habanera_game <- function(experiment, tally, done, wanted) {
  outcome_half_widths(counted_outcomes(experiment, tally), done, wanted)
}

#' @export
play_trials.habanera_game <- function(experiment, seed, trials) {
  rows <- if (has_function(experiment$shuffle)) play_shuffled_in_r(experiment, seed, trials) else {
    core_trial_game(game_machine(experiment), experiment$spec, seed, trials)
  }
  cbind(data.frame(trial = trials),
        game_outcomes(experiment, recorded_rows(rows, experiment$record)))
}

play_shuffled_in_r <- function(game, seed, trials) {
  decks <- lapply(trials, function(trial) game_deck(game, seed, trial))
  core_trial_game_on(game_machine(game), game$spec, seed, trials,
                     matrix(unlist(decks), nrow = length(trials), byrow = TRUE))
}

# The kinds of the deck as trial `trial` deals it, from the top.
game_deck <- function(game, seed, trial) {
  if (!has_function(game$shuffle)) return(core_game_deck(game$spec, seed, trial))
  match(codes_of(shuffled_cards(game$deck, game$shuffle, seed, trial, NULL)), kinds_of(game$deck)$codes)
}

#' @export
as_plain.habanera_game <- function(experiment) {
  settings <- experiment$settings
  list(kind = "game", game = experiment$game, deck = plain_deck(experiment$rules$deck),
       rules = plain_given(experiment$given), shuffle = procedure_text(experiment$shuffle),
       piles = if (!is.null(experiment$piles)) lapply(experiment$piles, as.character),
       seat_names = experiment$seat_names, record = experiment$record,
       has_function = if (has_function(experiment$shuffle)) TRUE, named = !is.null(settings$seat_names))
}

plain_given <- function(given) {
  given$deck <- NULL
  plain_rules(given)
}
