# Two games on the same deals, in words.

#' @export
first_answer.habanera_counts_pairs <- function(x) {
  estimates <- tidy(x)
  chance <- grepl("=", estimates$term, fixed = TRUE)
  shown <- function(value, is_chance) ifelse(is_chance, format_percent(value, 4), format_statistic(value))
  table <- data.frame(
    outcome = estimates$term, x = shown(estimates$x, chance), y = shown(estimates$y, chance),
    difference = signed(estimates$estimate, chance),
    `95%` = ifelse(is.na(estimates$conf.low), "",
                   paste(signed(estimates$conf.low, chance), "to", signed(estimates$conf.high, chance))),
    `deals that differed` = ifelse(is.na(estimates$differed), "", format_percent(estimates$differed)),
    saving = ifelse(is.na(estimates$saving), "", format_saving(estimates$saving)), check.names = FALSE
  )
  if (all(is.na(estimates$differed))) table[["deals that differed"]] <- NULL
  c(pair_in_words(x, estimates), aligned_lines(table),
    "saving: how many times more trials two separate runs would need for the same interval.",
    unpaired_in_words(x),
    sprintf("%s.", sentence(run_in_words(x))))
}

format_saving <- function(saving) ifelse(saving >= 100, format_count(signif(saving, 2)), format_number(saving, 2))

# The first number and the category that differs most, in a sentence.
pair_in_words <- function(x, estimates) {
  chance <- grepl("=", estimates$term, fixed = TRUE)
  sure <- !is.na(estimates$conf.low) & (estimates$conf.low > 0 | estimates$conf.high < 0)
  # What most deals have no value for is no answer.
  number <- which(!chance & !is.na(estimates$estimate) & estimates$paired > 0.5)[1]
  said <- if (!is.na(number)) number_difference_in_words(estimates[number, ], sure[number], trial_count(x))
  share <- which(chance & sure)
  share <- share[which.max(abs(estimates$estimate[share]))]
  if (length(share)) {
    row <- estimates[share, ]
    said <- c(said, sprintf("%s comes %s %s often", row$term, sub("^[+-]", "", signed(row$estimate, TRUE)),
                            if (row$estimate > 0) "more" else "less"))
  }
  if (!length(said)) return(no_difference_in_words(estimates))
  paste0(sentence(paste(said, collapse = "; ")), ".")
}

number_difference_in_words <- function(row, sure, trials) {
  of <- if (row$paired == 1) "" else sprintf(", of the %s of deals that both ended", share_below_one(row$paired))
  said <- function(...) paste0(row$term, ": ", sprintf(...), of)
  shares <- sprintf("95%%: %s to %s", format_percent(row$differed.low), format_percent(row$differed.high))
  differing <- round(row$differed * row$paired * trials)
  if (isTRUE(differing == 0)) return(said("the same in every deal (at most %s differ, 95%%)",
                                          format_percent(row$differed.high)))
  if (isTRUE(differing < enough_differing)) {
    return(said("only %s differed (%s of all; %s), by %s on average: too few to tell a mean from",
                count_of(differing, "deal"), format_percent(row$differed), shares,
                signed(row$estimate / row$differed, FALSE)))
  }
  if (is.na(row$conf.low)) return(said("%s; too little was played for an interval", signed(row$estimate, FALSE)))
  interval <- sprintf("95%%: %s to %s", signed(row$conf.low, FALSE), signed(row$conf.high, FALSE))
  if (!sure) return(said("no difference is seen (%s)", interval))
  said("%s %s in y on average (%s)", sub("^[+-]", "", signed(row$estimate, FALSE)),
       if (row$estimate > 0) "more" else "less", interval)
}

no_difference_in_words <- function(estimates) {
  if (anyNA(estimates$differed) || any(estimates$differed > 0)) return("No difference is seen.")
  sprintf("The same in every deal (at most %s differ, 95%%).", format_percent(estimates$differed.high[1]))
}

# Of a number, on how many of the deals both games have one.
unpaired_in_words <- function(x) {
  columns <- x$provenance$experiment$x$columns
  trials <- trial_count(x)
  unpaired <- x$outcomes[["part"]] == "unpaired"
  vapply(unique(x$outcomes[["column"]][unpaired]), function(name) {
    of <- unpaired & x$outcomes[["column"]] == name
    count <- function(one, two) sum(x$n[of & x$outcomes[["x"]] == one & x$outcomes[["y"]] == two])
    sprintf("%s: of the %s of deals whose games %s by both; by x alone: %s, by y alone: %s, by neither: %s.",
            name, share_below_one((trials - sum(x$n[of])) / trials), sub("^that ", "", columns[[name]]$told_of),
            format_count(count("value", "no value")), format_count(count("no value", "value")),
            format_count(count("no value", "no value")))
  }, "", USE.NAMES = FALSE)
}

signed <- function(value, is_chance) {
  is_chance <- rep_len(is_chance, length(value))
  size <- abs(value)
  text <- ifelse(is_chance, paste(format_number(100 * size), "points"),
                 ifelse(size >= 1000, format_count(round(size)), format_number(size)))
  ifelse(is.na(value), "", ifelse(value == 0, "none", paste0(ifelse(value < 0, "-", "+"), text)))
}

#' @export
tell.habanera_counts_pairs <- function(x, ...) {
  experiment <- x$provenance$experiment
  cat_wrapped("<comparison> ", if (deals_match(experiment$x, experiment$y)) "the same deals by two sets of rules" else
    "two games trial by trial; their deals are not matched, since deck or shuffle differ")
  cat_wrapped("  x: ", in_words(experiment$x))
  cat_wrapped("  y: ", in_words(experiment$y))
  writeLines(first_answer(x))
  invisible(x)
}

#' @rdname compare.habanera_game
#' @param object What `compare()` gave.
#' @export
summary.habanera_counts_pairs <- function(object, ...) object
