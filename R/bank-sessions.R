#' Nights and seasons of a house
#'
#' What a table brings the house in a night and in a season, how likely a night or the season loses, and the reserve
#' that survives its lowest point.
#'
#' Laws of sums are convolutions, by the discrete Fourier transform (Cooley & Tukey 1965, Math. Comp. 19, 297-301). The
#' lowest point of a season is that of all its rounds, within nights, too, and not only of its close: read backwards it
#' is the law of a fall (Lindley 1952, Proc. Camb. Phil. Soc. 48, 277-289), carried on round by round. Several seats
#' that share a dealer win and lose together: give a game with these `seats`, of which a round is all of them, or its
#' counts. Rounds of a shoe are taken as independent, and the answer says so.
#'
#' @param x As in [bankroll()]; what it brings the player is what it costs the house.
#' @param rounds How many rounds a night has.
#' @param sessions How many nights a season has.
#' @param reserve What the house has at hand at the beginning, in stakes; `NULL`: only the reserve that is needed is
#'   told.
#' @param other_costs What a night costs besides, in stakes.
#' @param stake What a stake is worth, in money; all money in the answer is then in that.
#' @return A `habanera_sessions`. `tidy()`: `term`, `estimate`, `std.error` (what the sampling error of a simulated law
#'   makes of it; 0 where exact): "night_mean", "night_sd", "night_loses" (chance), "season_mean", "season_sd",
#'   "season_loses", "season_p05" and "season_p95" (between which nine in ten seasons end), "reserve_p95", "reserve_p99"
#'   (that survive the lowest point with this chance), "survives" (with `reserve`). `as.data.frame()`: the law of the
#'   season, `result`, `probability`.
#' @section Errors: `habanera_error_input` for what is no number of rounds, and results that are whole in no unit;
#'   `habanera_error_work` for what is out of reach.
#' @examples
#' sessions(game_high_card(), rounds = 300, sessions = 12)
#' @export
sessions <- function(x, rounds, sessions = 12, reserve = NULL, other_costs = 0, stake = 1) {
  check_given()
  call <- rlang::current_env()
  rounds <- check_whole(rounds, 1, 1e6)
  sessions <- check_whole(sessions, 1, 1e4)
  other_costs <- check_number(other_costs, -1e9, 1e9, "other_costs", call)
  check_number(stake, 1e-9, 1e12, "stake", call)
  if (!is.null(reserve)) check_number(reserve, 0, 1e12, "reserve", call)
  law <- round_law(x, call)
  law$net <- 0 - rev(law$net)
  law$probability <- rev(law$probability)
  told <- list(law = law, rounds = rounds, sessions = sessions, costs = other_costs, stake = stake, reserve = reserve,
               unit = unit_of_money(c(law$net, 0), call))
  found <- season_of(told, law, call)
  moved <- if (law$error > 0) season_of(told, moved_law(law, law$error), call)
  found$rows$std.error <- if (is.null(moved)) 0 else abs(moved$rows$estimate - found$rows$estimate)
  structure(c(told, list(season = found$season, found = found$rows)),
            made = call_made(), class = result_class("habanera_sessions"))
}

season_of <- function(told, law, call) {
  night <- sum_law(law, told$unit, told$rounds, call)
  season <- sum_law(law, told$unit, told$rounds * told$sessions, call)
  lowest <- lowest_point(law, told$unit, told$rounds, told$sessions, told$costs, call)
  list(season = season, rows = season_rows(told, night, season, lowest))
}

# How far the house falls below its beginning in a season, in stakes. Costs of a night are spread over its rounds.
lowest_point <- function(law, unit, rounds, sessions, costs, call) {
  moments <- pay_moments(law$net, law$probability)
  total <- rounds * sessions
  width <- 20 * moments$sd * sqrt(total) * unit
  if (width * total * length(law$net) > most_additions) {
    refuse("So long a season over so small units is out of reach; round what is paid to a larger coin.", "work", call)
  }
  if (costs == 0) {
    found <- core_lowest_point(core_law(law, unit), total)
    return(list(depth = found$depth / unit, chance = found$chance))
  }
  lowest_with_costs(law, unit, rounds, sessions, costs)
}

