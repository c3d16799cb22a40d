# Players as a rule of a game.

# A player for all, or a list with one for each; also as text.
rule_players <- function(known, meaning) {
  default <- new_players(list(player_makers[[known[1]]]()))
  allowed <- sprintf("a player (%s) for all seats, or a list with one for each", join_words(known, "or"))
  new_rule("players", default, allowed, meaning, function(value, name, call) {
    if (inherits(value, "habanera_player")) value <- list(value)
    if (is.character(value)) value <- trimws(unlist(strsplit(value, ",", fixed = TRUE)))
    if (!length(value) || !(is.list(value) || is.character(value))) {
      refuse(sprintf("`players` must be %s, not %s.", allowed, said(value)), call = call)
    }
    players <- lapply(value, function(player) if (rlang::is_string(player)) player_from_text(player, call) else player)
    for (player in players) {
      if (!inherits(player, "habanera_player") || !player$name %in% c(known, "with")) {
        refuse(sprintf("`players` must be %s, not %s.", allowed,
                       if (inherits(player, "habanera_player")) quoted(player$name) else said(player)), call = call)
      }
    }
    new_players(players)
  })
}

# One for each seat.
seated_players <- function(players, seats) unclass(players)[rep_len(seq_along(players), seats)]

refuse_other_number <- function(players, seats, call) {
  if (length(players) %in% c(1, seats)) return(invisible())
  refuse(sprintf("There are %s for %s.", count_of(length(players), "player"), count_of(seats, "seat")), "rules",
         call = call)
}

# Whether a game is played in R, one trial after the other: an R function shuffles or decides.
has_r_function <- function(game) has_function(game$shuffle) || has_function_player(game)

has_function_player <- function(game) any(vapply(game$rules$players, function(player) !is.null(player$f), NA))

# A player as the core takes it. What a function returns is checked here, so that the error can say which choice it was.
core_player <- function(player) {
  spec <- c(name = player$name, player$settings)
  if (is.null(player$f)) return(spec)
  c(as.list(spec), f = function(view, moves, choice) {
    move <- refuse_if_fails(player$f(view, moves), sprintf("Your player failed at choice %d of its game.", choice),
                            "function", NULL)
    if (is.numeric(move) && length(move) == 1 && move %in% moves) return(as.double(move))
    refuse(sprintf("Your player must return one of its moves (%s), not %s, at choice %d of its game.",
                   join_some(as.character(moves), 8), said(move), choice), "function", NULL)
  })
}
