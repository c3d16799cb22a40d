#' How much to stake, and how long until it shows
#'
#' `stake_fraction()`: the share of a bankroll that grows fastest, as a bet each round. `rounds_to_show()`: how many
#' rounds until an edge of this size shows against luck.
#'
#' A share \eqn{f} of the bankroll makes its logarithm grow by the mean of \eqn{\log(1 + f x)}{log(1 + f x)} a round,
#' where
#' \eqn{x} is what a stake brings; the best share has the mean of \eqn{x / (1 + f x)} at nothing (Breiman 1961, Proc.
#' Fourth Berkeley Symp., 65-78). An edge of \eqn{m} with a standard deviation of \eqn{s} shows after
#' \eqn{((z_{level} + z_{power}) s / m)^2}{((z_level + z_power) s / m)^2} rounds.
#'
#' @param x As in [bankroll()].
#' @param level,power How rare a false alarm is, on one side; and how often the edge is seen.
#' @param rounds_a_night For how many nights that is.
#' @return `stake_fraction()`: a `habanera_growth`; `tidy()`: `term` "fraction" (of the bankroll; 0 without an
#'   advantage), "growth" (of its logarithm, in a hundred rounds), "half_fraction", "half_growth"; `estimate`.
#'   `rounds_to_show()`: a `habanera_rounds_to_show`; `tidy()`: `term` "rounds", "nights"; `estimate`.
#' @section Errors: `habanera_error_input` for a game without an edge, that would never show.
#' @examples
#' stake_fraction(money_distribution(c(-1, 1), c(0.48, 0.52)))
#' rounds_to_show(game_high_card())
#' @export
stake_fraction <- function(x) {
  check_given()
  call <- rlang::current_env()
  law <- round_law(x, call)
  best <- best_fraction(law)
  growth <- function(fraction) 100 * sum(law$probability * log1p(fraction * law$net))
  found <- data.frame(term = c("fraction", "growth", "half_fraction", "half_growth"),
                      estimate = c(best, growth(best), best / 2, growth(best / 2)))
  structure(list(found = found, law = law), made = call_made(), class = result_class("habanera_growth"))
}

best_fraction <- function(law) {
  if (sum(law$probability * law$net) <= 0) return(0)
  slope <- function(fraction) sum(law$probability * law$net / (1 + fraction * law$net))
  least <- min(law$net)
  # Who cannot lose stakes all.
  if (least >= 0) return(1)
  most <- min(1, 1 / -least)
  if (most == 1 && slope(1 - 1e-12) > 0) return(1)
  stats::uniroot(slope, c(0, most * (1 - 1e-12)), tol = 1e-14)$root
}

#' @rawNamespace S3method(generics::tidy, habanera_growth)
tidy.habanera_growth <- function(x, ...) x$found

#' @export
tell.habanera_growth <- function(x, ...) {
  value <- rlang::set_names(x$found$estimate, x$found$term)
  cat_wrapped("<stake> ", if (value[["fraction"]] == 0) "Without an advantage no stake makes a bankroll grow." else {
    sprintf(paste("A bet of %s of the bankroll grows fastest, by %s in 100 rounds; half of it by %s, with half of the",
                  "swings."), format_percent(value[["fraction"]], 4), format_percent(value[["growth"]], 3),
            format_percent(value[["half_growth"]], 3))
  })
  cat_wrapped(sentence(x$law$words), ".")
  invisible(x)
}

#' @rdname stake_fraction
#' @export
rounds_to_show <- function(x, level = 0.05, power = 0.9, rounds_a_night = 200) {
  check_given()
  call <- rlang::current_env()
  if (check_level(level) > 0.5) refuse(sprintf("`level` must be at most 0.5, not %s.", said(level)))
  check_between(power, 0.5, 1)
  check_whole(rounds_a_night, 1)
  law <- round_law(x, call)
  moments <- pay_moments(law$net, law$probability)
  if (abs(moments$mean) < 1e-15) refuse("A round brings nothing on average: an edge that is not there never shows.")
  rounds <- ceiling(((stats::qnorm(1 - level) + stats::qnorm(power)) * moments$sd / moments$mean)^2)
  found <- data.frame(term = c("rounds", "nights"), estimate = c(rounds, ceiling(rounds / rounds_a_night)))
  structure(list(found = found, law = law, moments = moments, level = level, power = power, night = rounds_a_night),
            made = call_made(), class = result_class("habanera_rounds_to_show"))
}

#' @rawNamespace S3method(generics::tidy, habanera_rounds_to_show)
tidy.habanera_rounds_to_show <- function(x, ...) x$found

#' @export
tell.habanera_rounds_to_show <- function(x, ...) {
  cat_wrapped(sprintf(paste("<rounds to show> An edge of %s for the %s is seen in %s of cases after %s, %s of %s, with",
                            "false alarms in %s."), format_percent(abs(x$moments$mean), 3),
                      if (x$moments$mean < 0) "house" else "player", format_percent(x$power, 2),
                      count_of(x$found$estimate[1], "round"), count_of(x$found$estimate[2], "night"),
                      count_of(x$night, "round"), format_percent(x$level, 2)))
  cat_wrapped(sprintf("%s; a round varies by %s stakes.", sentence(x$law$words), format_number(x$moments$sd, 4)))
  invisible(x)
}
