#' The figure of rule effects
#'
#' What each rule, changed alone, brings the house or costs it: bars, the dearest above.
#'
#' @param object What [rule_effects()] gave.
#' @param ... Not used.
#' @return A ggplot object.
#' @examples
#' autoplot(rule_effects(game_high_card()))
#' @rawNamespace S3method(ggplot2::autoplot, habanera_rule_effects)
autoplot.habanera_rule_effects <- function(object, ...) {
  table <- as.data.frame(unclass(object))[-1, ]
  table <- table[order(table[["effect"]]), ]
  table[["change"]] <- factor(seq_len(nrow(table)), labels = make.unique(paste(table[["rule"]], table[["value"]])))
  table[["side"]] <- ifelse(table[["effect"]] >= 0, "the house gains", "the player gains")
  wide <- max(abs(table[["effect"]]), 1e-9)
  ggplot2::ggplot(table, ggplot2::aes(x = .data$effect, y = .data$change)) +
    ggplot2::geom_col(ggplot2::aes(fill = .data$side), width = 0.7) +
    ggplot2::geom_vline(xintercept = 0, colour = "grey30") +
    ggplot2::geom_text(ggplot2::aes(label = percent_points(.data$effect), hjust = ifelse(.data$effect >= 0, -0.15, 1.15)),
                       size = 3) +
    ggplot2::scale_fill_manual(values = c(`the house gains` = "#7fb08a", `the player gains` = "#d9a15f"), name = "") +
    ggplot2::scale_x_continuous(labels = scales::label_percent(0.1), limits = c(-1.2, 1.2) * wide) +
    ggplot2::labs(x = "change of the house's edge", y = NULL,
                  title = sprintf("What each rule is worth, from an edge of %s", signed_percent(object[["edge"]][1])),
                  subtitle = wrapped(attr(object, "words")),
                  caption = sprintf("Each rule changed alone, against %s; exact.", attr(object, "played_by"))) +
    figure_theme() +
    ggplot2::theme(legend.position = "bottom", panel.grid.major.y = ggplot2::element_blank())
}
