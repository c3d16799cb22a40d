# What a draw is made of: a deck in its parts, and how its cards are drawn.

# How cards are drawn: with replacement there is nothing to shuffle.
check_manner <- function(replace, shuffle, call) {
  check_procedure(shuffle, "shuffle", call)
  if (replace && !is_uniform(shuffle)) {
    refuse("With `replace` each card comes from the whole deck: no shuffle, so give only one of the two.", call = call)
  }
}

# The hand's size, with the cards held in it; `parts` is what parted_deck() gives.
check_draw_size <- function(size, parts, replace, call = rlang::caller_env()) {
  held <- length(parts$held)
  n <- length(parts$deck)
  check_whole(size, held, if (!replace) held + n else if (n == 0) held else 1e6, "size", call)
}

# A deck without the cards held and dead, and these as cards.
parted_deck <- function(deck, held = NULL, dead = NULL, call = rlang::caller_env()) {
  held <- named_cards(held, deck, "held", call)
  dead <- named_cards(dead, deck, "dead", call)
  gone <- codes_of(c(held, dead))
  asked <- tabulate(gone, nrow(catalogue_of(deck)$data))
  there <- tabulate(codes_of(deck), nrow(catalogue_of(deck)$data))
  short <- which(asked > there)
  if (length(short)) {
    sides <- c(if (short[1] %in% codes_of(held)) "held", if (short[1] %in% codes_of(dead)) "dead")
    refuse(sprintf("Card %s is %s %d times; the deck has it %d.", quoted(catalogue_of(deck)$data$card[short[1]]),
                   join_words(sides), asked[short[1]], there[short[1]]), "conservation", call)
  }
  list(whole = deck, deck = without_codes(deck, gone), held = held, dead = dead)
}

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
  as_cards(x, like = deck)
}

# Draws made elsewhere have no procedure of ours.
draw_manner <- function(x) {
  if (x$replace) return("each put back before the next")
  if (is.null(x$shuffle)) return("without replacement")
  sprintf("without replacement after %s", procedure_in_words(x$shuffle))
}
