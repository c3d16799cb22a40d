#' How many trials would show it?
#'
#' Runs a pilot audit and tells, test by test, how many trials would show what the pilot saw, if it is real. The
#' noncentrality of a chi-square, the shift of a mean or the surplus of coincidences is estimated from the pilot
#' (less what chance alone gives) and grows with the number of trials (Cohen 1988, "Statistical power analysis",
#' ch. 7); each test is judged at the level divided by the number of tests.
#'
#' @param procedure As in [audit()]: a procedure, [shuffle_recorded()] or [shuffle_program()].
#' @param ... Further settings of [audit()], such as `deck`, `nsim` (of the pilot) and `seed`.
#' @param level,power Chance of a false alarm over all tests, and chance of noticing.
#' @return A data frame of class `habanera_trials_needed` with a row per test, the fewest first: `term`, `trials`
#'   (`Inf` where the pilot saw nothing beyond chance).
#' @examples
#' trials_needed(shuffle_naive_swap(), nsim = 1e4, seed = 1)
#' @export
trials_needed <- function(procedure, ..., level = 0.01, power = 0.95) {
  check_given()
  check_level(level)
  check_between(power, level, 1)
  pilot <- audit(procedure, ..., level = level)
  if (!inherits(pilot, "habanera_audit")) refuse("A pilot is an audit of one deck: leave out `sizes`.")
  made <- Filter(function(test) !is.na(test$statistic), pilot$tests_made)
  trials <- vapply(made, trials_for_test, 0, level = level / max(1, length(made)), power = power,
                   pilot_trials = pilot$trials)
  table <- data.frame(term = vapply(made, `[[`, "", "term"), trials = ceiling(trials))
  structure(table[order(table[["trials"]]), , drop = FALSE], row.names = seq_len(nrow(table)), pilot = pilot,
            made = call_made(), class = table_class("habanera_trials_needed"))
}

# `per_trial` is a noncentrality, or for a normal law its root; for coincidences the surplus of the chance
# that two trials coincide.
trials_for_test <- function(test, level, power, pilot_trials) {
  if (test$per_trial <= 0) return(Inf)
  sides <- if (endsWith(test$law, "_above")) 1 else 2
  z <- stats::qnorm(level / sides, lower.tail = FALSE) + stats::qnorm(power)
  if (test$law == "chi_square") return(needed_noncentrality(test$df, level, power) / test$per_trial)
  if (startsWith(test$law, "poisson")) {
    # A surplus s of pairs among N(N-1)/2 with chance c each is seen when s N^2/2 > z sqrt(c N^2/2).
    chance <- test$df / max(1, pilot_trials * (pilot_trials - 1) / 2)
    return(sqrt(2 * max(z^2 * (chance + test$per_trial) / test$per_trial^2, -log(1 - power) / test$per_trial)))
  }
  # The square of a mean overshoots by one standard error squared.
  squared <- test$per_trial^2 - 1 / pilot_trials
  if (squared <= 0) Inf else z^2 / squared
}

#' @export
tell.habanera_trials_needed <- function(x, ...) {
  pilot <- attr(x, "pilot")
  cat(sprintf("<trials needed> %s on %s, from a pilot of %s\n", pilot$made$words, deck_in_words(pilot$plan$deck),
              count_of(pilot$trials, "trial")))
  if (!is.null(pilot$broken)) {
    cat("The pilot already lost or doubled cards.\n")
    return(invisible(x))
  }
  few <- x[is.finite(x$trials), , drop = FALSE]
  if (!nrow(few)) cat("The pilot saw nothing beyond chance: a larger one may.\n") else {
    cat(sprintf("About %s trials would show it (by %s).\n", format_count(signif(few$trials[1], 2)), few$term[1]))
  }
  shown <- data.frame(test = x$term, trials = ifelse(is.finite(x$trials), format_count(signif(x$trials, 3)),
                                                     "nothing seen"))
  writeLines(c("", aligned_lines(shown, indent = 2)))
  invisible(x)
}
