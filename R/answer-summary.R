#' What came of a question
#'
#' For each outcome column its chance or mean, the interval, "1 in x", and the whole distribution; beside a
#' simulated value the exact one, where it can be had at once, with the deviation in standard errors (z, by the
#' exact variance).
#'
#' @param object Counts or a distribution of a question or of [draw_until()].
#' @param given A condition on outcome columns by name: only the trials in which it holds are looked at.
#' @param ... Not used.
#' @return A `habanera_answer_summary`. `as.data.frame()` gives the distributions, a row per column, turn and
#'   value: `column`, `turn` (when there are turns), `value` (text), for counts `n`, `estimate` (share of the
#'   trials looked at), `conf.low`, `conf.high` (Wilson), `exact` and `statistic` (z) where known; of an exact
#'   answer `estimate`. `tidy()` gives the estimates; see [tidy()][tidy.habanera_counts].
#' @section Errors: `habanera_error_language` for a condition that cannot be understood; `habanera_error_input`
#'   when it never holds.
#' @examples
#' x <- draws(deck_standard(), 5, aces = count(rank == "A"),
#'            red = count(suit %in% c("hearts", "diamonds")))
#' summary(exact(x), given = aces >= 1)
#' @name summary.habanera_counts_outcomes
NULL

#' @rdname summary.habanera_counts_outcomes
#' @export
summary.habanera_counts_outcomes <- function(object, given = NULL, ...) {
  summarise_outcomes(object, rlang::enquo(given), rlang::current_env())
}

#' @rdname summary.habanera_counts_outcomes
#' @export
summary.habanera_distribution_outcomes <- function(object, given = NULL, ...) {
  summarise_outcomes(object, rlang::enquo(given), rlang::current_env())
}

summarise_outcomes <- function(x, given, call) {
  expr <- checked_given(given, x, call)
  part <- function(outcomes) given_rows(expr, outcomes, call)
  simulated <- inherits(x, "habanera_counts")
  law <- if (simulated) quick_exact(x$provenance$experiment) else x
  rows <- part(x$outcomes)
  if (!any(rows)) refuse(sprintf("`%s` never holds here.", expression_text(expr)), call = call)
  estimates <- if (simulated) outcome_estimates(x, 0.95, part, law) else {
    exact_estimates(x$outcomes[rows, , drop = FALSE], x$probability[rows])
  }
  orders <- value_orders(x$provenance$experiment)
  values <- outcome_distributions(x, law, part, simulated)
  structure(
    list(estimates = in_own_order(estimates, orders, values_of_terms(estimates)),
         values = in_own_order(values, orders, values$value),
         given = if (!is.null(expr)) expression_text(expr), share = given_share(x, rows, simulated),
         simulated = simulated, words = if (simulated) run_in_words(x) else "exact",
         question = in_words(x$provenance$experiment)),
    made = call_made(), class = result_class("habanera_answer_summary")
  )
}

exact_estimates <- function(outcomes, probability) {
  terms <- weighted_terms(outcomes, probability)
  # Rounding may leave a variance of nothing below 0.
  terms$std.deviation <- sqrt(pmax(terms$variance, 0))
  terms
}

#' @export
as.data.frame.habanera_answer_summary <- function(x, row.names = NULL, optional = FALSE, ...) {
  rownames(x$values) <- NULL
  x$values
}

#' @rawNamespace S3method(generics::tidy, habanera_answer_summary)
tidy.habanera_answer_summary <- function(x, ...) {
  x$estimates[intersect(tidy_columns, names(x$estimates))]
}

#' @export
tell.habanera_answer_summary <- function(x, rows = 12, ...) {
  cat_wrapped("<summary> ", x$question, "; ", x$words)
  writeLines(summary_lines(x))
  shown <- printed_values(x, rows)
  if (!is.null(shown)) print_rows(shown)
  invisible(x)
}

summary_lines <- function(x) {
  c(if (!is.null(x$given)) sprintf("Given %s, which holds in %s:", x$given, format_percent(x$share, 4)),
    console_lines(x$head), estimate_lines(x$estimates, x$simulated), console_lines(x$notes),
    if (x$simulated) agreement_in_words(x$estimates))
}

# A line for each term; by turns, the last turn's.
estimate_lines <- function(estimates, simulated) {
  estimates <- last_turn(estimates)
  lines <- lapply(seq_len(nrow(estimates)), function(i) {
    row <- estimates[i, , drop = FALSE]
    if (simulated) return(term_in_words(row))
    spread <- if (!row$is_chance) sprintf(", standard deviation %s", format_statistic(row$std.deviation)) else ""
    paste0(term_name(row), if (!row$is_chance) "on average ", exact_in_words(row$estimate, row$is_chance), spread)
  })
  unlist(lines)
}

# The distributions of the columns that have few values, or the course of the estimates by turn.
printed_values <- function(x, rows) {
  if (!is.null(x$estimates[["turn"]])) return(printed_turns(x))
  sizes <- table(x$values$column)
  shown <- x$values[x$values$column %in% names(sizes)[sizes > 2 & sizes <= rows], , drop = FALSE]
  if (!nrow(shown)) return(NULL)
  printed <- data.frame(column = shown$column, value = shown$value)
  if (!x$simulated) {
    printed[["chance"]] <- format_percent(shown$estimate, 4)
    rare <- sub("1 in ", "", one_in(shown$estimate, TRUE))
    if (any(nzchar(rare))) printed[["1 in"]] <- rare
    return(printed)
  }
  printed <- cbind(printed, n = format_count(shown$n), share = format_percent(shown$estimate, 4),
                   `95%` = ifelse(is.na(shown$conf.low), "", sprintf("%s to %s", format_percent(shown$conf.low),
                                                                     format_percent(shown$conf.high))))
  if (all(is.na(shown$exact))) return(printed)
  cbind(printed, exact = format_percent(shown$exact, 4),
        z = ifelse(is.na(shown$statistic), "", sprintf("%+.2f", shown$statistic)))
}

printed_turns <- function(x) {
  estimates <- x$estimates
  shown <- ifelse(estimates$is_chance, format_percent(estimates$estimate, 4), format_statistic(estimates$estimate))
  terms <- unique(estimates$term)
  turns <- sort(unique(estimates[["turn"]]))
  table <- data.frame(turn = turns)
  for (term in terms) {
    found <- shown[estimates$term == term][match(turns, estimates[["turn"]][estimates$term == term])]
    table[[term]] <- ifelse(is.na(found), "", found)
  }
  table
}

#' @export
first_answer.habanera_counts_outcomes <- function(x) {
  estimates <- outcome_estimates(x)
  c(estimate_lines(estimates, TRUE), sprintf("%s%s.", paste(c(agreement_in_words(estimates), ""), collapse = " "),
                                              sentence(run_in_words(x))))
}

#' @export
in_words.habanera_distribution_outcomes <- function(x, ...) {
  paste(c(paste0(in_words(x$provenance$experiment), ", exact"),
          estimate_lines(exact_estimates(x$outcomes, x$probability), FALSE)), collapse = "; ")
}

#' @export
tell.habanera_distribution_outcomes <- function(x, rows = 10, ...) {
  cat_wrapped("<distribution> ", in_words(x$provenance$experiment), ", exact")
  orders <- value_orders(x$provenance$experiment)
  estimates <- exact_estimates(x$outcomes, x$probability)
  writeLines(estimate_lines(in_own_order(estimates, orders, values_of_terms(estimates)), FALSE))
  print_head(outcomes_in_order(as.data.frame(x), orders), rows)
  invisible(x)
}
