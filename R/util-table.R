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

print_head <- function(data, rows) {
  print(utils::head(data, rows), row.names = FALSE)
  if (nrow(data) > rows) cat(sprintf("# ... with %s more\n", format_count(nrow(data) - rows)))
}

# Whether it knows anything beyond its rows.
says_more <- function(x) length(setdiff(names(attributes(x)), c("names", "row.names", "class"))) > 0

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
