#' Figures of what rules are worth
#'
#' Of [rule_effects()]: what each rule, changed alone, does to the edge or what else is told, bars, the most above. Of
#' [vary_rules()] with `of = "edge"`: the edge by the first two rules, a panel for each further.
#'
#' @param object What [rule_effects()] or [vary_rules()] gave.
#' @param ... Not used.
#' @return A ggplot object.
#' @examples
#' autoplot(rule_effects(game_high_card()))
#' @rawNamespace S3method(ggplot2::autoplot, habanera_rule_effects)
autoplot.habanera_rule_effects <- function(object, ...) {
  by_edge <- !is.null(object[["edge"]])
  show <- effect_shown(object)
  data <- plain_table(object)[-1, ]
  data <- data[order(data[["effect"]]), ]
  data[["change"]] <- factor(seq_len(nrow(data)), labels = make.unique(changes_in_words(data)))
  sides <- if (by_edge) c("the house gains", "the player gains") else c("more", "less")
  data[["side"]] <- ifelse(data[["effect"]] >= 0, sides[1], sides[2])
  # A label stands beyond the line of the interval, where there is one.
  data[["beyond"]] <- if (is.null(data[["effect.low"]])) data[["effect"]] else
    ifelse(is.na(data[["effect.low"]]), data[["effect"]],
           ifelse(data[["effect"]] >= 0, pmax(data[["effect.high"]], 0), pmin(data[["effect.low"]], 0)))
  # One or two effects far beyond all others leave these their room, and go to the edge.
  furthest <- effect_edge(data[["effect"]])
  within <- function(values) pmax(pmin(values, furthest), -furthest)
  label <- paste0(show(data[["effect"]]), ifelse(abs(data[["effect"]]) > furthest, " (cut)", ""))
  bars <- c("effect.low", "effect.high", "beyond", "bar")
  data[["bar"]] <- data[["effect"]]
  data[intersect(bars, names(data))] <- lapply(data[intersect(bars, names(data))], within)
  ends <- range(0, data[["beyond"]])
  ends <- ends + c(-0.25, 0.25) * max(diff(ends), 1e-9)
  ggplot2::ggplot(data, ggplot2::aes(x = .data$bar, y = .data$change)) +
    ggplot2::geom_col(ggplot2::aes(fill = .data$side), width = 0.7) +
    ggplot2::geom_vline(xintercept = 0, colour = "grey30") +
    (if (!is.null(data[["effect.low"]])) {
      ggplot2::geom_linerange(ggplot2::aes(xmin = .data$effect.low, xmax = .data$effect.high), na.rm = TRUE)
    }) +
    ggplot2::geom_text(ggplot2::aes(x = .data$beyond, label = label,
                                    hjust = ifelse(.data$effect >= 0, -0.15, 1.15)), size = 3) +
    ggplot2::scale_fill_manual(values = rlang::set_names(c("#7fb08a", "#d9a15f"), sides), name = "") +
    ggplot2::scale_x_continuous(labels = if (by_edge) function(x) format_number(100 * x, 2) else show,
                                limits = ends) +
    effects_labels(object, by_edge) + figure_theme() +
    ggplot2::theme(legend.position = "bottom", panel.grid.major.y = ggplot2::element_blank())
}

# "double after split: no".
changes_in_words <- function(data) {
  said <- gsub("_", " ", change_labels(gsub("(^| [+] )([^ ]+)", "\\1\\2:", data[["rule"]]), data[["value"]]))
  gsub("\\bFALSE\\b", "no", gsub("\\bTRUE\\b", "yes", said))
}

# What is further than two and a half times the third largest is out of the figure; Inf where nothing is.
effect_edge <- function(effects) {
  largest <- sort(abs(effects), decreasing = TRUE)
  if (length(largest) < 5 || largest[1] <= 2.5 * largest[3]) return(Inf)
  1.25 * largest[if (largest[2] > 2.5 * largest[3]) 3 else 2]
}

effects_labels <- function(object, by_edge) {
  from <- if (by_edge) paste("an edge of", signed_percent(object[["edge"]][1])) else
    sprintf("%s %s", attr(object, "of"), estimate_in_effects(object))
  alone <- if (is.null(object[["together"]])) "each rule changed alone" else "each rule changed alone, and any two"
  changed <- sentence(effects_from_in_words(object, alone))
  ggplot2::labs(
    x = if (by_edge) "change of the house's edge, in points of percent" else
      paste("change of", attr(object, "of")), y = NULL,
    title = paste("What each rule is worth, from", from), subtitle = wrapped(attr(object, "words")),
    caption = wrapped(paste0(changed, against_whom(object), if (by_edge) "; exact" else
      effects_run_in_words(object), if (is.null(object[["effect.low"]])) "." else "; lines: 95%.",
                             if (is.finite(effect_edge(object[["effect"]][-1]))) " Cut: further out than is drawn."))
  )
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
