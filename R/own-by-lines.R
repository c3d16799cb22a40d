# Players by rules in words at a game of one's own in R.

# A function of a view and moves, of a game in R, that gives the chance of each move and the line of each.
chances_by_lines <- function(player) {
  conditions <- lapply(seq_along(player$lines), function(i) {
    text <- player$lines[[i]]$condition
    if (is.null(text)) return(NULL)
    expr <- parse_expression(text, sprintf("line %d", i), NULL)
    checked_on_names(expr, all.names(expr, functions = FALSE), NULL, "a seat sees", NULL)
  })
  function(view, moves) {
    told <- if (is.atomic(moves)) as.character(moves) else vapply(moves, seen_move, "")
    chances <- numeric(length(told))
    left <- 1
    for (i in seq_along(conditions)) {
      line <- player$lines[[i]]
      at <- match(line$move, told, which(startsWith(told, paste0(line$move, " ")))[1])
      if (is.na(at) || !is.null(conditions[[i]]) && !condition_holds(conditions[[i]], view)) next
      chances[at] <- chances[at] + left * line$chance
      left <- left * (1 - line$chance)
      if (left <= 0) return(chances)
    }
    refuse("No line of the rules that a player plays by fits what is seen; end them with \"else\".", "function", NULL)
  }
}

condition_holds <- function(expr, view) {
  missing <- setdiff(all.names(expr, functions = FALSE), names(view))
  if (length(missing)) {
    refuse(sprintf("Nothing called %s is seen; there is %s.", quoted(missing[1]), join_words(names(view))), "language",
           NULL)
  }
  value <- interpret(expr, list(values = as.list(view), rows = 1), NULL)
  if (length(value) == 1 && !is.na(value)) return(as.logical(value))
  refuse(sprintf("`%s` is no single TRUE or FALSE where it is asked; ask for one of several values with %%in%%.",
                 expression_text(expr)), "language", NULL)
}
