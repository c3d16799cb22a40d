# Wishes of tune_rules(): conditions over estimates that lie within bounds, and over rules, which are known. They are
# worked out by ranges (Moore 1966, Interval Analysis, ch. 3), so that what is called sure holds for all values within
# the bounds at once.

# What a wish on estimates may be made of.
words_of_ranges <- function() c("+", "-", "*", "/", "(", "abs", "min", "max", orderings, "&", "|", "!", "&&", "||")

# Texts as wishes, one for each condition that is joined by `&`: a list of `text`, `expr` and `estimates` (what it names
# of these; a wish without any is on rules alone). `known` are names of estimates, `rules` of rules.
parsed_wishes <- function(want, known, rules, call) {
  if (is.null(want)) return(list())
  if (!is.character(want) || !length(want)) {
    refuse(sprintf("`want` must be conditions as text, such as \"rounds_p90 <= 150\", not %s.", said(want)),
           call = call)
  }
  unlist(lapply(want, function(text) {
    expr <- checked_wish_text(text, "want", known, rules, call)
    lapply(joined_conditions(expr), new_wish, known = known, call = call)
  }), recursive = FALSE)
}

# `least` or `most`, a number.
parsed_aim <- function(text, name, known, rules, call) {
  if (is.null(text)) return(NULL)
  expr <- checked_wish_text(text, name, known, rules, call)
  aim <- list(text = text, expr = expr, estimates = wish_estimates(expr, known))
  if (is_condition(expr) || !length(all.vars(expr))) {
    refuse(sprintf("`%s` must be a number made of estimates or rules, such as \"abs(edge - 0.02)\", not %s.", name,
                   quoted(text)), "language", call)
  }
  refuse_beyond_ranges(expr, text, call)
  aim
}

# `now(NAME)` stands for an estimate by the rules as they are; `printable(NAME)` asks whether a rule is a fraction that
# tables print.
checked_wish_text <- function(text, name, known, rules, call) {
  expr <- parse_expression(check_string(text, name, call), name, call)
  checked_expression(expr, list(
    known = union(known, rules), words = c("now", "printable"), env = NULL, what = "what can be wished of is",
    check_word = function(expr) checked_wish_word(expr, known, rules, call)
  ), call)
}

checked_wish_word <- function(expr, known, rules, call) {
  word <- as.character(expr[[1]])
  names <- if (word == "now") known else rules
  if (length(expr) != 2 || !is.symbol(expr[[2]]) || !as.character(expr[[2]]) %in% names) {
    refuse(sprintf("%s() takes the name of %s, such as %s, not %s.", word,
                   if (word == "now") "an estimate" else "a rule", join_some(names, 3),
                   quoted(paste(vapply(as.list(expr)[-1], expression_text, ""), collapse = ", "))), "language", call)
  }
  if (word == "now") as.symbol(now_name(as.character(expr[[2]]))) else expr
}

now_name <- function(name) sprintf("now(%s)", name)

joined_conditions <- function(expr) {
  if (is.call(expr) && as.character(expr[[1]]) %in% c("&", "&&")) {
    return(c(joined_conditions(expr[[2]]), joined_conditions(expr[[3]])))
  }
  if (is.call(expr) && identical(expr[[1]], quote(`(`)) && is_condition(expr[[2]])) {
    return(joined_conditions(expr[[2]]))
  }
  list(expr)
}

is_condition <- function(expr) {
  if (!is.call(expr)) return(is.logical(expr))
  word <- as.character(expr[[1]])
  if (word == "(") return(is_condition(expr[[2]]))
  word %in% c(orderings, logic, "==", "!=", "%in%", "is.na", "printable")
}

new_wish <- function(expr, known, call) {
  wish <- list(text = wish_text(expr), expr = expr, estimates = wish_estimates(expr, known))
  if (!is_condition(expr)) {
    refuse(sprintf("`want` must be a condition, such as \"rounds_p90 <= 150\", not %s.", quoted(wish$text)), "language",
           call)
  }
  if (!length(wish$estimates)) return(wish)
  refuse_beyond_ranges(expr, wish$text, call)
  if (!any(wish$estimates %in% known)) {
    refuse(sprintf("%s hangs on nothing that candidates could change: name an estimate beside now().",
                   quoted(wish$text)), "language", call)
  }
  wish
}

wish_text <- function(expr) gsub("`(now\\([^`]*\\))`", "\\1", expression_text(expr))

# With those by the rules as they are.
wish_estimates <- function(expr, known) intersect(all.vars(expr), c(known, now_name(known)))

refuse_beyond_ranges <- function(expr, text, call) {
  if (!is.call(expr)) return(invisible())
  word <- as.character(expr[[1]])
  if (!word %in% words_of_ranges()) {
    refuse(sprintf("A wish on estimates is made of %s and brackets; not of %s, as in %s.",
                   join_words(c("+", "-", "*", "/", "abs()", "min()", "max()", orderings, "&", "|", "!")), word,
                   quoted(text)), "language", call)
  }
  for (part in as.list(expr)[-1]) refuse_beyond_ranges(part, text, call)
}

