#' Best play
#'
#' What the best play of one seat is worth, with the other seats as they are: every course of the game is gone through,
#' and what positions are worth is remembered. [player_solved()] sits in a game and plays like that.
#'
#' @param game A game with decisions, such as [game_pairs()] or [game_betting()].
#' @param seat The seat that plays best.
#' @param against The players of the other seats, or those who sit there (`NULL`): they must decide by what they see
#'   alone (full_memory, careful, random), at a game of [game_custom()] at random or by [player_by_table()]. At
#'   [game_betting()], and a game of [game_cpp()] in which seats hide cards from each other, any player will do whose
#'   chances are known: random, one of the file's, a table, rules, a mixture.
#' @return A `habanera_best_play`: a list of `worth` (of several seats, the seat's expected share of the win, or what
#'   the game says that outcomes are worth; of pairs alone, minus the expected number of turns), `positions` (how many
#'   were told apart), `seat` and `game` (in words). `tidy()`: `term` "value", and, where seats hide cards, "gain": on
#'   who sits there now. `as.data.frame()`: where seats hide cards the moves, as a table for [player_by_table()].
#' @section Hidden cards: Positions that are one to the seat are held together, each weighted by its chance and by what
#'   the others do there, and the best move is chosen in them from the last to the first. The view must tell all that
#'   the seat saw and did before (perfect recall; Koller & Megiddo 1992, "The complexity of two-person zero-sum games in
#'   extensive form").
#' @section Errors: `habanera_error_input` for a game without decisions; `habanera_error_rules` for other seats that
#'   remember or foresee something of their own, and a view that forgets; `habanera_error_work` where there are more
#'   than a million positions (five million in a tree of hidden cards), or positions that come again by chance (as
#'   against player_random()).
#' @examples
#' best_play(game_pairs(pairs = 6, seats = 1))
#' best_play(game_pairs(pairs = 4, players = list(player_full_memory(), player_careful())), seat = 2)
#' @export
best_play <- function(game, seat = 1, against = NULL) {
  check_given()
  call <- rlang::current_env()
  checked_game(game)
  refuse_without_decisions(game, call)
  searches <- capability(game, "searches", call, best_play_instead(game))
  check_whole(seat, 1, game_seats(game))
  if (!is.null(against)) game <- with_others(game, seat, against, call)
  found <- tryCatch(searches$solve(game, seat, call), `habanera::OutOfReach` = refuse_unsolved)
  structure(c(found, list(seat = seat)), made = call_made(), class = result_class("habanera_best_play"))
}

# The game with others in all seats but one; they are told for all seats, or for these.
with_others <- function(game, seat, against, call) {
  seats <- game_seats(game)
  if (inherits(against, "habanera_player") || is.function(against) || rlang::is_string(against) ||
      is_found_play(against)) {
    against <- list(against)
  }
  if (!length(against) %in% c(1, seats - 1, seats)) {
    refuse(sprintf("`against` must be one player for all, or %s for the other seats, not %s.", format_count(seats - 1),
                   format_count(length(against))), call = call)
  }
  players <- seated_players(game$rules$players, seats)
  others <- if (length(against) == seats && seats > 1) against[-seat] else rep_len(against, seats - 1)
  players[-seat] <- others
  change_game(game, list(players = players), call)
}

best_play_instead <- function(game) {
  if (!is.null(able(game, "plays_best"))) return("best_strategy() has its best play.")
  "player_lookahead() tries moves at any game that says what its outcomes are worth."
}

#' @rawNamespace S3method(generics::tidy, habanera_best_play)
tidy.habanera_best_play <- function(x, ...) {
  data.frame(term = c("value", if (length(x$gain)) "gain"), estimate = c(x$worth, x$gain), seat = x$seat,
             positions = x$positions)
}

#' @export
kept_rows.habanera_best_play <- function(x) as.data.frame(x)

#' @export
as.data.frame.habanera_best_play <- function(x, row.names = NULL, optional = FALSE, ...) {
  if (is.null(x$rows)) generics::tidy(x) else x$rows
}

#' @export
tell.habanera_best_play <- function(x, ...) {
  cat_wrapped("<best play> ", x$game)
  gain <- if (length(x$gain)) sprintf(" (%s more than who sits there now)", format_number(x$gain, 4)) else ""
  cat_wrapped(sprintf("Seat %s: %s, exactly%s; %s told apart.", format_count(x$seat), x$words, gain,
                      count_of(x$positions, if (is.null(x$rows)) "position" else "view")))
  if (!is.null(x$rows)) tell_moves(x$rows, 30)
  invisible(x)
}
