# Best and sound play at a game of one's own in C++, by what its seats see.

cpp_best_answer <- function(game, seat, part, stated, call) {
  refuse_unweighed(stated, list(new_player("solved")), game_seats(game), call, hides = FALSE)
  best_answer_by_sight(game, seat, cpp_tree(part, stated), call)
}

cpp_sound <- function(game, gap, seconds, part, stated, call) {
  refuse_unweighed(stated, list(new_player("solved")), 2, call, hides = FALSE)
  sound_by_sight(game, gap, seconds, cpp_tree(part, stated), call)
}

cpp_mistakes <- function(game, seat, part, stated, call) {
  refuse_unweighed(stated, list(new_player("solved")), game_seats(game), call, hides = FALSE)
  mistakes_by_sight(game, seat, cpp_tree(part, stated), call)
}

cpp_tree <- function(part, stated) {
  list(best_answer = part("best_answer"), costs = part("costs"), values = part("values"),
       sound = part("sound"), unit = 1,
       in_words = function(worth) worth_in_words(worth, of_win(stated)), of_win = of_win(stated), unit_words = NULL)
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
