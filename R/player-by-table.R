#' A player by a table of chances
#'
#' What a seat does by what it sees: for each thing that it can see, moves and how likely it makes each. [equilibrium()]
#' and [best_play()] of hidden hands give such tables; one can be typed, too, or edited as CSV.
#'
#' @param table A data frame, the name of a CSV file, or a result of [equilibrium()] or [best_play()]: a row for each
#'   move, with `sees` (text: what the seat sees, as the game tells it, such as `"card: 3; made: check"`), `move` (its
#'   name, or number), `chance` (from 0 to 1; those of one `sees` come to 1, and moves left out have none), and, where
#'   seats play by rows of their own, `seat` (from 1). Other columns are passed over. Of [game_betting()] also a row for
#'   each `holding` (cards, or a class of them, see [hand_classes]), `shared` (cards that all see, where some are
#'   turned) and `actions` (the moves so far, such as `"check bet"`), with a column of chances for each move (`check`,
#'   `bet`, `call`, `fold`, `raise pot`, `all in`), blank where it is not open.
#' @param name What it is called in prints and results; `NULL`: the file's name, or "table".
#' @return A player for [game_betting()], and for [game_cpp()] and [game_custom()], whose views are then told as text in
#'   the same way. `as.data.frame()`: `seat` (if there is one), `sees`, `move`, `chance`; of holdings `seat`, `holding`,
#'   `shared`, `actions` and a column for each move.
#' @section Errors: `habanera_error_input` for columns that lack, chances that are none or do not come to 1, and a move
#'   that is there twice, with the row; `habanera_error_rules` for a move that the game does not have;
#'   `habanera_error_function` where the seat sees what no row tells of, with the trial.
#' @seealso [strategy_table()] for [game_blackjack()].
#' @examples
#' player_by_table(data.frame(sees = c("card: 1; made:", "card: 1; made:", "card: 2; made:"),
#'                            move = c("check", "bet", "check"), chance = c(2 / 3, 1 / 3, 1)), "sly")
#' second <- data.frame(holding = c(1, 2, 3, 1, 2, 3), actions = rep(c("check", "bet"), each = 3),
#'                      check = c(2 / 3, 1, 0, NA, NA, NA), bet = c(1 / 3, 0, 1, NA, NA, NA),
#'                      call = c(NA, NA, NA, 0, 1 / 3, 1), fold = c(NA, NA, NA, 1, 2 / 3, 0))
#' player_by_table(second, "sound")
#' exact(game_betting(rules = "one card, one bet",
#'                    players = list("calls_all", player_by_table(second))))
#' @export
player_by_table <- function(table, name = NULL) {
  check_given()
  call <- rlang::current_env()
  if (!is.null(name)) check_string(name)
  if (rlang::is_string(table)) {
    if (is.null(name)) name <- basename(table)
    check_readable(table, call)
    table <- read_csv_columns(table, NULL, call)
  } else if (inherits(table, "habanera_result")) {
    table <- as.data.frame(table)
  }
  if (!is.data.frame(table)) {
    refuse(sprintf("`table` must be a data frame, the name of a CSV file, or what equilibrium() gives, not %s.",
                   said(table)))
  }
  wide <- holds_holdings(table)
  if (wide) table <- rows_by_move(table, call)
  player <- new_chance_table(checked_chances(table, call), if (is.null(name)) "table" else name)
  # A blank where a move is open is a slip; in a row for each move what is left out has no chance.
  if (wide) player$by_holding <- TRUE
  player
}

# Whether a CSV file is such a table, and no strategy.
holds_chances <- function(file) {
  if (!file.exists(file)) return(FALSE)
  columns <- trimws(names(read_csv_columns(file, NULL, NULL)))
  "chance" %in% columns || ("holding" %in% columns && any(grepl(move_column, columns)))
}