# The range of a number: `low` and `high`, a value for each row of the scope (a list of ranges by name).
range_of <- function(expr, scope) {
  if (is.symbol(expr)) return(scope[[as.character(expr)]])
  if (!is.call(expr)) return(list(low = expr, high = expr))
  parts <- lapply(as.list(expr)[-1], range_of, scope)
  unbounded_where_unknown(switch(
    as.character(expr[[1]]),
    "(" = parts[[1]],
    "+" = if (length(parts) == 1) parts[[1]] else range_sum(parts[[1]], parts[[2]]),
    "-" = if (length(parts) == 1) range_minus(parts[[1]]) else range_sum(parts[[1]], range_minus(parts[[2]])),
    "*" = range_corners(parts[[1]], parts[[2]], `*`),
    "/" = range_quotient(parts[[1]], parts[[2]]),
    abs = range_abs(parts[[1]]),
    min = list(low = do.call(pmin, lapply(parts, `[[`, "low")), high = do.call(pmin, lapply(parts, `[[`, "high"))),
    max = list(low = do.call(pmax, lapply(parts, `[[`, "low")), high = do.call(pmax, lapply(parts, `[[`, "high")))
  ))
}

range_sum <- function(a, b) list(low = a$low + b$low, high = a$high + b$high)
range_minus <- function(a) list(low = -a$high, high = -a$low)

range_corners <- function(a, b, f) {
  corners <- list(f(a$low, b$low), f(a$low, b$high), f(a$high, b$low), f(a$high, b$high))
  list(low = do.call(pmin, corners), high = do.call(pmax, corners))
}

range_quotient <- function(a, b) {
  found <- range_corners(a, b, `/`)
  around <- rep_len(b$low <= 0 & b$high >= 0, length(found$low))
  list(low = ifelse(around, -Inf, found$low), high = ifelse(around, Inf, found$high))
}

range_abs <- function(a) {
  around <- a$low <= 0 & a$high >= 0
  list(low = ifelse(around, 0, pmin(abs(a$low), abs(a$high))), high = pmax(abs(a$low), abs(a$high)))
}

unbounded_where_unknown <- function(range) {
  list(low = ifelse(is.na(range$low), -Inf, range$low), high = ifelse(is.na(range$high), Inf, range$high))
}

# Whether a condition holds all over the ranges (`sure`), and whether anywhere in them (`possible`).
truth_of <- function(expr, scope) {
  if (is.logical(expr)) return(list(sure = expr, possible = expr))
  word <- as.character(expr[[1]])
  if (word %in% orderings) return(truth_of_order(word, range_of(expr[[2]], scope), range_of(expr[[3]], scope)))
  parts <- lapply(as.list(expr)[-1], truth_of, scope)
  switch(
    word,
    "(" = parts[[1]],
    "!" = list(sure = !parts[[1]]$possible, possible = !parts[[1]]$sure),
    "&" = , "&&" = list(sure = parts[[1]]$sure & parts[[2]]$sure, possible = parts[[1]]$possible & parts[[2]]$possible),
    "|" = , "||" = list(sure = parts[[1]]$sure | parts[[2]]$sure, possible = parts[[1]]$possible | parts[[2]]$possible)
  )
}

truth_of_order <- function(word, a, b) {
  switch(
    word,
    "<" = list(sure = a$high < b$low, possible = a$low < b$high),
    "<=" = list(sure = a$high <= b$low, possible = a$low <= b$high),
    ">" = truth_of_order("<", b, a),
    ">=" = truth_of_order("<=", b, a)
  )
}

# By how much a wish is missed, as a range: above 0, where it is; NULL of a wish that is no single comparison.
miss_of <- function(wish, scope) {
  word <- if (is.call(wish$expr)) as.character(wish$expr[[1]]) else ""
  if (!word %in% orderings || !length(wish$estimates)) return(NULL)
  sides <- lapply(as.list(wish$expr)[-1], range_of, scope)
  if (word %in% c("<", "<=")) range_sum(sides[[1]], range_minus(sides[[2]])) else
    range_sum(sides[[2]], range_minus(sides[[1]]))
}

# What a miss is measured by, so that those of several wishes can be added: the number wished for, or 1.
miss_unit <- function(wish) {
  numbers <- unlist(Filter(is.numeric, as.list(wish$expr)[-1]))
  if (any(numbers != 0)) max(abs(numbers)) else 1
}

# Between which numbers single names are wished to lie; NULL where nothing bounds them.
wished_ends <- function(wishes) {
  found <- lapply(wishes, function(wish) {
    sides <- as.list(wish$expr)
    word <- as.character(sides[[1]])
    if (!word %in% orderings || !length(wish$estimates)) return(NULL)
    if (is.numeric(sides[[2]])) {
      sides <- sides[c(1, 3, 2)]
      word <- chartr("<>", "><", word)
    }
    if (!is.symbol(sides[[2]]) || !is.numeric(sides[[3]])) return(NULL)
    upper <- word %in% c("<", "<=")
    data.frame(name = as.character(sides[[2]]), low = if (upper) -Inf else sides[[3]],
               high = if (upper) sides[[3]] else Inf, text = wish$text)
  })
  do.call(rbind, found)
}

# Wishes that no rules can meet together.
refuse_contradiction <- function(wishes, call) {
  ends <- wished_ends(wishes)
  for (name in unique(ends$name)) {
    of <- ends[ends$name == name, , drop = FALSE]
    if (max(of$low) > min(of$high)) {
      refuse(sprintf("No rules can meet both %s and %s.", quoted(of$text[which.max(of$low)]),
                     quoted(of$text[which.min(of$high)])), "language", call)
    }
  }
}
