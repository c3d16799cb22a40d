# The table of a game of one's own: named piles, among which cards only move. Every verb makes a step of the trace, and
# all luck goes through random(), so that a trial can be played again, and every course walked.

# `table` in play(): an environment of verbs. `setting` holds what is the same for all trials of a game: `piles`
# (names), `owner` (of each pile: a seat, 0 nobody's), `of` (attributes of the cards by their numbers), `faces`,
# `seats`. The piles lie in the core; a verb is called for every move of every trial, and calls it without the function
# that wraps the call, which would take as long again. `choose(seat, view, moves)` gives the place of a seat's move;
# of `players`, where given, the core asks each that it can. With `eyes` the core knows what the seats can see.
new_table <- function(setting, luck, choose, watch, players = NULL, eyes = FALSE) {
  state <- table_state(setting, luck, watch, eyes)
  verb <- new.env(parent = emptyenv())
  verb$of <- setting$of
  verb$seats <- setting$seats
  add_looking_verbs(verb, state)
  add_moving_verbs(verb, state)
  add_luck_verbs(verb, state)
  add_seat_verbs(verb, state, choose, players)
  list(verbs = verb, begin = table_beginner(state), deal = function() told(state, "deal", 0), core = state$table)
}

# What changes while a trial is played, and what it goes by.
table_state <- function(setting, luck, watch, eyes) {
  table <- core_table(setting$piles, most_custom_steps)
  if (eyes) {
    owner <- as.integer(setting$owner)
    core_table_eyes(table, owner, setting$open, length(setting$faces), setting$seats)
  }
  rlang::env(setting = setting, names = setting$piles, luck = luck, watch = watch, watched = !is.null(watch),
             eyes = eyes, told = eyes || !is.null(watch), walks = luck$walks, table = table, bags = list(),
             money = numeric())
}

