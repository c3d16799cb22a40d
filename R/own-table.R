# The table of a game of one's own: named piles, among which cards only move. Every verb makes a step of the trace, and
# all luck goes through random(), so that a trial can be played again, and every course walked.

# `table` in play(): an environment of verbs. `setting` holds what is the same for all trials of a game: `piles`
# (names), `owner` (of each pile: a seat, 0 nobody's), `of` (attributes of the cards by their numbers), `faces`,
# `seats`. The piles lie in the core; a verb is called for every move of every trial, and calls it without the function
# that wraps the call, which would take as long again.
new_table <- function(setting, luck, choose, watch) {
  piles <- core_table(setting$piles)
  walks <- luck$walks
  watched <- !is.null(watch)
  bags <- list()
  money <- numeric()
  steps <- 0
  verb <- new.env(parent = emptyenv())

  # A card below 0 is not settled: any of those that are left in the bag of this number, each as likely.
  settled <- function(cards) {
    for (i in which(cards < 0)) {
      bag <- -cards[i]
      kind <- luck$weighed(bags[[bag]])
      bags[[bag]][kind] <<- bags[[bag]][kind] - 1
      cards[i] <- kind
    }
    cards
  }
  settle_pile <- function(pile, n, at) {
    cards <- core_table_cards(piles, pile, NULL)
    at <- if (is.null(at)) seq_len(min(n, length(cards))) else intersect(at, seq_along(cards))
    if (any(cards[at] < 0)) core_table_put(piles, pile, replace(cards, at, settled(cards[at])))
  }
  told <- function(action, seat, cards = integer()) watch(action, seat, cards, lying())
  lying <- function() {
    lapply(rlang::set_names(setting$piles), function(pile) core_table_cards(piles, pile, NULL))
  }
  # Of how many things that happened; a game that does not end is stopped.
  goes_on <- function() {
    steps <<- steps + 1
    if (steps > most_custom_steps) {
      refuse(sprintf("The game does not end in %s steps.", format_count(most_custom_steps)), "function", NULL)
    }
  }

  verb$of <- setting$of
  verb$seats <- setting$seats
  verb$size <- function(pile) {
    size <- .Call(`_habanera_core_table_size`, piles, pile)
    if (is.null(size)) refuse_pile(setting$piles, pile) else size
  }
  verb$cards <- function(pile) {
    if (walks) settle_pile(pile, verb$size(pile), NULL)
    cards <- .Call(`_habanera_core_table_cards`, piles, pile, NULL)
    if (is.null(cards)) refuse_pile(setting$piles, pile) else cards
  }
  # The top card of a pile is its first; cards that come go on top, or beneath.
  verb$move <- function(from, to, n = 1, at = NULL, beneath = FALSE) {
    if ((steps <<- steps + 1) > most_custom_steps) goes_on()
    if (walks && from %in% setting$piles && to %in% setting$piles) settle_pile(from, n, at)
    cards <- .Call(`_habanera_core_table_move`, piles, from, to, n, at, beneath)
    if (is.null(cards)) {
      refuse_pile(setting$piles, from)
      refuse_pile(setting$piles, to)
      refuse_cards(from, verb$size(from), n, at)
    }
    if (watched) told(paste(from, "to", to), setting$owner[[from]], cards)
    cards
  }
  verb$deal <- function(from, to, n = 1) {
    for (round in seq_len(n)) for (pile in to) verb$move(from, pile)
    invisible()
  }
  verb$look <- function(pile, at = 1) {
    if (walks && pile %in% setting$piles) settle_pile(pile, 1, at)
    cards <- .Call(`_habanera_core_table_cards`, piles, pile, at)
    if (is.null(cards)) {
      refuse_pile(setting$piles, pile)
      refuse_cards(pile, verb$size(pile), 1, at)
    }
    cards
  }
  verb$turn <- function(pile, at = 1) {
    cards <- verb$look(pile, at)
    if (watched) told(paste("turns", pile), setting$owner[[pile]], cards)
    cards
  }
  verb$shuffle <- function(pile) {
    goes_on()
    size <- verb$size(pile)
    cards <- core_table_cards(piles, pile, NULL)
    core_table_put(piles, pile, if (walks) {
      bags[[length(bags) + 1]] <<- tabulate(settled(cards), length(setting$faces))
      rep(-length(bags), size)
    } else luck$shuffled(cards))
    if (watched) told(paste("shuffles", pile), 0)
    invisible()
  }
  verb$random <- function(n) {
    goes_on()
    luck$below(n)
  }
  verb$any <- function(from, to) verb$move(from, to, at = luck$below(verb$size(from)))
  verb$ask <- function(seat, view, moves) {
    if ((steps <<- steps + 1) > most_custom_steps) goes_on()
    chosen <- if (length(moves)) choose(seat, view, moves) else refuse_moveless(seat)
    if (watched) told(paste("chooses", paste(format(moves[[chosen]]), collapse = " ")), seat)
    moves[[chosen]]
  }
  # In secret: no seat sees what another has chosen.
  verb$ask_all <- function(seats, views, moves) {
    chosen <- Map(function(seat, view, open) choose(seat, view, open), seats, views, moves)
    Map(function(seat, open, at) {
      if (watched) told(paste("chooses", paste(format(open[[at]]), collapse = " ")), seat)
      open[[at]]
    }, seats, moves, chosen)
  }
  verb$note <- function(text, seat = 0) {
    if (watched) told(as.character(text), seat)
    invisible()
  }
  verb$pay <- function(seat, amount) {
    money[seat] <<- money[seat] + amount
    if (watched) told(sprintf("%s %s", if (amount < 0) "pays" else "gets", format_money(abs(amount))), seat)
    invisible()
  }
  verb$money <- function(seat) money[seat]

  empty <- rep(list(integer()), length(setting$piles))
  # Begins a trial: `lies_in` are the cards of each pile that has some, by the place of the pile; of a pile that is not
  # settled, how many of each.
  begin <- function(lies_in, at, bag) {
    empty[at] <- lies_in
    .Call(`_habanera_core_table_lay`, piles, empty)
    bags <<- if (is.null(bag)) list() else list(bag)
    money <<- numeric(setting$seats)
    steps <<- 0
  }
  list(verbs = verb, begin = begin, piles = lying, step = function() steps)
}

most_custom_steps <- 200000

refuse_pile <- function(piles, name) {
  if (rlang::is_string(name) && name %in% piles) return(invisible())
  refuse(sprintf("There is no pile %s%s Piles: %s.", quoted(as.character(name)[1]),
                 did_you_mean(as.character(name)[1], piles), join_words(piles)), "function", NULL)
}

refuse_moveless <- function(seat) {
  refuse(sprintf("Seat %s is asked, and has no move.", said(seat)), "function", NULL)
}

# The pile does not hold so many cards, or none at these places.
refuse_cards <- function(pile, there, n, at) {
  if (is.null(at)) {
    refuse(sprintf("The pile %s holds %s, not %s.", quoted(pile), count_of(there, "card"), said(n)), "function", NULL)
  }
  bad <- !(at %in% seq_len(there)) | duplicated(at)
  refuse(sprintf("The pile %s holds %s: there is no card at %s.", quoted(pile), count_of(there, "card"),
                 said(at[bad][1])), "function", NULL)
}
