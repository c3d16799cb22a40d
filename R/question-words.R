# The words of a question: what each says of a hand, reduced to whole numbers for the core.
#
# A `pool` is what hands are made of: a list of `deck` and `held` (cards), `replace`, `least` and `most` (the
# fewest and the most cards a hand can have when it is asked), and what follows from them (see new_pool()).

hand_words <- c("count", "total", "distinct", "largest_group", "card_at", "category")
turn_words <- c("every_turn", "any_turn")

new_pool <- function(deck, held, replace, least, most) {
  kinds <- kinds_of(c(deck, held))
  in_deck <- as.double(tabulate(match(codes_of(deck), kinds$codes), length(kinds$codes)))
  data <- catalogue_of(deck)$data[kinds$codes, , drop = FALSE]
  list(deck = deck, held = held, replace = replace, least = least, most = most, kinds = kinds, in_deck = in_deck,
       data = data)
}

# Checks an outcome expression: words and R's operators on them. `columns` are the columns before it,
# which may be used by name.
checked_outcome <- function(expr, catalogue, columns, env, call, turns = TRUE) {
  lookup <- list(
    known = c(names(columns), "turn"), meanings = columns, words = c(hand_words, if (turns) turn_words), env = env,
    what = "the outcome columns so far are",
    check_word = function(word) checked_word(word, catalogue, columns, env, call)
  )
  checked_expression(expr, lookup, call)
}

checked_word <- function(word, catalogue, columns, env, call) {
  name <- as.character(word[[1]])
  if (name == "category") return(checked_category(word, catalogue, env, call))
  operands <- as.list(word)[-1]
  wanted <- if (name == "card_at") 2 else 1
  if (length(operands) != wanted || !is.null(names(operands))) {
    refuse(sprintf("%s() takes %s, as in %s.", name, if (wanted == 2) "a number and a condition" else "one value",
                   word_example(name)), "language", call)
  }
  if (name %in% turn_words) {
    return(as.call(list(word[[1]], checked_outcome(operands[[1]], catalogue, columns, env, call, turns = FALSE))))
  }
  if (name == "card_at") operands[[1]] <- checked_place(operands[[1]], env, call)
  operands[[wanted]] <- checked_attributes(operands[[wanted]], catalogue, env, call)
  as.call(c(word[[1]], operands))
}

word_example <- function(name) {
  switch(name, count = "count(rank == \"A\")", total = "total(points)", distinct = "distinct(suit)",
         largest_group = "largest_group(suit)", card_at = "card_at(1, rank == \"A\")",
         sprintf("%s(count(rank == \"A\") > 0)", name))
}

# An expression of the catalogue's attributes alone.
checked_attributes <- function(expr, catalogue, env, call) {
  checked_on_names(expr, names(catalogue$data), env, "the attributes of a card are", call)
}

checked_place <- function(expr, env, call) {
  check_whole(constant_value(expr, env, call), 1, most_cards, "the place in card_at()", call)
}

# A value for every kind of card in the pool.
attribute_values <- function(expr, pool, about, call) {
  rows <- nrow(pool$data)
  values <- rep_len(interpret(expr, list(values = pool$data, rows = rows), call), rows)
  missing <- which(is.na(values))
  if (length(missing)) {
    refuse(sprintf("In `%s`, `%s` is NA for the card %s; say what it counts as, with is.na(), %%in%% or ifelse().",
                   about, expression_text(expr), quoted(pool$data$card[missing[1]])), "language", call)
  }
  values
}

condition_values <- function(expr, pool, about, call) {
  values <- attribute_values(expr, pool, about, call)
  if (is.logical(values)) return(as.double(values))
  refuse(sprintf("In `%s`, `%s` must be a condition, TRUE or FALSE for each card, such as rank == \"A\".", about,
                 expression_text(expr)), "language", call)
}

