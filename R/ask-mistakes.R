#' What mistakes cost
#'
#' Every decision in which a player does not do what best play does, with its price: what the move loses when all is
#' played well afterwards, and how often the player comes to it.
#'
#' The losses of all rows add up to exactly the difference of the two edges, or values: each row is weighed by the
#' player's own play and priced by the reference's (Kakade & Langford 2002, "Approximately optimal approximate
#' reinforcement learning", lemma 6.1). Of [game_blackjack()] the reference is best play by totals; in a finite shoe a
#' row may be negative: of single cards a table by totals knows nothing.
#'
#' Of [game_video_poker()] every hand is looked at (one of those that differ only in the names of suits), and what is
#' kept is told by the lines of the player's list or by usual ones.
#'
#' Of games whose seats hide their cards ([game_betting()], [game_cpp()]) the reference is the best answer to the
#' players of the other seats, by what the seat sees: a habit is priced against these opponents, and costs nothing where
#' they do not make it pay. No row costs less than nothing.
#'
#' @param game A game with decisions: [game_blackjack()] of one seat, [game_video_poker()], [game_betting()],
#'   [game_cpp()].
#' @param player A strategy or a player by rule, for pay-table poker [keep_rules()] or an R function, for games that
#'   hide cards any whose chances are known: [player_by_table()], [player_by_rules()], a mixture; `NULL`: that of the
#'   game.
#' @param dead Cards that are gone from the shoe.
#' @param seat Of several seats the player's.
#' @param against Of games that hide cards the players of the other seats; `NULL`: those of the game.
#' @return A `habanera_mistakes`, a data frame with a row for each mistake, the dearest first: `hand` (a row of a
#'   strategy, "early" before it before the dealer looks; "insurance"), `up_card`, `played`, `best` (moves), `cost` (of
#'   one, in initial stakes), `how_often` (of the rounds), `loss` (their product: stakes per round). Of pay-table poker
#'   `played` and `best` tell what is kept; `hand`, `kept` and `should` are the dearest case as an example. Of games
#'   that hide cards `sees` (text) tells what the seat sees, or `holding`, `shared` and `actions` do, `played` the moves
#'   that it makes with their chances; costs are in what the game is worth in.
#' @section Errors: `habanera_error_input` for a player who decides by luck, and for a game that is not solved;
#'   `habanera_error_rules` for other seats whose chances are not known; `habanera_error_work` for a game of more than
#'   five million positions.
#' @seealso [best_strategy()], [best_play()], [house_edge()].
#' @examples
#' mistakes(game_blackjack(), player_regular("baker"))
#' small <- game_betting(rules = "one card, one bet")
#' mistakes(small, player_by_rules("bet if holds(\"3\")", "call if holds(\"3\", \"2\")", "check", "fold"),
#'          seat = 2, against = "random")
#' @export
mistakes <- function(game, player = NULL, dead = NULL, seat = 1, against = NULL) {
  check_given()
  call <- rlang::current_env()
  reference <- capability(checked_game(game), "prices_mistakes", call)
  if (!is.null(reference$by_sight)) return(sighted_mistakes(game, player, dead, seat, against, call))
  if (!identical(as.double(seat), 1) || !is.null(against)) {
    refuse(sprintf("%s has one seat: no `%s`.", kind_of(game)$title, if (is.null(against)) "seat" else "against"),
           call = call)
  }
  game <- without_cut(without_cards(game, dead, call))
  if (!is.null(player)) game <- change_game(game, list(players = player), call)
  found <- reference$mistakes(game, call)
  rows <- found$rows[order(-found$rows$loss, found$rows$hand), , drop = FALSE]
  rownames(rows) <- NULL
  structure(rows, made = call_made(), class = table_class("habanera_mistakes"),
            edge = found$edge, best_edge = found$best_edge,
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
