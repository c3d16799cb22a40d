#' Figures of what rules are worth
#'
#' Of [rule_effects()]: what each rule, changed alone, brings the house or costs it, bars, the dearest above. Of
#' [vary_rules()] with `of = "edge"`: the edge by the first two rules, a panel for each further.
#'
#' @param object What [rule_effects()] or [vary_rules()] gave.
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
    ggplot2::geom_text(ggplot2::aes(label = percent_points(.data$effect),
                                    hjust = ifelse(.data$effect >= 0, -0.15, 1.15)), size = 3) +
    ggplot2::scale_fill_manual(values = c(`the house gains` = "#7fb08a", `the player gains` = "#d9a15f"), name = "") +
    ggplot2::scale_x_continuous(labels = scales::label_percent(0.1), limits = c(-1.2, 1.2) * wide) +
    ggplot2::labs(x = "change of the house's edge", y = NULL,
                  title = sprintf("What each rule is worth, from an edge of %s", signed_percent(object[["edge"]][1])),
                  subtitle = wrapped(attr(object, "words")),
                  caption = sprintf("Each rule changed alone%s; exact.", against_whom(object))) +
    figure_theme() +
    ggplot2::theme(legend.position = "bottom", panel.grid.major.y = ggplot2::element_blank())
}

#' @rdname autoplot.habanera_rule_effects
#' @rawNamespace S3method(ggplot2::autoplot, habanera_varied_edges)
autoplot.habanera_varied_edges <- function(object, ...) {
  varied_figure(object) + ggplot2::scale_y_continuous(labels = scales::label_percent(0.1)) +
    ggplot2::labs(y = "the house's edge", title = "What the house keeps, by its rules")
}

#' @rdname autoplot.habanera_rule_effects
#' @rawNamespace S3method(ggplot2::autoplot, habanera_varied_values)
autoplot.habanera_varied_values <- function(object, ...) {
  varied_figure(object) +
    ggplot2::geom_linerange(ggplot2::aes(ymin = .data$conf.low, ymax = .data$conf.high)) +
    ggplot2::labs(y = sub(", in $", "", paste0("what seat 1 has, in ", attr(object, "unit"))),
                  title = "What sound play brings seat 1, by the rules")
}

# What is worked out by combinations of rules: the first along the axis, the second by colour, others by panels.
varied_figure <- function(object) {
  rules <- attr(object, "rules")
  data <- as.data.frame(unclass(object))
  data[["x"]] <- in_order(as.character(data[[rules[1]]]))
  data[["colour"]] <- if (length(rules) > 1) in_order(as.character(data[[rules[2]]])) else ""
  ggplot2::ggplot(data, ggplot2::aes(x = .data$x, y = .data$estimate, colour = .data$colour, group = .data$colour)) +
    ggplot2::geom_hline(yintercept = 0, colour = "grey30") +
    ggplot2::geom_line(alpha = 0.5) + ggplot2::geom_point(size = 2.6) +
    ggplot2::scale_colour_manual(values = rep_len(seat_colours(6), length(unique(data[["colour"]])) + 1),
                                 name = if (length(rules) > 1) rules[2] else "",
                                 guide = if (length(rules) > 1) "legend" else "none") +
    (if (length(rules) > 2) ggplot2::facet_wrap(rules[-(1:2)], labeller = ggplot2::label_both)) +
    ggplot2::labs(x = rules[1], subtitle = wrapped(game_in_words(attr(object, "game"), rules))) + figure_theme()
}
