#' Are all the cards there?
#'
#' Compares the cards of two piles, whatever their order, kind by kind.
#'
#' @param x Cards, or codes as text (which may be foreign to the deck).
#' @param against The cards that should be there.
#' @return A data frame of class `habanera_card_check` with a row per kind that is wrong: `card`
#'   (code), `expected` and `found` (numbers of copies), and `problem`: "missing", "doubled" (more
#'   copies than there should be) or "foreign" (none should be there). No rows: nothing is wrong.
#' @examples
#' check_cards(shuffle(deck_standard(), seed = 1), against = deck_standard())
#' check_cards("AS AS KD 9H", against = as_cards("AS KD QC"))
#' @export
check_cards <- function(x, against) {
  check_given()
  check_cards_argument(against)
  found <- found_codes(x, against, rlang::current_env())
  expected <- as.character(against)
  kinds <- unique(c(expected, found))
  listed <- data.frame(card = kinds, expected = copies_of(kinds, expected),
                       found = copies_of(kinds, found))
  listed$problem <- ifelse(listed$found < listed$expected, "missing",
                           ifelse(listed$expected == 0, "foreign", "doubled"))
  listed <- listed[listed$found != listed$expected, , drop = FALSE]
  rownames(listed) <- NULL
  structure(listed, made = call_made(), class = table_class("habanera_card_check"), cards = length(expected))
}

found_codes <- function(x, against, call) {
  if (is_cards(x)) return(as.character(check_cards_argument(x, "x", call)))
  if (!is.character(x)) refuse(sprintf("`x` must be cards or codes, not %s.", said(x)), call = call)
  check_utf8(x, "x", call)
  tokens <- split_codes(x, catalogue_of(against))
  codes <- find_codes(tokens, catalogue_of(against))
  ifelse(is.na(codes), tokens, catalogue_of(against)$data$card[codes])
}

copies_of <- function(kinds, cards) tabulate(match(cards, kinds), nbins = length(kinds))

#' @export
tell.habanera_card_check <- function(x, ...) {
  if (!nrow(x)) {
    cat(sprintf("Nothing missing, nothing doubled, nothing foreign: all %s are there.\n",
                count_of(attr(x, "cards"), "card")))
    return(invisible(x))
  }
  for (problem in c("missing", "doubled", "foreign")) {
    rows <- x[x$problem == problem, , drop = FALSE]
    if (nrow(rows)) {
      each <- sprintf("%s (%d instead of %d)", rows$card, rows$found, rows$expected)
      cat(sprintf("%s: %s\n", problem, join_some(each, 12)))
    }
  }
  invisible(x)
}

# How many cards there are: of a deck, or as said.
counted_deck <- function(deck, from, to, call) {
  count <- if (is_cards(deck)) length(deck) else deck
  if (!is.numeric(count)) refuse(sprintf("`deck` must be cards, or how many, not %s.", said(deck)), call = call)
  check_whole(count, from, to, "deck", call)
}