# Begins a trial: `lies_in` are the cards of each pile that has some, by the place of the pile; of a pile that is not
# settled, how many of each (`bag`).
table_beginner <- function(state) {
  table <- state$table
  no_money <- numeric(state$setting$seats)
  function(lies_in, at, bag) {
    .Call(`_habanera_core_table_begin`, table, at, lies_in)
    if (!is.null(bag)) state$bags <- list(bag) else if (length(state$bags)) state$bags <- list()
    state$money <- no_money
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
  cards <- core_table_cards(state$table, pile, NULL)
  at <- if (is.null(at)) seq_len(min(n, length(cards))) else intersect(at, seq_along(cards))
  if (any(cards[at] < 0)) core_table_put(state$table, pile, replace(cards, at, settled(state, cards[at])))
}

lying <- function(state) {
  lapply(rlang::set_names(state$names), function(pile) core_table_cards(state$table, pile, NULL))
}

# Those who look on are told what has happened, in the words of the log; what seats see tells at the end which it is of.
told <- function(state, action, seat, cards = integer()) {
  if (state$eyes) {
    words <- if (grepl("^(turns|shuffles) ", action[1])) action else paste(c(action, seat), collapse = " ")
    if (!core_table_told(state$table, words, cards)) stop(does_not_fit)
  }
  if (state$watched) state$watch(action, seat, cards, lying(state))
}

# Where a seat would have seen something else than it has. It is made once: there are many deals that do not fit.
does_not_fit <- structure(class = c("habanera_far_enough", "error", "condition"),
                          list(message = "does not fit", call = NULL))

# Of how many things that happened; a game that does not end is stopped.
goes_on <- function(state) if (!core_table_step(state$table)) refuse_endless()

refuse_endless <- function() {
  refuse(sprintf("The game does not end in %s steps.", format_count(most_custom_steps)), "function", NULL)
}

add_looking_verbs <- function(verb, state) {
  table <- state$table
  verb$size <- function(pile) {
    size <- .Call(`_habanera_core_table_size`, table, pile)
    if (is.null(size)) refuse_pile(state$names, pile) else size
  }
  verb$cards <- function(pile) {
    if (state$walks) settle_pile(state, pile, verb$size(pile), NULL)
    cards <- .Call(`_habanera_core_table_cards`, table, pile, NULL)
    if (is.null(cards)) refuse_pile(state$names, pile) else cards
  }
  verb$look <- function(pile, at = 1) {
    if (state$walks && pile %in% state$names) settle_pile(state, pile, 1, at)
    cards <- .Call(`_habanera_core_table_cards`, table, pile, at)
    if (is.null(cards)) {
      refuse_pile(state$names, pile)
      refuse_cards(pile, verb$size(pile), 1, at)
    }
    cards
  }
  verb$turn <- function(pile, at = 1) {
    cards <- verb$look(pile, at)
    if (state$told) told(state, paste("turns", pile), state$setting$owner[[pile]], cards)
    cards
  }
}

add_moving_verbs <- function(verb, state) {
  table <- state$table
  # The top card of a pile is its first; cards that come go on top, or beneath.
  move <- function(from, to, n = 1, at = NULL, beneath = FALSE) {
    cards <- .Call(`_habanera_core_table_move`, table, from, to, n, at, beneath)
    if (is.null(cards)) refuse_move(state, from, to, n, at) else cards
  }
  verb$move <- if (!state$walks && !state$watched) move else function(from, to, n = 1, at = NULL, beneath = FALSE) {
    if (state$walks && from %in% state$names && to %in% state$names) settle_pile(state, from, n, at)
    cards <- move(from, to, n, at, beneath)
    if (state$watched) state$watch(paste(from, "to", to), state$setting$owner[[from]], cards, lying(state))
    cards
  }
  verb$deal <- function(from, to, n = 1) {
    for (round in seq_len(n)) for (pile in to) verb$move(from, pile)
    invisible()
  }
}

# What the core did not do.
refuse_move <- function(state, from, to, n, at) {
  if (core_table_sees_other(state$table)) stop(does_not_fit)
  if (core_table_steps(state$table) > most_custom_steps) refuse_endless()
  refuse_pile(state$names, from)
  refuse_pile(state$names, to)
  refuse_cards(from, core_table_size(state$table, from), n, at)
}

add_luck_verbs <- function(verb, state) {
  luck <- state$luck
  verb$shuffle <- function(pile) {
    goes_on(state)
    size <- verb$size(pile)
    cards <- core_table_cards(state$table, pile, NULL)
    core_table_put(state$table, pile, if (state$walks) {
      state$bags[[length(state$bags) + 1]] <- tabulate(settled(state, cards), length(state$setting$faces))
      rep(-length(state$bags), size)
    } else luck$shuffled(cards))
    if (state$told) told(state, paste("shuffles", pile), 0)
    invisible()
  }
  verb$random <- function(n) {
    goes_on(state)
    luck$below(n)
  }
  verb$any <- function(from, to) verb$move(from, to, at = luck$below(verb$size(from)))
}

add_seat_verbs <- function(verb, state, choose, players) {
  choice_told <- function(seat, move) told(state, paste("chooses", paste(format(move), collapse = " ")), seat)
  ask <- function(seat, view, moves) {
    goes_on(state)
    chosen <- if (length(moves)) choose(seat, view, moves) else refuse_moveless(seat)
    if (state$watched) choice_told(seat, moves[[chosen]])
    moves[[chosen]]
  }
  table <- state$table
  verb$ask <- if (is.null(players)) ask else function(seat, view, moves) {
    move <- .Call(`_habanera_core_table_ask`, table, players, seat, view, moves)
    if (is.null(move)) return(ask(seat, view, moves))
    if (is.list(move)) moves[[place_of_answer(move[[1]], seat, moves)]] else move
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
    if (state$told) told(state, as.character(text), seat)
    invisible()
  }
  verb$pay <- function(seat, amount) {
    state$money[seat] <- state$money[seat] + amount
    if (state$told) {
      told(state, sprintf("%s %s", if (amount < 0) "pays" else "gets", format_money(abs(amount))), seat)
    }
    invisible()
  }
  verb$money <- function(seat) state$money[seat]
}

# The place of the move that a player has answered with.
place_of_answer <- function(answer, seat, moves) {
  chosen <- if (is.atomic(moves)) match(answer, moves)
  if (isTRUE(chosen > 0)) chosen else place_of_move(answer, seat, moves)
}

# The same where it is not simply among them.
place_of_move <- function(answer, seat, moves) {
  chosen <- which(vapply(seq_along(moves), function(i) identical_move(moves[[i]], answer), NA))
  if (length(chosen)) return(chosen[1])
  open <- vapply(seq_along(moves), function(i) paste(format(moves[[i]]), collapse = " "), "")
  refuse(sprintf("The player of seat %d must return one of its moves (%s), not %s.", seat, join_some(open, 8),
                 said(answer)), "function", NULL)
}

identical_move <- function(move, answer) {
  identical(move, answer) || (length(move) == 1 && length(answer) == 1 && isTRUE(move == answer))
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
