# Players as a rule of a game.

# A player for all, or a list with one for each; also as text. `own` names players that the game brings.
rule_players <- function(known, meaning, own = character()) {
  known <- c(known, own)
  default <- new_players(list(player_makers()[[known[1]]]()))
  allowed <- sprintf("a player (%s) for all seats, or a list with one for each", join_words(known, "or"))
  new_rule("players", default, allowed, meaning, function(value, name, call) {
    if (is_found_play(value)) value <- list(value)
    if (inherits(value, "habanera_player") || is.function(value)) value <- list(value)
    if (is.character(value)) value <- trimws(unlist(lapply(value, split_outside, ",")))
    if (!length(value) || !(is.list(value) || is.character(value))) {
      refuse(sprintf("`players` must be %s, not %s.", allowed, said(value)), call = call)
    }
    players <- lapply(value, function(player) {
      if (is.function(player)) return(player_with(player))
      if (is_found_play(player)) return(player_by_table(player))
      if (!rlang::is_string(player)) return(player)
      if (player %in% own) return(new_player(player))
      if (length(own) && !grepl("[:. ]", player) && !player %in% known) {
        refuse(sprintf("There is no player %s%s Players: %s.", quoted(player), did_you_mean(player, known),
                       join_words(known)), call = call)
      }
      player_from_text(player, call)
    })
    for (player in players) {
      refuse_unknown_assumed(player, known, call)
      if (!inherits(player, "habanera_player") || !player$name %in% c(known, "with")) {
        refuse(sprintf("`players` must be %s, not %s.", allowed,
                       if (inherits(player, "habanera_player")) quoted(player$name) else said(player)), call = call)
      }
    }
    new_players(players)
  })
}

# What equilibrium() and best_play() found, which sits in a game as a table.
is_found_play <- function(x) inherits(x, c("habanera_equilibrium", "habanera_best_play")) && !is.null(x[["rows"]])

# Who is said to play on, or is mixed, must be one that this game knows, and decide by what it sees.
refuse_unknown_assumed <- function(player, known, call) {
  if (!inherits(player, "habanera_player")) return(invisible())
  known <- setdiff(known, c("lookahead", "peeking", "solved", "person", "forgetful", "counting"))
  for (name in intersect(c("playing", "players"), names(player$settings))) {
    inner <- player$settings[[name]]
    for (one in if (inherits(inner, "habanera_player")) list(inner) else inner) {
      refuse_unknown_assumed(one, known, call)
      if (one$name %in% known) next
      refuse(sprintf("`%s` of the player %s must be known to this game by what is seen (%s), not %s.", name,
                     quoted(player$name), join_words(known, "or"), quoted(format(one))), call = call)
    }
  }
}

refuse_other_number <- function(players, seats, call) {
  if (length(players) %in% c(1, seats)) return(invisible())
  refuse(sprintf("There are %s for %s.", count_of(length(players), "player"), count_of(seats, "seat")), "rules",
         call = call)
}

# Whether a game is played in R, one trial after the other: an R function shuffles or decides.
has_r_function <- function(game) has_function(game$shuffle) || runs_in_r(game)

# Whether the game itself or a player of it is an R function.
runs_in_r <- function(game) isTRUE(kind_of(game)$plays$in_r) || has_function_player(game)

has_function_player <- function(game) any(vapply(game$rules$players, decides_in_r, NA))

decides_in_r <- function(player) !is.null(player$f) || player$name == "person"

refuse_unsolvable <- function(players, call) {
  solved <- which(vapply(players, function(player) player$name == "solved" && is.null(player$settings$against), NA))
  for (seat in solved) refuse_if_foreseeing(players[-seat], call)
}

# The players of all seats as the core takes them. Who is solved is told the game: its rules, and who sits beside it.
core_players <- function(players, table, view_words, words = NULL, sight = plain_sight()) {
  specs <- lapply(seq_along(players), function(seat) {
    core_player(players[[seat]], view_words, words, seat = seat, seats = length(players), sight = sight)
  })
  for (seat in which(vapply(players, function(player) player$name == "solved", NA))) {
    against <- players[[seat]]$settings$against
    beside <- if (is.null(against)) specs else {
      lapply(rep_len(strsplit(against, "+", fixed = TRUE)[[1]], length(specs)), function(name) list(name = name))
    }
    beside[[seat]] <- list(name = "nobody")
    specs[[seat]] <- list(name = "solved", seat = seat, game = c(table, list(players = beside)))
  }
  specs
}

