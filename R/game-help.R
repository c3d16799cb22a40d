# Lists for help pages, made from the same tables as everything else.

rules_for_help <- function(name) {
  kind <- game_kind(name)
  items <- vapply(kind$rules, function(rule) {
    sprintf("* `%s` (`%s`): %s. %s.%s", rule$name, rule$usual, rule$meaning, sentence(rule$allowed),
            numbers_tried(rule))
  }, "")
  paste(items, collapse = "\n")
}

# The values of a number, or of none, that rule_effects() tries.
numbers_tried <- function(rule) {
  numbers <- Filter(function(value) is.numeric(value) || is.null(value), rule$tries)
  if (!length(numbers)) return("")
  sprintf(" rule_effects() tries %s.", join_words(vapply(numbers, rule_text, "")))
}

columns_for_help <- function(name) {
  columns <- game_kind(name)$columns
  items <- Map(function(column, name) {
    type <- if (is.null(column$told_of)) "text" else if (isTRUE(column$is_money)) "a number" else "a whole number"
    sprintf("* `%s` (%s): %s.", name, type, column$meaning)
  }, columns, names(columns))
  paste(unlist(items), collapse = "\n")
}