# What the core is told of one word, and how its index is read back: `low` to `high` in units of `unit` /
# 10^`decimals`. Below `from` it lies only while a hand is being read.
new_word <- function(word, pool, call) {
  text <- expression_text(word)
  make <- switch(as.character(word[[1]]), count = count_word, total = total_word, card_at = place_word,
                 category = category_word, distinct = , largest_group = group_word, turn_word)
  defaults <- list(text = text, kind = as.character(word[[1]]), low = 0, high = 1, unit = 1, decimals = 0, from = -Inf)
  utils::modifyList(defaults, make(word, pool, text, call))
}

count_word <- function(word, pool, text, call) {
  holds <- condition_values(word[[2]], pool, text, call)
  if (!any(holds > 0) && nrow(pool$data)) {
    inform_user(sprintf("`%s` is always 0: the condition holds for no card here%s", text,
                        unknown_value(word[[2]], pool)))
  }
  list(added = holds, high = most_sum(holds, pool), from = least_sum(holds, pool))
}

# The end of that sentence: which text no card has, and what is near.
unknown_value <- function(condition, pool) {
  for (same in calls_of(condition, "==")) {
    attribute <- if (is.symbol(same[[2]])) pool$data[[as.character(same[[2]])]]
    if (is.character(attribute) && is.character(same[[3]]) && !same[[3]] %in% attribute) {
      return(sprintf("; no card has the %s %s%s", expression_text(same[[2]]), quoted(same[[3]]),
                     did_you_mean(same[[3]], unique(attribute))))
    }
  }
  "."
}

# The largest sum that the cards of a hand can reach, and with values below 0 the smallest.
most_sum <- function(values, pool) {
  values <- pmax(0, values)
  if (pool$replace) return(pool$most * max(values, 0))
  of_cards <- rep(values, times = pool$kinds$copies)
  sum(sort(of_cards, decreasing = TRUE)[seq_len(min(pool$most, length(of_cards)))])
}

least_sum <- function(values, pool) {
  if (!length(values) || any(values < 0)) return(-Inf)
  if (pool$replace) return(pool$least * min(values, Inf))
  sum(sort(rep(values, times = pool$kinds$copies))[seq_len(pool$least)])
}

total_word <- function(word, pool, text, call) {
  values <- attribute_values(word[[2]], pool, text, call)
  if (!is.numeric(values)) {
    refuse(sprintf("In `%s`, `%s` is not a number for each card.", text, expression_text(word[[2]])), "language", call)
  }
  decimals <- decimals_of(values, text, call)
  whole <- round(values * 10^decimals)
  unit <- greatest_divisor(whole)
  list(added = whole / unit, low = -most_sum(-whole / unit, pool), high = most_sum(whole / unit, pool), unit = unit,
       decimals = decimals, from = least_sum(whole / unit, pool))
}

decimals_of <- function(values, text, call) {
  for (decimals in 0:6) {
    scaled <- values * 10^decimals
    if (all(abs(scaled - round(scaled)) <= 1e-9 * pmax(1, abs(scaled)))) return(decimals)
  }
  refuse(sprintf("In `%s`, the values must have at most 6 decimals.", text), "language", call)
}

group_word <- function(word, pool, text, call) {
  values <- attribute_values(word[[2]], pool, text, call)
  group <- match(values, unique(values))
  groups <- max(group, 0)
  sizes <- as.double(rowsum(pool$kinds$copies, factor(group, seq_len(groups))))
  largest <- if (pool$replace) pool$most else max(sizes, 0)
  list(group = group - 1L, groups = groups, from = min(pool$least, 1),
       high = min(pool$most, if (as.character(word[[1]]) == "distinct") groups else largest))
}

place_word <- function(word, pool, text, call) {
  list(position = word[[2]], holds = condition_values(word[[3]], pool, text, call))
}

turn_word <- function(word, pool, text, call) list(condition = word[[2]])

# The words of some expressions, with the step of each in the one index that the core counts by.
asked_words <- function(expressions, pool, functions, call) {
  found <- do.call(c, lapply(unname(expressions), calls_of, functions))
  words <- lapply(found[!duplicated(names(found))], new_word, pool, call)
  sizes <- vapply(words, function(word) word$high - word$low + 1, 0)
  steps <- cumprod(c(1, sizes))
  if (steps[length(steps)] >= 2^53) {
    refuse("These outcome columns have too many combinations to be counted; drop some, or ask coarser ones.", "work",
           call)
  }
  words <- Map(function(word, step, size) utils::modifyList(word, list(step = step, size = size)), words,
               steps[seq_along(words)], sizes)
  list(each = words, cells = steps[length(steps)])
}

