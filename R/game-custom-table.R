# The table of a game of one's own: named piles, among which cards only move. Every verb makes a step of the trace, and
# all luck goes through random(), so that a trial can be played again, and every course walked.

# `table` in play(): an environment of verbs. `setting` holds what is the same for all trials of a game: `piles`
# (names), `owner` (of each pile: a seat, 0 nobody's), `of` (attributes of the cards by their numbers), `faces`,
# `seats`.
new_table <- function(setting, luck, choose, watch) {
  piles <- NULL
  empty <- rlang::set_names(rep(list(integer()), length(setting$piles)), setting$piles)
  bags <- list()
  money <- numeric()
  verb <- new.env(parent = emptyenv())

  refuse_pile <- function(name) {
    refuse(sprintf("There is no pile %s%s Piles: %s.", quoted(as.character(name)[1]),
                   did_you_mean(as.character(name)[1], setting$piles), join_words(setting$piles)), "function", NULL)
  }
  lies <- function(pile) {
    found <- piles[[pile]]
    if (is.null(found)) refuse_pile(pile)
    found
  }
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
  settle_pile <- function(pile, at) {
    if (luck$walks && any(piles[[pile]][at] < 0)) piles[[pile]][at] <<- settled(piles[[pile]][at])
  }
  places <- function(pile, n, at) {
    there <- length(lies(pile))
    if (is.null(at)) {
      if (n == 1 && there > 0) return(1L)
      if (n > there) {
        refuse(sprintf("The pile %s holds %s, not %s.", quoted(pile), count_of(there, "card"), format_count(n)),
               "function", NULL)
      }
      return(seq_len(n))
    }
    if (any(at < 1 | at > there) || anyDuplicated(at)) {
      refuse(sprintf("The pile %s holds %s: there is no card at %s.", quoted(pile), count_of(there, "card"),
                     said(at[at < 1 | at > there | duplicated(at)][1])), "function", NULL)
    }
    at
  }
  # Of how many things that happened; a game that does not end is stopped.
  steps <- 0
  goes_on <- function() {
    steps <<- steps + 1
    if (steps > most_custom_steps) {
      refuse(sprintf("The game does not end in %s steps.", format_count(most_custom_steps)), "function", NULL)
    }
  }
  told <- function(action, seat, cards = integer()) {
    if (!is.null(watch)) watch(action, seat, cards, piles)
  }

  verb$of <- setting$of
  verb$seats <- setting$seats
  verb$size <- function(pile) length(lies(pile))
  verb$cards <- function(pile) {
    settle_pile(pile, seq_along(lies(pile)))
    piles[[pile]]
  }
  # The top card of a pile is its first; cards that come go on top, or beneath.
  verb$move <- function(from, to, n = 1, at = NULL, beneath = FALSE) {
    goes_on()
    at <- places(from, n, at)
    settle_pile(from, at)
    cards <- piles[[from]][at]
    lies(to)
    piles[[from]] <<- if (length(at)) piles[[from]][-at] else piles[[from]]
    piles[[to]] <<- if (beneath) c(piles[[to]], cards) else c(cards, piles[[to]])
    if (!is.null(watch)) told(paste(from, "to", to), setting$owner[[from]], cards)
    cards
  }
  verb$deal <- function(from, to, n = 1) {
    for (round in seq_len(n)) for (pile in to) verb$move(from, pile)
    invisible()
  }
  verb$look <- function(pile, at = 1) {
    at <- places(pile, 1, at)
    settle_pile(pile, at)
    piles[[pile]][at]
  }
  verb$turn <- function(pile, at = 1) {
    cards <- verb$look(pile, at)
    told(paste("turns", pile), setting$owner[[pile]], cards)
    cards
  }
  verb$shuffle <- function(pile) {
    goes_on()
    if (luck$walks) {
      bags[[length(bags) + 1]] <<- tabulate(settled(lies(pile)), length(setting$faces))
      piles[[pile]] <<- rep(-length(bags), length(piles[[pile]]))
    } else {
      piles[[pile]] <<- luck$shuffled(lies(pile))
    }
    told(paste("shuffles", pile), 0)
    invisible()
  }
  verb$random <- function(n) {
    goes_on()
    luck$below(n)
  }
  verb$any <- function(from, to) verb$move(from, to, at = luck$below(verb$size(from)))
  verb$ask <- function(seat, view, moves) {
    goes_on()
    if (!length(moves)) refuse(sprintf("Seat %s is asked, and has no move.", said(seat)), "function", NULL)
    chosen <- choose(seat, view, moves)
    if (!is.null(watch)) told(paste("chooses", paste(format(moves[[chosen]]), collapse = " ")), seat)
    moves[[chosen]]
  }
  # In secret: no seat sees what another has chosen.
  verb$ask_all <- function(seats, views, moves) {
    chosen <- Map(function(seat, view, open) choose(seat, view, open), seats, views, moves)
    Map(function(seat, open, at) {
      if (!is.null(watch)) told(paste("chooses", paste(format(open[[at]]), collapse = " ")), seat)
      open[[at]]
    }, seats, moves, chosen)
  }
  verb$note <- function(text, seat = 0) {
    told(as.character(text), seat)
    invisible()
  }
  verb$pay <- function(seat, amount) {
    money[seat] <<- money[seat] + amount
    if (!is.null(watch)) told(sprintf("%s %s", if (amount < 0) "pays" else "gets", format_money(abs(amount))), seat)
    invisible()
  }
  verb$money <- function(seat) money[seat]

  # Begins a trial: `lies_in` are the cards of each pile that has some; of a pile that is not settled, how many of each.
  begin <- function(lies_in, bag) {
    piles <<- empty
    piles[names(lies_in)] <<- lies_in
    bags <<- if (is.null(bag)) list() else list(bag)
    money <<- numeric(setting$seats)
    steps <<- 0
  }
  list(verbs = verb, begin = begin, piles = function() piles, step = function() steps)
}

most_custom_steps <- 200000
