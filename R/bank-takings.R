#' Was it luck?
#'
#' What was taken at a table, night by night, against what its rules should bring: with what chance is it luck, and how
#' many nights would show a leak of this size?
#'
#' Of each row the expected taking is the house's edge of what was staked at first, with the standard deviation of its
#' rounds, stakes being taken as alike within a row. The sum of all is close to a normal law (the number of rounds is
#' large), and its deviation is tested by that, with the error of an edge that had to be simulated (1e5 trials, seed 1).
#'
#' @param file A CSV file with a row per night, seat or round, or such a data frame: `rounds`, `staked` (initial stakes,
#'   in any money) and `result` (what the house took, below 0 what it paid).
#' @param game The game that was played.
#' @param player Who plays it as a rule; `NULL`: that given to the game, or the best play.
#' @return A `habanera_takings`. `tidy()`: `term` "taken", "expected", "difference" (money), `estimate`, `std.error` (of
#'   luck), `statistic`, `p.value` (two-sided), `lower_tail` (the chance of so little or less), `rows_needed` (how many
#'   such rows would show a difference of this size in 90% of cases, at 5%). `as.data.frame()`: the rows, with
#'   `expected` and `z`.
#' @section Errors: `habanera_error_file` for a missing column and a word where a number should be, with its line;
#'   `habanera_error_input` for a game without money, and for stakes without rounds.
#' @examples
#' takings(game_blackjack(), demo_file("takings-front.csv"), player_basic())
#' @export
takings <- function(game, file, player = NULL) {
  check_given()
  call <- rlang::current_env()
  checked_game(game)
  edge <- tidy(house_edge(game, player, nsim = 1e5, seed = 1))[1, ]
  rows <- read_takings(file, game, call)
  expected <- edge$estimate * rows$staked
  spread <- edge$sd * rows$staked / sqrt(rows$rounds)
  rows$expected <- expected
  rows$z <- (rows$result - expected) / spread
  # An edge that was simulated has an error of its own.
  luck <- sqrt(sum(spread^2) + (edge$std.error * sum(rows$staked))^2)
  difference <- sum(rows$result) - sum(expected)
  statistic <- difference / luck
  found <- data.frame(
    term = c("taken", "expected", "difference"), estimate = c(sum(rows$result), sum(expected), difference),
    std.error = c(NA, NA, luck), statistic = c(NA, NA, statistic),
    p.value = c(NA, NA, 2 * stats::pnorm(-abs(statistic))),
    lower_tail = c(NA, NA, stats::pnorm(statistic)),
    rows_needed = c(NA, NA, nights_needed(difference, luck, nrow(rows)))
  )
  structure(list(found = found, rows = rows, edge = edge, game = game, player = player,
                 name = if (is.data.frame(file)) "the data frame" else basename(file)),
                 made = call_made(), class = result_class("habanera_takings"))
}

# As many rows like these as show a mean difference of this size.
nights_needed <- function(difference, luck, rows) {
  if (difference == 0) return(NA_real_)
  wanted <- stats::qnorm(0.95) + stats::qnorm(0.9)
  ceiling(rows * (wanted * luck / difference)^2)
}

read_takings <- function(file, game, call) {
  columns <- c("rounds", "staked", "result")
  if (is.data.frame(file)) {
    refuse_columns_twice(names(file), "`file`", call)
    missing <- setdiff(columns, names(file))
    if (length(missing)) refuse(sprintf("`file` has no column `%s`.", missing[1]), call = call)
    table <- data.frame(file, line = seq_len(nrow(file)), check.names = FALSE)
    place <- function(row) sprintf("Row %s of `file`", format_count(row))
    kind <- "input"
  } else {
    table <- read_csv_columns(file, columns, call, optional = c("night", "seat"))
    place <- function(row) sprintf("%s, line %s", file_name(file), format_count(row))
    kind <- "file"
  }
  table[["rounds"]] <- numbers_of_column(table, "rounds", place, kind, call, 0, whole = TRUE)
  for (column in c("staked", "result")) {
    table[[column]] <- numbers_of_column(table, column, place, kind, call, if (column == "staked") 0 else -Inf)
  }
  if (!nrow(table)) refuse("There are no takings in it.", call = call)
  bad <- which(table[["rounds"]] <= 0 | table[["staked"]] <= 0)
  if (length(bad)) {
    refuse(sprintf("%s: there must be rounds and stakes; leave nights without play out.",
                   place(table[["line"]][bad[1]])), call = call)
  }
  most <- most_lost(game)
  bad <- which(table[["result"]] > table[["staked"]] * most + 1e-9)
  if (length(bad)) {
    refuse(sprintf("%s: %s was taken of %s staked; at most %s can be.", place(table[["line"]][bad[1]]),
                   format_money(table[["result"]][bad[1]]), format_money(table[["staked"]][bad[1]]),
                   format_money(most * table[["staked"]][bad[1]])), call = call)
  }
  table
}

# How many initial stakes a round can cost the player: the stake where it is not raised, unknown where no rule tells.
most_lost <- function(game) {
  bet <- bets_of(game)[1, ]
  limits <- kind_of(game)$limits(game$rules)[[bet$column]]
  if (!is.null(limits)) return(-limits[1] / bet$stake)
  if (is.na(bet$staked)) 1 else Inf
}

#' @rawNamespace S3method(generics::tidy, habanera_takings)
tidy.habanera_takings <- function(x, ...) x$found

#' @export
as.data.frame.habanera_takings <- function(x, ...) x$rows[setdiff(names(x$rows), "line")]

#' @export
tell.habanera_takings <- function(x, ...) {
  cat_wrapped("<takings> ", takings_sentence(x))
  cat_wrapped(sprintf("%s, %s, %s staked; the rules keep %s of a stake, and a round varies by %s: %s%s.",
                      count_of(nrow(x$rows), "row"), count_of(sum(x$rows[["rounds"]]), "round"),
                      format_money(sum(x$rows[["staked"]])), format_percent(x$edge$estimate, 3),
                      format_number(x$edge$sd, 3), in_words(x$game),
                      if (is.null(x$player)) "" else paste(", played by", player_words(x$player))))
  needed <- x$found$rows_needed[3]
  if (!is.na(needed)) {
    cat_wrapped(sprintf("A difference of this size would show in 90%% of cases after %s like these.",
                        count_of(needed, "row")))
  }
  invisible(x)
}

player_words <- function(player) if (rlang::is_string(player)) player else format(player)

takings_sentence <- function(x) {
  row <- x$found[3, ]
  less <- row$estimate < 0
  verdict <- if (row$p.value < 0.01) "This was not luck" else if (row$p.value < 0.05) "This was hardly luck" else
    "It may well be luck"
  sprintf("%s: %s was taken, %s %s than the %s the rules should bring; so %s or %s comes with a chance of %s.", verdict,
          format_money(x$found$estimate[1]), format_money(round(abs(row$estimate), 2)), if (less) "less" else "more",
          format_money(round(x$found$estimate[2], 2)), if (less) "little" else "much", if (less) "less" else "more",
          rare_in_words(if (less) row$lower_tail else 1 - row$lower_tail))
}

rare_in_words <- function(chance) if (chance < 1e-6) "less than one in a million" else format_percent(chance, 2)
