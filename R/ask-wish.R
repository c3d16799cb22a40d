# Wishes of a game: conditions on estimates, which hold surely, surely not, or are open.

checked_wish <- function(want, game, call) {
  if (is.null(want)) return(NULL)
  expr <- parse_expression(check_string(want, "want", call), "want", call)
  known <- estimate_names(with_ending(game))
  expr <- checked_on_names(expr, known, NULL, "what can be wished of is", call)
  wish_holds(expr, rlang::rep_named(known, list(0.5)), call)
  expr
}

wish_holds <- function(wish, values, call) {
  holds <- interpret(wish, list(values = values, rows = length(values[[1]])), call)
  if (!is.logical(holds)) refuse("`want` must be a condition, such as \"rounds_p90 <= 150\".", "language", call)
  holds
}

# "yes", "no" or "open".
meets_wish <- function(wish, counts, call) holds_over(wish, wished_estimates(wish, counts), call)

# The same of estimates with intervals: the wish all over the intervals of what it names.
holds_over <- function(wish, terms, call) {
  if (anyNA(terms[c("estimate", "conf.low", "conf.high")])) return("open")
  each <- max(2, min(101, floor(1e5^(1 / nrow(terms)))))
  points <- expand.grid(Map(points_between, terms$conf.low, terms$estimate, terms$conf.high, each))
  names(points) <- terms$term
  holds <- wish_holds(wish, as.list(points), call)
  if (anyNA(holds)) "open" else if (all(holds)) "yes" else if (!any(holds)) "no" else "open"
}

# The ends of an interval, the estimate, and values between them; beyond an open end ever further ones.
points_between <- function(low, estimate, high, count) {
  steps <- max(1, abs(c(low, estimate, high)[is.finite(c(low, estimate, high))])) * 2^seq(-4, 20, length.out = count)
  inner <- function(end) {
    if (is.infinite(estimate)) return(numeric())
    if (is.finite(end)) seq(estimate, end, length.out = count) else estimate + sign(end) * steps
  }
  unique(c(low, estimate, high, inner(low), inner(high)))
}

# The estimates of what a wish names. In a wish a game without an end is longer than any: so are its quantiles, and a
# mean has no upper end while more games may have none than are allowed.
wished_estimates <- function(wish, counts) {
  names <- unique(all.vars(wish))
  terms <- endless_estimates(counts, names)
  game <- counts$provenance$experiment
  for (i in which(vapply(names, is_of_ended, NA, game = game))) {
    if (unended_at_most(counts, names[i]) > allowed_unended(wish, game)) terms$conf.high[i] <- Inf
  }
  terms
}

# estimates() by names, with the quantiles of all games, those without an end being longer than any.
endless_estimates <- function(x, names) {
  terms <- estimates(x, names)
  for (i in seq_along(names)) {
    column <- sub("_p[0-9]+$", "", names[i])
    of_ended <- column != names[i] && is_of_ended(column, x$provenance$experiment)
    if (of_ended) terms[i, ] <- percentile_row(names[i], x, endless = Inf)
  }
  terms
}

# Whether a number has a value only where a game ended.
is_of_ended <- function(column, game) isTRUE(game$columns[[column]]$lacks_end)

# The outcome that says how a game ended, and which of its words mean that it did not; NULL where games always end.
ending_of <- function(game) {
  found <- Filter(function(column) !is.null(column$without_end), game$columns)
  if (length(found)) list(column = names(found)[1], without_end = found[[1]]$without_end)
}

# The game with how it ended among what it records.
with_ending <- function(game) {
  ending <- ending_of(game)
  if (is.null(ending) || ending$column %in% game$record) game else recording(game, c(game$record, ending$column))
}

# The share of games that ended, with its exact interval; NULL where all do by the rules.
share_ended <- function(counts) {
  ending <- ending_of(counts$provenance$experiment)
  words <- if (!is.null(ending)) counts$outcomes[[ending$column]]
  if (is.null(words)) return(NULL)
  ended <- sum(counts$n[!words %in% ending$without_end])
  interval <- exact_interval(ended, sum(counts$n))
  list(estimate = ended / sum(counts$n), low = interval$low, high = interval$high)
}

unended_at_most <- function(counts, column) {
  lacking <- sum(counts$n[is.na(counts$outcomes[[column]])])
  exact_interval(lacking, sum(counts$n))$high
}

# Of a mean: one game in a thousand, or what the wish itself allows of an ending that is none.
allowed_unended <- function(wish, game) {
  ending <- ending_of(game)
  limits <- unlist(lapply(paste(ending$column, ending$without_end, sep = "_"), upper_limits, expr = wish))
  if (length(limits)) sum(limits) else 0.001
}

# The numbers that an expression holds a name below.
upper_limits <- function(name, expr) {
  if (!is.call(expr)) return(NULL)
  sides <- as.list(expr)[-1]
  if (as.character(expr[[1]])[1] %in% c(">", ">=")) sides <- rev(sides)
  bounds <- as.character(expr[[1]])[1] %in% orderings && identical(sides[[1]], as.name(name)) && is.numeric(sides[[2]])
  if (bounds) return(sides[[2]])
  unlist(lapply(sides, upper_limits, name = name))
}
