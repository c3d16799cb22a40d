#' One table of edges
#'
#' Puts the bets of a house side by side: what each keeps of a stake, what it earns in an hour, how wild it is, and how
#' likely the house is to lose on it in a night.
#'
#' What is earned in an hour is the edge times the rounds of an hour, a stake being bet in each. A night is lost with
#' the chance that its rounds together bring the player more than nothing: by the law of their sum ([sessions()]).
#'
#' @param ... Games, counts or distributions of games, payouts, or what [house_edge()] gave of one; by name, or named by
#'   what they are. Or files: rules of a game with its name (`game: baccarat`, as [write_rules()] writes them), results
#'   (.csv, .parquet, .json), or the prizes of a draw (.yaml) with `deck`, `size`, `ask` (a question as in `--ask`),
#'   `pays` (by the values of its answer) and `stake`.
#' @param rounds_per_hour How many rounds, or plays, an hour has: a number, or one for each.
#' @param rounds How many rounds a night has.
#' @return A `habanera_edge_table`, a data frame with a row per bet: `table` (the name), `bet`, `edge` (the house's, per
#'   initial stake), `per_staked`, `without_ties`, `std.error`, `sd` (of a round, in stakes), `win_share`,
#'   `largest_pay`, `how` ("exact" or "simulated"), `per_hour` (stakes), `loses_night` (chance).
#' @section Errors: `habanera_error_input` for what has no edge, two tables of one name, and rounds out of range.
#' @seealso [house_edge()]; the figure is [autoplot.habanera_edge_table()].
#' @examples
#' edge_table(`high card` = game_high_card(), baccarat = game_baccarat(), rounds_per_hour = c(120, 70))
#' @export
edge_table <- function(..., rounds_per_hour = 60, rounds = 300) {
  call <- rlang::current_env()
  given <- rlang::list2(...)
  if (!length(given)) refuse("edge_table() needs a game, or what house_edge() gave.")
  edges <- lapply(given, function(x) {
    if (rlang::is_string(x)) x <- read_house_table(x, call)
    if (inherits(x, "habanera_edge")) x else in_whole_runs(house_edge(x))
  })
  names <- rlang::names2(given)
  names[!nzchar(names)] <- vapply(edges[!nzchar(names)], edge_title, "")
  if (anyDuplicated(names)) {
    refuse(sprintf("Two tables are called %s; name them, as in edge_table(first = ..., second = ...).",
                   quoted(names[duplicated(names)][1])))
  }
  fits <- is.numeric(rounds_per_hour) && length(rounds_per_hour) %in% c(1, length(given)) &&
    all(is.finite(rounds_per_hour) & rounds_per_hour > 0 & rounds_per_hour <= 1e6)
  if (!fits) {
    refuse(sprintf("`rounds_per_hour` must be a number above 0, or one for each of the %d, not %s.", length(given),
                   said(rounds_per_hour)))
  }
  check_whole(rounds, 1, 1e6)
  rows <- Map(edge_table_rows, names, edges, rep_len(unname(rounds_per_hour), length(given)), rounds, list(call))
  structure(do.call(rbind, unname(rows)),
            made = call_made(), class = table_class("habanera_edge_table"), rounds = rounds)
}

edge_title <- function(edge) if (is.null(edge$game)) edge$said else kind_of(edge$game)$title

edge_table_rows <- function(name, edge, per_hour, rounds, call) {
  found <- tidy(edge)
  terms <- if (is.null(edge$game)) found$term else bets_of(edge$game)$term
  loses <- vapply(match(found$term, terms), function(bet) {
    law <- round_law(edge$source, call, bet)
    night <- sum_law(law, unit_of_money(law$net, call), rounds, call)
    sum(night$probability[night$sum > 1e-9])
  }, 0)
  data.frame(table = name, bet = found$term, edge = found$estimate, per_staked = found$per_staked,
             without_ties = found$without_ties, std.error = found$std.error, sd = found$sd,
             win_share = found$win_share, largest_pay = found$largest_pay, how = found$how,
             per_hour = found$estimate * per_hour, loses_night = loses)
}

#' @export
tell.habanera_edge_table <- function(x, ...) {
  if (!nrow(x)) return(NextMethod())
  cat_wrapped("<edges> ", most_and_least_kept(x))
  cat_wrapped(sprintf("In an hour %s earns most (%s stakes); the wildest is %s. A night has %s.",
                      bet_at_table(x, which.max(x$per_hour)), format_number(max(x$per_hour), 3),
                      bet_at_table(x, which.max(x$sd)), count_of(attr(x, "rounds"), "round")))
  error <- ifelse(x$std.error > 0, paste(" +/-", format_percent(stats::qnorm(0.975) * x$std.error, 2)), "")
  shown <- data.frame(table = x$table, bet = x$bet, edge = paste0(vapply(x$edge, signed_percent, ""), error),
                      sd = format_number(x$sd, 4), wins = format_percent(x$win_share),
                      largest = vapply(x$largest_pay, format_money, ""), `an hour` = format_number(x$per_hour, 3),
                      `loses a night` = format_percent(x$loses_night), check.names = FALSE)
  print_head(shown, 60)
  invisible(x)
}

most_and_least_kept <- function(x) {
  sprintf("Of a stake the house keeps most on %s, %s, and least on %s, %s.", bet_at_table(x, which.max(x$edge)),
          signed_percent(max(x$edge)), bet_at_table(x, which.min(x$edge)), signed_percent(min(x$edge)))
}

bet_at_table <- function(x, i) {
  if (x$bet[i] %in% c("main", "play")) x$table[i] else sprintf("%s (%s)", x$bet[i], x$table[i])
}
