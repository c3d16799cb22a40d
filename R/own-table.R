# The table of a game of one's own: named piles, among which cards only move. Every verb makes a step of the trace, and
# all luck goes through random(), so that a trial can be played again, and every course walked.

# `table` in play(): an environment of verbs. `setting` holds what is the same for all trials of a game: `piles`
# (names), `owner` (of each pile: a seat, 0 nobody's), `of` (attributes of the cards by their numbers), `faces`,
# `seats`. The piles lie in the core; a verb is called for every move of every trial, and calls it without the function
# that wraps the call, which would take as long again.
new_table <- function(setting, luck, choose, watch) {
  state <- table_state(setting, luck, watch)
  verb <- new.env(parent = emptyenv())
  verb$of <- setting$of
  verb$seats <- setting$seats
  add_looking_verbs(verb, state)
  add_moving_verbs(verb, state)
  add_luck_verbs(verb, state)
  add_seat_verbs(verb, state, choose)
  list(verbs = verb, begin = table_beginner(state), piles = function() lying(state), step = function() state$steps)
}

# What changes while a trial is played, and what it goes by.
table_state <- function(setting, luck, watch) {
  rlang::env(setting = setting, names = setting$piles, luck = luck, watch = watch, watched = !is.null(watch),
             walks = luck$walks, piles = core_table(setting$piles), bags = list(), money = numeric(), steps = 0)
}

# Begins a trial: `lies_in` are the cards of each pile that has some, by the place of the pile; of a pile that is not
# settled, how many of each (`bag`).
table_beginner <- function(state) {
  empty <- rep(list(integer()), length(state$names))
  function(lies_in, at, bag) {
    empty[at] <- lies_in
    .Call(`_habanera_core_table_lay`, state$piles, empty)
    state$bags <- if (is.null(bag)) list() else list(bag)
    state$money <- numeric(state$setting$seats)
    state$steps <- 0
  }
}

# A card below 0 is not settled: any of those that are left in the bag of this number, each as likely.
settled <- function(state, cards) {
  for (i in which(cards < 0)) {
    bag <- -cards[i]
    kind <- state$luck$weighed(state$bags[[bag]])
    state$bags[[bag]][kind] <- state$bags[[bag]][kind] - 1
    cards[i] <- kind
  }
  cards
}

settle_pile <- function(state, pile, n, at) {
  cards <- core_table_cards(state$piles, pile, NULL)
  at <- if (is.null(at)) seq_len(min(n, length(cards))) else intersect(at, seq_along(cards))
  if (any(cards[at] < 0)) core_table_put(state$piles, pile, replace(cards, at, settled(state, cards[at])))
}

lying <- function(state) {
  lapply(rlang::set_names(state$names), function(pile) core_table_cards(state$piles, pile, NULL))
}

told <- function(state, action, seat, cards = integer()) state$watch(action, seat, cards, lying(state))

# Of how many things that happened; a game that does not end is stopped.
goes_on <- function(state) {
  if ((state$steps <- state$steps + 1) > most_custom_steps) {
    refuse(sprintf("The game does not end in %s steps.", format_count(most_custom_steps)), "function", NULL)
  }
}

add_looking_verbs <- function(verb, state) {
  verb$size <- function(pile) {
    size <- .Call(`_habanera_core_table_size`, state$piles, pile)
    if (is.null(size)) refuse_pile(state$names, pile) else size
  }
  verb$cards <- function(pile) {
    if (state$walks) settle_pile(state, pile, verb$size(pile), NULL)
    cards <- .Call(`_habanera_core_table_cards`, state$piles, pile, NULL)
    if (is.null(cards)) refuse_pile(state$names, pile) else cards
  }
  verb$look <- function(pile, at = 1) {
    if (state$walks && pile %in% state$names) settle_pile(state, pile, 1, at)
    cards <- .Call(`_habanera_core_table_cards`, state$piles, pile, at)
    if (is.null(cards)) {
      refuse_pile(state$names, pile)
      refuse_cards(pile, verb$size(pile), 1, at)
    }
    cards
  }
  verb$turn <- function(pile, at = 1) {
    cards <- verb$look(pile, at)
    if (state$watched) told(state, paste("turns", pile), state$setting$owner[[pile]], cards)
    cards
  }
}

add_moving_verbs <- function(verb, state) {
  names <- state$names
  owner <- state$setting$owner
  # The top card of a pile is its first; cards that come go on top, or beneath.
  verb$move <- function(from, to, n = 1, at = NULL, beneath = FALSE) {
    goes_on(state)
    if (state$walks && from %in% names && to %in% names) settle_pile(state, from, n, at)
    cards <- .Call(`_habanera_core_table_move`, state$piles, from, to, n, at, beneath)
    if (is.null(cards)) {
      refuse_pile(names, from)
      refuse_pile(names, to)
      refuse_cards(from, verb$size(from), n, at)
    }
    if (state$watched) told(state, paste(from, "to", to), owner[[from]], cards)
    cards
  }
  verb$deal <- function(from, to, n = 1) {
    for (round in seq_len(n)) for (pile in to) verb$move(from, pile)
    invisible()
  }
}

add_luck_verbs <- function(verb, state) {
  luck <- state$luck
  verb$shuffle <- function(pile) {
    goes_on(state)
    size <- verb$size(pile)
    cards <- core_table_cards(state$piles, pile, NULL)
    core_table_put(state$piles, pile, if (state$walks) {
      state$bags[[length(state$bags) + 1]] <- tabulate(settled(state, cards), length(state$setting$faces))
      rep(-length(state$bags), size)
    } else luck$shuffled(cards))
    if (state$watched) told(state, paste("shuffles", pile), 0)
    invisible()
  }
  verb$random <- function(n) {
    goes_on(state)
    luck$below(n)
  }
  verb$any <- function(from, to) verb$move(from, to, at = luck$below(verb$size(from)))
}

add_seat_verbs <- function(verb, state, choose) {
  choice_told <- function(seat, move) told(state, paste("chooses", paste(format(move), collapse = " ")), seat)
  verb$ask <- function(seat, view, moves) {
    goes_on(state)
    chosen <- if (length(moves)) choose(seat, view, moves) else refuse_moveless(seat)
    if (state$watched) choice_told(seat, moves[[chosen]])
    moves[[chosen]]
  }
  # In secret: no seat sees what another has chosen.
  verb$ask_all <- function(seats, views, moves) {
    chosen <- Map(function(seat, view, open) choose(seat, view, open), seats, views, moves)
    Map(function(seat, open, at) {
      if (state$watched) choice_told(seat, open[[at]])
      open[[at]]
    }, seats, moves, chosen)
  }
  verb$note <- function(text, seat = 0) {
    if (state$watched) told(state, as.character(text), seat)
    invisible()
  }
  verb$pay <- function(seat, amount) {
    state$money[seat] <- state$money[seat] + amount
    if (state$watched) {
      told(state, sprintf("%s %s", if (amount < 0) "pays" else "gets", format_money(abs(amount))), seat)
    }
    invisible()
  }
  verb$money <- function(seat) state$money[seat]
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
