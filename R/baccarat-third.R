# Who draws a third card in baccarat: a table, so that a house's own way is a file.

third_values <- paste0("banker_", 0:9)
third_columns <- c("player", "banker_alone", third_values)

# The usual table. The banker's line: from which to which third card of the player he draws, and on what he draws alone.
usual_third_card <- function() {
  from <- c(0, 0, 0, 0, 2, 4, 6, 10)
  to <- c(9, 9, 9, 9, 7, 7, 7, 10)
  words <- function(draws) ifelse(draws, "draw", "stand")
  table <- data.frame(total = 0:7, player = words(0:7 <= 5), banker_alone = words(0:7 <= 5))
  for (value in 0:9) {
    draws <- from <= value & value <= to & !(table[["total"]] == 3 & value == 8)
    table[[paste0("banker_", value)]] <- words(draws)
  }
  table
}

rule_third_card <- function() {
  allowed <- paste("a data frame or a file with a row for each total of two cards below `natural_from` and the columns",
                   "total, player, banker_alone and banker_0 to banker_9, each \"draw\" or \"stand\"")
  new_rule("third_card", usual_third_card(), allowed, paste(
    "who draws a third card: the player by his total; the banker by his own, and by the value of the player's third",
    "card, or alone where he has none"), beside = TRUE, usual = "the usual table", check = checked_third_card)
}

checked_third_card <- function(value, name, call) {
  columns <- rlang::set_names(as.list(c("number", rep("text", length(third_columns)))), c("total", third_columns))
  table <- rule_table(name, NULL, columns, "")$check(value, name, call)
  bad <- which(!table[["total"]] %in% 0:9 | duplicated(table[["total"]]))
  if (length(bad)) {
    refuse(sprintf("`%s`, row %d: `total` must be a whole number from 0 to 9, each once, not %s.", name, bad[1],
                   said(table[["total"]][bad[1]])), call = call)
  }
  for (column in third_columns) {
    word <- tolower(trimws(table[[column]]))
    word <- ifelse(word == "d", "draw", ifelse(word == "s", "stand", word))
    bad <- which(!word %in% c("draw", "stand"))
    if (length(bad)) {
      refuse(sprintf("`%s`, total %s: `%s` must be draw or stand, not %s.", name,
                     format_count(table[["total"]][bad[1]]),
                     column, said(table[[column]][bad[1]])), call = call)
    }
    table[[column]] <- word
  }
  table <- table[order(table[["total"]]), c("total", third_columns)]
  structure(table, row.names = seq_len(nrow(table)), class = table_class("habanera_third_card"))
}

refuse_third_hole <- function(rules, call) {
  hole <- setdiff(seq_len(rules$natural_from) - 1, rules$third_card$total)
  if (length(hole)) {
    refuse(sprintf(paste("`third_card` has no row for a total of %s; with `natural_from` %s there must be one for each",
                         "below."), format_count(hole[1]), format_count(rules$natural_from)), "rules", call)
  }
}

# As the core takes it; totals without a row never come to it.
core_third_card <- function(table) {
  draws <- matrix(FALSE, 10, length(third_columns), dimnames = list(NULL, third_columns))
  draws[table[["total"]] + 1, ] <- as.matrix(as.data.frame(table)[third_columns]) == "draw"
  list(player_draws = draws[, "player"], banker_draws = unname(draws[, c(third_values, "banker_alone")]))
}

#' @export
tell.habanera_third_card <- function(x, ...) {
  if (!all(c("total", third_columns) %in% names(x))) return(NextMethod())
  cat("Third cards (D draws, S stands): the player by his total; the banker by his, and by the player's third card.\n")
  letter <- function(column) ifelse(x[[column]] == "draw", "D", "S")
  shown <- data.frame(total = x$total, player = letter("player"), alone = letter("banker_alone"),
                      lapply(rlang::set_names(third_values, 0:9), letter), check.names = FALSE)
  print_rows(shown)
  invisible(x)
}
