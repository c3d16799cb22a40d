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
    made <- list()
    imagined <- NULL
    ask <- function(seat, view, moves, usual) {
      ahead <- players[[seat]]$name == "lookahead" && length(moves) > 1
      chosen <- if (!ahead) usual() else {
        if (is.null(imagined)) imagined <<- imagined_game(game)
        best_ahead(list(play = imagined, start = start, made = made, seat = seat, moves = moves,
                        table = attr(play, "core"), cards = length(deck), samples = players[[seat]]$settings$samples))
      }
      made[[length(made) + 1]] <<- moves[[chosen]]
      chosen
    }
    look <- if (!is.null(watch)) {
      function(action, seat, cards, piles) {
        watch(action, seat, deck[cards], lapply(piles, function(pile) deck[pile]))
      }
    }
    play <- custom_player(game, drawn_luck(), look, ask, eyes = TRUE)
    play(seq_along(deck))
  }
}

# A game as a seat imagines it: a function of a deal, as best_ahead() tries it, that plays from the beginning as it
# was played, then the move that is tried, and on at random, and gives what that is worth to the seat; NA where the deal
# does not fit what the seat could see.
imagined_game <- function(game) {
  luck <- changed_luck()
  at <- number <- NULL
  ask <- function(seat, view, moves, usual) {
    number <<- number + 1
    before <- length(at$made)
    if (number > before + 1) return(sample.int(length(moves), 1))
    place <- place_of_same(moves, if (number <= before) at$made[[number]] else at$moves[[at$move]])
    if (number <= before) {
      # As much luck as the choice took then.
      if (length(moves) > 1) sample.int(length(moves), 1)
    } else {
      if (seat != at$seat || !core_table_saw_the_same(table, at$table, seat)) place <- 0
      set_generator(generator_seeds(at$own_seed, at$try, 1))
    }
    if (place == 0) stop(does_not_fit)
    place
  }
  play <- custom_player(game, luck, ask = ask, eyes = TRUE)
  table <- attr(play, "core")
  worth <- worth_reader(game)
  function(deal) {
    at <<- deal
    number <<- 0
    core_table_follow(table, at$table, at$seat)
    luck$change(at$other)
    set_generator(at$start)
    tryCatch(worth(play(at$order), at$seat), error = function(cnd) NA_real_)
  }
}

# 0: there is none.
place_of_same <- function(moves, wanted) {
  for (place in seq_along(moves)) if (identical(moves[[place]], wanted)) return(place)
  0
}

# The place of the move that is worth most on average; of several the first. One number is drawn from the trial's luck,
# whatever is tried.
best_ahead <- function(at) {
  at$own_seed <- sample.int(2^31 - 1, 1)
  luck_now <- get(".Random.seed", globalenv())
  on.exit(set_generator(luck_now))
  unseen <- core_table_unseen(at$table, at$seat)
  dealt <- unseen[[1]]
  worth <- matrix(0, 0, length(at$moves))
  for (try in seq_len(at$samples * tries_of_a_deal)) {
    if (nrow(worth) == at$samples) break
    set_generator(generator_seeds(at$own_seed, try, 0))
    at$try <- try
    at$order <- replace(seq_len(at$cards), dealt, dealt[sample.int(length(dealt))])
    at$other <- changed_by(unseen[-1], sample.int)
    row <- worth_of_moves(at)
    if (!anyNA(row)) worth <- rbind(worth, row)
  }
  if (!nrow(worth)) return(1)
  which.max(colMeans(worth))
}

tries_of_a_deal <- 10

# What each move brings the seat in a deal. One that does not fit does so by no move.
worth_of_moves <- function(at) {
  worth <- rep(NA_real_, length(at$moves))
  for (move in seq_along(worth)) {
    at$move <- move
    worth[move] <- at$play(at)
    if (is.na(worth[1])) return(worth)
  }
  worth
}

# For each shuffle the cards that a seat lost sight of by it, and what is to lie in their places.
changed_by <- function(sets, order) lapply(sets, function(cards) list(cards = cards, by = cards[order(length(cards))]))

# A function of outcomes as numbers and of a seat: what they are worth to it.
worth_reader <- function(game) {
  own <- able(game, "in_r")
  types <- vapply(own$outcomes, `[[`, "", "type")
  seats <- game_seats(game)
  if (!is.null(own$worth)) {
    return(function(values, seat) as.double(own$worth(game_outcomes(game, as.list(values)), seat)))
  }
  if ("seat" %in% types) {
    winner <- winner_among(own$outcomes)
    return(function(values, seat) if (values[[winner]] == 0) 1 / seats else as.double(values[[winner]] == seat))
  }
  money <- names(types)[types == "money"]
  units <- vapply(money, function(name) unit_of(game, name), 0)
  function(values, seat) values[[money[seat]]] / units[[seat]]
}

refuse_worthless <- function(own, rules, seats, call) {
  ahead <- any(vapply(rules$players, function(player) player$name == "lookahead", NA))
  types <- vapply(own$outcomes, `[[`, "", "type")
  if (!ahead || !is.null(own$worth) || tells_worth_to_all(types, seats)) return(invisible())
  refuse(paste("player_lookahead() must know what outcomes are worth: `worth`, an outcome that is a seat, or money for",
               "each seat."), "rules", call)
}
