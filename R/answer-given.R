# Conditions on the outcome columns of a result: which rows are looked at.

# A condition on outcome columns, NULL when there is none.
checked_given <- function(given, x, call) {
  if (rlang::quo_is_null(given)) return(NULL)
  checked_on_outcomes(rlang::quo_get_expr(given), names(x$outcomes), rlang::quo_get_env(given), call)
}

checked_on_outcomes <- function(expr, columns, env, call) {
  checked_on_names(expr, columns, env, "the outcome columns are", call)
}

on_outcomes <- function(expr, outcomes, call) {
  rep_len(interpret(expr, list(values = outcomes, rows = nrow(outcomes)), call), nrow(outcomes))
}

given_rows <- function(expr, outcomes, call) {
  if (is.null(expr)) return(all_rows(outcomes))
  holds <- on_outcomes(expr, outcomes, call)
  # Where a number has no value, no condition on it holds.
  if (is.logical(holds)) holds[is.na(holds) & lacks_value(outcomes)] <- FALSE
  if (is.logical(holds) && !anyNA(holds)) return(holds)
  refuse(sprintf("`%s` must be a condition on outcome columns, TRUE or FALSE.", expression_text(expr)), "language",
         call)
}

lacks_value <- function(outcomes) Reduce(`|`, lapply(outcomes, is.na), rep(FALSE, nrow(outcomes)))

# The share of entries looked at.
given_share <- function(x, rows, simulated) {
  weight <- if (simulated) x$n else x$probability
  sum(weight[rows]) / sum(weight)
}
