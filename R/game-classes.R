# Rounds divided by a number of theirs, so that what each class adds up to is kept by trial: those of a seat that counts
# by the true count, or as `settings$classes` of the game says: a list of `column`, the rising numbers `from` which on
# there is another class, and the recorded `numbers` that are added up in each. NULL: rounds are not divided.

round_classes <- function(game) {
  if (!holds_rounds(game)) return(NULL)
  classes <- game$settings$classes
  if (is.null(classes)) classes <- count_classes(game)
  if (is.null(classes) || !all(c(classes$column, classes$numbers) %in% game$record)) return(NULL)
  classes
}

count_classes <- function(game) {
  seats <- game_seats(game)
  seat <- counting_seats(game$rules$players, seats)
  if (!length(seat)) return(NULL)
  reach <- count_reach(seated_players(game$rules$players, seats)[[seat]]$settings$system)
  list(column = "true_count", from = seq(-reach, reach), numbers = c(if (seats > 1) "plays", "net_per_bet"))
}

core_classes <- function(game) {
  classes <- round_classes(game)
  if (is.null(classes)) return(NULL)
  list(column = match(classes$column, game$record), from = classes$from, numbers = match(classes$numbers, game$record))
}

# The columns that they add to what trials add up to, and the units of these.
class_columns <- function(game) {
  classes <- round_classes(game)
  if (is.null(classes)) return(NULL)
  paste0(classes$column, "=", rep(classes$from, each = 1 + length(classes$numbers)), ":", c("entries", classes$numbers))
}

# The columns of each class, where the first of them begins after `offset`.
column_classes <- function(game, offset) {
  classes <- round_classes(game)
  if (is.null(classes)) return(NULL)
  size <- 1 + length(classes$numbers)
  first <- offset + size * (seq_along(classes$from) - 1)
  data.frame(first = first + 1, size = size)
}

class_units <- function(game) {
  classes <- round_classes(game)
  if (is.null(classes)) return(NULL)
  rep(c(1, unit_of(game, classes$numbers)), times = length(classes$from))
}

# The same of trials played here, a row each: see round_totals().
class_totals <- function(game, rows, trial) {
  classes <- round_classes(game)
  if (is.null(classes)) return(NULL)
  class <- pmax(1, findInterval(rows[[classes$column]], classes$from))
  totals <- lapply(seq_along(classes$from), function(i) {
    unname(rowsum(as.matrix(cbind(1, rows[classes$numbers])) * (class == i), trial))
  })
  do.call(cbind, totals)
}
