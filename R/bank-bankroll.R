#' A bankroll
#'
#' How likely ruin is within so many rounds or for ever, whether a goal comes first, how far the bankroll falls, and how
#' long the luck keeps out: exactly, step by step over whole units of money, with the usual formula beside it.
#'
#' Ruined is who has less than a bet (of `bet` stakes); what a last loss costs beyond the bankroll is owed. A plan of
#' bets begins again with its first where the bankroll is too low for the next; ruined is who cannot pay the first.
#'
#' The law of the bankroll is carried on from round to round, whatever is below 1e-20 at its ends being left out. For
#' ever, the chances of ruin from all heights below the goal solve the linear equations of a round; without a goal a
#' height so far up takes its place that ruin from there has a chance below 1e-14 (by the exponent for which a round's
#' mean is one; Feller 1968, An Introduction to Probability Theory, vol. 1, section XIV.8). The usual formulas take the
#' course for a Brownian motion of the same mean and variance (Cox & Miller 1965, The Theory of Stochastic Processes,
#' section 5.7). The worst fall is the deepest below the highest point so far, ruin or not.
#'
#' @param x A game for money, counts or a distribution of one, what [by_true_count()] or [reprice()] gave (so that bets
#'   by the count are compared on the very same shoes), a [payout()], or a [money_distribution()]. A game is
#'   taken by its exact law where that is in reach; else by 1e6 rounds (with `cut_after` 20,000 shoes) of seed 1, whose
#'   mean is moved to the exact edge where that is solved.
#' @param start The bankroll, in stakes.
#' @param rounds How many rounds, or `Inf`.
#' @param goal The bankroll at which one stops; `NULL`: none.
#' @param bets A [bet_progression()]; `NULL`: the same bet each round.
#' @param bet What is bet in a round (first), in stakes.
#' @return A `habanera_bankroll`. `tidy()`: `term`, `estimate`, `std.error` (what the sampling error of a simulated law
#'   makes of it; 0 where exact, `NA` where not worked out), `formula` (the usual one, `NA` where there is none). Terms:
#'   "ruin", "goal" (chances), "mean" and "sd" (of the bankroll at the end, in stakes), "worst_fall_p50",
#'   "worst_fall_p90" (stakes), "doubling_time" (rounds after which half have doubled the bankroll; `NA`: not within
#'   these), "losing_run_p50", "losing_run_p90" (the longest run of losses).
#'   Where the walk is out of reach (long, over small units), these are of courses drawn by the luck of trials, and the
#'   answer says of how many.
#' @section Errors: `habanera_error_input` for a bankroll smaller than a bet and a goal that is no higher, results that
#'   are whole in no unit; `habanera_error_work` for what is out of reach.
#' @seealso [sessions()] for the house, [stake_fraction()], [rounds_to_show()].
#' @examples
#' bankroll(money_distribution(c(-1, 1), c(0.52, 0.48)), start = 20, rounds = 500, goal = 40)
#' doubling <- bet_progression(after_loss = 2, limit = 16)
#' bankroll(game_high_card(), start = 50, rounds = 200, bets = doubling)
#' @export
bankroll <- function(x, start, rounds, goal = NULL, bets = NULL, bet = 1) {
  check_given()
  call <- rlang::current_env()
  law <- round_law(x, call)
  check_number(start, 0, 1e9, "start", call)
  check_number(bet, 1e-6, 1e9, "bet", call)
  if (!identical(rounds, Inf)) check_whole(rounds, 1, 1e6)
  if (start < bet) {
    refuse(sprintf("`start` is %s: less than a bet of %s.", format_statistic(start), format_statistic(bet)))
  }
  if (!is.null(goal) && check_number(goal, 0, 1e9, "goal", call) <= start) {
    refuse(sprintf("`goal` must be more than `start`, %s.", format_statistic(start)))
  }
  if (!is.null(bets) && !inherits(bets, "habanera_bet_plan")) {
    refuse(sprintf("`bets` must be a bet_progression(), not %s.", said(bets)))
  }
  if (!is.null(bets) && is.infinite(rounds)) refuse("A plan of bets is followed over so many `rounds`, not for ever.")
  law$net <- law$net * bet
  told <- list(law = law, start = start, rounds = rounds, goal = goal, bets = bets, bet = bet,
               unit = unit_of_money(c(law$net, start, bet, goal), call))
  found <- if (is.infinite(rounds)) ruin_for_ever(told, call) else bankroll_in_time(told, call)
  if (!is.null(found$drawn)) told$law$exact <- FALSE
  structure(c(told, found), made = call_made(), class = result_class("habanera_bankroll"))
}

