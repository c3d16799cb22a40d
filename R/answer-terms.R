# Estimates of a question's columns, from counts or from chances: a logical column has a chance, a number a
# mean, a text a chance for each of its values; all of them turn by turn where there are turns.

asked_columns <- function(outcomes) setdiff(names(outcomes), "turn")

# Which rows are of the last turn: all, where there are no turns.
at_last_turn <- function(table) {
  turn <- table[["turn"]]
  if (is.null(turn)) rep(TRUE, nrow(table)) else turn == max(turn)
}

last_turn <- function(table) table[at_last_turn(table), , drop = FALSE]

# `weight` is how often each row came, or its chance. One row per term: `term`, `turn` (when there are turns),
# `column`, `estimate`, `variance` in one trial, and `total`, the weight that it is an estimate of. Chances are taken of
# the rows there are, so that a part of the outcomes gives conditional estimates; where a number has no value (NA: the
# length of a game that never ends), a row does not count.
weighted_terms <- function(outcomes, weight, wanted = asked_columns(outcomes)) {
  turns <- if ("turn" %in% names(outcomes)) outcomes[["turn"]] else rep(0, nrow(outcomes))
  each <- lapply(sort(unique(turns)), function(turn) {
    rows <- turns == turn
    terms <- do.call(rbind, lapply(wanted, function(name) column_terms(name, outcomes[[name]][rows], weight[rows])))
    if (!is.null(terms)) cbind(terms, turn = turn)
  })
  found <- do.call(rbind, each)
  if (!"turn" %in% names(outcomes)) found[["turn"]] <- NULL
  found
}

column_terms <- function(name, values, weight) {
  has_value <- !is.na(values)
  values <- values[has_value]
  weight <- weight[has_value]
  total <- sum(weight)
  share <- weight / total
  if (is.character(values)) {
    chances <- rowsum(share, values)
    return(data.frame(term = paste0(name, "=", rownames(chances)), column = name, is_chance = TRUE,
                      estimate = chances[, 1], variance = chances[, 1] * (1 - chances[, 1]), total = total,
                      row.names = NULL))
  }
  # Whole sums are divided last, so that what is nothing stays nothing.
  mean <- if (total > 0) sum(weight * values) / total else NA_real_
  data.frame(term = name, column = name, is_chance = is.logical(values), estimate = mean,
             variance = sum(share * (values - mean)^2), total = total)
}

# Of counted outcomes after so many trials, for `precision`.
outcome_half_widths <- function(found, trials, wanted) {
  column_estimates(found$outcomes, found$n, trials, 0.95, wanted)$half_width
}

# Estimates from counts, with their intervals: Wilson's for a chance, Student's t for a mean, which has none where all
# values were one: that tells nothing of how they vary. Of rounds that hang together in their trials, errors are by
# trial, from `sums` (see round_sums()).
column_estimates <- function(outcomes, n, trials, level, wanted = asked_columns(outcomes), sums = NULL) {
  terms <- weighted_terms(outcomes, n, wanted)
  if (!is.null(sums)) return(round_estimates(terms, trials, level, sums))
  total <- terms$total
  error <- sqrt(ifelse(terms$is_chance, terms$variance, terms$variance * total / ifelse(total > 1, total - 1,
                                                                                        NA)) / total)
  wilson <- wilson_interval(ifelse(terms$is_chance, round(terms$estimate * total), 0), total, level)
  half <- student_half_width(error, total - 1, level)
  cbind(
    terms[intersect(c("term", "turn", "column", "is_chance", "estimate"), names(terms))], std.error = error,
    conf.low = ifelse(terms$is_chance, wilson$low, terms$estimate - half),
    conf.high = ifelse(terms$is_chance, wilson$high, terms$estimate + half),
    half_width = ifelse(terms$is_chance, wilson$half_width, half), total = total
  )
}