# With costs at the close of each night: the lowest point within nights is that of a season whose every round costs its
# share of the night, which is a little lower at most.
lowest_with_costs <- function(law, unit, rounds, sessions, costs) {
  law$net <- law$net - costs / rounds
  fine <- max(unit, 20 / pay_moments(law$net, law$probability)$sd)
  # To the nearest coins, by chance, so that the mean stays.
  low <- floor(law$net * fine)
  share <- law$net * fine - low
  steps <- gathered_law(list(net = c(low, low + 1),
                             probability = c(law$probability * (1 - share), law$probability * share)))
  found <- core_lowest_point(list(net = steps$net, probability = steps$probability), rounds * sessions)
  list(depth = found$depth / fine, chance = found$chance)
}

season_rows <- function(told, night, season, lowest) {
  stake <- told$stake
  costs <- c(night = told$costs, season = told$costs * told$sessions)
  rows <- list()
  add <- function(term, estimate) rows[[length(rows) + 1]] <<- data.frame(term = term, estimate = estimate)
  for (name in c("night", "season")) {
    law <- if (name == "night") night else season
    moments <- pay_moments(law$sum - costs[[name]], law$probability)
    add(paste0(name, "_mean"), moments$mean * stake)
    add(paste0(name, "_sd"), moments$sd * stake)
    add(paste0(name, "_loses"), sum(law$probability[law$sum < costs[[name]] - 1e-9]))
  }
  up_to <- cumsum(season$probability)
  for (share in c(0.05, 0.95)) {
    add(sprintf("season_p%02d", 100 * share), (season$sum[match(TRUE, up_to >= share)] - costs[["season"]]) * stake)
  }
  deep <- cumsum(lowest$chance)
  for (share in c(0.95, 0.99)) {
    add(sprintf("reserve_p%d", 100 * share), lowest$depth[match(TRUE, deep >= share)] * stake)
  }
  if (!is.null(told$reserve)) add("survives", sum(lowest$chance[lowest$depth <= told$reserve / stake + 1e-9]))
  do.call(rbind, rows)
}

#' @rawNamespace S3method(generics::tidy, habanera_sessions)
tidy.habanera_sessions <- function(x, ...) x$found

#' @export
as.data.frame.habanera_sessions <- function(x, ...) {
  data.frame(result = (x$season$sum - x$costs * x$sessions) * x$stake, probability = x$season$probability)
}

#' @export
tell.habanera_sessions <- function(x, ...) {
  value <- rlang::set_names(x$found$estimate, x$found$term)
  cat_wrapped("<sessions> ", sessions_sentence(x))
  cat_wrapped(sprintf("%s; %s of %s%s%s.", sentence(x$law$words), count_of(x$sessions, "night"),
                      count_of(x$rounds, "round"),
                      if (x$costs == 0) "" else sprintf(", each costing %s", format_money(x$costs * x$stake)),
                      if (x$law$together) "; rounds of a shoe taken as independent" else ""))
  error <- rlang::set_names(x$found$std.error, x$found$term)
  known <- function(term) {
    if (error[[term]] == 0) return("")
    sprintf(" (+/- %s, since the law was simulated)", format_number(stats::qnorm(0.975) * error[[term]], 2))
  }
  cat_wrapped(sprintf("A night brings %s on average%s, with a standard deviation of %s; %s of nights lose.",
                      format_number(value[["night_mean"]], 4), known("night_mean"),
                      format_number(value[["night_sd"]], 4), format_percent(value[["night_loses"]], 4)))
  cat_wrapped(sprintf("The season brings %s%s, nine in ten from %s to %s, and loses with a chance of %s.",
                      format_number(value[["season_mean"]], 4), known("season_mean"),
                      format_money(value[["season_p05"]]), format_money(value[["season_p95"]]),
                      format_percent(value[["season_loses"]], 4)))
  invisible(x)
}

sessions_sentence <- function(x) {
  value <- rlang::set_names(x$found$estimate, x$found$term)
  survives <- if (is.null(x$reserve)) "" else {
    sprintf(" With %s at hand that is %s.", format_money(x$reserve), format_percent(value[["survives"]], 4))
  }
  sprintf("A reserve of %s survives the lowest point of %s in 99%% of seasons, of %s in 95%%.%s",
          format_money(value[["reserve_p99"]]), count_of(x$sessions, "night"), format_money(value[["reserve_p95"]]),
          survives)
}
