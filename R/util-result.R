# The contract of results: whatever a user gets from us and keeps is a `habanera_result` that prints by format(), is
# told in words, and is a table, a figure, a page, a file. A class of its own writes tell(), which says it on the
# terminal, and tidy(), and more only where there is more; test-architecture-results.R holds every class to it.

result_class <- function(...) c(..., "habanera_result")

# Of a result that is a data frame.
table_class <- function(...) c(..., "habanera_table", "habanera_result", "data.frame")

# Says a result on the terminal; the first line answers the question.
tell <- function(x, ...) UseMethod("tell")

# The rows of it that a file keeps, of a result that is no data frame.
kept_rows <- function(x) UseMethod("kept_rows")

#' @export
kept_rows.default <- function(x) generics::tidy(x)

#' Results
#'
#' What is simulated, worked out or judged is a result, and all results are read with the same verbs: `print()` and
#' `format()` (the lines that it prints), `summary()`, [in_words()] (its first answer), `tidy()` and `as.data.frame()`
#' (tables), [glance()][glance.habanera_counts] (the headline of a run), `autoplot()` and `plot()` (the figure, where
#' one says more than the table), [report()] (a page), [write_result()] and [read_result()].
#'
#' @param x,object A result.
#' @param row.names,optional As in [as.data.frame()]; not used.
#' @param ... For `format()` and `print()` what the result's own print takes, such as `rows`; else not used.
#' @return `format()`: the lines that `print()` shows, as text. `as.data.frame()`: what `tidy()` gives, where a result
#' has
#'   no other rows. `summary()`: the result itself, where nothing is to be added.
#' @examples
#' x <- house_edge(game_high_card())
#' format(x)
#' in_words(x)
#' @name results
NULL

#' @rdname results
#' @export
format.habanera_result <- function(x, ...) lines_printed(function() tell(x, ...))

#' @rdname results
#' @export
print.habanera_result <- function(x, ...) {
  # Lines are as colourful as the terminal that they go to.
  rlang::local_options(cli.num_colors = cli::num_ansi_colors())
  writeLines(format.habanera_result(x, ...))
  invisible(x)
}

#' @rdname results
#' @export
as.data.frame.habanera_result <- function(x, row.names = NULL, optional = FALSE, ...) generics::tidy(x)

#' @rdname results
#' @export
summary.habanera_result <- function(object, ...) object

#' @export
tell.habanera_table <- function(x, rows = 30, ...) print_head(plain_table(x), rows)
