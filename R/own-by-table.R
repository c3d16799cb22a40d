# Players by a table of chances at a game of one's own in R: what is seen is told as games in C++ tell it.

# "card: 3; made: check, bet 1".
seen_text <- function(view) {
  plain <- is.list(view) && length(view) && all(nzchar(rlang::names2(view))) && all(vapply(view, is.atomic, NA))
  if (!plain) {
    refuse("A table of chances is read by views that are lists by name, of numbers or text.", "function", NULL)
  }
  values <- vapply(view, function(each) paste0(c("", seen_values(each)), collapse = ", "), "")
  paste0(names(view), ":", sub("^,", "", values), collapse = "; ")
}

seen_values <- function(values) {
  if (!is.numeric(values)) return(as.character(values))
  ifelse(values == floor(values) & abs(values) < 1e15, sprintf("%.0f", values), sprintf("%.17g", values))
}

# A function of a view and moves that gives the chance of each.
chances_by_table <- function(player, seat) {
  rows <- player$rows
  if ("seat" %in% names(rows)) rows <- rows[rows$seat == seat, ]
  by_sight <- split(rows[c("move", "chance")], rows$sees)
  function(view, moves) {
    sees <- seen_text(view)
    found <- by_sight[[trimws(sees)]]
    if (is.null(found)) {
      refuse(sprintf("The table %s has no row for %s.", quoted(player$label), quoted(sees)), "function", NULL)
    }
    at <- match(if (is.atomic(moves)) as.character(moves) else vapply(moves, seen_move, ""), found$move)
    chances <- ifelse(is.na(at), 0, found$chance[at])
    if (sum(chances) < 1 - 1e-6) {
      refuse(sprintf("Where %s is seen, the table %s has a move that is not open.", quoted(sees), quoted(player$label)),
             "function", NULL)
    }
    chances
  }
}

# A move that is no number and no text is told by what is in it.
seen_move <- function(move) paste(unlist(move), collapse = " ")
