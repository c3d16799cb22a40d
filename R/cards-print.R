#' Printing cards
#'
#' @param x Cards.
#' @param grid `NULL`, or `c(rows, columns)` to lay the cards out as on a table, row by row.
#' @param most The most cards shown.
#' @param glyphs Whether suits are shown as glyphs rather than letters (default: where the terminal
#'   can).
#' @param ... Not used.
#' @return `print()`: `x`, invisibly. `format()`: text, one per card.
#' @examples
#' print(deck_standard(ranks = c("J", "Q", "K", "A")), grid = c(4, 4))
#' @name print.cards
NULL

#' @rdname print.cards
#' @export
format.cards <- function(x, ..., glyphs = cli::is_utf8_output()) {
  catalogue <- catalogue_of(x)
  faces <- if (glyphs && !is.null(catalogue$glyphs)) catalogue$glyphs else catalogue$data$card
  shown <- faces[codes_of(x)]
  ifelse(is.na(shown), "NA", shown)
}

#' @rdname print.cards
#' @export
print.cards <- function(x, grid = NULL, most = 520, ...) {
  if (!is.null(grid)) check_grid(grid, length(x))
  cat(sprintf("<cards> %s, %s\n", count_of(length(x), "card"), catalogue_of(x)$title))
  shown <- utils::head(x, most)
  if (length(shown)) cat(card_lines(shown, grid), sep = "\n")
  if (length(x) > most) cat(sprintf("# ... with %s more\n", format_count(length(x) - most)))
  invisible(x)
}

check_grid <- function(grid, cards, call = rlang::caller_env()) {
  fits <- is.numeric(grid) && length(grid) == 2 && all(is.finite(grid)) &&
    all(grid >= 1 & grid == floor(grid))
  if (!fits) {
    refuse(sprintf("`grid` must be c(rows, columns), two whole numbers of 1 or more, not %s.",
                   said(grid)), call = call)
  }
  if (prod(grid) < cards) {
    refuse(sprintf("`grid` has %s places, too few for %s.", format_count(prod(grid)),
                   count_of(cards, "card")), call = call)
  }
}

# Lines of cards in columns; on a grid without the place of each row's first card.
card_lines <- function(x, grid = NULL) {
  faces <- format(x)
  width <- max(cli::ansi_nchar(faces))
  index_width <- nchar(length(x)) + 2
  columns <- if (is.null(grid)) row_length(length(x), width + 1, index_width) else grid[2]
  cells <- paint_suits(formatC(faces, width = -width), x)
  first <- seq(1, length(x), by = columns)
  rows <- vapply(first, function(i) {
    paste(cells[i:min(i + columns - 1, length(x))], collapse = " ")
  }, "")
  if (!is.null(grid)) return(rows)
  paste(formatC(sprintf("[%d]", first), width = index_width), rows)
}

# Suits of 13 make tidy rows when they fit; otherwise as many as fit.
row_length <- function(cards, cell, index_width) {
  fit <- max(1, (cli::console_width() - index_width - 1) %/% cell)
  if (fit >= 13 && cards > 13 && cards %% 13 == 0) return(13)
  if (fit > 10) 10 * (fit %/% 10) else fit
}

paint_suits <- function(cells, x) {
  catalogue <- catalogue_of(x)
  if (is.null(catalogue$glyphs) || cli::num_ansi_colors() == 1) return(cells)
  red <- catalogue$data$suit[codes_of(x)] %in% c("hearts", "diamonds")
  cells[red] <- cli::col_red(cells[red])
  cells
}
