#' How long until?
#'
#' An experiment that turns cards from the top, one by one, until a condition on all the cards turned holds: the
#' first ace, all suits seen, worth over 21.
#'
#' @param deck Cards.
#' @param condition A condition in the [question_language], such as `distinct(suit) == 4`. It is asked before the
#'   first card, too.
#' @param by_at_most `NULL`, or the number of cards after which to stop all the same.
#' @param shuffle A shuffling procedure.
#' @return An experiment for [simulate()][simulate.habanera_experiment], [exact()], [trials()]. Outcome columns:
#'   `turned` (number of cards turned) and `met` (logical: whether the condition holds then; if not, the cards
#'   ended or `by_at_most` was reached).
#' @section Errors: `habanera_error_language` for a condition that cannot be understood.
#' @examples
#' exact(draw_until(deck_standard(), count(rank == "A") >= 1))
#' summary(exact(draw_until(deck_from(demo_file("orchard.csv")), distinct(suit) == 4)))
#' @export
draw_until <- function(deck, condition, by_at_most = NULL, shuffle = shuffle_uniform()) {
  check_given()
  call <- rlang::current_env()
  condition <- rlang::enquo(condition)
  check_deck(deck)
  check_procedure(shuffle)
  most <- if (is.null(by_at_most)) length(deck) else check_whole(by_at_most, 0, length(deck))
  checked <- checked_outcome(rlang::quo_get_expr(condition), catalogue_of(deck), list(), rlang::quo_get_env(condition),
                             call, turns = FALSE)
  new_until(deck, checked, most, shuffle, call)
}

new_until <- function(deck, condition, most, shuffle, call) {
  x <- new_experiment(c("habanera_until", "habanera_asked"), whole = deck, deck = deck, condition = condition,
                      most = as.double(most),
                      replace = FALSE, shuffle = shuffle)
  x$pool <- new_pool(deck, deck[0], FALSE, 0, most)
  if (!length(asked_words(list(condition = condition), x$pool, hand_words, call)$each)) {
    refuse(sprintf("`condition` %s uses no card; ask of the cards, as in count(rank == \"A\") >= 1.",
                   expression_text(condition)), "language", call)
  }
  x$spec <- list(until = TRUE, draw = question_draw(x, most), most = x$most,
                 condition = new_condition(condition, x$pool, 0, call)$core)
  x
}

#' @export
entries_per_trial.habanera_until <- function(experiment) 1
#' @export
precision_terms.habanera_until <- function(experiment) c("turned", "met")

#' @export
key_outcomes.habanera_until <- function(x, key) data.frame(turned = key %/% 2, met = key %% 2 == 1)

#' @rdname exact
#' @export
exact.habanera_until <- function(x, method = c("classes", "walk"), ...) {
  exact_question(x, check_choice(method, c("classes", "walk")), rlang::current_env())
}

#' @export
in_words.habanera_until <- function(x, ...) {
  limited <- x$most < length(x$deck)
  sprintf("cards turned from %s%s until %s, %s", deck_in_words(x$deck),
          if (limited) sprintf(", at most %s,", format_count(x$most)) else "",
          expression_text(x$condition), draw_manner(x))
}

#' @export
as_plain.habanera_until <- function(experiment) {
  list(kind = "until", deck = plain_deck(experiment$deck), condition = expression_text(experiment$condition),
       most = experiment$most, shuffle = procedure_text(experiment$shuffle))
}

#' @export
from_plain.until <- function(plain, game) {
  deck <- deck_from_plain(plain$deck)
  condition <- parse_expression(plain$condition, "condition", NULL)
  condition <- checked_outcome(condition, catalogue_of(deck), list(), NULL, NULL)
  new_until(deck, condition, plain$most, procedure_from_plain(plain$shuffle), NULL)
}
