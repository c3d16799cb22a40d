# Between which values estimates lie, each with the same small chance of error: what rules are told apart by while they
# are tuned. Names beside those of estimate_names(): `edge`, `seat_spread`, `minutes`.

# How an estimate of a game is read from what was counted: a list of `kind` ("share", "mean", "quantile", "spread"), the
# `column`, and what belongs to the kind. NULL: there is none of this name.
estimator <- function(name, game, seconds_per_round) {
  if (name == "edge") return(edge_estimator(game))
  if (name == "seat_spread") return(spread_estimator(game))
  if (grepl("^minutes(_p[0-9]+)?$", name)) return(minutes_estimator(name, game, seconds_per_round))
  for (column in names(game$columns)) {
    words <- category_words(game, column)
    code <- match(name, paste(column, plain_name(words), sep = "_")) - 1
    if (!is.null(words) && !is.na(code)) return(list(kind = "share", column = column, code = code))
    if (is_category(game, column)) next
    found <- number_estimator(name, column, game)
    if (!is.null(found)) return(found)
  }
  NULL
}

number_estimator <- function(name, column, game, factor = 1 / unit_of(game, column)) {
  if (name == column) return(list(kind = "mean", column = column, factor = factor, game = game))
  if (!grepl("_p[0-9]+$", name) || sub("_p[0-9]+$", "", name) != column) return(NULL)
  list(kind = "quantile", column = column, factor = factor, p = as.numeric(sub("^.*_p", "", name)) / 100)
}

edge_estimator <- function(game) {
  if (is.null(able(game, "takes_bets"))) return(NULL)
  bet <- able(game, "takes_bets")$bets(game$rules)[1, ]
  list(kind = "mean", column = bet$column, factor = -1 / (bet$stake * unit_of(game, bet$column)), game = game)
}

spread_estimator <- function(game) {
  winner <- kind_of(game)$winner
  if (is.null(winner) || game_seats(game) < 2) return(NULL)
  list(kind = "spread", column = winner, codes = seq_len(game_seats(game)))
}

minutes_estimator <- function(name, game, seconds_per_round) {
  rounds <- kind_of(game)$rounds
  if (is.null(rounds) || is.null(seconds_per_round)) return(NULL)
  number_estimator(sub("^minutes", rounds, name), rounds, game, seconds_per_round / 60)
}

# The names that a game's wishes may hold, `minutes` and `edge` among them where there are such.
tunable_names <- function(game, seconds_per_round) {
  further <- Filter(function(name) !is.null(estimator(name, game, seconds_per_round)), c("edge", "seat_spread",
                                                                                       "minutes"))
  c(further, if ("minutes" %in% further) percentile_names("minutes"), named_estimates(game))
}

# How many single estimates one is made of, among which its chance of error is divided.
parts_of <- function(estimator) if (estimator$kind == "spread") length(estimator$codes) else 1

# `estimate`, `low` and `high`, and whether the bounds are `sure` (or approximate), of a tally of the core after so many
# trials, each wrong with at most the chance `error`. `allowed` is how many games without an end a mean may leave out.
bounds_in_tally <- function(estimator, tally, error, allowed = 0.001) {
  values <- tally$rows[[estimator$column]]
  n <- tally$n
  switch(
    estimator$kind,
    share = share_bounds(sum(n[values == estimator$code]), sum(n), error),
    spread = spread_bounds(vapply(estimator$codes, function(code) sum(n[values == code]), 0), sum(n), error),
    quantile = quantile_bounds(values * estimator$factor, n, estimator$p, error),
    mean = mean_bounds(values * estimator$factor, n, estimator, error, allowed)
  )
}

new_bounds <- function(estimate, low, high, sure = TRUE) list(estimate = estimate, low = low, high = high, sure = sure)

share_bounds <- function(count, total, error) {
  interval <- exact_interval(count, total, 1 - error)
  new_bounds(count / total, interval$low, interval$high)
}

# The largest less the smallest of several chances: each lies in its own interval.
spread_bounds <- function(counts, total, error) {
  each <- exact_interval(counts, total, 1 - error / length(counts))
  new_bounds((max(counts) - min(counts)) / total, max(0, max(each$low) - min(each$high)),
             max(each$high) - min(each$low))
}

# A game without an end is longer than any.
quantile_bounds <- function(values, n, p, error) {
  values[is.na(values)] <- Inf
  at <- column_quantiles(values, n, p, TRUE, 1 - error)
  new_bounds(at$estimate, at$conf.low, at$conf.high)
}

fewest_for_t <- 1000

# Where the rules bound a number: the empirical Bernstein bound (Maurer & Pontil 2009, "Empirical Bernstein bounds and
# sample variance penalization", theorem 4). Else Student's t, from 1,000 trials on: about so sure. Where more games may
# lack a value than are allowed, there is no upper end.
mean_bounds <- function(values, n, estimator, error, allowed) {
  ended <- !is.na(values)
  total <- sum(n[ended])
  if (total < 2) return(new_bounds(NA_real_, -Inf, Inf))
  mean <- sum(values[ended] * n[ended]) / total
  variance <- sum(n[ended] * (values[ended] - mean)^2) / (total - 1)
  limits <- estimator_limits(estimator)
  if (is.null(limits)) {
    # Where nearly all came out the same, nothing tells how far the others may lie.
    others <- total - max(rowsum(n[ended], values[ended]))
    few <- total < fewest_for_t || others < enough_differing
    half <- if (few) Inf else stats::qt(1 - error / 2, total - 1) * sqrt(variance / total)
    found <- new_bounds(mean, mean - half, mean + half, sure = FALSE)
  } else {
    log <- log(4 / error)
    half <- sqrt(2 * variance * log / total) + 7 * diff(limits) * log / (3 * (total - 1))
    found <- new_bounds(mean, max(limits[1], mean - half), min(limits[2], mean + half))
  }
  if (any(!ended) && exact_interval(sum(n[!ended]), sum(n), 1 - error)$high > allowed) found$high <- Inf
  found
}

estimator_limits <- function(estimator) {
  game <- estimator$game
  if (is.null(game)) return(NULL)
  limits <- kind_of(game)$limits(game$rules)[[estimator$column]]
  if (is.null(limits)) return(NULL)
  range(limits * unit_of(game, estimator$column) * estimator$factor)
}
