# Best and sound play by what seats see, of games that the core goes through by the tree of their views. `tree` is a
# list of the core's functions `best_answer`, `values` and `sound`, of `unit` (what the core counts in one of what the
# game is worth), `in_words` (what is worth to a seat, told) and `of_win` (whether that is a share of the win).

# Best play of a seat that does not see all cards, by what it sees; and what it gains on who sits there.
best_answer_by_sight <- function(game, seat, tree, call) {
  players <- seated_players(game$rules$players, game_seats(game))
  unknown <- Filter(Negate(has_chances), players[-seat])
  if (length(unknown)) {
    refuse(sprintf(paste("Best play is found against players whose chances are known (random, a table, a mixture, or",
                         "one of the game's own), not %s."), quoted(format(unknown[[1]]))), "rules", call)
  }
  found <- gone_through(game, tree$best_answer(opened_seats(game, seat), seat), call)
  if (is.null(found)) refuse_forgetting(game, seat, call)
  now <- if (has_chances(players[[seat]])) gone_through(game, tree$values(game$spec$rules), call)[seat]
  worth <- found$worth / tree$unit
  list(worth = worth, gain = worth - now / tree$unit, positions = found$positions,
       words = paste(tree$in_words(worth), "on average"), game = in_words(game),
       rows = moves_in_order(found$rows, tree$unit))
}

# Rows as the core gives them; where there are very many they stay in its order.
moves_in_order <- function(rows, unit) {
  rows <- as.data.frame(rows)
  rows$worth <- rows$worth / unit
  if (nrow(rows) > most_rows_sorted) rows[order(rows$seat), , drop = FALSE] else rows_in_order(rows)
}
most_rows_sorted <- 2e5

sound_by_sight <- function(game, gap, seconds, tree, call) {
  found <- gone_through(game, tree$sound(opened_seats(game, 1:2), gap * tree$unit, seconds), call)
  if (!is.null(found$forgets)) refuse_forgetting(game, found$forgets, call)
  # Sums of chances are rounded: what is nothing is 0, and the value does not lie outside.
  for (part in c("value", "low", "high", "total")) {
    found[[part]] <- if (abs(found[[part]]) < 1e-13) 0 else found[[part]] / tree$unit
  }
  found$low <- min(found$low, found$value)
  found$high <- max(found$high, found$value)
  found$rows <- moves_in_order(found$rows, tree$unit)
  c(found, list(wanted = gap, unit = tree$unit_words, of_win = isTRUE(tree$of_win), game = in_words(game)))
}

# What each row of a seat's play costs against the others as they are.
mistakes_by_sight <- function(game, seat, tree, call) {
  players <- seated_players(game$rules$players, game_seats(game))
  unknown <- Filter(Negate(has_chances), players)
  if (length(unknown)) {
    refuse(sprintf(paste("Mistakes are priced of players whose chances are known (random, a table, rules, a mixture),",
                         "not %s."), quoted(format(unknown[[1]]))), "rules", call)
  }
  found <- gone_through(game, tree$costs(game$spec$rules, seat), call)
  if (is.null(found)) refuse_forgetting(game, seat, call)
  moves <- as.data.frame(found[c("row", "sees", "move", "how_often", "worth", "chance", "best")])
  moves$worth <- moves$worth / tree$unit
  list(moves = moves, value = found$value / tree$unit, unit = tree$unit_words, of_win = isTRUE(tree$of_win))
}

# Every course of a game by what is seen.
gone_through <- function(game, code, call) {
  told_of_own_code(game, tryCatch(code, `habanera::StockRanOut` = function(cnd) refuse_small_pack(call),
                                  `habanera::NotPlayedSo` = function(cnd) {
    refuse(sprintf("%s: %s.", kind_of(game)$title, conditionMessage(cnd)), "rules", call)
  }))
}

# The game as the core takes it, with nobody in some seats.
opened_seats <- function(game, seats) {
  spec <- game$spec$rules
  spec$players[seats] <- list(list(name = "nobody"))
  spec
}

refuse_forgetting <- function(game, seat, call) {
  refuse(c(sprintf(paste("In %s the view of seat %s tells less than what it saw and did before, so that its best play",
                         "is not to be had of it."), kind_of(game)$title, format_count(seat)),
           i = "A View that holds the seat's own cards and all moves so far tells enough."), "rules", call)
}
