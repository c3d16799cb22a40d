# A seat whose best play the core works out.

# The game with the player that plays best in a seat; and what `solver(player)` finds of it, as the core takes it.
with_solved_seat <- function(game, seat, call) {
  players <- seated_players(game$rules$players, game_seats(game))
  players[[seat]] <- player_solved()
  change_game(game, list(players = players), call)
}

solved_in_seat <- function(game, seat, call, solver) {
  solved <- with_solved_seat(game, seat, call)
  c(solver(solved$spec$rules$players[[seat]]), list(game = in_words(solved)))
}
