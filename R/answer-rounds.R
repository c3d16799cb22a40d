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
  ratios <- lapply(terms$term, function(term) if (is.list(sums)) round_ratio(sums, term, trials) else unknown_ratio)
  each <- function(part) vapply(ratios, `[[`, 0, part)
  error <- each("std.error")
  half <- student_half_width(error, each("freedom"), level)
  share <- share_interval(terms$estimate, error, each("freedom"), level)
  cbind(
    terms[c("term", "column", "is_chance", "estimate")], std.error = error,
    conf.low = ifelse(terms$is_chance, share$low, terms$estimate - half),
    conf.high = ifelse(terms$is_chance, share$high, terms$estimate + half),
    half_width = ifelse(terms$is_chance, (share$high - share$low) / 2, half), total = terms$total, by_trial = TRUE,
    clusters = each("clusters")
  )
}

unknown_ratio <- list(std.error = NA_real_, freedom = NA_real_, clusters = NA_real_)

# Of a term per entry, in its own unit.
round_ratio <- function(sums, term, trials) {
  columns <- names(sums$sum)
  found <- ratio_of_sums(sums, trials, as.double(columns == term), as.double(columns == "entries"))
  found$std.error <- found$std.error / sums$unit[[term]]
  found
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
