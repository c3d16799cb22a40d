# Cards taken out and put in by their places, as a shuffle written in a loop does thousands of times. Plain places are
# served by the core; everything else (names, logical or negative places, other cards, mistakes) is left to vctrs,
# which knows all cases and takes a hundred times as long.

#' @export
`[.cards` <- function(x, i, ...) {
  found <- if (!missing(i) && !...length()) core_cards_at(x, i)
  if (is.null(found)) NextMethod() else found
}

#' @export
`[[.cards` <- function(x, i, ...) {
  found <- if (!missing(i) && !...length() && length(i) == 1) core_cards_at(x, i)
  if (is.null(found)) NextMethod() else found
}

#' @export
`[<-.cards` <- function(x, i, ..., value) {
  put <- if (!missing(i) && !...length()) core_cards_put(x, i, value)
  if (is.null(put)) NextMethod() else put
}

#' @export
`[[<-.cards` <- function(x, i, ..., value) {
  put <- if (!missing(i) && !...length() && length(i) == 1) core_cards_put(x, i, value)
  if (is.null(put)) NextMethod() else put
}