# Work that a run of the core may be, in additions.
most_additions <- 4e10

bankroll_in_time <- function(told, call) {
  plan <- if (is.null(told$bets)) flat_plan() else told$bets
  if (is_wide_walk(told, length(plan$bets))) return(drawn_courses(told, call))
  play <- function(law, goal = told$goal) play_bankroll(told, law, plan, goal)
  found <- play(told$law)
  last <- told$rounds
  ruin <- found$ruined[last]
  moved <- if (told$law$error > 0) play(moved_law(told$law, told$law$error * told$bet))
  spread <- sqrt(max(0, found$square - found$mean^2))
  formula <- ruin_formula(told)
  doubled <- play(told$law, 2 * told$start)$reached
  rows <- list(
    found_row("ruin", ruin, if (is.null(moved)) 0 else abs(moved$ruined[last] - ruin), formula$ruin),
    if (!is.null(told$goal)) {
      found_row("goal", found$reached[last], if (is.null(moved)) 0 else abs(moved$reached[last] - found$reached[last]))
    },
    found_row("mean", found$mean, if (is.null(moved)) 0 else abs(moved$mean - found$mean)), found_row("sd", spread, NA),
    if (is.null(told$bets)) fall_rows(told),
    found_row("doubling_time", match(TRUE, doubled >= 0.5), NA), losing_rows(told)
  )
  list(found = do.call(rbind, rows), course = found)
}

found_row <- function(term, estimate, error, formula = NA_real_) {
  data.frame(term = term, estimate = as.double(estimate), std.error = error, formula = formula)
}

play_bankroll <- function(told, law, plan, goal) {
  unit <- told$unit
  bands <- unique(pmax(1, round(seq(0, told$rounds, length.out = 101))[-1]))
  found <- core_bankroll(core_law(law, unit), plan, told$bet * unit, told$start * unit,
                         if (!is.null(goal)) goal * unit, told$rounds, band_shares, bands)
  list(ruined = found$ruined, reached = found$reached, mean = found$mean / unit, square = found$square / unit^2,
       bands = data.frame(round = bands, pmin(found$bands / unit, if (is.null(goal)) Inf else goal)))
}

band_shares <- c(0.05, 0.25, 0.5, 0.75, 0.95)

# A walk of many rounds has a width that grows as their root.
is_wide_walk <- function(told, places) {
  moments <- pay_moments(told$law$net, told$law$probability)
  width <- 20 * moments$sd * sqrt(told$rounds) * told$unit * places
  width * told$rounds * length(told$law$net) > most_additions / 10
}

# Where the walk is out of reach: courses by the luck of trials 1, 2, ... of seed 1.
drawn_courses <- function(told, call) {
  courses <- min(floor(5e7 / told$rounds), 20000)
  if (!is.null(told$bets) || courses < 1000) {
    refuse("That is too long a walk over so small units of money; take fewer rounds, or round what is paid.", "work",
           call)
  }
  ends <- vapply(seq_len(courses), function(trial) course_end(told, 1, trial), numeric(5))
  error <- function(name) stats::sd(ends[name, ]) / sqrt(courses)
  quantile <- function(name, share) sort(ends[name, ])[[ceiling(share * courses)]]
  doubled <- quantile("doubled", 0.5)
  rows <- list(
    found_row("ruin", mean(ends["ruined", ]), error("ruined"), ruin_formula(told)$ruin),
    if (!is.null(told$goal)) found_row("goal", mean(ends["reached", ]), error("reached")),
    found_row("mean", mean(ends["left", ]), error("left")), found_row("sd", stats::sd(ends["left", ]), NA),
    found_row("worst_fall_p50", quantile("fall", 0.5), NA), found_row("worst_fall_p90", quantile("fall", 0.9), NA),
    found_row("doubling_time", if (is.finite(doubled)) doubled else NA, NA), losing_rows(told)
  )
  list(found = do.call(rbind, rows), course = NULL, drawn = courses)
}

