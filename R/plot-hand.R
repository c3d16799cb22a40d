#' Figures of hands
#'
#' Of a [showdown()]: each seat's share of the pot, by how many cards of the board lay open, or as bars where none did.
#'
#' @param object What `showdown()` gave.
#' @param ... Not used.
#' @return A ggplot object.
#' @examples
#' autoplot(showdown(list("AS KS", "QH QD"), board = "QC 9S 2S 3D"))
#' @name autoplot.hands
NULL

#' @rdname autoplot.hands
#' @rawNamespace S3method(ggplot2::autoplot, habanera_showdown)
autoplot.habanera_showdown <- function(object, ...) {
  streets <- attr(object, "streets")
  label <- vapply(sprintf("%s: %s", object$seat, object$hand), wrapped, "", if (nrow(object) > 3) 16 else 28)
  streets$label <- factor(label[match(streets$seat, object$seat)], label)
  by_street <- length(unique(streets$open)) > 1
  base <- ggplot2::ggplot(streets, if (by_street) {
    ggplot2::aes(x = .data$open, y = .data$equity, colour = .data$label)
  } else ggplot2::aes(x = .data$label, y = .data$equity))
  drawn <- if (by_street) {
    list(ggplot2::geom_line(linewidth = 0.9), ggplot2::geom_point(size = 2.6),
         ggplot2::scale_colour_manual(values = seat_colours(nrow(object)), name = ""),
         ggplot2::scale_x_continuous(breaks = unique(streets$open)))
  } else list(ggplot2::geom_col(fill = "#9DC3DD", width = 0.6))
  simulated <- !attr(object, "exact")
  if (simulated) {
    now <- data.frame(label = factor(label, label), open = max(streets$open), equity = object$equity,
                      half = stats::qnorm(0.975) * object$std.error)
    drawn <- c(drawn, list(ggplot2::geom_linerange(
      ggplot2::aes(ymin = pmax(0, .data$equity - .data$half), ymax = .data$equity + .data$half), data = now
    )))
  }
  best <- which.max(object$equity)
  base + drawn +
    ggplot2::scale_y_continuous(labels = scales::percent, limits = c(0, NA)) +
    ggplot2::labs(
      x = if (by_street) "cards of the board that lie open" else NULL, y = "share of the pot",
      title = wrapped(sprintf("%s (%s) has %s of the pot", seat_in_words(object$seat[best]), object$hand[best],
                              format_percent(object$equity[best])), 90),
      caption = sprintf("Board: %s; %s.", if (nzchar(attr(object, "board"))) attr(object, "board") else "none yet",
                        if (simulated) paste0(count_of(attr(object, "boards"), "trial"), ". Lines: 95% intervals") else
                          "exact")
    ) + figure_theme()
}
