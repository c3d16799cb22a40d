#' The figure of removal effects
#'
#' Bars of what a missing card of each value is worth to the player, a panel for each bet.
#'
#' @param object What [removal_effects()] gave.
#' @param ... Not used.
#' @return A ggplot object.
#' @examples
#' autoplot(removal_effects(game_high_card(ties = "half_back")))
#' @rawNamespace S3method(ggplot2::autoplot, habanera_removal)
autoplot.habanera_removal <- function(object, ...) {
  by <- names(object)[1]
  data <- data.frame(label = in_order(as.character(object[[by]])), bet = in_order(object[["bet"]]),
                     effect = object[["effect"]])
  data$side <- ifelse(data$effect >= 0, "the player gains", "the house gains")
  ggplot2::ggplot(data, ggplot2::aes(x = .data$label, y = .data$effect)) +
    ggplot2::geom_hline(yintercept = 0, colour = "grey30") +
    ggplot2::geom_col(ggplot2::aes(fill = .data$side), width = 0.7) +
    ggplot2::geom_text(ggplot2::aes(label = percent_points(.data$effect),
                                    vjust = ifelse(.data$effect >= 0, -0.5, 1.4)), size = 3) +
    ggplot2::facet_wrap(ggplot2::vars(.data$bet), scales = "free_y", ncol = 1) +
    ggplot2::scale_fill_manual(values = c(`the house gains` = "#7fb08a", `the player gains` = "#d9a15f"), name = "") +
    ggplot2::scale_y_continuous(labels = scales::label_percent(), expand = ggplot2::expansion(0.15)) +
    ggplot2::labs(x = sprintf("one card of this %s is missing", by), y = "change of the player's result",
                  title = "What a card that is gone is worth", subtitle = wrapped(attr(object, "words"))) +
    figure_theme() + ggplot2::theme(legend.position = "bottom")
}
