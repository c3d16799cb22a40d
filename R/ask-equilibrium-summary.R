# What sound play does in all, by courses of moves, categories and holdings.

#' @rdname equilibrium
#' @param object What `equilibrium()` found.
#' @param by "course": what each seat does in all after each course of moves; "category": by what its hand is by then,
#'   too, where hand rules tell it; "holding": by its cards.
#' @return `summary()`: a `habanera_moves`, a data frame: `seat`, `actions`, `category` or `holding`, `share` (of all
#'   deals that come to it), and a column for each move with its chance, `NA` where it is not open.
#' @export
summary.habanera_equilibrium <- function(object, by = c("course", "category", "holding"), ...) {
  call <- rlang::current_env()
  by <- check_choice(by, c("course", "category", "holding"))
  rows <- object$rows
  parts <- holding_parts(rows$sees)
  if (is.null(parts)) {
    if (by == "course") return(object)
    refuse("What seats see at this game is no holding: as.data.frame() has all of it.", call = call)
  }
  if (by == "category" && is.null(rows$category)) {
    refuse("No hand rules tell here what a hand is: by = \"holding\" has the cards.", call = call)
  }
  group <- data.frame(seat = rows$seat, actions = parts$actions)
  if (by == "category") group$category <- factor(rows$category, rev(object$categories))
  if (by == "holding") group$holding <- parts$holding
  found <- shares_of_moves(group, rows)
  structure(found, made = call_made(), class = table_class("habanera_moves"), words = in_words(object), by = by)
}

# Of groups of rows how often each comes, and how often it then makes each move.
shares_of_moves <- function(group, rows) {
  key <- do.call(paste, c(group, sep = "\r"))
  first <- !duplicated(key)
  in_order <- do.call(order, unname(lapply(group[first, , drop = FALSE], function(column) {
    if (is.factor(column)) as.integer(column) else if (is.numeric(column)) column else in_natural_order(column)
  })))
  found <- group[first, , drop = FALSE][in_order, , drop = FALSE]
  keys <- key[first][in_order]
  views <- !duplicated(paste(rows$seat, rows$sees, sep = "\r"))
  found$share <- as.vector(tapply(rows$reached[views], key[views], sum)[keys])
  for (move in unique(rows$move)) {
    of <- rows$move == move
    made <- tapply((rows$chance * rows$reached)[of], key[of], sum)[keys]
    open <- tapply(rows$reached[of], key[of], sum)[keys]
    found[[move]] <- as.vector(ifelse(open > 0, made / open, 0))
  }
  rownames(found) <- NULL
  found
}

#' @export
tell.habanera_moves <- function(x, rows = 40, ...) {
  cat_wrapped("<moves> ", attr(x, "words"))
  tell_shares(utils::head(plain_table(x), rows))
  if (nrow(x) > rows) cat(sprintf("# ... with %s more\n", format_count(nrow(x) - rows)))
  invisible(x)
}

tell_shares <- function(x) {
  moves <- setdiff(names(x), c("seat", "actions", "category", "holding", "share"))
  where <- paste0("seat ", format_count(x$seat),
                  ifelse(nzchar(x$actions), paste(", after", x$actions), ", first to speak"))
  what <- if (!is.null(x[["category"]])) paste0(", ", x[["category"]]) else if (!is.null(x[["holding"]])) {
    paste(", holding", x[["holding"]])
  }
  done <- apply(as.matrix(as.data.frame(x)[moves]), 1, function(chances) {
    made <- which(chances >= 5e-4)
    paste(ifelse(chances[made] > 1 - 5e-4, moves[made], sprintf("%s %.1f%%", moves[made], 100 * chances[made])),
          collapse = ", ")
  })
  writeLines(sprintf("%s%s (%s of deals): %s", where, if (is.null(what)) "" else what, format_percent(x$share), done))
}