checked_chances <- function(table, call) {
  refuse_columns_twice(names(table), "A table of chances", call)
  lacking <- setdiff(c("sees", "move", "chance"), names(table))
  if (length(lacking) || !nrow(table)) {
    refuse(sprintf("A table of chances has columns `sees`, `move` and `chance`, and a row for each move; %s.",
                   if (length(lacking)) sprintf("`%s` lacks", lacking[1]) else "there is no row"), call = call)
  }
  slip <- function(row, what) refuse(sprintf("Row %d of the table of chances: %s.", row, what), call = call)
  rows <- data.frame(sees = trimws(as.character(table[["sees"]])), move = trimws(as.character(table[["move"]])),
                     chance = if (is.character(table[["chance"]])) written_numbers(table[["chance"]]) else
                       suppressWarnings(as.double(table[["chance"]])))
  check_utf8(c(rows$sees, rows$move), "the table of chances", call)
  bad <- which(is.na(rows$chance) | rows$chance < 0 | rows$chance > 1)[1]
  if (!is.na(bad)) slip(bad, sprintf("`chance` must be a number from 0 to 1, not %s", said(table[["chance"]][bad])))
  bad <- which(is.na(rows$sees) | is.na(rows$move) | !nzchar(rows$move))[1]
  if (!is.na(bad)) slip(bad, "`sees` and `move` must be told")
  if ("seat" %in% names(table)) {
    rows <- cbind(seat = suppressWarnings(as.double(as.character(table[["seat"]]))), rows)
    bad <- which(is.na(rows$seat) | rows$seat < 1 | rows$seat != floor(rows$seat))[1]
    if (!is.na(bad)) slip(bad, sprintf("`seat` must be a whole number from 1, not %s", said(table[["seat"]][bad])))
  }
  where <- if ("seat" %in% names(rows)) paste(rows$seat, rows$sees, sep = "\r") else rows$sees
  bad <- which(duplicated(paste(where, rows$move, sep = "\r")))[1]
  if (!is.na(bad)) slip(bad, sprintf("%s is there twice for %s", quoted(rows$move[bad]), quoted(rows$sees[bad])))
  sums <- stats::ave(rows$chance, where, FUN = sum)
  bad <- which(abs(sums - 1) > 1e-6)[1]
  if (!is.na(bad)) {
    slip(bad, sprintf("the chances for %s come to %s, not to 1", quoted(rows$sees[bad]), format_number(sums[bad], 6)))
  }
  # What is 1 but for rounding stays as it is, so that a table read again is the same.
  rows$chance <- ifelse(abs(sums - 1) < 1e-12, rows$chance, rows$chance / sums)
  rows_in_order(rows)
}

# By seat, then by what is seen.
rows_in_order <- function(rows) {
  seat <- if ("seat" %in% names(rows)) rows$seat else rep(1, nrow(rows))
  sees <- unique(rows$sees)
  rows <- rows[order(seat, in_natural_order(sees)[match(rows$sees, sees)]), , drop = FALSE]
  rownames(rows) <- NULL
  rows
}

# What is seen sorts by its words, and numbers in it by their size.
in_natural_order <- function(text) {
  padded <- gsub("([0-9]+)", paste0(strrep("0", 20), "\\1"), text)
  xtfrm(gsub("[0-9]*([0-9]{20})(?![0-9])", "\\1", padded, perl = TRUE))
}

new_chance_table <- function(rows, name) {
  player <- new_player("table")
  player$settings <- list(name = encoded_text(name), rows = chances_as_text(rows))
  player$label <- name
  player$rows <- rows
  class(player) <- c("habanera_chance_table", class(player))
  player
}

# A text in which nothing stands that divides players and their settings.
chances_as_text <- function(rows) {
  seat <- if ("seat" %in% names(rows)) format(rows$seat) else ""
  parts <- paste(seat, rows$sees, rows$move, sprintf("%.17g", rows$chance), sep = "\t")
  encoded_text(paste(parts, collapse = "\n"))
}

