# Estimates of rounds, several of which make a trial (a shoe) and hang together: all are ratios of sums over trials, and
# their errors are by trial.

# The sums of counts with the names of their columns and the units of the numbers, for ratio_of_sums(); NA where errors
# cannot be had, since only a part of the rounds is looked at; NULL where trials are single rounds.
round_sums <- function(experiment, sums, whole = TRUE) {
  if (is.null(sums)) return(NULL)
  if (!whole) return(NA)
  columns <- total_columns(experiment)
  c(trial_sums(sums, columns), list(unit = rlang::set_names(total_units(experiment), columns)))
}

round_estimates <- function(terms, trials, level, sums) {
  error <- if (is.list(sums)) vapply(terms$term, function(term) round_error(sums, term, trials), 0) else {
    rep(NA_real_, nrow(terms))
  }
  # As many independent rounds would have the same error; where none differs, no more than trials.
  alike <- ifelse(!is.na(error) & error > 0, terms$variance / error^2, ifelse(is.na(error), NA, trials))
  wilson <- wilson_interval(ifelse(terms$is_chance, terms$estimate * alike, 0), alike, level)
  half <- stats::qnorm((1 + level) / 2) * error
  cbind(
    terms[c("term", "column", "is_chance", "estimate")], std.error = unname(error),
    conf.low = ifelse(terms$is_chance, wilson$low, terms$estimate - half),
    conf.high = ifelse(terms$is_chance, wilson$high, terms$estimate + half),
    half_width = ifelse(terms$is_chance, wilson$half_width, half), total = terms$total, by_trial = TRUE
  )
}

round_error <- function(sums, term, trials) {
  columns <- names(sums$sum)
  ratio_of_sums(sums, trials, as.double(columns == term), as.double(columns == "entries"))$std.error /
    sums$unit[[term]]
}

# The sums of counts, where all of their rounds are looked at.
sums_of_counts <- function(x, whole = TRUE) round_sums(x$provenance$experiment, x[["sums"]], whole)

# Intervals of the shares of values (rows of `column`, `value`, `estimate`): of categories, whose values trials add up;
# NA for single values of a number.
round_value_intervals <- function(sums, values, trials) {
  terms <- data.frame(term = paste0(values$column, "=", values$value), column = values$column, is_chance = TRUE,
                      estimate = values$estimate, variance = values$estimate * (1 - values$estimate),
                      total = values$total)
  known <- terms$term %in% if (is.list(sums)) names(sums$sum)
  found <- list(low = rep(NA_real_, nrow(terms)), high = rep(NA_real_, nrow(terms)))
  if (!any(known)) return(found)
  estimates <- round_estimates(terms[known, , drop = FALSE], trials, 0.95, sums)
  found$low[known] <- estimates$conf.low
  found$high[known] <- estimates$conf.high
  found
}
