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
      if (!inherits(player, "habanera_player") || !player$name %in% known) {
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
