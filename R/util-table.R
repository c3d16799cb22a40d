# Results that are data frames, and tell in words what all of their rows say. A part of one says only what its rows say:
# it is a data frame like any other. See table_class().

#' Results that are tables
#'
#' Many results are data frames that print with a sentence about all of their rows. Some of the rows or columns
#' (`x[x$seats == 2, ]`, `head(x)`, `subset(x, ...)`) are a plain data frame, which prints as such; so is what
#' `as.data.frame(x)` and `rbind()` give. A table that says nothing beyond its rows, such as [deviations()] or
#' [trials()], stays what it is.
#'
#' One that an interrupt cut short says so in its first line, and in files by a column `part` ("5 of 33 rules").
#'
#' @param x A result that is a data frame.
#' @param row.names,optional,... As in [as.data.frame()].
#' @return A data frame.
#' @examples
#' odds <- category_odds()
#' head(odds, 3)
#' odds[odds$n > 1e5, ]
#' @name tables
NULL

#' @rdname tables
#' @export
as.data.frame.habanera_table <- function(x, row.names = NULL, optional = FALSE, ...) plain_table(x)

#' @export
`[.habanera_table` <- function(x, ...) {
  found <- NextMethod()
  if (!is.data.frame(found)) return(found)
  if (says_more(x) || !identical(names(found), names(x))) plain_table(found) else found
}

# The first rows of a table, and how many more there are. A page takes all of them (see told_blocks()).
print_head <- function(data, rows) {
  if (is_gathering()) return(print_rows(data))
  print_rows(utils::head(data, rows))
  if (nrow(data) > rows) cat(sprintf("# ... with %s more\n", format_count(nrow(data) - rows)))
}

# A table as wide as the console. What does not fit goes below, and there, too, each row says first what it is of.
print_rows <- function(data) {
  if (is_gathering()) return(writeLines(gathered_mark(data)))
  for (columns in column_blocks(data)) print(data[columns], row.names = FALSE)
}

# The same flush left, as lines; `indent` is how far they are set in.
aligned_lines <- function(table, indent = 0) {
  if (is_gathering()) return(gathered_mark(table))
  columns <- Map(function(column, name) {
    width <- max(nchar(c(name, column), "width"))
    formatC(c(name, column), width = -width)
  }, lapply(table, as.character), names(table))
  lines <- lapply(column_blocks(table, indent + length(table)), function(block) {
    sub(" +$", "", do.call(paste, c(unname(columns[block]), sep = "  ")))
  })
  paste0(strrep(" ", indent), unlist(lines))
}

# Which columns stand beside each other: the keys, and as many others as there is room for.
column_blocks <- function(data, taken = 0) {
  widths <- vapply(seq_along(data), function(i) {
    1 + max(nchar(c(names(data)[i], format(data[[i]])), "width", allowNA = TRUE))
  }, 0)
  room <- getOption("width") - taken
  if (sum(widths) <= room) return(list(seq_along(data)))
  keys <- key_columns(data, widths, room / 2)
  # Names that fill the lines by themselves would only be said again and again.
  if (sum(widths[keys]) > room * 2 / 3) return(list(seq_along(data)))
  blocks <- list()
  now <- keys
  for (i in setdiff(seq_along(data), keys)) {
    if (length(now) > length(keys) && sum(widths[c(now, i)]) > room) {
      blocks <- c(blocks, list(now))
      now <- keys
    }
    now <- c(now, i)
  }
  c(blocks, list(now))
}

# The leading columns by which rows are told apart, while they leave room for others.
key_columns <- function(data, widths, room) {
  keys <- 1
  while (keys < min(3, length(data) - 1) && anyDuplicated(data[seq_len(keys)]) &&
           sum(widths[seq_len(keys + 1)]) <= room) keys <- keys + 1
  seq_len(keys)
}

# While a page gathers what a result prints, its tables are kept as they are, and a mark stands for each.
gathering <- new.env(parent = emptyenv())
table_mark <- "\001"

is_gathering <- function() !is.null(gathering$tables)

# The line that stands for a table among the lines of a print.
gathered_mark <- function(data) {
  gathering$tables <- c(gathering$tables, list(data))
  paste0(table_mark, length(gathering$tables))
}

# Whether it knows anything beyond its rows.
says_more <- function(x) length(setdiff(names(attributes(x)), c("names", "row.names", "class", "made"))) > 0

#' @export
rbind.habanera_table <- function(...) {
  parts <- list(...)
  found <- do.call(rbind, lapply(parts, function(part) if (is.data.frame(part)) plain_table(part) else part))
  alike <- all(vapply(parts, function(part) identical(class(part), class(parts[[1]])) && !says_more(part), NA))
  if (alike) class(found) <- class(parts[[1]])
  found
}

# The rows of a result that is a data frame, without what else it knows.
plain_table <- function(x) {
  rows <- as.data.frame(unclass(x)[names(x)], optional = TRUE, stringsAsFactors = FALSE)
  attr(rows, "row.names") <- attr(x, "row.names")
  rows
}

# A table that is only a part tells so in its first line, and in files by a column.
part_in_words <- function(x) if (is.null(attr(x, "part"))) "" else sprintf("; interrupted: %s", attr(x, "part"))

with_part <- function(table, x) {
  if (!is.null(attr(x, "part")) && NROW(table)) table[["part"]] <- attr(x, "part")
  table
}