# As utils::URLencode(reserved = TRUE) has it, which takes seconds for a table of some thousand rows.
encoded_text <- function(text) {
  used <- unique(strsplit(text, "")[[1]])
  special <- used[!grepl("^[-A-Za-z0-9._~]$", used, perl = TRUE)]
  for (one in c(intersect("%", special), setdiff(special, "%"))) {
    text <- gsub(one, utils::URLencode(one, reserved = TRUE), text, fixed = TRUE)
  }
  text
}
decoded_text <- function(text) {
  at <- gregexpr("(%[0-9A-Fa-f]{2})+", text)
  found <- regmatches(text, at)[[1]]
  known <- unique(found)
  regmatches(text, at) <- list(vapply(known, utils::URLdecode, "", USE.NAMES = FALSE)[match(found, known)])
  text
}

# As a player's text names it.
table_from_text <- function(rows, name = "table") {
  parts <- strsplit(strsplit(decoded_text(as.character(rows)), "\n", fixed = TRUE)[[1]], "\t", fixed = TRUE)
  if (!length(parts) || any(lengths(parts) != 4)) {
    refuse("A table of chances as text is what as.character() of player_by_table() gives.", call = NULL)
  }
  table <- rlang::set_names(as.data.frame(do.call(rbind, parts)), c("seat", "sees", "move", "chance"))
  if (all(!nzchar(table[["seat"]]))) table[["seat"]] <- NULL
  new_chance_table(checked_chances(table, NULL), utils::URLdecode(as.character(name)))
}

#' @export
as.data.frame.habanera_chance_table <- function(x, row.names = NULL, optional = FALSE, ...) {
  wide <- rows_by_holding(x$rows)
  if (is.null(wide)) x$rows else wide
}

#' @export
print.habanera_chance_table <- function(x, rows = 30, ...) {
  cat_wrapped("<player> ", sprintf("%s, by a table of %s of moves.", x$label, count_of(nrow(x$rows), "chance")))
  tell_rows(x$rows, rows)
  invisible(x)
}

# A row for each thing that is seen, a column for each move, "." where it may not be made.
chances_by_move <- function(rows) {
  keys <- intersect(c("seat", "sees"), names(rows))
  moves <- unique(rows$move)
  seen <- unique(rows[keys])
  rownames(seen) <- NULL
  at <- match(do.call(paste, c(rows[keys], sep = "\r")), do.call(paste, c(seen[keys], sep = "\r")))
  cells <- matrix(".", nrow(seen), length(moves), dimnames = list(NULL, moves))
  cells[cbind(at, match(rows$move, moves))] <- sprintf("%.3f", rows$chance)
  seen$sees <- format(seen$sees)
  cbind(seen, as.data.frame(cells, optional = TRUE))
}

tell_rows <- function(rows, most) {
  lines <- holding_lines(rows)
  if (is.null(lines)) return(print_head(chances_by_move(rows), most))
  writeLines(utils::head(lines, most))
  if (length(lines) > most) cat(sprintf("# ... with %s more\n", format_count(length(lines) - most)))
}

tell_moves <- function(rows, most) {
  tell_rows(rows, most)
  never <- nrow(unique(rows[rows$reached < 1e-9, c("seat", "sees")]))
  if (never > 0) {
    cat_wrapped(sprintf("%s never come to: what is done there is one sound way of many.",
                        paste(count_of(never, "row"), if (never == 1) "is" else "are")))
  }
}

# The rows for a seat as the core takes them. A move is told by its name, with an amount where it has one; `told` makes
# of them those that the game tells.
core_chance_table <- function(player, seat, words, told) {
  rows <- player$rows
  if ("seat" %in% names(rows)) rows <- rows[rows$seat == seat, ]
  what <- sub(" -?[0-9]+$", "", rows$move)
  bad <- if (!is.null(words)) which(!what %in% words & !rows$move %in% words)[1] else
    which(is.na(written_numbers(rows$move)))[1]
  if (!is.na(bad)) {
    refuse(sprintf("The table %s has a move %s, which the game does not know%s", quoted(player$label),
                   quoted(rows$move[bad]),
                   if (is.null(words)) ": its moves are numbers from 1." else
                     sprintf("%s Moves: %s.", did_you_mean(what[bad], words), join_words(words))), "rules", NULL)
  }
  rows <- told(rows, seat, player)
  list(name = "table", sees = rows$sees, moves = rows$move, chances = rows$chance)
}