# What the words say at these indices of the core, each under its text.
word_values <- function(words, index) {
  lapply(words$each, function(word) {
    raw <- (index %/% word$step) %% word$size + word$low
    if (word$kind %in% c("card_at", turn_words)) return(raw == 1)
    if (word$kind == "category") return(factor(word$levels[raw + 1], word$levels, ordered = TRUE))
    raw * word$unit / 10^word$decimals
  })
}

# Columns that are a category and nothing else: the strongest first.
#' @export
value_orders.habanera_asked <- function(experiment) {
  known <- Filter(function(word) word$kind == "category", experiment$words$each)
  orders <- lapply(known, function(word) rev(word$levels))
  asked <- vapply(experiment$columns, expression_text, "")
  rlang::set_names(orders[match(asked, vapply(known, `[[`, "", "text"))], names(asked)) |> Filter(f = Negate(is.null))
}

# The words as the core takes them.
core_words <- function(words, pool) {
  each <- words$each
  kinds <- nrow(pool$data)
  additions <- lapply(each, function(word) if (is.null(word$added)) 0 else word$added * word$step)
  added <- Reduce(`+`, additions, numeric(kinds))
  of_kind <- function(kind) unname(Filter(function(word) word$kind %in% kind, each))
  list(
    start = sum(vapply(each, function(word) -word$low * word$step, 0)), added = added, cells = words$cells,
    groups = lapply(of_kind(c("distinct", "largest_group")), function(word) {
      list(group = word$group, groups = word$groups, step = word$step, size = word$size,
           largest = word$kind == "largest_group")
    }),
    places = lapply(of_kind("card_at"), function(word) {
      list(position = word$position - 1, step = word$step, holds = as.integer(word$holds))
    }),
    categories = lapply(of_kind("category"), function(word) list(rules = word$rules, step = word$step))
  )
}

# A condition on a hand as the core takes it: its words, and whether it holds at each of their indices,
# turn by turn.
new_condition <- function(expr, pool, turns, call) {
  words <- asked_words(list(expr), pool, hand_words, call)
  cells <- words$cells * (turns + 1)
  if (cells > most_cells) refuse_cells(expression_text(expr), cells, call)
  index <- possible_index(words, cells)
  found <- outcome_values(expr, words, index, call)
  if (!is.logical(found)) {
    refuse(sprintf("`%s` must be a condition, TRUE or FALSE for each hand.", expression_text(expr)), "language", call)
  }
  holds <- integer(cells)
  holds[index + 1] <- as.integer(found)
  list(words = words, core = list(words = core_words(words, pool), holds = holds))
}

# The indices, below `cells`, of hands that are whole.
possible_index <- function(words, cells) {
  index <- seq_len(cells) - 1
  whole <- lapply(words$each, function(word) (index %/% word$step) %% word$size + word$low >= word$from)
  index[Reduce(`&`, whole, rep(TRUE, cells))]
}

most_cells <- 2^20

refuse_cells <- function(text, cells, call) {
  refuse(sprintf("`%s` can come out in %s ways to tell apart; at most %s can be worked with. Ask something coarser.",
                 text, format_number(cells, 2), format_count(most_cells)), "work", call)
}

# An expression at indices of the core; above the words' indices, the turn is counted.
outcome_values <- function(expr, words, index, call) {
  scope <- list(values = list(turn = index %/% words$cells), words = word_values(words, index %% words$cells),
                rows = length(index))
  values <- laid_out(interpret(expr, scope, call), length(index))
  if (anyNA(values) || any(is.infinite(values))) {
    refuse(sprintf("`%s` is not always a value: it can be %s.", expression_text(expr),
                   said(values[is.na(values) | is.infinite(values)][1])), "language", call)
  }
  values
}
