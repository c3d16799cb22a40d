#' What mistakes cost
#'
#' Every decision in which a player does not do what best play by totals does, with its price: what the move loses when
#' all is played well afterwards, and how often the player comes to it.
#'
#' The losses of all rows add up to exactly the difference of the two edges: each row is weighed by the player's own
#' play and priced by the reference's (Kakade & Langford 2002, "Approximately optimal approximate reinforcement
#' learning", lemma 6.1). In a finite shoe a row may be negative: of single cards a table by totals knows nothing.
#'
#' Of [game_video_poker()] every hand is looked at (one of those that differ only in the names of suits), and what is
#' kept is told by the lines of the player's list or by usual ones.
#'
#' @param game A game for money with decisions: [game_blackjack()], of one seat, or [game_video_poker()].
#' @param player A strategy or a player by rule, for pay-table poker [keep_rules()] or an R function; `NULL`: that of
#'   the game.
#' @param dead Cards that are gone from the shoe.
#' @return A `habanera_mistakes`, a data frame with a row for each mistake, the dearest first: `hand` (a row of a
#'   strategy, "early" before it before the dealer looks; "insurance"), `up_card`, `played`, `best` (moves), `cost` (of
#'   one, in initial stakes), `how_often` (of the rounds), `loss` (their product: stakes per round). Of pay-table poker
#'   `played` and `best` tell what is kept; `hand`, `kept` and `should` are the dearest case as an example.
#' @section Errors: `habanera_error_input` for a player who decides by luck, and for a game that is not solved.
#' @seealso [best_strategy()], [house_edge()].
#' @examples
#' mistakes(game_blackjack(), player_regular("baker"))
#' @export
mistakes <- function(game, player = NULL, dead = NULL) {
  check_given()
  call <- rlang::current_env()
  reference <- capability(checked_game(game), "prices_mistakes", call)
  game <- without_cut(without_cards(game, dead, call))
  if (!is.null(player)) game <- change_game(game, list(players = player), call)
  found <- reference$mistakes(game, call)
  rows <- found$rows[order(-found$rows$loss, found$rows$hand), , drop = FALSE]
  rownames(rows) <- NULL
  structure(rows, class = table_class("habanera_mistakes"), edge = found$edge, best_edge = found$best_edge,
            best = found$best, player = format(game$rules$players[[1]]), game = game)
}

#' @export
tell.habanera_mistakes <- function(x, rows = 15, ...) {
  lost <- attr(x, "edge") - attr(x, "best_edge")
  cat_wrapped(sprintf("<mistakes> %s, %s", attr(x, "player"), game_in_words(attr(x, "game"), "players")))
  if (!nrow(x)) cat_wrapped(sprintf("None: %s.", edge_in_words(attr(x, "edge"))))
  if (nrow(x)) {
    cat_wrapped(sprintf(paste("They cost %s stakes in a hundred rounds: %s, against the %s %s."),
                        format_number(100 * lost, 4), edge_in_words(attr(x, "edge")), attr(x, "best"),
                        signed_percent(attr(x, "best_edge"))))
    told <- x[setdiff(names(x), c("cost", "how_often", "loss", "kept", "should"))]
    names(told)[names(told) == "up_card"] <- "against"
    names(told)[names(told) == "hand" & !is.null(x$kept)] <- "such as"
    print_head(data.frame(told, cost = format_number(x$cost, 3), `times in 100` = format_number(100 * x$how_often, 3),
                          `loss in 100` = format_number(100 * x$loss, 3), check.names = FALSE), rows)
  }
  invisible(x)
}
