# Cards held or gone, named by users, and a deck without them.

# The first cards of these codes taken out.
without_codes <- function(deck, gone) {
  codes <- codes_of(deck)
  copy <- stats::ave(seq_along(codes), codes, FUN = seq_along)
  deck[copy > tabulate(gone, max(codes, gone, 0))[codes]]
}

named_cards <- function(x, deck, name, call) {
  if (is.null(x)) return(deck[0])
  if (is_cards(x)) {
    if (catalogue_of(x)$id == catalogue_of(deck)$id) return(check_cards_argument(x, name, call))
    refuse(sprintf("`%s` must be cards of the deck's own catalogue.", name), "catalogue", call)
  }
  if (!is.character(x)) refuse(sprintf("`%s` must be cards or their codes, not %s.", name, said(x)), call = call)
  if (length(x) && !any(nzchar(trimws(x)))) {
    refuse(sprintf("`%s` names no card; leave it out where there is none.", name), call = call)
  }
  as_cards(x, like = deck)
}
