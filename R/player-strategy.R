#' Strategies as tables
#'
#' What a player of [game_blackjack()] does by the own hand and the dealer's up card, as a grid that reads and writes as
#' CSV, prints, and is drawn.
#'
#' Entries: `H` hit, `S` stand, `P` split; and a first choice with another where it is not allowed: `D/H`, `D/S` double,
#' `R/H`, `R/S`, `R/P` surrender; `D` and `R` alone mean otherwise hit. A pair that is left out, or `-`, is played by
#' its total, as is one that may not be split. Rows that cannot occur may be left out; "hard 4" then plays as "hard 5"
#' and "soft 12" as "soft 13", and the total that is over only by a card more is stood on.
#'
#' @param x A data frame, the name of a CSV file, or cells as `as.character()` gives them. Column `hand` ("hard 4" to
#'   "hard 21", "soft 12" to "soft 21", "pair 2" to "pair 10", "pair A", and rows of cards), then a column for each up
#'   card, `2` to `10` and `A`, also as `X2`.
#' @param name What it is called in prints and tables; `NULL`: the file's name, or "strategy".
#' @param file The name of a file, ending in .csv for CSV, else written as aligned text.
#' @return A `habanera_strategy`, a player. `strategy_grid()`, and `as.data.frame()`, unless it is of [best_strategy()]:
#'   `hand`, then a column for each up card. `compare()`: a data frame of the cells that differ: `hand`, `up_card`, `x`,
#'   `y`. `write_strategy()`: the file's name, invisibly.
#' @section Errors: `habanera_error_input` for an entry that there is not, a row that is there twice and a cell that is
#'   missing, with its row and column; `habanera_error_rules` from [game_blackjack()] for a row that can occur and
#'   lacks, and for a split where there is none.
#' @seealso [customers] for players that need no table.
#' @examples
#' basic <- strategy_table(as.data.frame(player_basic()), "of our own")
#' basic
#' compare(player_basic(), player_regular("ferryman"))
#' # Where nothing is split, the row of a pair says what else is done with it.
#' rows <- as.data.frame(player_basic())
#' rows <- rows[!grepl("pair", rows$hand) | rows$hand == "pair 5", ]
#' rows[rows$hand == "pair 5", -1] <- "D/H"
#' game_blackjack(players = strategy_table(rows, "fives doubled"), most_hands = 1)
#' @export
strategy_table <- function(x, name = NULL) {
  check_given()
  call <- rlang::current_env()
  if (!is.null(name)) check_string(name)
  if (is.character(x)) check_utf8(x)
  if (rlang::is_string(x) && !grepl("[.]csv$", x, ignore.case = TRUE)) {
    return(new_strategy(cells_from_text(x, call), if (is.null(name)) "strategy" else name))
  }
  if (rlang::is_string(x)) return(strategy_from_file(x, if (is.null(name)) basename(x) else name, call))
  if (!is.data.frame(x)) refuse(sprintf("`x` must be a data frame or the name of a CSV file, not %s.", said(x)))
  new_strategy(cells_from_frame(x, call), if (is.null(name)) "strategy" else name)
}

strategy_from_file <- function(file, name, call) {
  table <- read_strategy(file, call)
  cells <- tryCatch(cells_from_frame(table, call), habanera_error_input = function(cnd) {
    refuse(sprintf("%s: %s", file_name(file), rlang::cnd_message(cnd)), call = call)
  })
  new_strategy(cells, name)
}

# `cells` is a matrix of entries, hands in rows and up cards in columns.
new_strategy <- function(cells, name) {
  cells <- cells[row_order(rownames(cells)), , drop = FALSE]
  player <- new_player("strategy")
  # In a text a name must not divide it.
  player$settings <- list(name = utils::URLencode(name, reserved = TRUE), cells = cells_as_text(cells))
  player$label <- name
  player$cells <- cells
  class(player) <- c("habanera_strategy", class(player))
  player
}

strategy_from_cells <- function(name, cells) strategy_table(as.character(cells), utils::URLdecode(as.character(name)))

# The entries as one letter each, and back.
entry_letters <- c(H = "H", S = "S", P = "P", "D/H" = "D", "D/S" = "d", "R/H" = "R", "R/S" = "r", "R/P" = "p",
                   "-" = "-", " " = ".")

