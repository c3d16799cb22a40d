# The little language of questions. What a user types is checked here and worked out by our own
# interpreter, with a fixed list of functions: nothing typed is ever run by R.

# What may be called, besides the words that a question brings along; ifelse() is worked out apart.
language_functions <- list(
  `+` = `+`, `-` = `-`, `*` = `*`, `/` = `/`, `^` = `^`, `%%` = `%%`, `%/%` = `%/%`,
  `==` = `==`, `!=` = `!=`, `<` = `<`, `<=` = `<=`, `>` = `>`, `>=` = `>=`,
  `&` = `&`, `|` = `|`, `!` = `!`, `&&` = `&`, `||` = `|`, xor = xor, `(` = identity, `%in%` = `%in%`,
  c = c, `:` = `:`, is.na = is.na, abs = abs, sqrt = sqrt, floor = floor, ceiling = ceiling, round = round,
  min = pmin, max = pmax, ifelse = NULL
)

arithmetic <- c("+", "-", "*", "/", "^", "%%", "%/%", "abs", "sqrt", "floor", "ceiling", "round", "min", "max", ":")
logic <- c("&", "|", "!", "xor", "&&", "||")
orderings <- c("<", "<=", ">", ">=")
divisions <- c("/", "%%", "%/%")

expression_text <- function(expr) paste(trimws(deparse(expr, width.cutoff = 500L)), collapse = " ")

# Text from a shell or a file as named expressions, as list(a = , b = ). It is parsed and nothing more.
parse_expressions <- function(text, name, call = rlang::caller_env()) {
  force(text)
  parsed <- tryCatch(parse(text = sprintf("list(%s\n)", text), keep.source = FALSE), error = function(cnd) NULL)
  whole <- length(parsed) == 1 && is.call(parsed[[1]]) && identical(parsed[[1]][[1]], quote(list)) &&
    length(parsed[[1]]) > 1
  if (!whole) {
    refuse(sprintf("`%s` is no whole expression: %s. It is like 'two_up = count(rank == \"A\") >= 2'.", name,
                   quoted(text)), call = call)
  }
  as.list(parsed[[1]])[-1]
}

# The same for a single expression without a name.
parse_expression <- function(text, name, call = rlang::caller_env()) {
  force(text)
  parsed <- parse_expressions(text, name, call)
  if (length(parsed) == 1 && is.null(names(parsed))) return(parsed[[1]])
  refuse(sprintf("`%s` must be one expression, not %s.", name, quoted(text)), call = call)
}

# Checks a typed expression and returns it with the caller's names replaced by their values. `lookup`
# is a list: `known` (names that may stand in it), `meanings` (expressions that stand for some of them),
# `words` (functions of its own), `check_word(expr)` (returns the checked call of a word), `env` (where
# other names are found, or NULL) and `what` (what known names are, for errors).
checked_expression <- function(expr, lookup, call) {
  refuse_deep(expr)
  refuse_several(checked_part(expr, lookup, call), call)
}

# What is nested too deep for R itself is told before it is worked out.
deepest_expression <- 60

# The call that it stands in cannot be shown either.
refuse_deep <- function(expr, depth = 0) {
  if (depth > deepest_expression) {
    refuse(sprintf("The expression has more than %d terms or brackets one within the other; ask in several columns.",
                   deepest_expression), "language", call = NULL)
  }
  if (is.call(expr)) for (part in as.list(expr)) if (!rlang::is_missing(part)) refuse_deep(part, depth + 1)
}

# An expression in which only some names may stand, and no words.
checked_on_names <- function(expr, known, env, what, call) {
  checked_expression(expr, list(known = known, words = character(), env = env, what = what), call)
}

# A single value, typed as an expression without names of its own.
constant_value <- function(expr, env, call) {
  checked <- checked_on_names(expr, character(), env, "names that may stand here are", call)
  interpret(checked, list(values = list(), rows = 1), call)
}

# The same where there may be several of them, such as c("flush", "straight").
constant_values <- function(expr, env, call) {
  lookup <- list(known = character(), words = character(), env = env, what = "names that may stand here are")
  interpret(checked_part(expr, lookup, call), list(values = list(), rows = 1), call)
}

checked_part <- function(expr, lookup, call) {
  if (rlang::is_missing(expr)) refuse("Something is missing before or after a comma.", "language", call)
  if (is.symbol(expr)) return(checked_name(expr, lookup, call))
  if (!is.call(expr)) return(checked_value(expr, lookup, call))
  name <- called_name(expr, lookup, call)
  if (name %in% lookup$words) return(lookup$check_word(expr))
  operands <- lapply(as.list(expr)[-1], checked_operand, name, lookup, call)
  refuse_operand_count(name, operands, call)
  single <- if (name == "%in%") 1 else if (!name %in% c("c", "(")) seq_along(operands)
  for (i in single) refuse_several(operands[[i]], call)
  as.call(c(as.symbol(name), operands))
}

