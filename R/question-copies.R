#' How many copies?
#'
#' A chance (or mean) as a function of how many copies of a card the deck holds, exact. Two cards at once give a
#' grid.
#'
#' @param question A question of [draws()], with or without stages, or [draw_until()].
#' @param card The code of the card; or two codes.
#' @param copies Numbers of copies, whole numbers; for two cards, or a list of two such.
#' @param instead_of The code of the card that gives way, so that the deck keeps its size; `NULL`: the deck grows.
#' @return A data frame of class `habanera_copies`: `copies` (of the card, a number), for two cards `copies_2`, `cards`
#'   in the deck, `term` and `turn` as in [tidy()][tidy.habanera_counts], `estimate` (exact).
#' @section Errors: `habanera_error_input` when `instead_of` has too few copies to give way;
#'   `habanera_error_work` when the exact answer is out of reach.
#' @examples
#' built <- deck_from(demo_file("windfall.yaml"))
#' opening <- draws(built, 6, playable = count(kind == "fruit" & cost <= 2) >= 1)
#' copies_curve(opening, "plum", 0:7, instead_of = "quince")
#' @export
copies_curve <- function(question, card, copies = 0:10, instead_of = NULL) {
  check_given()
  call <- rlang::current_env()
  if (!inherits(question, "habanera_until")) check_question(question, call)
  check_deck(question$whole, call)
  cards <- check_curve_cards(card, instead_of, question$whole, call)
  grid <- copies_grid(copies, length(cards$card), call)
  found <- lapply(seq_len(nrow(grid)), function(row) {
    deck <- deck_with_copies(question$whole, cards, unlist(grid[row, ]), call)
    terms <- tidy(exact(question_with_deck(question, deck, call)))
    cbind(grid[rep(row, nrow(terms)), , drop = FALSE], cards = length(deck), terms, row.names = NULL)
  })
  structure(do.call(rbind, found),
            made = call_made(), class = table_class("habanera_copies"), card = card, instead_of = instead_of,
            question = in_words(question), deck_now = card_counts(question$whole, cards$card))
}

check_curve_cards <- function(card, instead_of, deck, call) {
  data <- catalogue_of(deck)$data
  code <- function(x, name, most) {
    if (!is.character(x) || !length(x) %in% seq_len(most)) {
      refuse(sprintf("`%s` must be the code of a card%s, not %s.", name, if (most > 1) ", or two codes" else "",
                     said(x)), call = call)
    }
    check_utf8(x, name, call)
    # A name of several words is one card here.
    found <- match(tolower(x), tolower(data$card))
    unknown <- which(is.na(found))
    if (length(unknown)) {
      refuse(sprintf("`%s` names %s, which is no card of the deck's catalogue%s", name, quoted(x[unknown[1]]),
                     did_you_mean(x[unknown[1]], data$card)), call = call)
    }
    found
  }
  cards <- list(card = code(card, "card", 2), instead_of = if (!is.null(instead_of)) code(instead_of, "instead_of", 1))
  if (anyDuplicated(unlist(cards))) refuse("`card` and `instead_of` must be different cards.", call = call)
  cards
}

copies_grid <- function(copies, cards, call) {
  sides <- if (is.list(copies)) copies else rep(list(copies), cards)
  fits <- function(side) {
    is.numeric(side) && length(side) && all(is.finite(side) & side >= 0 & side <= most_cards & side == floor(side))
  }
  if (length(sides) != cards || !all(vapply(sides, fits, TRUE))) {
    refuse(sprintf("`copies` must be whole numbers from 0 to %s; for two cards, or a list of two such vectors.",
                   format_count(most_cards)), call = call)
  }
  names(sides) <- c("copies", "copies_2")[seq_along(sides)]
  expand.grid(lapply(sides, as.double), KEEP.OUT.ATTRS = FALSE)
}

card_counts <- function(deck, codes) vapply(codes, function(code) sum(codes_of(deck) == code), 0)

deck_with_copies <- function(deck, cards, copies, call) {
  codes <- codes_of(deck)
  more <- sum(copies) - sum(card_counts(deck, cards$card))
  kept <- codes[!codes %in% c(cards$card, cards$instead_of)]
  given <- if (!is.null(cards$instead_of)) sum(codes == cards$instead_of) - more
  if (!is.null(given) && given < 0) {
    refuse(sprintf("%s cannot give way to %s more cards: the deck has %s of it.",
                   quoted(catalogue_of(deck)$data$card[cards$instead_of]), format_count(more),
                   format_count(given + more)), call = call)
  }
  new_cards(c(kept, rep(cards$card, times = copies), if (!is.null(given)) rep(cards$instead_of, given)),
            catalogue_of(deck))
}

# The same question of another deck.
question_with_deck <- function(x, deck, call) {
  if (inherits(x, "habanera_until")) {
    most <- if (x$most == length(x$deck)) length(deck) else min(x$most, length(deck))
    return(without_notes(new_until(deck, x$condition, most, x$shuffle, call)))
  }
  parts <- parted_deck(deck, x$held, x$dead, call)
  without_notes(new_question(parts, x$size, x$columns, x$replace, x$shuffle, call, x$stages, x$turns, x$turn_size))
}

#' @export
tell.habanera_copies <- function(x, ...) {
  instead <- if (!is.null(attr(x, "instead_of"))) paste(" instead of", quoted(attr(x, "instead_of")))
  cat_wrapped("<copies> ", attr(x, "question"), "; copies of ", join_words(quoted(attr(x, "card"))), instead)
  shown <- last_turn(as.data.frame(x))
  if (!is.null(x[["turn"]])) cat(sprintf("At turn %s:\n", format_count(max(x[["turn"]]))))
  by <- intersect(c("copies", "copies_2", "cards"), names(shown))
  table <- shown[!duplicated(shown[by]), by, drop = FALSE]
  for (term in unique(shown$term)) {
    of_term <- shown[shown$term == term, , drop = FALSE]
    table[[term]] <- format_number(of_term$estimate[match(do.call(paste, table[by]), do.call(paste, of_term[by]))], 4)
  }
  print_rows(table)
  invisible(x)
}

#' @export
as.data.frame.habanera_copies <- function(x, row.names = NULL, optional = FALSE, ...) {
  class(x) <- "data.frame"
  attributes(x)[c("card", "instead_of", "question", "deck_now")] <- NULL
  x
}
