# What mistakes cost at games whose seats hide their cards.

sighted_mistakes <- function(game, player, dead, seat, against, call) {
  if (!is.null(dead)) without_cards(game, dead, call)
  check_whole(seat, 1, game_seats(game), call = call)
  if (!is.null(against)) game <- with_others(game, seat, against, call)
  if (!is.null(player)) {
    players <- seated_players(game$rules$players, game_seats(game))
    is_one <- inherits(player, "habanera_player") || is_found_play(player)
    players[seat] <- if (is.list(player) && !is_one) player[1] else list(player)
    game <- change_game(game, list(players = players), call)
  }
  found <- tryCatch(able(game, "prices_mistakes")$by_sight(game, seat, call), `habanera::OutOfReach` = refuse_unsolved)
  rows <- sighted_rows(found$moves)
  structure(rows, made = call_made(), class = table_class(c("habanera_mistakes_by_sight", "habanera_mistakes")),
            value = found$value,
            unit = found$unit, of_win = found$of_win, seat = as.double(seat),
            player = format(seated_players(game$rules$players, game_seats(game))[[seat]]), game = game)
}

# A row for each thing that is seen where something is lost.
sighted_rows <- function(moves) {
  by_row <- split(moves, moves$row)
  rows <- lapply(by_row, function(row) {
    made <- row$chance > 0
    data.frame(sees = row$sees[1], played = told_moves(row$move[made], row$chance[made]),
               best = row$move[row$best > 0], cost = row$worth[row$best > 0] - sum(row$worth * row$chance),
               how_often = row$how_often[1])
  })
  rows <- do.call(rbind, rows)
  rows$loss <- rows$cost * rows$how_often
  rows <- rows[rows$loss > 1e-13, , drop = FALSE]
  rows <- rows[order(-rows$loss, in_natural_order(rows$sees)), , drop = FALSE]
  rownames(rows) <- NULL
  parts <- if (nrow(rows)) holding_parts(rows$sees)
  if (is.null(parts)) rows else cbind(as.data.frame(Filter(Negate(is.null), parts)), rows[setdiff(names(rows), "sees")])
}

# "call", or "call 33.3%, fold 66.7%".
told_moves <- function(moves, chances) {
  paste(ifelse(chances > 1 - 1e-12, moves, sprintf("%s %s", moves, format_percent(chances))), collapse = ", ")
}

#' @export
tell.habanera_mistakes_by_sight <- function(x, rows = 15, ...) {
  worth <- function(value) paste(c(worth_in_words(value, attr(x, "of_win")), attr(x, "unit")), collapse = " ")
  lost <- sum(x$loss)
  cat_wrapped(sprintf("<mistakes> %s in seat %s, %s", attr(x, "player"), format_count(attr(x, "seat")),
                      in_words(attr(x, "game"))))
  if (!nrow(x)) {
    cat_wrapped(sprintf("None: nothing brings more against these opponents than %s.", worth(attr(x, "value"))))
    return(invisible(x))
  }
  cat_wrapped(sprintf("They cost %s a game: it has %s, the best answer to these opponents %s.", worth(lost),
                      worth(attr(x, "value")), worth(attr(x, "value") + lost)))
  told <- plain_table(x)[setdiff(names(x), c("cost", "how_often", "loss"))]
  print_head(data.frame(told, cost = format_number(x$cost, 3), `times in 100` = format_number(100 * x$how_often, 3),
                        `loss in 100` = format_number(100 * x$loss, 3), check.names = FALSE), rows)
  invisible(x)
}
