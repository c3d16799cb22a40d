# player_lookahead() at a game of one's own: each move is tried in deals that fit all that the seat could see, the game
# being played from its beginning with the same choices, and on from there at random.

looks_ahead <- function(game) any(vapply(game$rules$players, function(player) player$name == "lookahead", NA))

# A function of a deck that plays one game where somebody looks ahead: every card is told apart, and whoever watches is
# told their kinds.
custom_player_ahead <- function(game, watch) {
  players <- seated_players(game$rules$players, game_seats(game))
  function(deck) {
    game$own$can$in_r$of_cards <- deck
    start <- get(".Random.seed", globalenv())
    eyes <- table_eyes(game, length(deck))
    made <- list()
    ask <- function(seat, view, moves, usual) {
      ahead <- players[[seat]]$name == "lookahead" && length(moves) > 1
      chosen <- if (!ahead) usual() else {
        best_ahead(list(game = game, start = start, made = made, seat = seat, moves = moves, eyes = eyes,
                        samples = players[[seat]]$settings$samples))
      }
      made[[length(made) + 1]] <<- moves[[chosen]]
      chosen
    }
    look <- if (is.null(watch)) eyes$look else function(action, seat, cards, piles) {
      eyes$look(action, seat, cards, piles)
      watch(action, seat, deck[cards], lapply(piles, function(pile) deck[pile]))
    }
    custom_player(game, drawn_luck(), look, ask)(seq_along(deck))
  }
}

# What seats can see of a table: where which of the cards (told apart) lies, which a shuffle makes them lose, and, of
# seats in `tell`, all that happened, hidden cards as "?". Where one seat's is `expected`, what differs from it ends the
# game, and nobody looks on after it.
table_eyes <- function(game, cards, tell = seq_len(game_seats(game)), expected = NULL) {
  setting <- custom_setting(game)
  seen <- matrix(FALSE, cards, setting$seats)
  visible <- rep(list(character()), setting$seats)
  shuffles <- 0
  last_shuffle <- numeric(cards)
  look <- function(action, seat, cards, piles) {
    if (!is.null(expected) && length(visible[[tell]]) == length(expected)) return()
    if (grepl("^shuffles ", action)) {
      hidden <- piles[[sub("^shuffles ", "", action)]]
      shuffles <<- shuffles + 1
      seen[hidden, ] <<- FALSE
      last_shuffle[hidden] <<- shuffles
    }
    for (pile in setting$piles[setting$open]) seen[piles[[pile]], ] <<- TRUE
    for (pile in setting$piles[setting$owner > 0]) seen[piles[[pile]], setting$owner[[pile]]] <<- TRUE
    if (grepl("^turns ", action)) seen[cards, ] <<- TRUE
    if (grepl("^chooses ", action)) return()
    for (each in tell) {
      known <- ifelse(seen[cards, each], cards, "?")
      visible[[each]] <<- c(visible[[each]], paste(c(action, seat, known, lengths(piles)), collapse = " "))
    }
    last <- length(visible[[tell[1]]])
    if (!is.null(expected) && visible[[tell]][last] != expected[last]) {
      rlang::abort("does not fit", class = "habanera_far_enough")
    }
  }
  # Cards that a seat has not seen since the deal, and, by the number of a shuffle, since that.
  list(look = look, unseen = function(seat) which(!seen[, seat] & last_shuffle == 0), lost = function(seat) {
    lost <- which(!seen[, seat] & last_shuffle > 0)
    split(lost, last_shuffle[lost])
  }, visible = function(seat) visible[[seat]])
}

# Sets of cards, each with what is to lie in the places of its cards.
changed_by <- function(sets, order) lapply(sets, function(cards) list(cards = cards, by = cards[order(length(cards))]))

# The place of the move that is worth most on average; of several the first. One number is drawn from the trial's luck,
# whatever is tried.
best_ahead <- function(at) {
  own_seed <- sample.int(2^31 - 1, 1)
  luck_now <- get(".Random.seed", globalenv())
  on.exit(set_generator(luck_now))
  cards <- length(able(at$game, "in_r")$of_cards)
  unseen <- at$eyes$unseen(at$seat)
  worth <- matrix(0, 0, length(at$moves))
  for (try in seq_len(at$samples * tries_of_a_deal)) {
    if (nrow(worth) == at$samples) break
    set_generator(generator_seeds(own_seed, try, 0))
    order <- replace(seq_len(cards), unseen, unseen[sample.int(length(unseen))])
    at$other <- changed_by(at$eyes$lost(at$seat), sample.int)
    row <- worth_in_deal(at, order, 1, own_seed, try)
    # A deal that does not fit does so by no move.
    if (is.na(row)) next
    others <- seq_along(at$moves)[-1]
    row <- c(row, vapply(others, function(move) worth_in_deal(at, order, move, own_seed, try), 0))
    if (!anyNA(row)) worth <- rbind(worth, row)
  }
  if (!nrow(worth)) return(1)
  which.max(colMeans(worth))
}

tries_of_a_deal <- 10

# What a move brings the seat in a deal; NA where the deal does not fit what it could see.
worth_in_deal <- function(at, order, move, own_seed, try) {
  eyes <- table_eyes(at$game, length(order), at$seat, at$eyes$visible(at$seat))
  number <- 0
  ask <- function(seat, view, moves, usual) {
    number <<- number + 1
    if (number > length(at$made) + 1) return(sample.int(length(moves), 1))
    wanted <- if (number <= length(at$made)) at$made[[number]] else at$moves[[move]]
    place <- which(vapply(seq_along(moves), function(i) identical(moves[[i]], wanted), NA))
    fits <- length(place) > 0
    if (number <= length(at$made)) {
      # As much luck as the choice took then.
      if (length(moves) > 1) sample.int(length(moves), 1)
    } else {
      fits <- fits && seat == at$seat && identical(eyes$visible(seat), at$eyes$visible(seat))
      set_generator(generator_seeds(own_seed, try, 1))
    }
    if (!fits) rlang::abort("does not fit", class = "habanera_far_enough")
    place[1]
  }
  set_generator(at$start)
  tryCatch(seat_worth(at$game, custom_player(at$game, changed_luck(at$other), eyes$look, ask)(order), at$seat),
           error = function(cnd) NA_real_)
}

# What outcomes are worth to a seat.
seat_worth <- function(game, values, seat) {
  own <- able(game, "in_r")
  rows <- game_outcomes(game, as.data.frame(as.list(values)))
  if (!is.null(own$worth)) return(as.double(own$worth(as.list(rows), seat)))
  types <- vapply(own$outcomes, `[[`, "", "type")
  if ("seat" %in% types) {
    winner <- values[[names(types)[types == "seat"][1]]]
    return(if (winner == 0) 1 / game_seats(game) else as.double(winner == seat))
  }
  rows[[names(types)[types == "money"][seat]]]
}

refuse_worthless <- function(own, rules, seats, call) {
  ahead <- any(vapply(rules$players, function(player) player$name == "lookahead", NA))
  types <- vapply(own$outcomes, `[[`, "", "type")
  if (!ahead || !is.null(own$worth) || tells_worth_to_all(types, seats)) return(invisible())
  refuse(paste("player_lookahead() must know what outcomes are worth: `worth`, an outcome that is a seat, or money for",
               "each seat."), "rules", call)
}