# A course by the luck of a trial, in whole units, in which nothing is lost to rounding: what the rounds of a course
# bring, and where it begins and ends.
course_units <- function(told, seed, trial) {
  law <- told$law
  drawn <- with_trial_generator(seed, trial, 0, sample.int(length(law$net), told$rounds, TRUE, law$probability))
  units <- function(money) if (is.null(money)) Inf else round(money * told$unit)
  list(net = units(law$net)[drawn], start = units(told$start), bet = units(told$bet), goal = units(told$goal))
}

# Of one course of the same bet: whether it ended in ruin or at the goal, what was left, the worst fall, ruin or not,
# and when the bankroll had doubled.
course_end <- function(told, seed, trial) {
  course <- course_units(told, seed, trial)
  at <- course$start + cumsum(course$net)
  first <- function(holds) min(which(holds), Inf)
  low <- first(at < course$bet)
  high <- first(at >= course$goal)
  doubled <- first(at >= 2 * course$start)
  fall <- max(cummax(c(course$start, at)) - c(course$start, at))
  c(ruined = low < high, reached = high < low, left = at[min(low, high, told$rounds)] / told$unit,
    fall = fall / told$unit, doubled = if (doubled < low) doubled else Inf)
}

# The heights of one course round by round, by the plan of bets.
single_course <- function(told, seed, trial) {
  plan <- if (is.null(told$bets)) flat_plan() else told$bets
  course <- course_units(told, seed, trial)
  at <- course$start
  place <- 1
  heights <- numeric(told$rounds)
  for (round in seq_len(told$rounds)) {
    if (at < plan$bets[place] * course$bet) place <- 1
    if (at >= course$bet && at < course$goal) {
      net <- course$net[round]
      at <- at + net * plan$bets[place]
      place <- if (net < 0) plan$after_loss[place] else if (net > 0) plan$after_win[place] else place
    }
    heights[round] <- at
  }
  heights / told$unit
}

ruin_formula <- function(told) {
  moments <- pay_moments(told$law$net, told$law$probability)
  if (!is.null(told$bets) || moments$sd == 0) return(list(ruin = NA_real_))
  rate <- 2 * moments$mean / moments$sd^2
  if (!is.null(told$goal)) {
    if (is.finite(told$rounds)) return(list(ruin = NA_real_))
    if (rate == 0) return(list(ruin = 1 - told$start / told$goal))
    return(list(ruin = (exp(-rate * told$start) - exp(-rate * told$goal)) / (1 - exp(-rate * told$goal))))
  }
  if (is.infinite(told$rounds)) return(list(ruin = min(1, exp(-rate * told$start))))
  spread <- moments$sd * sqrt(told$rounds)
  drift <- moments$mean * told$rounds
  list(ruin = stats::pnorm((-told$start - drift) / spread) +
         exp(-rate * told$start + stats::pnorm((-told$start + drift) / spread, log.p = TRUE)))
}

fall_rows <- function(told) {
  depth <- function(share) core_worst_fall(core_law(told$law, told$unit), told$rounds, 1 - share) / told$unit
  rbind(found_row("worst_fall_p50", depth(0.5), NA), found_row("worst_fall_p90", depth(0.9), NA))
}

losing_rows <- function(told) {
  loss <- sum(told$law$probability[told$law$net < 0])
  longest <- function(share) {
    length <- 0
    # No run of one more than this.
    while (length < told$rounds && core_no_losing_run(loss, length + 1, told$rounds) < share) length <- length + 1
    length
  }
  rbind(found_row("losing_run_p50", longest(0.5), NA), found_row("losing_run_p90", longest(0.9), NA))
}

ruin_for_ever <- function(told, call) {
  ruin_of <- function(law) ruin_at_last(told, law, call)
  ruin <- ruin_of(told$law)
  error <- if (told$law$error == 0) 0 else abs(ruin_of(moved_law(told$law, told$law$error * told$bet)) - ruin)
  rows <- list(found_row("ruin", ruin, error, ruin_formula(told)$ruin),
               if (!is.null(told$goal)) found_row("goal", 1 - ruin, error))
  list(found = do.call(rbind, rows), course = NULL)
}

