# plot() of a result shows its figure, as autoplot() gives it.

#' @rawNamespace S3method(ggplot2::autoplot, habanera_result)
autoplot.habanera_result <- function(object, ...) {
  refuse("There is no figure of this: its table says all.", call = NULL)
}

# Whether its class, or one that it stands for, has a figure.
has_figure <- function(x) {
  drawn <- function(class) !is.null(utils::getS3method("autoplot", class, optional = TRUE,
                                                       envir = asNamespace("ggplot2")))
  any(vapply(setdiff(class(x), "habanera_result"), drawn, NA))
}

#' @export
plot.habanera_result <- function(x, ...) {
  print(ggplot2::autoplot(x, ...))
  invisible(x)
}

#' @export
plot.habanera_strategy <- plot.habanera_result
