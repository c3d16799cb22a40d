# How likely each move is, by what is seen.

most_views_drawn <- 40

#' @rdname autoplot.games
#' @rawNamespace S3method(ggplot2::autoplot, habanera_equilibrium)
autoplot.habanera_equilibrium <- function(object, ...) {
  rows <- drawn_views(object$rows)
  data <- data.frame(seat = paste("seat", rows$seat), sees = factor(rows$sees, rev(unique(rows$sees))),
                     move = in_order(rows$move), chance = rows$chance)
  left_out <- nrow(unique(object$rows[c("seat", "sees")])) - nrow(unique(rows[c("seat", "sees")]))
  ggplot2::ggplot(data, ggplot2::aes(x = .data$chance, y = .data$sees, fill = .data$move)) +
    ggplot2::geom_col(width = 0.7, position = ggplot2::position_stack(reverse = TRUE)) +
    ggplot2::facet_wrap(~seat, ncol = 2, scales = "free_y") +
    ggplot2::scale_x_continuous(labels = function(x) format_percent(x), expand = ggplot2::expansion(c(0, 0.02))) +
    move_colours(nlevels(data$move)) +
    ggplot2::labs(
      x = "chance of each move", y = NULL, title = wrapped(in_words(object), 90),
      caption = wrapped(paste0(object$game, if (left_out > 0) {
        sprintf("; %s that come least are left out", count_of(left_out, "view"))
      }, "."))
    ) + figure_theme() +
    ggplot2::theme(legend.position = "top", legend.justification = "left",
                   panel.grid.major.y = ggplot2::element_blank())
}

move_colours <- function(moves) {
  if (moves > 8) ggplot2::scale_fill_viridis_d(name = "move") else
    ggplot2::scale_fill_manual(values = seat_colours(moves), name = "move")
}

# Those that come most, in their order.
drawn_views <- function(rows) {
  keys <- paste(rows$seat, rows$sees, sep = "\r")
  seen <- tapply(rows$reached, keys, max)
  kept <- names(utils::head(sort(seen, decreasing = TRUE), most_views_drawn))
  rows[keys %in% kept, ]
}