ruin_at_last <- function(told, law, call) {
  mean <- sum(law$net * law$probability)
  if (all(law$net >= 0)) return(0)
  goal <- told$goal
  if (is.null(goal)) {
    if (mean <= 0) return(1)
    goal <- told$start + 33 / ruin_exponent(law)
  }
  width <- diff(range(law$net)) * told$unit + 1
  if (goal * told$unit * width > 5e7) {
    refuse("So small an advantage over so small units is out of reach for ever; give a `goal` or `rounds`.", "work",
           call)
  }
  core_ruin_before_goal(core_law(law, told$unit), told$bet * told$unit, told$start * told$unit,
                        ceiling(goal * told$unit))
}

# For which the mean of exp(-exponent * net) is one.
ruin_exponent <- function(law) {
  excess <- function(exponent) log(sum(law$probability * exp(-exponent * law$net)))
  high <- 1e-6
  while (excess(high) < 0) high <- 2 * high
  if (high == 1e-6) return(high)
  stats::uniroot(excess, c(high / 2, high), tol = 1e-12)$root
}

#' @rawNamespace S3method(generics::tidy, habanera_bankroll)
tidy.habanera_bankroll <- function(x, ...) x$found

#' @export
tell.habanera_bankroll <- function(x, ...) {
  cat_wrapped("<bankroll> ", bankroll_sentence(x))
  cat_wrapped(sprintf("%s; a bankroll of %s stakes, %s.%s", sentence(x$law$words), format_statistic(x$start),
                      if (is.null(x$bets)) sprintf("bets of %s", format_statistic(x$bet)) else format(x$bets),
                      paste(c(if (x$law$together) " Rounds of a shoe are taken as independent.",
                              if (!is.null(x$drawn)) sprintf(" Simulated: %s of seed 1.", count_of(x$drawn, "course"))),
                            collapse = "")))
  for (line in bankroll_lines(x$found)) cat_wrapped(line)
  invisible(x)
}

bankroll_sentence <- function(x) {
  of <- function(term) x$found[x$found$term == term, ]
  ruin <- of("ruin")
  when <- if (is.infinite(x$rounds)) "for ever" else sprintf("within %s", count_of(x$rounds, "round"))
  known <- if (ruin$std.error > 0) {
    half <- stats::qnorm(0.975) * ruin$std.error
    sprintf(" (95%%: %s to %s)", format_percent(max(0, ruin$estimate - half), 3),
            format_percent(min(1, ruin$estimate + half), 3))
  } else if (ruin$estimate == 1 || !x$law$exact) "" else ", exactly"
  goal <- of("goal")
  reached <- if (nrow(goal)) sprintf("; the goal of %s comes first with %s", format_statistic(x$goal),
                                     format_percent(goal$estimate, 4)) else ""
  formula <- if (is.na(ruin$formula)) "" else sprintf(" The usual formula says %s.", format_percent(ruin$formula, 4))
  sprintf("Ruin %s comes with a chance of %s%s%s.%s", when, format_percent(ruin$estimate, 4), known, reached, formula)
}

bankroll_lines <- function(found) {
  value <- function(term) found$estimate[found$term == term]
  if (!length(value("mean"))) return(NULL)
  fall <- value("worst_fall_p50")
  c(sprintf("At the end there are %s stakes on average, with a standard deviation of %s%s.",
            format_number(value("mean"), 4), format_number(value("sd"), 4),
            if (is.na(value("doubling_time"))) "; half never come to double it" else {
              sprintf("; half have doubled it after %s rounds", format_count(value("doubling_time")))
            }),
    if (length(fall)) sprintf("Half fall %s stakes below their highest point at some time, one in ten more than %s.",
                              format_statistic(fall), format_statistic(value("worst_fall_p90"))),
    sprintf("The longest run of losses is %s or more for half, more than %s for one in ten.",
            format_count(value("losing_run_p50")), format_count(value("losing_run_p90"))))
}