cells_as_text <- function(cells) {
  names <- rows_as_text(rownames(cells))
  rows <- vapply(seq_len(nrow(cells)), function(row) {
    letters <- entry_letters[ifelse(is.na(cells[row, ]), " ", cells[row, ])]
    paste0(names[row], "=", paste(letters, collapse = ""))
  }, "")
  paste(rows, collapse = "/")
}

cells_from_text <- function(text, call) {
  rows <- strsplit(text, "/", fixed = TRUE)[[1]]
  if (!length(rows) || !all(grepl("^([hsp][0-9A]+|[cx][0-9A.]+)=[HSPDdRrp.-]{10}$", rows))) {
    refuse(sprintf("%s is no strategy table; name a CSV file, or give a data frame.", quoted(substr(text, 1, 40))),
           call = call)
  }
  hands <- rows_from_text(sub("=.*$", "", rows))
  entries <- strsplit(sub("^.*=", "", rows), "")
  cells <- matrix(names(entry_letters)[match(unlist(entries), entry_letters)], ncol = 10, byrow = TRUE,
                  dimnames = list(hands, up_cards))
  cells[cells == " "] <- NA
  check_hands(hands, call)
  cells
}

read_strategy <- function(file, call) {
  check_readable(file, call)
  table <- read_csv_columns(file, NULL, call)
  table[["line"]] <- NULL
  table[] <- lapply(table, function(column) ifelse(column == "NA", NA, column))
  table
}

cells_from_frame <- function(x, call) {
  names(x) <- sub("^X(?=[0-9A])", "", trimws(names(x)), perl = TRUE)
  refuse_columns_twice(names(x), "The strategy", call)
  if (!"hand" %in% names(x)) {
    refuse("A strategy has a column `hand` (such as \"hard 16\"), then one for each up card, 2 to 10 and A.",
           call = call)
  }
  ups <- toupper(setdiff(names(x), "hand"))
  unknown <- setdiff(ups, up_cards)
  if (length(unknown) || anyDuplicated(ups)) {
    refuse(sprintf("The columns of a strategy are `hand` and up cards from 2 to 10 and A, each once, not %s.",
                   quoted(c(unknown, ups[duplicated(ups)])[1])), call = call)
  }
  hands <- normal_rows(x$hand)
  check_hands(hands, call)
  cells <- matrix(NA_character_, length(hands), 10, dimnames = list(hands, up_cards))
  for (up in ups) cells[, up] <- read_entries(x[[which(toupper(names(x)) == up)]], hands, up, call)
  cells
}

check_hands <- function(hands, call) {
  unknown <- hands[!known_rows(hands) | hands != normal_rows(hands)]
  if (length(unknown)) {
    refuse(sprintf(paste("A row of a strategy is such as \"hard 16\", \"soft 18\", \"pair 8\", \"cards 10 6\" or",
                         "\"split 8 3\", not %s."), quoted(unknown[1])), call = call)
  }
  twice <- hands[duplicated(hands)]
  if (length(twice)) refuse(sprintf("The row %s is there twice.", quoted(twice[1])), call = call)
}

read_entries <- function(values, hands, up, call) {
  entries <- toupper(gsub("[[:space:]]", "", as.character(values)))
  entries[entries %in% c("D", "R")] <- paste0(entries[entries %in% c("D", "R")], "/H")
  at <- function(row) sprintf("row %s, column %s", quoted(hands[row]), quoted(up))
  missing <- which(is.na(entries) | !nzchar(entries))
  if (length(missing)) refuse(sprintf("The cell in %s is missing.", at(missing[1])), call = call)
  bad <- which(!entries %in% setdiff(names(entry_letters), " "))
  if (length(bad)) {
    refuse(sprintf("%s in %s is no entry: there are %s.", quoted(as.character(values)[bad[1]]), at(bad[1]),
                   join_words(setdiff(names(entry_letters), " "))), call = call)
  }
  unpaired <- which(entries %in% c("P", "R/P", "-") & !startsWith(hands, "pair"))
  if (length(unpaired)) {
    refuse(sprintf("%s in %s: only a pair is split, or played by its total.", quoted(entries[unpaired[1]]),
                   at(unpaired[1])), call = call)
  }
  entries
}

#' @export
as.data.frame.habanera_strategy <- function(x, row.names = NULL, optional = FALSE, ...) strategy_grid(x)

#' @rdname strategy_table
#' @export
strategy_grid <- function(x) {
  check_given()
  check_strategy(x, rlang::current_env())
  data.frame(hand = rownames(x$cells), x$cells, check.names = FALSE, row.names = NULL)
}

