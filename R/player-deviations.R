#' Where play goes by the count
#'
#' Departures of a strategy by the true count, cell by cell: with hard 16 against a 10, stand from a count of 0 on.
#'
#' @param x A data frame, the name of a CSV file, or such text as `as.character()` gives. Columns: `hand` and `up_card`,
#'   a cell of a [strategy_table()]; `from`, the count from which on, and `below`, the count below which (either may be
#'   empty); `move`, an entry of a strategy, or a word for it (hit, stand, double, split, surrender).
#' @param file The name of a file that ends in .csv.
#' @return A `habanera_deviations`, a data frame of these columns. `write_deviations()`: the file's name, invisibly.
#' @section Errors: `habanera_error_input` for a cell or move that there is not, counts that are not whole or leave
#'   nothing between them, and rows of a cell that overlap, with the row. What the rules of a game forbid (a split where
#'   there are none) the game refuses with `habanera_error_rules`.
#' @seealso [player_counting()], [find_deviations()].
#' @examples
#' deviations(data.frame(hand = c("hard 16", "hard 12"), up_card = c("10", "3"), from = c(0, 2),
#'                       below = NA, move = "stand"))
#' @export
deviations <- function(x) {
  check_given()
  call <- rlang::current_env()
  if (rlang::is_string(x)) return(if (grepl("[.]csv$", x, ignore.case = TRUE)) deviations_from_file(x, call) else
    deviations_from_text(x, call))
  if (!is.data.frame(x)) {
    refuse(sprintf("`x` must be a data frame or the name of a CSV file, not %s.", said(x)))
  }
  missing <- setdiff(deviation_columns, names(x))
  if (length(missing) && !all(missing %in% c("from", "below"))) {
    refuse(sprintf("Deviations have the columns %s; `%s` is missing.", join_words(paste0("`", deviation_columns, "`")),
                   setdiff(missing, c("from", "below"))[1]))
  }
  for (column in missing) x[[column]] <- rep(NA, nrow(x))
  new_deviations(x, paste("row", seq_len(nrow(x))), call)
}

deviation_columns <- c("hand", "up_card", "from", "below", "move")

# `places` say where a row stands, for errors.
new_deviations <- function(x, places, call) {
  if (!nrow(x)) refuse("There are no deviations; leave them out.", call = call)
  hand <- normal_rows(x$hand)
  up <- toupper(trimws(as.character(x$up_card)))
  at <- function(row) sprintf("%s (%s against %s)", places[row], hand[row], up[row])
  bad <- which(!hand %in% table_rows | !up %in% up_cards)
  if (length(bad)) {
    refuse(sprintf("%s: a cell is such as \"hard 16\" against \"10\".", at(bad[1])), call = call)
  }
  rows <- data.frame(hand = hand, up_card = up, from = whole_counts(x$from, "from", at, call),
                     below = whole_counts(x$below, "below", at, call), move = entries_of(x$move, hand, at, call))
  empty <- which(is.na(rows$from) & is.na(rows$below) | (!is.na(rows$from) & !is.na(rows$below) &
                                                           rows$from >= rows$below))
  if (length(empty)) {
    refuse(sprintf("%s: give `from`, `below`, or both with counts between them.", at(empty[1])), call = call)
  }
  refuse_overlaps(rows, at, call)
  structure(rows, class = table_class("habanera_deviations"))
}

whole_counts <- function(values, column, at, call) {
  text <- trimws(as.character(values))
  text[is.na(text)] <- ""
  numbers <- written_numbers(text)
  bad <- which(nzchar(text) & (is.na(numbers) | numbers != round(numbers) | abs(numbers) > 100))
  if (length(bad)) {
    refuse(sprintf("%s: `%s` must be a whole count or empty, not %s.", at(bad[1]), column, quoted(text[bad[1]])),
           call = call)
  }
  numbers
}

# Entries as strategies have them; plain words stand for the commonest.
entries_of <- function(actions, hand, at, call) {
  text <- trimws(as.character(actions))
  words <- c(hit = "H", stand = "S", double = "D/H", split = "P", surrender = "R/H", D = "D/H", R = "R/H")
  entries <- ifelse(text %in% names(words), words[text], text)
  bad <- which(!entries %in% setdiff(names(entry_letters), c("-", " ")))
  if (length(bad)) {
    refuse(sprintf("%s: %s is no move: there are %s.", at(bad[1]), quoted(text[bad[1]]),
                   join_words(setdiff(names(entry_letters), c("-", " ")))), call = call)
  }
  unpaired <- which(entries %in% c("P", "R/P") & !startsWith(hand, "pair"))
  if (length(unpaired)) refuse(sprintf("%s: only a pair is split.", at(unpaired[1])), call = call)
  unname(entries)
}

