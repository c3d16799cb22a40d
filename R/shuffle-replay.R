#' Watch one trial
#'
#' `replay()` plays one trial again and writes down every move.
#'
#' @param x A procedure.
#' @param seed,trial The address of the trial; a procedure that leaves nothing to chance needs none.
#' @param deck Cards.
#' @param ... Not used.
#' @return A `habanera_trace`: a list with `before` and `after` (cards) and `moves`, a data frame with a row
#'   per move: `step` (text), `from` and `to` (places that change cards; `NA` when the whole deck is laid
#'   anew) and `cards` (codes after the move; `|` stands between packets that were not neighbours before).
#'   Read its result with `compare(x$before, x$after)`.
#' @examples
#' replay(procedure("riffle, cut"), seed = 1, trial = 1, deck = deck_numbered(12))
#' @export
replay <- function(x, seed, trial = 1, ...) {
  check_given("x")
  UseMethod("replay")
}

#' @export
replay.default <- function(x, seed, trial = 1, ...) {
  refuse(sprintf("`x` must be a shuffling procedure, not %s.", said(x)))
}

#' @rdname replay
#' @export
replay.habanera_procedure <- function(x, seed, trial = 1, deck = deck_standard(), ...) {
  # Where nothing is left to chance no address is needed.
  if (missing(seed) && is_cards(deck) && !is.null(fixed_pass(x, length(deck)))) seed <- 1
  check_given()
  check_seed(seed)
  check_whole(trial)
  check_deck(deck)
  if (has_function(x)) refuse("The moves of an R function cannot be watched; use compare(before, after).")
  moves <- core_recorded_moves(core_steps(x), length(deck), seed, trial)
  before <- rbind(seq_along(deck), moves$after)[seq_len(nrow(moves$after)), , drop = FALSE]
  names <- rep(vapply(x$steps, `[[`, "", "name"), step_times(x))
  cards <- as.character(deck)
  laid <- vapply(seq_len(nrow(moves$after)), function(i) {
    packets_text(cards[moves$after[i, ]], before[i, ], moves$after[i, ], is.na(moves$from[i]))
  }, "")
  last <- if (length(laid)) moves$after[nrow(moves$after), ] else seq_along(deck)
  structure(
    list(before = deck, after = deck[last], seed = seed, trial = trial, procedure = x,
         moves = data.frame(step = names[moves$step], from = moves$from, to = moves$to, cards = laid)),
    made = call_made(), class = result_class("habanera_trace")
  )
}

# The cards in their order, with a bar wherever two neighbours were none before the move.
packets_text <- function(cards, before, after, whole) {
  if (!whole || length(cards) < 2) return(paste(cards, collapse = " "))
  was <- match(after, before)
  broken <- c(diff(was) != 1, FALSE)
  paste(paste0(cards, ifelse(broken, " |", "")), collapse = " ")
}

#' @rawNamespace S3method(generics::tidy, habanera_trace)
tidy.habanera_trace <- function(x, ...) x$moves

#' @export
tell.habanera_trace <- function(x, most = 30, ...) {
  cat(sprintf("<trace> \"%s\" on %s; seed %s, trial %s\n", format(x$procedure),
              deck_in_words(x$before), whole_code(x$seed), format_count(x$trial)))
  cat("  before: ", paste(as.character(x$before), collapse = " "), "\n", sep = "")
  shown <- utils::head(x$moves, most)
  what <- ifelse(is.na(shown$from), shown$step,
                 sprintf("%s: %s with %s", shown$step, shown$from, shown$to))
  cat(sprintf("%8d. %s\n          %s\n", seq_len(nrow(shown)), what, shown$cards), sep = "")
  if (nrow(x$moves) > most) cat(sprintf("# ... with %s more moves\n", format_count(nrow(x$moves) - most)))
  if (setequal_cards(x)) writeLines(leftovers_in_words(compare(x$before, x$after))) else
    cat("Not a shuffle: cards were lost and doubled.\n")
  invisible(x)
}

setequal_cards <- function(x) nrow(check_cards(x$after, against = x$before)) == 0
