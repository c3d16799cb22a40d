#' Which cards to keep
#'
#' Every choice of cards to keep from a hand, with the exact chance or mean of a value of the hand after the others
#' were exchanged, best first.
#'
#' @param hand The cards in the hand (cards, or codes as text), at most 10.
#' @param value An expression in the [question_language], such as `largest_group(suit) == 5` or `total(points)`.
#' @param deck The whole deck, the hand among it.
#' @return A data frame of class `habanera_exchanges`, best first: `keep` (text, the codes kept), `exchanged` (number of
#'   cards), `estimate` (exact chance or mean).
#' @section Errors: `habanera_error_conservation` for a hand that is not in the deck;
#'   `habanera_error_language` for a value that cannot be understood; `habanera_error_work` when an exact answer is out
#'   of reach.
#' @examples
#' best_exchange("AS KS 9S 4S 9D", largest_group(suit) == 5, deck_standard())
#' @export
best_exchange <- function(hand, value, deck = deck_standard()) {
  check_given()
  call <- rlang::current_env()
  check_deck(deck)
  value <- rlang::enquo(value)
  hand <- named_cards(hand, deck, "hand", call)
  if (!length(hand) || length(hand) > 10) {
    refuse(sprintf("`hand` must have from 1 to 10 cards, not %s.", format_count(length(hand))))
  }
  columns <- list(value = checked_outcome(rlang::quo_get_expr(value), catalogue_of(deck), list(),
                                          rlang::quo_get_env(value), call))
  choices <- as.matrix(expand.grid(rep(list(c(TRUE, FALSE)), length(hand))))
  refuse_textual(columns$value, deck, call)
  # Like cards make like choices.
  like <- apply(choices, 1, function(keep) paste(sort(codes_of(hand)[keep]), collapse = " "))
  rows <- which(!duplicated(like))
  found <- lapply(rows, function(row) {
    keep <- choices[row, ]
    data.frame(keep = paste(as.character(hand)[keep], collapse = " "), exchanged = sum(!keep),
               estimate = kept_value(hand, keep, columns, deck, call))
  })
  found <- do.call(rbind, found)
  found <- found[order(-found$estimate, found$exchanged), , drop = FALSE]
  rownames(found) <- NULL
  structure(found,
            made = call_made(), class = table_class("habanera_exchanges"), hand = paste(format(hand), collapse = " "),
            value = expression_text(columns$value))
}

# There is no best text.
refuse_textual <- function(value, deck, call) {
  pool <- new_pool(deck, deck[0], FALSE, 0, length(deck))
  words <- without_notes(asked_words(list(value), pool, hand_words, call))
  if (!is.character(outcome_values(value, words, 0, call))) return(invisible())
  refuse(sprintf("`%s` is a text; ask for a number or a condition, such as category() >= \"two pair\".",
                 expression_text(value)), "language", call)
}

# The exact value of keeping these and drawing the others anew.
kept_value <- function(hand, keep, columns, deck, call) {
  parts <- parted_deck(deck, hand[keep], hand[!keep], call)
  question <- without_notes(new_question(parts, sum(!keep), columns, FALSE, shuffle_uniform(), call))
  tidy(exact_question(question, "classes", call))$estimate[1]
}

#' @export
in_words.habanera_exchanges <- function(x, ...) {
  sprintf("From %s it is best to keep %s: %s is %s, exactly.", attr(x, "hand"),
          if (nzchar(x$keep[1])) x$keep[1] else "nothing", attr(x, "value"), format_number(x$estimate[1], 5))
}

#' @export
tell.habanera_exchanges <- function(x, rows = 8, ...) {
  cat_wrapped(sprintf("<exchanges> %s from %s, by %s, exact",
                      count_of(nrow(x), "choice"), attr(x, "hand"), attr(x, "value")))
  shown <- data.frame(keep = ifelse(nzchar(x$keep), x$keep, "(none)"), exchanged = x$exchanged,
                      value = format_number(x$estimate, 5))
  print_head(shown, rows)
  invisible(x)
}
