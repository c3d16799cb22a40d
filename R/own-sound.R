# Best and sound play at a game of one's own in C++, by what its seats see.

# Best play of a seat that does not see all cards, by what it sees; and what it gains on who sits there.
cpp_best_answer <- function(game, seat, part, stated, call) {
  refuse_unweighed(stated, list(new_player("solved")), game_seats(game), call, hides = FALSE)
  players <- seated_players(game$rules$players, game_seats(game))
  unknown <- Filter(Negate(has_chances), players[-seat])
  if (length(unknown)) {
    refuse(sprintf(paste("Best play is found against players whose chances are known (random, a table, a mixture, or",
                         "one of the file), not %s."), quoted(format(unknown[[1]]))), "rules", call)
  }
  open <- opened_seats(game, seat)
  found <- gone_through(game, part("best_answer")(open, seat), call)
  if (is.null(found)) refuse_forgetting(game, seat, call)
  now <- if (has_chances(players[[seat]])) gone_through(game, part("values")(game$spec$rules), call)[seat]
  list(worth = found$worth, gain = found$worth - now, positions = found$positions,
       words = worth_on_average(found$worth, of_win(stated)), game = in_words(game),
       rows = rows_in_order(as.data.frame(found$rows)))
}

cpp_sound <- function(game, gap, seconds, sound, stated, call) {
  refuse_unweighed(stated, list(new_player("solved")), 2, call, hides = FALSE)
  found <- gone_through(game, sound(opened_seats(game, 1:2), gap, seconds), call)
  if (!is.null(found$forgets)) refuse_forgetting(game, found$forgets, call)
  found$rows <- rows_in_order(as.data.frame(found$rows))
  c(found, list(wanted = gap, of_win = of_win(stated), game = in_words(game)))
}

# Every course of a game by what is seen.
gone_through <- function(game, code, call) {
  told_of_own_code(game, tryCatch(code, `habanera::StockRanOut` = function(cnd) refuse_small_pack(call),
                                  `habanera::NotPlayedSo` = function(cnd) {
    refuse(sprintf("%s: %s.", kind_of(game)$title, conditionMessage(cnd)), "rules", call)
  }))
}

# The game as the core takes it, with nobody in some seats.
opened_seats <- function(game, seats) {
  spec <- game$spec$rules
  spec$players[seats] <- list(list(name = "nobody"))
  spec
}

refuse_forgetting <- function(game, seat, call) {
  refuse(c(sprintf(paste("In %s the view of seat %s tells less than what it saw and did before, so that its best play",
                         "is not to be had of it."), kind_of(game)$title, format_count(seat)),
           i = "A View that holds the seat's own cards and all moves so far tells enough."), "rules", call)
}

refuse_unweighed <- function(stated, players, seats, call, hides = stated$hides_cards) {
  sits <- function(name) any(vapply(players, function(player) player$name == name, NA))
  types <- vapply(stated$outcomes, `[[`, "", "type")
  weighs <- any(vapply(c("lookahead", "peeking", "solved"), sits, NA))
  if (weighs && !stated$has_worth && !tells_worth_to_all(types, seats)) {
    refuse(paste("These players must know what outcomes are worth: an outcome that is a seat, money for each seat, or",
                 "a `worth()`."), "rules", call)
  }
  if (sits("solved") && hides) {
    refuse(paste("`player_solved()` is of games in which every seat sees all cards that were dealt; here",
                 "player_by_table(best_play()) and player_lookahead()."), "rules", call)
  }
}

# Whether what outcomes are worth is a share of the win.
of_win <- function(stated) {
  !stated$has_worth && any(vapply(stated$outcomes, function(outcome) outcome$type == "seat", NA))
}
