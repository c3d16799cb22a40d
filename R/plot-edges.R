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
  data <- data.frame(sd = object[["sd"]], edge = object[["edge"]], table = in_order(object[["table"]]),
                     how = factor(object[["how"]], c("exact", "simulated")),
                     label = ifelse(object[["bet"]] %in% c("main", "play") & several, object[["table"]],
                                    object[["bet"]]))
  data$below <- has_near_neighbour(log(data$sd), data$edge)
  shapes <- if (all(data$how == "exact")) "none" else "legend"
  ggplot2::ggplot(data, ggplot2::aes(x = .data$sd, y = .data$edge)) +
    ggplot2::geom_hline(yintercept = 0, colour = "grey30") +
    ggplot2::geom_point(ggplot2::aes(colour = .data$table, shape = .data$how), size = 3, stroke = 1.2) +
    ggplot2::geom_text(ggplot2::aes(label = .data$label, vjust = ifelse(.data$below, 2, -1)), size = 3.6) +
    ggplot2::scale_colour_manual(values = grDevices::hcl.colors(nlevels(data$table), "Dark 3"), name = "") +
    ggplot2::scale_shape_manual(values = c(exact = 16, simulated = 1), name = "", guide = shapes) +
    ggplot2::scale_x_log10(expand = ggplot2::expansion(0.12)) +
    ggplot2::scale_y_continuous(labels = scales::label_percent(1), expand = ggplot2::expansion(0.12)) +
    ggplot2::labs(x = "standard deviation of a round, in stakes (equal steps: equal factors)",
                  y = "the house keeps of a stake", title = "What each bet keeps, and how wild it is") +
    figure_theme() + ggplot2::theme(legend.position = "bottom")
}

# Whether a point so near stands to its left that its name must go below.
has_near_neighbour <- function(x, y) {
  near <- function(values, share) abs(outer(values, values, "-")) < share * max(diff(range(values)), 1e-9)
  rowSums(near(x, 0.1) & near(y, 0.08) & outer(x, x, ">")) %% 2 == 1
}
