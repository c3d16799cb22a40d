#' Sound play of two seats that hide their cards
#'
#' How likely each seat should make each move, by what it sees, so that nobody can gain by playing otherwise; what the
#' game is worth then, and how far from it the answer can be at most.
#'
#' Moves that a seat regrets not to have made are made more often, round after round, over all courses of the game at
#' once (Zinkevich, Johanson, Bowling & Piccione 2007, "Regret minimization in games with incomplete information"; sums
#' of regrets that end at zero, seats in turn and later rounds weighted by their number as Tammelin 2014, "Solving large
#' imperfect information games using CFR+"). The mean over the rounds is held against the best answer of each seat,
#' which is worked out exactly: `gap` is what both answers gain together, and the value of the game lies in an interval
#' just that wide. No luck is drawn.
#'
#' What a row says is not always the only sound play: rows that sound play never comes to (`reached` of 0) can be
#' anything that loses nothing, and moves that bring the same can be mixed otherwise.
#'
#' @param game A game with two seats of which one wins what the other loses: [game_betting()] without a `pot`, or a game
#'   of [game_cpp()] whose views tell what the seat saw and did before. Who sits there does not matter.
#' @param gap What best answers may gain together, in what the game's outcomes are worth.
#' @param seconds When to stop, whatever the gap is by then.
#' @return A `habanera_equilibrium`, also a table for [player_by_table()]. `as.data.frame()`: a row for each move:
#'   `seat`, `sees` (text), `move`, `chance`, `reached` (the chance that the seat comes to see it). `tidy()`: `term`
#'   ("value_1", "value_2": what each seat wins; "gap"), `estimate`, `conf.low`, `conf.high` (the values lie between
#'   them, surely).
#' @section Errors: `habanera_error_input` for a game that is not made of views; `habanera_error_rules` for other than
#'   two seats, where what one wins the other does not lose, or a view forgets what the seat saw or did (Koller &
#'   Megiddo 1992, "The complexity of two-person zero-sum games in extensive form"); `habanera_error_work` for a game of
#'   more than five million positions.
#' @seealso [best_play()] against players that are known; [player_by_table()].
#' @examples
#' \donttest{
#' lanterns <- game_cpp(system.file("examples", "lanterns.cpp", package = "habanera"),
#'                      deck = deck_numbered(3))
#' sound <- equilibrium(lanterns)
#' sound
#' exact(change_rules(lanterns, players = player_by_table(sound)))
#' }
#' @export
equilibrium <- function(game, gap = 1e-3, seconds = 60) {
  check_given()
  call <- rlang::current_env()
  checked_game(game)
  refuse_without_decisions(game, call)
  sound <- capability(game, "plays_soundly", call)
  check_between(gap, 0, Inf)
  check_between(seconds, 0, Inf)
  if (game_seats(game) != 2) {
    refuse(sprintf("Sound play is found for two seats, not %s.", format_count(game_seats(game))), "rules", call)
  }
  found <- tryCatch(sound$solve(game, gap, seconds, call), `habanera::OutOfReach` = refuse_unsound)
  if (found$interrupted) warn_user("Interrupted: this is what was found by then, with its gap.", "interrupted")
  structure(found, class = result_class("habanera_equilibrium"))
}

refuse_unsound <- function(cnd) {
  refuse(sprintf(paste("Sound play is out of reach here: %s. Take fewer cards, count more of them as alike",
                       "(`likeness()`), or fewer moves."), conditionMessage(cnd)), "work", call = NULL)
}

#' @export
as.data.frame.habanera_equilibrium <- function(x, row.names = NULL, optional = FALSE, ...) x$rows

#' @export
kept_rows.habanera_equilibrium <- function(x) x$rows

#' @rawNamespace S3method(generics::tidy, habanera_equilibrium)
tidy.habanera_equilibrium <- function(x, ...) {
  data.frame(term = c("value_1", "value_2", "gap"), estimate = c(x$value, x$total - x$value, x$high - x$low),
             conf.low = c(x$low, x$total - x$high, NA), conf.high = c(x$high, x$total - x$low, NA))
}

#' @export
in_words.habanera_equilibrium <- function(x, ...) {
  worth <- function(value) paste(c(worth_in_words(value, x$of_win), x$unit), collapse = " ")
  sprintf("Sound play brings seat 1 %s, surely from %s to %s: best answers gain %s, both together.",
          worth(x$value), worth(x$low), worth(x$high), worth(x$high - x$low))
}

#' @export
tell.habanera_equilibrium <- function(x, rows = 30, ...) {
  cat_wrapped("<equilibrium> ", in_words(x))
  cat_wrapped(sprintf("%s; %s told apart, %s of play.", x$game, count_of(x$sets, "view"),
                      count_of(x$rounds, "round")))
  if (x$high - x$low > x$wanted) {
    cat_wrapped(sprintf("The gap of %s was not reached: more `seconds` bring it nearer.", format_number(x$wanted, 2)))
  }
  tell_moves(x$rows, rows)
  invisible(x)
}
