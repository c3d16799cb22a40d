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
  check_given()
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
    return(new_draws(parts$deck, drawn, replace, shuffle))
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

# What is typed, as draws() takes it: nothing in it finds anything but cards and words.
typed_question <- function(expr) rlang::new_quosure(expr, emptyenv())