refuse_overlaps <- function(rows, at, call) {
  cell <- paste(rows$hand, rows$up_card)
  low <- ifelse(is.na(rows$from), -Inf, rows$from)
  high <- ifelse(is.na(rows$below), Inf, rows$below)
  for (i in seq_along(cell)) {
    others <- which(cell == cell[i] & low < high[i] & high > low[i])
    if (length(others) > 1) {
      refuse(sprintf("%s overlaps with another row of its cell.", at(others[2])), call = call)
    }
  }
}

deviations_from_file <- function(file, call) {
  table <- read_csv_columns(file, c("hand", "up_card", "move"), call, optional = c("from", "below"))
  for (column in setdiff(deviation_columns, names(table))) table[[column]] <- NA
  new_deviations(table, sprintf("%s, line %s", file_name(file), format_count(table[["line"]])), call)
}

# In one line, a row as "h16_10_0__S".
#' @export
format.habanera_deviations <- function(x, ...) {
  count <- function(values) ifelse(is.na(values), "", vapply(values, whole_code_of, ""))
  paste(rows_as_text(x$hand), x$up_card, count(x$from), count(x$below), sub("/", ".", x$move), sep = "_",
        collapse = " ")
}

#' @export
as.character.habanera_deviations <- function(x, ...) format(x)

deviations_from_text <- function(text, call) {
  parts <- strsplit(strsplit(trimws(text), "[[:space:]]+")[[1]], "_", fixed = TRUE)
  if (!all(lengths(parts) == 5)) {
    refuse(sprintf("Deviations as text are such as \"h16_10_0__S\", or a CSV file, not %s.", quoted(text)), call = call)
  }
  field <- function(i) vapply(parts, `[`, "", i)
  rows <- data.frame(hand = rows_from_text(field(1)), up_card = field(2), from = field(3), below = field(4),
                     move = sub(".", "/", field(5), fixed = TRUE))
  new_deviations(rows, paste("row", seq_len(nrow(rows))), call)
}

check_deviations <- function(x, call) {
  if (inherits(x, "habanera_deviations")) return(x)
  tryCatch(deviations(x), habanera_error_input = function(cnd) refuse(rlang::cnd_message(cnd), call = call))
}

#' @export
in_words.habanera_deviations <- function(x, ...) sprintf("%s from the strategy by the count",
                                                         count_of(nrow(x), "deviation"))

#' @export
tell.habanera_deviations <- function(x, rows = 30, ...) {
  if (!all(deviation_columns %in% names(x))) return(NextMethod())
  cat_wrapped(sprintf("<deviations> Play goes by the count in %s.",
                      count_of(nrow(unique(plain_table(x)[c("hand", "up_card")])), "cell")))
  shown <- plain_table(x)
  for (column in c("from", "below")) shown[[column]] <- ifelse(is.na(shown[[column]]), "", format(shown[[column]]))
  print_head(shown, rows)
  invisible(x)
}

#' @rdname deviations
#' @export
write_deviations <- function(x, file) {
  check_given()
  call <- rlang::current_env()
  x <- check_deviations(x, call)
  if (file_kind(check_string(file)) != "csv") refuse(sprintf("%s must end in .csv.", quoted(file)), "file", call)
  write_lines_whole(csv_table_lines(plain_table(x)[deviation_columns]), file, call)
}

# What the rules forbid.
refuse_forbidden <- function(deviations, rules, call) {
  total <- written_numbers(sub("^[a-z]+ ", "", deviations$hand))
  kind <- sub(" .*$", "", deviations$hand)
  total <- ifelse(kind == "pair", 2 * total, total)
  first <- substr(deviations$move, 1, 1)
  may_double <- switch(rules$double_on, none = FALSE, any_two = , any_cards = TRUE, `9_to_11` = total %in% 9:11,
                       `10_11` = total %in% 10:11)
  forbidden <- list(`there are no splits (\`most_hands\` 1)` = first == "P" & rules$most_hands == 1,
                    `there is no surrender (\`surrender\` none)` = first == "R" & rules$surrender == "none",
                    `it may not be doubled (\`double_on\`)` = first == "D" & !may_double)
  for (why in names(forbidden)) {
    row <- which(forbidden[[why]])
    if (length(row)) {
      refuse(sprintf("Deviation %s with %s against %s: %s.", quoted(deviations$move[row[1]]),
                     deviations$hand[row[1]], deviations$up_card[row[1]], why), "rules", call)
    }
  }
}

# A player of a table of cells who departs from it at this count.
deviating <- function(player, deviations, count) {
  holds <- (is.na(deviations$from) | deviations$from <= count) & (is.na(deviations$below) | count < deviations$below)
  if (!any(holds)) return(player)
  cells <- player$cells
  for (row in which(holds)) {
    hand <- deviations$hand[row]
    if (!hand %in% rownames(cells)) cells <- rbind(cells, matrix("-", 1, 10, dimnames = list(hand, up_cards)))
    cells[hand, deviations$up_card[row]] <- deviations$move[row]
  }
  departed <- new_strategy(cells, player$label)
  departed$built_in <- player$built_in
  departed
}