#' @export
as.character.habanera_strategy <- function(x, ...) x$settings$cells

#' @export
print.habanera_strategy <- function(x, ...) {
  cat(sprintf("<strategy> %s; H hit, S stand, D double, P split, R surrender\n", x$label))
  shown <- x
  by_cards <- is_card_row(rownames(x$cells))
  shown$cells <- x$cells[!by_cards | cumsum(by_cards) <= most_card_rows, , drop = FALSE]
  writeLines(strategy_lines(shown, TRUE))
  if (sum(by_cards) > most_card_rows) {
    cat(sprintf("# ... with %s more; strategy_grid() has all\n", format_count(sum(by_cards) - most_card_rows)))
  }
  invisible(x)
}

most_card_rows <- 10

# Aligned lines; `paint`: in colours, where the terminal has them.
strategy_lines <- function(x, paint = FALSE) {
  cells <- ifelse(is.na(x$cells), "", x$cells)
  kinds <- sub(" .*$", "", rownames(cells))
  lines <- apply(cells, 1, function(row) {
    text <- formatC(row, width = 4)
    paste(if (paint) painted_entries(text) else text, collapse = "")
  })
  width <- max(8, nchar(rownames(cells)))
  lines <- paste0(formatC(rownames(cells), width = -width), lines)
  heading <- paste0(formatC("", width = width), paste(formatC(colnames(cells), width = 4), collapse = ""))
  last <- kinds[length(kinds)]
  c(heading, unlist(lapply(unique(kinds), function(kind) c(lines[kinds == kind], if (kind != last) ""))))
}

painted_entries <- function(text) {
  paints <- list(H = cli::col_red, S = cli::col_yellow, D = cli::col_blue, P = cli::col_green, R = cli::col_silver)
  vapply(text, function(entry) {
    paint <- paints[[substr(trimws(entry), 1, 1)]]
    if (is.null(paint)) entry else as.character(paint(entry))
  }, "", USE.NAMES = FALSE)
}

#' @rdname strategy_table
#' @export
write_strategy <- function(x, file) {
  check_given()
  call <- rlang::current_env()
  check_strategy(x, call)
  table <- strategy_grid(x)
  lines <- if (grepl("[.]csv$", check_string(file), ignore.case = TRUE)) {
    table[is.na(table)] <- ""
    c(paste(names(table), collapse = ","), do.call(paste, c(unname(table), sep = ",")))
  } else strategy_lines(x)
  write_lines_whole(lines, file, call)
}

check_strategy <- function(x, call) {
  if (inherits(x, "habanera_strategy")) return(x)
  refuse(sprintf("`%s` must be a strategy, made by strategy_table(), not %s.", rlang::caller_arg(x), said(x)),
         call = call)
}

#' @rdname strategy_table
#' @param y Another strategy.
#' @param ... Not used.
#' @export
compare.habanera_strategy <- function(x, y, ...) {
  call <- rlang::current_env()
  check_no_more(call, ...)
  check_strategy(y, call)
  hands <- union(rownames(x$cells), rownames(y$cells))
  hands <- hands[row_order(hands)]
  cell <- function(of, hand) if (hand %in% rownames(of$cells)) of$cells[hand, ] else rep(NA_character_, 10)
  rows <- lapply(hands, function(hand) {
    data.frame(hand = hand, up_card = up_cards, x = unname(cell(x, hand)), y = unname(cell(y, hand)))
  })
  rows <- do.call(rbind, rows)
  rows <- rows[!mapply(identical, rows$x, rows$y), , drop = FALSE]
  rownames(rows) <- NULL
  structure(rows,
            made = call_made(), class = table_class("habanera_strategy_difference"), names_of = c(x$label, y$label))
}

#' @export
tell.habanera_strategy_difference <- function(x, rows = 30, ...) {
  names <- attr(x, "names_of")
  if (is.null(names)) return(NextMethod())
  cat_wrapped(sprintf("<strategies> %s and %s differ in %s.", names[1], names[2],
                      if (nrow(x)) count_of(nrow(x), "cell") else "nothing"))
  if (nrow(x)) print_head(plain_table(x), rows)
  invisible(x)
}

strategy_code <- function(player) {
  sprintf("strategy_table(%s, %s)", as_code(player$settings$cells), as_code(player$label))
}
