#' The figure of edges
#'
#' Every bet as a point: what the house keeps of a stake against how wild a round is; what is simulated is hollow.
#'
#' @param object What [edge_table()] gave.
#' @param ... Not used.
#' @return A ggplot object.
#' @examples
#' autoplot(edge_table(game_high_card(), game_baccarat()))
#' @rawNamespace S3method(ggplot2::autoplot, habanera_edge_table)
autoplot.habanera_edge_table <- function(object, ...) {
  several <- length(unique(object[["table"]])) > 1
  main <- object[["bet"]] %in% c("main", "play")
  half <- stats::qnorm(0.975) * object[["std.error"]]
  data <- data.frame(sd = object[["sd"]], edge = object[["edge"]], table = in_order(object[["table"]]),
                     how = factor(object[["how"]], c("exact", "simulated")), low = object[["edge"]] - half,
                     high = object[["edge"]] + half,
                     label = if (several) ifelse(main, object[["table"]], paste(object[["table"]], object[["bet"]],
                                                                                sep = ": ")) else object[["bet"]])
  data <- cbind(data, label_places(log10(data$sd), data$edge, data$label))
  ggplot2::ggplot(data, ggplot2::aes(x = .data$sd, y = .data$edge, colour = .data$table)) +
    ggplot2::geom_hline(yintercept = 0, colour = "grey30") +
    ggplot2::geom_linerange(ggplot2::aes(ymin = .data$low, ymax = .data$high), linewidth = 0.8) +
    ggplot2::geom_segment(ggplot2::aes(xend = 10^.data$label_x, yend = .data$label_y), linewidth = 0.3) +
    ggplot2::geom_point(ggplot2::aes(shape = .data$how), size = 3, stroke = 1.2, fill = "white") +
    ggplot2::geom_text(ggplot2::aes(x = 10^.data$label_x, y = .data$label_y, label = .data$label,
                                    hjust = .data$hjust), size = 3.6) +
    ggplot2::scale_colour_manual(values = rep_len(seat_colours(7), nlevels(data$table)), guide = "none") +
    ggplot2::scale_shape_manual(values = c(exact = 16, simulated = 21), name = "",
                                guide = if (all(data$how == "exact")) "none" else "legend") +
    ggplot2::scale_x_log10(expand = ggplot2::expansion(0.15)) +
    ggplot2::scale_y_continuous(labels = scales::label_percent(if (max(abs(data$edge)) < 0.02) 0.1 else 1),
                                expand = ggplot2::expansion(0.12)) +
    ggplot2::labs(x = "standard deviation of a round, in stakes (equal steps: equal factors)",
                  y = "the house keeps of a stake", title = wrapped(most_and_least_kept(object), 90),
                  caption = if (any(half > 0)) "Lines: 95% intervals of what is simulated.") +
    figure_theme() + ggplot2::theme(legend.position = "bottom")
}

# Where each label stands so that no two print over each other: beside its point, or pushed up from there, to the left
# of it in the right half. Widths are guessed from the letters, as shares of the figure.
label_places <- function(x, y, labels) {
  span_x <- max(diff(range(x)), 1e-3) * 1.3
  span_y <- max(diff(range(y, 0)), 1e-9) * 1.24
  right <- x > mean(range(x)) + 1e-12
  width <- nchar(labels) * 0.012 * span_x
  label_x <- x + ifelse(right, -1, 1) * 0.015 * span_x
  left_end <- label_x - ifelse(right, width, 0)
  label_y <- y
  placed <- integer()
  for (i in order(y)) {
    clashes <- function() any(abs(label_y[placed] - label_y[i]) < 0.045 * span_y &
                                left_end[placed] < left_end[i] + width[i] &
                                left_end[i] < left_end[placed] + width[placed])
    while (length(placed) && clashes()) label_y[i] <- label_y[i] + 0.01 * span_y
    placed <- c(placed, i)
  }
  data.frame(label_x = label_x, label_y = label_y, hjust = ifelse(right, 1, 0))
}
