#' The figure of tuned rules
#'
#' Of [tune_rules()]: candidates by the two estimates that most of them miss, those that surely miss faint, what is
#' wished for as lines, and the front of those that no other beats in both. Where one estimate is wished for, the
#' candidates below each other with their bounds.
#'
#' @param object What [tune_rules()] gave.
#' @param ... Not used.
#' @return A ggplot object.
#' @examples
#' autoplot(tune_rules(game_high_card(), list(ties = c("bank", "half_back", "push")), want = "edge < 0.04"))
#' @rawNamespace S3method(ggplot2::autoplot, habanera_tuned)
autoplot.habanera_tuned <- function(object, ...) {
  names <- Filter(function(name) any(is.finite(object[[name]])), union(attr(object, "field"), attr(object, "told")))
  if (!length(names)) refuse("No candidate has been played: there is nothing to draw.", "work", call = NULL)
  field <- length(attr(object, "field")) > 1
  figure <- if (field) tuned_field(object, names[1:2]) else tuned_rows(object, names[1])
  figure + ggplot2::scale_colour_manual(values = c(`meets all` = "#0072B2", open = "#E69F00", misses = "#9AA5AE"),
                                        name = "") +
    ggplot2::labs(title = tuned_title(object), subtitle = wrapped(attr(object, "words"), 100),
                  caption = wrapped(tuned_caption(object))) +
    figure_theme() + ggplot2::theme(legend.position = "top", legend.justification = "left")
}

tuned_field <- function(object, names) {
  data <- tuned_points(object, names)
  front <- data[attr(object, "front"), , drop = FALSE]
  told <- utils::head(best_rows(object), 6)
  bounded <- data[data$found != "misses", , drop = FALSE]
  ggplot2::ggplot(data, ggplot2::aes(x = .data$x, y = .data$y)) +
    wish_lines(object, names) +
    (if (nrow(front) > 1) ggplot2::geom_line(data = front[order(front$x), ], colour = figure_colours[["line"]],
                                             linewidth = 0.6, na.rm = TRUE)) +
    ggplot2::geom_linerange(data = bounded, ggplot2::aes(xmin = .data$x_low, xmax = .data$x_high,
                                                         colour = .data$found), alpha = 0.35, na.rm = TRUE) +
    ggplot2::geom_linerange(data = bounded, ggplot2::aes(ymin = .data$y_low, ymax = .data$y_high,
                                                         colour = .data$found), alpha = 0.35, na.rm = TRUE) +
    ggplot2::geom_point(ggplot2::aes(colour = .data$found, alpha = .data$found), size = 2.6, na.rm = TRUE) +
    ggplot2::geom_text(data = data[told, ], ggplot2::aes(label = .data$rules), size = 3.2, vjust = -0.9,
                       hjust = "inward",
                       check_overlap = TRUE, na.rm = TRUE, colour = figure_colours[["text"]]) +
    ggplot2::scale_alpha_manual(values = c(`meets all` = 1, open = 1, misses = 0.45), guide = "none") +
    axis_of_name(ggplot2::scale_x_continuous, names[1], object, c(data$x_low, data$x_high)[data$found != "misses"]) +
    axis_of_name(ggplot2::scale_y_continuous, names[2], object, c(data$y_low, data$y_high)[data$found != "misses"]) +
    ggplot2::labs(x = names[1], y = names[2])
}

most_tuned_rows <- 25

tuned_rows <- function(object, name) {
  data <- utils::head(tuned_points(object, c(name, name)), most_tuned_rows)
  data$rules <- factor(data$rules, levels = rev(unique(data$rules)))
  ggplot2::ggplot(data, ggplot2::aes(x = .data$x, y = .data$rules, colour = .data$found)) +
    wish_lines(object, name) +
    ggplot2::geom_linerange(ggplot2::aes(xmin = .data$x_low, xmax = .data$x_high), linewidth = 0.9, na.rm = TRUE) +
    ggplot2::geom_point(size = 2.8, na.rm = TRUE) +
    axis_of_name(ggplot2::scale_x_continuous, name, object, c(data$x_low, data$x_high)[data$found != "misses"]) +
    ggplot2::labs(x = name, y = NULL)
}

# Bounds that are open end at the estimate.
tuned_points <- function(object, names) {
  rows <- plain_table(object)
  ends <- function(name, end) ifelse(is.finite(rows[[paste0(name, end)]]), rows[[paste0(name, end)]], rows[[name]])
  finite <- function(values) ifelse(is.finite(values), values, NA)
  data.frame(x = finite(rows[[names[1]]]), y = finite(rows[[names[2]]]), x_low = finite(ends(names[1], ".low")),
             x_high = finite(ends(names[1], ".high")), y_low = finite(ends(names[2], ".low")),
             y_high = finite(ends(names[2], ".high")),
             found = c(yes = "meets all", open = "open", no = "misses")[rows$meets],
             rules = make.unique(attr(object, "changed")))
}

# What single names are wished to lie between.
wish_lines <- function(object, names) {
  ends <- attr(object, "ends")
  marks <- function(name, line, side) {
    at <- unlist(ends[ends$name == name, c("low", "high")])
    at <- at[is.finite(at)]
    if (length(at)) do.call(line, rlang::set_names(list(at, "dashed", figure_colours[["line"]]),
                                                   c(side, "linetype", "colour")))
  }
  list(marks(names[1], ggplot2::geom_vline, "xintercept"),
       if (length(names) > 1) marks(names[2], ggplot2::geom_hline, "yintercept"))
}

# Candidates far from what was wished for stand at the border, so that the others can be told apart.
axis_of_name <- function(scale, name, object, of_interest) {
  ends <- attr(object, "ends")
  wished <- unlist(ends[ends$name == name, c("low", "high")])
  near <- c(wished, of_interest)
  near <- near[is.finite(near)]
  limits <- if (length(unique(near)) > 1) range(near) + c(-1, 1.5) * diff(range(near))
  all <- object[[name]][is.finite(object[[name]])]
  if (!is.null(limits)) limits <- c(max(limits[1], min(all, near)), min(limits[2], max(all, near)))
  labels <- if (attr(object, "shares")[[name]]) scales::label_percent() else ggplot2::waiver()
  scale(labels = labels, limits = limits, oob = scales::squish, expand = ggplot2::expansion(0.06))
}

tuned_title <- function(object) {
  yes <- sum(object$meets == "yes")
  wishes <- attr(object, "wishes")
  if (!length(wishes)) return(sentence(attr(object, "aim")))
  wrapped(sprintf("%s of %s %smeet %s", format_count(yes), count_of(nrow(object), "combination"),
                  if (attr(object, "exact")) "" else "surely ", join_words(wishes)), 85)
}

tuned_caption <- function(object) {
  more <- if (nrow(object) > most_tuned_rows && length(attr(object, "told")) == 1) {
    sprintf("The first %d of %s. ", most_tuned_rows, format_count(nrow(object)))
  }
  paste0(more, "Dashed: what is wished for. What lies far off stands at the border. ", work_in_words(object))
}
