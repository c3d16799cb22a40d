# Lists for help pages, made from the same tables as everything else.

rules_for_help <- function(name) {
  kind <- game_kind(name)
  items <- vapply(kind$rules, function(rule) {
    sprintf("* `%s` (`%s`): %s. %s.", rule$name, rule$usual, rule$meaning, sentence(rule$allowed))
  }, "")
  paste(items, collapse = "\n")
}

columns_for_help <- function(name) {
  columns <- game_kind(name)$columns
  items <- Map(function(column, name) {
    type <- if (is.null(column$told_of)) "text" else if (isTRUE(column$is_money)) "a number" else "a whole number"
    sprintf("* `%s` (%s): %s.", name, type, column$meaning)
  }, columns, names(columns))
  paste(unlist(items), collapse = "\n")
}
