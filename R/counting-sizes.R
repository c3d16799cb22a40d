#' How much to bet at which count
#'
#' Bets in proportion to the advantage over the variance, in whole stakes within the limits of the table, and how a
#' bankroll grows by them.
#'
#' Of a round with mean \eqn{m} and second moment \eqn{s} for each stake, a bet of \eqn{b} out of a bankroll \eqn{B}
#' makes its logarithm grow by about \eqn{b m / B - b^2 s / (2 B^2)}, most at \eqn{b = B m / s} (Thorp 1969, Review of
#' the International Statistical Institute 37, 273-293). Means are taken as rising with the count: neighbours that do
#' not are put together, weighed by their rounds, since what they differ by is luck.
#'
#' @param x What [by_true_count()] gave.
#' @param bankroll In stakes.
#' @param fraction Of the bet that grows fastest: 0.5 has three quarters of the growth with half of the swings.
#' @param limits The least and the most that is bet while the seat plays.
#' @param steps What bets are whole multiples of.
#' @return A `habanera_bet_sizes`, a data frame with a row per true count: `true_count`, `share`, `mean` (as taken),
#'   `sd`, `ideal` (stakes; 0 without advantage) and `bet` (within the limits). It is taken by [bet_ramp()] and
#'   [reprice()]. `tidy()`: `term` "ideal", "laid" and "lost", the growth in a hundred rounds dealt by the ideal bets,
#'   by the bets laid, and what rounding and limits lose; `estimate`.
#' @section Errors: `habanera_error_input` for a bankroll below the least bet, and limits that cross.
#' @examples
#' counter <- player_counting(bets = c("0" = 1, "1" = 2))
#' shoes <- simulate(game_blackjack(players = counter, cut_after = 0.75), nsim = 2000, seed = 1)
#' found <- by_true_count(shoes)
#' bet_sizes(found, bankroll = 400)
#' @export
bet_sizes <- function(x, bankroll, fraction = 1, limits = c(1, 12), steps = 1) {
  check_given()
  call <- rlang::current_env()
  if (!inherits(x, "habanera_by_true_count")) {
    refuse(sprintf("`x` must be what by_true_count() gave, not %s.", said(x)))
  }
  check_number(bankroll, 0, 1e12, "bankroll", call)
  check_number(fraction, 0, 10, "fraction", call)
  check_limits(limits, call)
  check_whole(steps, 1, 1e6)
  if (bankroll < limits[1]) {
    refuse(sprintf("`bankroll` is %s, less than the least bet of %s.", format_statistic(bankroll),
                   format_statistic(limits[1])))
  }
  rows <- common_counts(plain_table(x))
  rows$mean <- rising_means(rows$mean, rows$played)
  square <- rows$sd^2 + rows$mean^2
  rows$ideal <- pmax(0, fraction * bankroll * rows$mean / square)
  least <- ceiling(limits[1] / steps) * steps
  most <- if (is.finite(limits[2])) floor(limits[2] / steps) * steps else Inf
  if (least > most) refuse(sprintf("No whole multiple of `steps` lies within `limits`, %s.", join_words(limits, "to")))
  rows$bet <- pmin(pmax(round(rows$ideal / steps) * steps, least), most)
  growth <- function(bet) 100 * sum(rows$share * (bet * rows$mean / bankroll - bet^2 * square / (2 * bankroll^2)))
  structure(rows[c("true_count", "share", "mean", "sd", "ideal", "bet")],
            made = call_made(), class = table_class("habanera_bet_sizes"),
            bankroll = bankroll, fraction = fraction,
            growth = c(ideal = growth(rows$ideal), laid = growth(rows$bet)))
}

# The counts one after the other around the commonest at which was played, with the share of rounds so played.
common_counts <- function(x) {
  enough <- x$played > 1
  stretch <- cumsum(!enough | c(1, diff(x$true_count)) > 1)
  rows <- x[enough & stretch == stretch[which.max(x$played)], ]
  rows$share <- rows$played / sum(x$rounds)
  rows
}

# The rising numbers nearest to these by weighted squares: neighbours that fall are put together (Ayer et al. 1955,
# Ann. Math. Statist. 26, 641-647).
rising_means <- function(values, weights) {
  pools <- list()
  for (i in seq_along(values)) {
    pool <- list(value = values[i], weight = weights[i], size = 1)
    while (length(pools) && pools[[length(pools)]]$value >= pool$value) {
      last <- pools[[length(pools)]]
      pools[[length(pools)]] <- NULL
      weight <- last$weight + pool$weight
      pool <- list(value = (last$value * last$weight + pool$value * pool$weight) / weight, weight = weight,
                   size = last$size + pool$size)
    }
    pools[[length(pools) + 1]] <- pool
  }
  rep(vapply(pools, `[[`, 0, "value"), times = vapply(pools, `[[`, 0, "size"))
}

#' @rawNamespace S3method(generics::tidy, habanera_bet_sizes)
tidy.habanera_bet_sizes <- function(x, ...) {
  growth <- attr(x, "growth")
  data.frame(term = c("ideal", "laid", "lost"),
             estimate = c(growth[["ideal"]], growth[["laid"]], growth[["ideal"]] - growth[["laid"]]))
}

#' @export
tell.habanera_bet_sizes <- function(x, rows = 25, ...) {
  growth <- attr(x, "growth")
  cat_wrapped(sprintf(paste(
    "<bet sizes> A bankroll of %s stakes, bet by the count at %s of the fastest growth, grows by %s in 100 rounds;",
    "whole bets within the limits make it %s, %s less."), format_statistic(attr(x, "bankroll")),
    format_percent(attr(x, "fraction"), 3), format_percent(growth[["ideal"]], 3), format_percent(growth[["laid"]], 3),
    format_percent(growth[["ideal"]] - growth[["laid"]], 3)))
  shown <- data.frame(`true count` = x$true_count, share = format_percent(x$share, 3),
                      advantage = format_percent(x$mean, 3), ideal = sprintf("%.2f", x$ideal), bet = x$bet,
                      check.names = FALSE)
  print_head(middle_rows(shown, x$share, rows), rows)
  invisible(x)
}