checked_operand <- function(operand, name, lookup, call) {
  if (rlang::is_missing(operand)) refuse(sprintf("Something is missing in %s().", name), call = call)
  checked_part(operand, lookup, call)
}

# Several values stand only on the right of %in%. R would lay them out again and again: `suit == c("fig", "plum")`
# compares every other card with "plum".
refuse_several <- function(expr, call) {
  if (!is_several(expr)) return(expr)
  refuse(sprintf("`%s` stands for several values where one is wanted. To ask for any of several, write %%in%%.",
                 expression_text(expr)), "language", call)
}

is_several <- function(expr) {
  if (!is.call(expr)) return(length(expr) > 1)
  name <- as.character(expr[[1]])
  name %in% c("c", ":") || (name == "(" && is_several(expr[[2]]))
}

called_name <- function(expr, lookup, call) {
  allowed <- c(names(language_functions), lookup$words)
  if (is.symbol(expr[[1]]) && as.character(expr[[1]]) %in% allowed) return(as.character(expr[[1]]))
  said <- expression_text(expr[[1]])
  hint <- switch(said, `if` = "; write ifelse(test, yes, no).", `=` = , `<-` = "; to compare, write ==.",
                 did_you_mean_function(said, allowed))
  refuse(sprintf("`%s` cannot be used in a question%s Its functions are %s, and arithmetic, comparison and logic.",
                 said, hint, join_words(paste0(c(lookup$words, "ifelse", "min", "max", "abs", "round"), "()"))),
         "language", call)
}

did_you_mean_function <- function(word, choices) {
  near <- nearest_word(word, grep("^[a-z]", choices, value = TRUE))
  if (is.null(near)) "." else sprintf("; did you mean %s()?", near)
}

operand_counts <- list(`!` = 1, `(` = 1, is.na = 1, abs = 1, sqrt = 1, floor = 1, ceiling = 1, round = 1, ifelse = 3,
                       `+` = 1:2, `-` = 1:2, min = 2:99, max = 2:99, c = 1:1e4)

refuse_operand_count <- function(name, operands, call) {
  named <- names(operands)[nzchar(names(operands))]
  if (length(named)) refuse(sprintf("%s() takes its values without names, not `%s =`.", name, named[1]), "language",
                            call)
  wanted <- operand_counts[[name]]
  if (is.null(wanted)) wanted <- 2
  if (length(operands) %in% wanted) return(invisible())
  if (name %in% c("min", "max")) {
    refuse(sprintf("%s() takes the %s of two or more values of one hand.", name,
                   if (name == "min") "smallest" else "largest"), "language", call)
  }
  refuse(sprintf("%s takes %s, not %d.", name, count_of(max(wanted), "value"), length(operands)), "language", call)
}

checked_name <- function(expr, lookup, call) {
  name <- as.character(expr)
  if (name %in% names(lookup$meanings)) return(lookup$meanings[[name]])
  if (name %in% lookup$known) return(expr)
  found <- if (!is.null(lookup$env)) get0(name, lookup$env, inherits = TRUE)
  if (is_plain_vector(found)) return(plain_vector(found))
  kind <- if (is.function(found)) "is a function" else if (is.null(found)) "is not known here" else "is no plain vector"
  refuse(sprintf("`%s` %s. %s: %s%s", name, kind, sentence(lookup$what),
                 if (length(lookup$known)) join_words(names_in_short(lookup$known)) else "none",
         did_you_mean(name, lookup$known)),
         "language", call)
}

# The percentiles of a number in one word.
names_in_short <- function(names) {
  first <- grepl("_p1$", names) & sub("_p1$", "_p99", names) %in% names
  short <- ifelse(first, paste(names, "to", sub("_p1$", "_p99", names)), names)
  short[first | !sub("_p[0-9]+$", "_p1", names) %in% names[first]]
}

# Cards of the caller stand for their codes.
is_plain_vector <- function(x) {
  if (inherits(x, "cards") || is.factor(x)) return(length(x) > 0)
  is.atomic(x) && length(x) > 0 && all(names(attributes(x)) == "names")
}

plain_vector <- function(x) if (is.factor(x) || inherits(x, "cards")) as.character(x) else unname(x)

checked_value <- function(value, lookup, call) {
  if ((is.numeric(value) || is.character(value) || is.logical(value)) && !anyNA(value)) return(value)
  refuse(sprintf("%s cannot stand in a question; numbers, text, TRUE and FALSE can.", expression_text(value)),
         "language", call)
}