# What a game tells of what its seats see: `rows` makes of the rows of a table for a seat those that the game tells;
# `known` are the names that may stand in conditions (NULL: any), `words` those about cards, which `check` checks,
# `word` gives to the core and `scale` tells the places of, from the lowest; `implied` are moves
# that are made where no line fits, `instead` by the name of a move another, where it is not open.
plain_sight <- function(known = NULL, implied = NULL) {
  list(rows = function(rows, seat, player) rows, known = known, words = character(), scale = function(expr) NULL,
       implied = implied)
}

# A player as the core takes it. What a function returns is checked here, so that the error can say which choice it was.
# `words` names the moves, where they have names; `where(view)` says more of a choice than its number.
core_player <- function(player, view_words = NULL, words = NULL, where = function(view) "", seat = 1, seats = NULL,
                        sight = plain_sight()) {
  nested <- function(inner, of = seat) core_player(inner, view_words, words, where, of, seats, sight)
  if (player$name == "person") return(core_person(player, view_words, words))
  if (player$name == "table") return(core_chance_table(player, seat, words, sight$rows))
  if (player$name == "by_rules") return(core_lines(player, words, sight))
  if (player$name == "mixture") return(core_mixture(player, nested))
  if (player$name %in% c("lookahead", "peeking") && !is.null(seats)) return(core_ahead(player, nested, seats))
  settings <- lapply(player$settings, function(value) if (inherits(value, "habanera_player")) nested(value) else value)
  spec <- c(list(name = player$name), settings)
  if (is.null(player$f)) return(spec)
  c(spec, f = function(view, moves, choice) {
    told <- if (!is.null(attr(moves, "words"))) attr(moves, "words") else if (is.null(words)) moves else words[moves]
    move <- refuse_if_fails(player$f(view, told), sprintf("Your player failed at choice %d of its game.", choice),
                            "function", NULL)
    if (length(move) == 1 && !is.na(move) && move %in% told) return(as.double(moves[match(move, told)]))
    refuse(sprintf("Your player must return one of its moves (%s), not %s, at choice %d of its game%s.",
                   join_some(as.character(told), 8), said(move), choice, where(view)), "function", NULL)
  })
}

# Who looks ahead takes all seats to be played by somebody; that they are is evidence, unless it is anybody.
core_ahead <- function(player, nested, seats) {
  settings <- player$settings
  peeks <- strsplit(if (is.null(settings$sees)) "" else settings$sees, "+", fixed = TRUE)[[1]]
  c(list(name = "lookahead", samples = settings$samples, known = settings$playing$name != "random",
         playing = lapply(seq_len(seats), function(seat) nested(settings$playing, seat))),
    if (length(peeks)) list(hands = "hands" %in% peeks, `next` = "next" %in% peeks, how_often = settings$how_often))
}

core_mixture <- function(player, nested) {
  weights <- as.numeric(strsplit(player$settings$weights, "+", fixed = TRUE)[[1]])
  list(name = "mixture", players = lapply(player$settings$players, nested),
       up_to = weights / rev(cumsum(rev(weights))))
}

# A person is asked at the console, or by the function that the player brings (see sit_in()).
core_person <- function(player, view_words, words = NULL) {
  asked <- if (!is.null(player$asked)) player$asked else function(view, moves, choice) {
    words <- words_by_number(moves, words)
    tryCatch(asked_move(view_words(view), as.vector(moves), words), habanera_stopped = function(cnd) rlang::interrupt())
  }
  list(name = "with", f = asked)
}

# What is worth to a seat, where it is a share of the win or else what the game says.
worth_in_words <- function(worth, of_win) {
  if (of_win) sprintf("%s of the win", format_percent(worth, 5)) else format_number(worth, 4)
}

worth_on_average <- function(worth, of_win) sprintf("%s on average", worth_in_words(worth, of_win))

# Whether the chance of each of a player's moves can be had from what it sees.
has_chances <- function(player) {
  if (player$name == "mixture") return(all(vapply(player$settings$players, has_chances, NA)))
  is.null(player$f) && !player$name %in% c("lookahead", "peeking", "person", "solved")
}

refuse_without_decisions <- function(game, call) {
  if ("players" %in% names(game$rules)) return(invisible())
  refuse(sprintf("In %s nobody decides anything.", kind_of(game)$title), call = call)
}
