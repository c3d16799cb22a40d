# plot() of a result shows its figure, as autoplot() gives it.

show_figure <- function(x, ...) {
  drawn <- function(class) !is.null(utils::getS3method("autoplot", class, optional = TRUE, envir = asNamespace("ggplot2")))
  if (!any(vapply(class(x), drawn, NA))) {
    refuse(sprintf("There is no figure of this: %s.", class(x)[1]), call = NULL)
  }
  print(ggplot2::autoplot(x, ...))
  invisible(x)
}

#' @export
plot.habanera_audit <- function(x, ...) show_figure(x, ...)
#' @export
plot.habanera_bankroll <- function(x, ...) show_figure(x, ...)
#' @export
plot.habanera_comparison <- function(x, ...) show_figure(x, ...)
#' @export
plot.habanera_counts <- function(x, ...) show_figure(x, ...)
#' @export
plot.habanera_distribution <- function(x, ...) show_figure(x, ...)
#' @export
plot.habanera_followed <- function(x, ...) show_figure(x, ...)
#' @export
plot.habanera_game_trace <- function(x, ...) show_figure(x, ...)
#' @export
plot.habanera_payout <- function(x, ...) show_figure(x, ...)
#' @export
plot.habanera_periods <- function(x, ...) show_figure(x, ...)
#' @export
plot.habanera_strategy <- function(x, ...) show_figure(x, ...)
#' @export
plot.habanera_takings <- function(x, ...) show_figure(x, ...)
#' @export
plot.habanera_table <- function(x, ...) show_figure(x, ...)
