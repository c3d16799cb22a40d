#' Best play
#'
#' What the best play of one seat is worth, with the other seats as they are: every course of the game is gone through,
#' and what positions are worth is remembered. [player_solved()] sits in a game and plays like that.
#'
#' @param game A game with decisions, such as [game_pairs()].
#' @param seat The seat that plays best; the others must decide by what lies on the table alone (full_memory, careful,
#'   random), at a game of [game_custom()] at random.
#' @return A `habanera_best_play`: a list of `worth` (of several seats, the seat's expected share of the win; of pairs
#'   alone, minus the expected number of turns), `positions` (how many were told apart), `seat` and `game` (in words).
#' @section Errors: `habanera_error_input` for a game without decisions; `habanera_error_rules` for other seats that
#'   remember or foresee something of their own; `habanera_error_work` where there are more than a million positions, or
#'   positions that come again by chance (as against player_random()).
#' @examples
#' best_play(game_pairs(pairs = 6, seats = 1))
#' best_play(game_pairs(pairs = 4, players = list(player_full_memory(), player_careful())), seat = 2)
#' @export
best_play <- function(game, seat = 1) {
  check_given()
  call <- rlang::current_env()
  checked_game(game)
  refuse_without_decisions(game, call)
  searches <- capability(game, "searches", call, best_play_instead(game))
  check_whole(seat, 1, game_seats(game))
  found <- tryCatch(searches$solve(game, seat, call), `habanera::OutOfReach` = refuse_unsolved)
  structure(c(found, list(seat = seat)), class = result_class("habanera_best_play"))
}

best_play_instead <- function(game) {
  if (!is.null(able(game, "plays_best"))) return("best_strategy() has its best play.")
  "player_lookahead() tries moves at any game that says what its outcomes are worth."
}

#' @rawNamespace S3method(generics::tidy, habanera_best_play)
tidy.habanera_best_play <- function(x, ...) {
  data.frame(term = "worth", estimate = x$worth, seat = x$seat, positions = x$positions)
}

#' @export
tell.habanera_best_play <- function(x, ...) {
  cat_wrapped("<best play> ", x$game)
  cat_wrapped(sprintf("Seat %s: %s, exactly; %s told apart.", format_count(x$seat), x$words,
                      count_of(x$positions, "position")))
  invisible(x)
}
