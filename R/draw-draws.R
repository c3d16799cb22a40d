# Draws and positions: which cards come, and where.

new_draws <- function(deck, size, replace = FALSE, shuffle = shuffle_uniform()) {
  new_experiment("habanera_draws", deck = deck, size = size, replace = replace, shuffle = shuffle)
}

# What draws() checks, of a draw without questions.
checked_draws <- function(deck, size, replace, call) {
  check_deck(deck, call)
  check_flag(replace, call = call)
  check_draw_size(size, parted_deck(deck, call = call), replace, call)
  new_draws(deck, as.double(size), replace)
}

#' @rdname draws
#' @export
positions <- function(deck, shuffle = shuffle_uniform()) {
  check_given()
  check_deck(deck)
  check_procedure(shuffle)
  x <- new_experiment("habanera_positions", deck = deck, shuffle = shuffle)
  cells <- as.double(length(deck)) * length(kinds_of(deck)$codes)
  if (cells > 2^24) {
    refuse(sprintf("This deck has %s card-by-position cells; at most %s can be counted.",
                   format_count(cells), format_count(2^24)), "work")
  }
  x
}

can_repeat <- function(x) x$size > 1 && (x$replace || anyDuplicated(codes_of(x$deck)) > 0)

#' @export
result_kind.habanera_draws <- function(experiment) "draws"
#' @export
result_kind.habanera_positions <- function(experiment) "positions"

#' @export
outcome_space.habanera_draws <- function(experiment) {
  data.frame(card = kinds_of(experiment$deck)$cards)
}
#' @export
outcome_space.habanera_positions <- function(experiment) {
  cards <- kinds_of(experiment$deck)$cards
  n <- length(experiment$deck)
  data.frame(card = rep(cards, times = n), position = rep(as.double(seq_len(n)), each = length(cards)))
}

#' @export
entries_per_trial.habanera_draws <- function(experiment) experiment$size
#' @export
entries_per_trial.habanera_positions <- function(experiment) as.double(length(experiment$deck))

#' @export
run_lap.habanera_draws <- function(experiment, seed, first, count, threads) {
  if (shuffled_by_function(experiment)) {
    kinds <- kinds_by_function(experiment, experiment$size, seed, first - 1 + seq_len(count))
    return(tally_of_draws(kinds, nrow(outcome_space(experiment)), first, can_repeat(experiment)))
  }
  repeats <- can_repeat(experiment)
  spec <- draw_spec(experiment$deck, experiment$size, experiment$replace, repeats,
                    experiment$shuffle)
  tally <- core_count_draws(spec, seed, first, count, threads)
  # A kind that stands k times in a draw is in k (k - 1) / 2 pairs.
  squares <- if (repeats) 2 * tally[["pairs"]] + tally$n
  list(n = tally$n, example_trial = tally$example_trial, squares = squares)
}
#' @export
run_lap.habanera_positions <- function(experiment, seed, first, count, threads) {
  if (has_function(experiment$shuffle)) {
    n <- length(experiment$deck)
    kinds <- kinds_by_function(experiment, n, seed, first - 1 + seq_len(count))
    cells <- (col(kinds) - 1L) * length(kinds_of(experiment$deck)$codes) + kinds
    return(tally_of_draws(cells, nrow(outcome_space(experiment)), first, FALSE))
  }
  spec <- draw_spec(experiment$deck, length(experiment$deck), FALSE, FALSE, experiment$shuffle)
  core_count_positions(spec, seed, first, count, threads)[c("n", "example_trial")]
}

#' @export
play_trials.habanera_draws <- function(experiment, seed, trials) {
  if (shuffled_by_function(experiment)) {
    return(drawn_cards(trials, kinds_by_function(experiment, experiment$size, seed, trials), experiment$deck))
  }
  spec <- draw_spec(experiment$deck, experiment$size, experiment$replace, FALSE, experiment$shuffle)
  drawn_cards(trials, core_trial_draws(spec, seed, trials), experiment$deck)
}
#' @export
play_trials.habanera_positions <- function(experiment, seed, trials) {
  if (has_function(experiment$shuffle)) {
    return(drawn_cards(trials, kinds_by_function(experiment, length(experiment$deck), seed, trials), experiment$deck))
  }
  spec <- draw_spec(experiment$deck, length(experiment$deck), FALSE, FALSE, experiment$shuffle)
  drawn_cards(trials, core_trial_draws(spec, seed, trials), experiment$deck)
}

# Whether trials have to be played in R: with replacement no deck is shuffled.
shuffled_by_function <- function(experiment) !experiment$replace && has_function(experiment$shuffle)

# The kinds of the first `size` cards after a shuffle with an R function in it: a row per trial.
kinds_by_function <- function(experiment, size, seed, trials) {
  codes <- kinds_of(experiment$deck)$codes
  kinds <- lapply(trials, function(trial) {
    match(codes_of(shuffled_cards(experiment$deck, experiment$shuffle, seed, trial, NULL))[seq_len(size)], codes)
  })
  matrix(unlist(kinds), nrow = length(trials), ncol = size, byrow = TRUE)
}

drawn_cards <- function(trials, kinds, deck) {
  drawn_rows(trials, matrix(kinds_of(deck)$cards[kinds], nrow = nrow(kinds), ncol = ncol(kinds)))
}

#' @export
in_words.habanera_draws <- function(x, ...) {
  sprintf("%s drawn from %s, %s", count_of(x$size, "card"), deck_in_words(x$deck),
          draw_manner(x))
}
#' @export
in_words.habanera_positions <- function(x, ...) {
  sprintf("where each card of %s comes after %s", deck_in_words(x$deck),
          procedure_in_words(x$shuffle))
}

#' @export
as_plain.habanera_draws <- function(experiment) {
  list(kind = "draws", deck = plain_deck(experiment$deck), size = experiment$size,
       replace = experiment$replace, shuffle = procedure_text(experiment$shuffle))
}

#' @export
as_plain.habanera_positions <- function(experiment) {
  list(kind = "positions", deck = plain_deck(experiment$deck),
       shuffle = procedure_text(experiment$shuffle))
}

#' @export
from_plain.draws <- function(plain, game) {
  new_draws(deck_from_plain(plain$deck), as.double(plain$size), plain$replace, procedure_from_plain(plain$shuffle))
}
#' @export
from_plain.positions <- function(plain, game) {
  positions(deck_from_plain(plain$deck), procedure_from_plain(plain$shuffle))
}
