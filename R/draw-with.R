#' @rdname draws_recorded
#' @param f An R function that is given the deck and returns the cards drawn: cards, codes or numbers.
#'   It may also take no argument.
#' @export
draws_with <- function(f, deck = deck_standard(), size = NULL, replace = FALSE, numbering = NULL) {
  check_given()
  check_function(f)
  check_deck(deck)
  check_flag(replace)
  call <- rlang::current_env()
  if (!is.null(numbering)) card_numbering(numbering, deck, call)
  x <- new_experiment(c("habanera_draws_with", "habanera_draws"), deck = deck, size = NULL,
                      replace = replace, shuffle = NULL, f = f, code = deparse(f),
                      numbering = numbering)
  if (is.null(size)) size <- length(call_draw_function(x, 0, 0, call))
  x$size <- check_draw_size(size, parted_deck(deck), replace, call)
  x
}

# The cards of one trial as text, or an error that says which trial.
call_draw_function <- function(x, seed, trial, call) {
  drawn <- refuse_if_fails(
    with_trial_generator(seed, trial, 0, if (length(formals(args(x$f)))) x$f(x$deck) else x$f()),
    sprintf("Your function failed in trial %s of seed %s.", format_count(trial), whole_code(seed)),
    "function", call
  )
  if (!is_cards(drawn) && !is.character(drawn) && !is.numeric(drawn)) {
    refuse(sprintf("Your function must return cards, codes or numbers, not %s.", said(drawn)),
           "function", call)
  }
  if (!is_cards(drawn) && is.character(drawn) && length(drawn) == 1) {
    drawn <- split_codes(drawn, catalogue_of(x$deck))
  }
  as.character(drawn)
}

# A matrix of kinds, a row per trial.
play_with_function <- function(x, seed, trials, call = rlang::caller_env()) {
  drawn <- lapply(trials, function(trial) {
    cards <- call_draw_function(x, seed, trial, call)
    if (length(cards) != x$size) {
      refuse(sprintf("Your function drew %s, not %s, in trial %s of seed %s.",
                     count_of(length(cards), "card"), format_count(x$size), format_count(trial),
                     whole_code(seed)), "function", call)
    }
    cards
  })
  trial_of <- function(i) sprintf("Trial %s", format_count(trials[(i - 1) %/% max(1, x$size) + 1]))
  kinds <- kinds_from_tokens(as.character(unlist(drawn)), x$deck, x$numbering, trial_of, call,
                             counted_from = 1)
  kinds <- matrix(kinds, nrow = length(trials), ncol = x$size, byrow = TRUE)
  refuse_doubled(kinds, x$deck, x$replace,
                 function(row) sprintf("Trial %s", format_count(trials[row])), call)
  kinds
}

#' @export
run_lap.habanera_draws_with <- function(experiment, seed, first, count, threads) {
  kinds <- play_with_function(experiment, seed, first - 1 + seq_len(count), call = NULL)
  tally_of_draws(kinds, nrow(outcome_space(experiment)), first, can_repeat(experiment))
}

#' @export
play_trials.habanera_draws_with <- function(experiment, seed, trials) {
  drawn_cards(trials, play_with_function(experiment, seed, trials, call = NULL), experiment$deck)
}

#' @export
in_words.habanera_draws_with <- function(x, ...) {
  paste0(NextMethod(), ", by an R function")
}

#' @export
as_plain.habanera_draws_with <- function(experiment) {
  list(kind = "draws_with", deck = plain_deck(experiment$deck), size = experiment$size,
       replace = experiment$replace, code = experiment$code, numbering = experiment$numbering)
}

# Read from a file, the function is only text: it is never run.
#' @export
from_plain.draws_with <- function(plain, game) {
  new_experiment(c("habanera_draws_with", "habanera_draws"), deck = deck_from_plain(plain$deck),
                 size = as.double(plain$size), replace = plain$replace, shuffle = NULL, f = NULL,
                 code = plain$code, numbering = plain$numbering)
}

#' @export
check_simulation.habanera_draws_with <- function(experiment, settings, call) {
  if (is.null(experiment$f)) {
    refuse("The function of these draws was not kept in the file; make them with draws_with().",
           call = call)
  }
}

#' @export
exact.habanera_draws_with <- function(x, ...) refuse_exact_elsewhere(x, rlang::current_env())

refuse_exact_elsewhere <- function(x, call) {
  refuse(paste("Draws made elsewhere have no exact answer here; hold their counts against",
               sprintf("exact(draws(deck, %s)).", format(x$size))), "work", call)
}
