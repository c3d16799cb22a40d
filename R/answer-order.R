# Values of text that have an order of their own, such as hands, are told in it: the strongest first.

# The order of the values of columns, by their names; other columns stay as they are.
value_orders <- function(experiment) UseMethod("value_orders")

#' @export
value_orders.default <- function(experiment) list()

# Rows of a column and a value each, those of a column with an order in it.
in_own_order <- function(rows, orders, values) {
  for (name in intersect(names(orders), rows$column)) {
    at <- which(rows$column == name)
    turn <- if (is.null(rows[["turn"]])) rep(0, length(at)) else rows[["turn"]][at]
    rows[at, ] <- rows[at[order(turn, match(values[at], orders[[name]]))], ]
  }
  rows
}

# Estimates of text are called `column=value`.
values_of_terms <- function(estimates) substring(estimates$term, nchar(estimates$column) + 2)

# Rows of outcomes by all their columns.
outcomes_in_order <- function(rows, orders) {
  if (!length(orders)) return(rows)
  keys <- lapply(setdiff(names(rows), "probability"), function(name) {
    if (is.null(orders[[name]])) rows[[name]] else match(rows[[name]], orders[[name]])
  })
  rows <- rows[do.call(order, keys), , drop = FALSE]
  rownames(rows) <- NULL
  rows
}
