# What a draw is made of: a deck in its parts, and how its cards are drawn.

# How cards are drawn from the `parts` that parted_deck() gives: with replacement there is nothing to shuffle.
check_manner <- function(replace, shuffle, parts, call) {
  check_procedure(shuffle, "shuffle", call)
  if (is_sampling(parts$whole) && (replace || has_function(shuffle))) {
    refuse(sprintf("From a deck sampled anew in each trial cards are drawn without %s.",
                   if (replace) "replacement" else "R functions that shuffle"), call = call)
  }
  if (replace && !is_uniform(shuffle)) {
    refuse("With `replace` each card comes from the whole deck: no shuffle, so give only one of the two.", call = call)
  }
}

# The hand's size, with the cards held in it; `parts` is what parted_deck() gives.
check_draw_size <- function(size, parts, replace, call = rlang::caller_env()) {
  held <- length(parts$held)
  n <- drawable(parts)
  check_whole(size, held, if (!replace) held + n else if (n == 0) held else 1e6, "size", call)
}

# How many cards there are to draw.
drawable <- function(parts) if (is_sampling(parts$whole)) parts$whole$size else length(parts$deck)

# A deck without the cards held and dead, and these as cards. Of a deck sampled anew, `deck` is all that it may hold.
parted_deck <- function(deck, held = NULL, dead = NULL, call = rlang::caller_env()) {
  if (is_sampling(deck)) return(sampled_parts(deck, held, dead, call))
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

sampled_parts <- function(sampling, held, dead, call) {
  pool <- sampled_pool(sampling)
  if (length(held) || length(dead)) {
    refuse("A deck sampled anew in each trial may lack the cards `held` or `dead`: leave them out.", call = call)
  }
  list(whole = sampling, deck = pool, held = pool[0], dead = pool[0])
}

# Draws made elsewhere have no procedure of ours.
draw_manner <- function(x) {
  if (x$replace) return("each put back before the next")
  if (is.null(x$shuffle)) return("without replacement")
  sprintf("without replacement after %s", procedure_in_words(x$shuffle))
}
