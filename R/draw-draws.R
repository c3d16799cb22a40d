#' Draws and positions
#'
#' Experiments that ask what comes off the top of a deck.
#'
#' Without questions each trial of `draws()` adds one entry per card drawn: which cards come up. The cards
#' are the first `size` of that trial's [shuffle()] (or, with replacement, cards each from the whole deck).
#' In `positions()` each trial adds one entry per card: which card came at which position, from the top.
#'
#' With questions, named expressions in `...`, each trial adds one row of their values: see
#' [question_language].
#'
#' @param deck Cards, up to 65,535; with questions also a deck sampled anew in each trial (see [deck_sampled()]).
#' @param size Number of cards in the hand, the `held` ones among them: 0 or more, at most the deck's size
#'   unless `replace`.
#' @param ... Questions by name, such as `aces = count(rank == "A")`; later ones may use earlier ones.
#' @param replace Whether each card goes back before the next is drawn.
#' @param shuffle A shuffling procedure.
#' @param held Cards already in the hand (cards, or codes as text): they leave the deck.
#' @param dead Cards known to be out of play: they leave the deck.
#' @return An experiment for [simulate()][simulate.habanera_experiment], [exact()], [trials()].
#'   Outcome columns: those asked; without questions `card` (code; one row for every kind in the deck, in
#'   the order of its catalogue); `positions()` also has `position` (1 is the top).
#' @section Exact answers: Of a kind with m copies among n cards, a draw of k holds k m / n on
#'   average, with or without replacement; a position holds it with chance m / n. `exact(x, method =
#'   "walk")` gets the same by walking every path of the code that simulates, on small decks.
#' @section Errors: `habanera_error_input` for a size larger than the deck and other impossible
#'   settings; `habanera_error_language` for a question that cannot be understood;
#'   `habanera_error_work` for more than 16.7 million card-by-position cells, or a walk of
#'   more than 5 million paths.
#' @examples
#' five <- draws(deck_standard(), 5)
#' simulate(five, nsim = 1e4, seed = 1)
#' exact(five)
#' simulate(positions(deck_numbered(4)), nsim = 1e4, seed = 1)
#' x <- draws(deck_standard(), 5, aces = count(rank == "A"), two_up = aces >= 2)
#' exact(x)
#' summary(simulate(x, nsim = 1e4, seed = 1))
#' @export
draws <- function(deck, size, ..., replace = FALSE, shuffle = shuffle_uniform(), held = NULL, dead = NULL) {
  call <- rlang::current_env()
  refuse_short_names(rlang::names2(as.list(sys.call())), call)
  questions <- rlang::enquos(...)
  if (!length(questions) || !is_sampling(deck)) check_deck(deck)
  check_flag(replace)
  parts <- parted_deck(deck, held, dead, call)
  check_draw_size(size, parts, replace, call)
  check_manner(replace, shuffle, parts, call)
  drawn <- as.double(size) - length(parts$held)
  if (!length(questions)) {
    return(new_experiment("habanera_draws", deck = parts$deck, size = drawn, replace = replace, shuffle = shuffle))
  }
  new_question(parts, drawn, checked_columns(questions, catalogue_of(parts$deck), call), replace, shuffle, call)
}

# R takes a question called `d` or `si` for `deck` or `size`.
refuse_short_names <- function(names, call) {
  for (name in c("deck", "size")) {
    short <- names[nzchar(names) & names != name & startsWith(name, names)]
    if (length(short)) {
      refuse(sprintf("A question cannot be called `%s`: R reads that as `%s`. Give it a longer name.", short[1], name),
             call = call)
    }
  }
}

#' @rdname draws
#' @export
positions <- function(deck, shuffle = shuffle_uniform()) {
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
  if (!repeats) tally["pairs"] <- list(NULL)
  tally
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
  tally <- core_count_positions(spec, seed, first, count, threads)
  tally["pairs"] <- list(NULL)
  tally
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
in_words.habanera_draws <- function(experiment) {
  sprintf("%s drawn from %s, %s", count_of(experiment$size, "card"), deck_in_words(experiment$deck),
          draw_manner(experiment))
}
#' @export
in_words.habanera_positions <- function(experiment) {
  sprintf("where each card of %s comes after %s", deck_in_words(experiment$deck),
          procedure_in_words(experiment$shuffle))
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
from_plain.draws <- function(plain) {
  x <- draws(deck_from_plain(plain$deck), plain$size, replace = plain$replace)
  x["shuffle"] <- list(procedure_from_plain(plain$shuffle))
  x
}
#' @export
from_plain.positions <- function(plain) {
  positions(deck_from_plain(plain$deck), procedure_from_plain(plain$shuffle))
}
