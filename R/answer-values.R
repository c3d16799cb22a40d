# The whole distribution of each column of a result.

# The whole distribution of every column, turn by turn.
outcome_distributions <- function(x, law, part, simulated) {
  exact <- if (!is.null(law)) value_shares(law$outcomes, law$probability, part)
  if (!simulated) return(exact[setdiff(names(exact), c("weight", "total"))])
  seen <- value_shares(x$outcomes, x$n, part)
  if (!is.null(exact)) {
    unseen <- exact[!value_key(exact) %in% value_key(seen), , drop = FALSE]
    unseen$weight <- unseen$estimate <- rep(0, nrow(unseen))
    unseen$total <- rep(c(seen$total, 0)[1], nrow(unseen))
    seen <- in_value_order(rbind(seen, unseen))
  }
  # Rounds of a shoe hang together, so that their number says nothing of the error of a value.
  alone <- is.null(x[["sums"]])
  interval <- if (alone) wilson_interval(seen$weight, seen$total) else {
    round_value_intervals(sums_of_counts(x, all(part(x$outcomes))), seen, trial_count(x))
  }
  expected <- if (is.null(exact)) NA_real_ else {
    found <- exact$estimate[match(value_key(seen), value_key(exact))]
    ifelse(is.na(found), 0, found)
  }
  z <- (seen$estimate - expected) / sqrt(expected * (1 - expected) / seen$total) * ifelse(alone, 1, NA)
  kept <- intersect(c("column", "turn", "value"), names(seen))
  cbind(seen[kept], n = seen$weight, estimate = seen$estimate, conf.low = interval$low, conf.high = interval$high,
        exact = expected, statistic = ifelse(is.finite(z), z, NA))
}

value_key <- function(x) {
  do.call(paste, c(unname(as.list(x[intersect(c("column", "turn", "value"), names(x))])), sep = "\r"))
}

value_shares <- function(outcomes, weight, part) {
  rows <- part(outcomes)
  outcomes <- outcomes[rows, , drop = FALSE]
  weight <- weight[rows]
  turns <- if ("turn" %in% names(outcomes)) outcomes[["turn"]] else rep(0, nrow(outcomes))
  each <- lapply(asked_columns(outcomes), function(name) {
    has_value <- !is.na(outcomes[[name]])
    rows <- gathered_rows(vctrs::data_frame(turn = turns[has_value], value = outcomes[[name]][has_value]))
    added <- rows$sum(weight[has_value])
    total <- stats::ave(added, rows$outcomes[["turn"]], FUN = sum)
    data.frame(column = rep(name, length(added)), turn = rows$outcomes[["turn"]],
               value = value_text(rows$outcomes[["value"]]), weight = added,
               estimate = added / total, total = total)
  })
  found <- do.call(rbind, each)
  if (!"turn" %in% names(outcomes)) found[["turn"]] <- NULL
  found
}

value_text <- function(x) {
  if (!is.numeric(x)) return(as.character(x))
  format(x, digits = 12, trim = TRUE, drop0trailing = TRUE)
}

# By column as they came, then turn, then value: numbers as numbers.
in_value_order <- function(x) {
  number <- written_numbers(x$value)
  turn <- if (is.null(x[["turn"]])) rep(0, nrow(x)) else x[["turn"]]
  x[order(match(x$column, unique(x$column)), turn, number, x$value), , drop = FALSE]
}
