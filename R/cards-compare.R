#' Compare two things
#'
#' `compare(before, after)` on two orders of the same cards marks what a shuffle left: cards that did
#' not move and neighbours that are still together, beside how many of each a fair shuffle would
#' leave. `compare(counts, distribution)` holds counts against an exact answer.
#'
#' In a fair shuffle of n cards the card at a place is any of the n, so a kind with m copies is
#' expected m/n times at each place that held it: 1 card in place when all differ. An ordered pair of
#' neighbours (a, b) comes up at each of the n - 1 pairs of places with chance m_a m_b / (n (n - 1)),
#' or m_a (m_a - 1) / (n (n - 1)) when a = b: (n - 1)/n neighbours in all when all differ.
#'
#' @param x Cards before, or counts.
#' @param y Cards after, or a distribution.
#' @param ... Not used.
#' @return For cards, a `habanera_order_comparison`: a data frame with a row per place and the columns
#'   `place`, `before`, `after` (codes), `in_place` and `together` (logical: this card of `after` and
#'   the one below it were neighbours in the same order before). For counts, a
#'   `habanera_comparison`; see [compare.habanera_counts()].
#' @section Errors: `habanera_error_conservation` when the two are not the same cards.
#' @examples
#' deck <- deck_standard(ranks = c("J", "Q", "K", "A"))
#' compare(deck, shuffle(deck, seed = 1))
#' @export
compare <- function(x, y, ...) {
  check_given()
  if (missing(y)) refuse("compare() needs two things to compare; `y` is missing.")
  UseMethod("compare")
}

#' @export
compare.default <- function(x, y, ...) {
  refuse(sprintf(paste("compare() takes two orders of the same cards, or counts and a distribution,",
                       "not %s."), said(x)))
}

#' @export
compare.cards <- function(x, y, ...) {
  check_cards_argument(x)
  check_cards_argument(y)
  wrong <- check_cards(y, against = x)
  if (nrow(wrong) || length(x) != length(y)) {
    refuse(sprintf("`y` is no rearrangement of `x`: %s is %s.", quoted(wrong$card[1]),
                   wrong$problem[1]), "conservation")
  }
  before <- as.character(x)
  after <- as.character(y)
  n <- length(before)
  together <- if (n < 2) rep(FALSE, n) else c(neighbours(after) %in% neighbours(before), FALSE)
  listed <- data.frame(place = seq_len(n), before = before, after = after,
                       in_place = before == after, together = together)
  structure(listed, made = call_made(), class = table_class("habanera_order_comparison"), cards = y,
            was = x, expected = fair_leftovers(before))
}

# Each card with the one below it, as one text.
neighbours <- function(cards) paste(cards[-length(cards)], cards[-1], sep = "\r")

# How many cards in place and neighbours together a fair shuffle leaves on average.
fair_leftovers <- function(cards) {
  n <- length(cards)
  if (n == 0) return(c(in_place = 0, together = 0))
  kinds <- unique(cards)
  copies <- copies_of(kinds, cards)[match(cards, kinds)]
  in_place <- sum(copies) / n
  if (n == 1) return(c(in_place = in_place, together = 0))
  pair <- !duplicated(neighbours(cards))
  first <- which(pair)
  ways <- copies[first] * (copies[first + 1] - (cards[first] == cards[first + 1]))
  c(in_place = in_place, together = sum(ways) / n)
}

#' @export
in_words.habanera_order_comparison <- function(x, ...) paste(leftovers_in_words(x), collapse = " ")

#' @export
tell.habanera_order_comparison <- function(x, most = 60, ...) {
  n <- nrow(x)
  cat(sprintf("<comparison> two orders of %s\n", count_of(n, "card")))
  shown <- seq_len(min(n, most))
  was <- attr(x, "was")[shown]
  now <- attr(x, "cards")[shown]
  width <- max(5, nchar(format(was)), nchar(format(now)))
  cat(sprintf("place %s  %s\n", formatC("before", width = -width), "after"))
  marks <- paste0(ifelse(x$in_place[shown], " = in place", ""),
                  ifelse(x$together[shown], " + with the next", ""))
  cat(sprintf("%5d %s  %s%s\n", shown, paint_suits(formatC(format(was), width = -max(width, 6)), was),
              paint_suits(formatC(format(now), width = -width), now), marks), sep = "")
  if (n > most) cat(sprintf("# ... with %s more\n", format_count(n - most)))
  cat(leftovers_in_words(x), sep = "\n")
  invisible(x)
}

leftovers_in_words <- function(x) {
  expected <- attr(x, "expected")
  c(sprintf("%d of %d in place; %s expected.", sum(x$in_place), nrow(x),
            format(expected[["in_place"]], digits = 3)),
    sprintf("%d of %d neighbours still together; %s expected.", sum(x$together),
            max(nrow(x) - 1, 0), format(expected[["together"]], digits = 3)))
}