# The value of a checked expression. `scope` is a list: `values` (vectors by name), `words` (vectors by
# the text of the call they answer) and `rows` (how long a whole vector is).
interpret <- function(expr, scope, call) {
  if (is.symbol(expr)) return(scope$values[[as.character(expr)]])
  if (!is.call(expr)) return(expr)
  word <- scope$words[[expression_text(expr)]]
  if (!is.null(word)) return(word)
  name <- as.character(expr[[1]])
  if (name == "ifelse") return(interpret_choice(expr, scope, call))
  operands <- lapply(as.list(expr)[-1], interpret, scope, call)
  refuse_operand_types(name, operands, expr, call)
  if (name %in% divisions) refuse_zero(operands[[2]], expr, call)
  if (name == ":") refuse_long_range(operands, expr, call)
  # What is no number (a root of less than 0) is found when the whole value is looked at.
  suppressWarnings(do.call(language_functions[[name]], operands))
}

# Each branch is worked out only where it is taken, so that it may guard a division.
interpret_choice <- function(expr, scope, call) {
  test <- laid_out(interpret(expr[[2]], scope, call), scope$rows)
  if (!is.logical(test)) refuse_type(expr[[2]], "TRUE or FALSE", expr, call)
  value <- rep(NA, scope$rows)
  for (branch in list(list(which(test), expr[[3]]), list(which(!test), expr[[4]]))) {
    taken <- branch[[1]]
    if (length(taken)) value[taken] <- laid_out(interpret(branch[[2]], narrowed(scope, taken), call), length(taken))
  }
  value
}

# A value for each row. A place on a scale is a text from here on.
laid_out <- function(value, rows) rep_len(if (is.factor(value)) as.character(value) else value, rows)

narrowed <- function(scope, rows) {
  pick <- function(values) if (length(values) == scope$rows) values[rows] else values
  list(values = lapply(scope$values, pick), words = lapply(scope$words, pick), rows = length(rows))
}

refuse_operand_types <- function(name, operands, expr, call) {
  scale <- Filter(is.ordered, operands)
  if (length(scale) && name %in% c(orderings, "==", "!=", "%in%")) {
    return(refuse_off_scale(operands, levels(scale[[1]]), expr, call))
  }
  for (i in seq_along(operands)) {
    value <- operands[[i]]
    if (name %in% arithmetic && !is.numeric(value) && !is.logical(value)) {
      refuse_type(expr[[i + 1]], "a number", expr, call)
    }
    if (name %in% logic && !is.logical(value)) refuse_type(expr[[i + 1]], "TRUE or FALSE", expr, call)
    if (name %in% orderings && is.character(value)) refuse_type(expr[[i + 1]], "a number", expr, call)
  }
}

# What stands on a scale, such as the category of a hand, is compared with places of the same scale.
refuse_off_scale <- function(operands, scale, expr, call) {
  for (i in seq_along(operands)) {
    value <- operands[[i]]
    if (is.ordered(value) && identical(levels(value), scale)) next
    if (is.ordered(value) || !is.character(value)) {
      refuse(sprintf("In `%s`, `%s` is none of %s.", expression_text(expr), expression_text(expr[[i + 1]]),
                     join_words(quoted(scale), "or")), "language", call)
    }
    unknown <- setdiff(value, scale)
    if (length(unknown)) {
      refuse(sprintf("In `%s`, %s is none of %s%s", expression_text(expr), quoted(unknown[1]),
                     join_words(quoted(scale), "or"), did_you_mean(unknown[1], scale)), "language", call)
    }
  }
}

longest_range <- 1e4

refuse_long_range <- function(ends, expr, call) {
  fits <- all(lengths(ends) == 1) && all(is.finite(unlist(ends))) && abs(ends[[1]] - ends[[2]]) < longest_range
  if (fits) return(invisible())
  refuse(sprintf("`%s` must be a range of at most %s whole numbers.", expression_text(expr),
                 format_count(longest_range)), "language", call)
}

refuse_type <- function(part, wanted, expr, call) {
  refuse(sprintf("In `%s`, `%s` is not %s.%s", expression_text(expr), expression_text(part), wanted,
                 if (wanted == "TRUE or FALSE") " Compare it with something, as in >= 1." else ""), "language", call)
}

refuse_zero <- function(divisor, expr, call) {
  if (!length(divisor) || !any(divisor == 0, na.rm = TRUE)) return(invisible())
  refuse(sprintf("`%s` divides by zero when `%s` is 0; guard it with ifelse().", expression_text(expr),
                 expression_text(expr[[3]])), "language", call)
}

# All calls of the given functions in an expression, each once, by its text.
calls_of <- function(expr, functions) {
  if (!is.call(expr)) return(list())
  if (is.symbol(expr[[1]]) && as.character(expr[[1]]) %in% functions) {
    return(rlang::set_names(list(expr), expression_text(expr)))
  }
  inner <- do.call(c, lapply(as.list(expr)[-1], calls_of, functions))
  inner[!duplicated(names(inner))]
}
