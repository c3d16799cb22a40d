#' @rdname autoplot
#' @rawNamespace S3method(ggplot2::autoplot, habanera_distribution_arrangements)
autoplot.habanera_distribution_arrangements <- function(object, ...) {
  summary <- summary(object)
  data <- data.frame(arrangement = in_order(object$outcomes[["arrangement"]]), probability = object$probability)
  uniform <- 1 / summary$all
  ggplot2::ggplot(data, ggplot2::aes(x = .data$arrangement, y = .data$probability)) +
    ggplot2::geom_col(fill = figure_colours[["data"]], width = 0.8) +
    ggplot2::geom_hline(yintercept = uniform, colour = figure_colours[["surprise"]]) +
    ggplot2::scale_y_continuous(sec.axis = ggplot2::sec_axis(~ ., breaks = uniform, labels = "uniform")) +
    ggplot2::labs(
      title = "How likely each arrangement is", x = NULL, y = "probability",
      subtitle = sprintf("%s;\ntotal variation %s from uniform", sentence(summary$question),
                         format_number(summary$terms$total_variation, 3))
    ) +
    figure_theme() +
    crowded_axis(nrow(data))
}

#' @rdname autoplot
#' @rawNamespace S3method(ggplot2::autoplot, habanera_followed)
autoplot.habanera_followed <- function(object, ...) {
  if ("card" %in% names(object)) return(deck_strips(object))
  if ("probability" %in% names(object)) return(place_ribbons(object))
  ggplot2::ggplot(object, ggplot2::aes(x = .data$times, y = .data$position)) +
    ggplot2::geom_line(colour = figure_colours[["line"]]) +
    ggplot2::geom_point(colour = figure_colours[["data"]], size = 2.4) +
    ggplot2::scale_x_continuous(breaks = whole_breaks) +
    ggplot2::scale_y_reverse(breaks = place_breaks) +
    followed_words(object, "Where the card goes") +
    figure_theme()
}

# The deck after each repeat, each card coloured by where it started.
deck_strips <- function(object) {
  ggplot2::ggplot(object, ggplot2::aes(x = .data$position, y = .data$times, fill = .data$card)) +
    ggplot2::geom_tile(height = 0.85) +
    ggplot2::scale_fill_viridis_c(name = "started\nat place", breaks = place_breaks) +
    ggplot2::scale_x_continuous(breaks = place_breaks) +
    ggplot2::scale_y_reverse(breaks = whole_breaks) +
    ggplot2::labs(title = "The deck after each repeat", x = "position from the top", y = "repeats",
                  subtitle = followed_subtitle(object)) +
    figure_theme()
}

# How likely the card is at each place, after each repeat.
place_ribbons <- function(object) {
  uniform <- 1 / attr(object, "deck_size")
  ggplot2::ggplot(object, ggplot2::aes(x = .data$position, y = .data$probability)) +
    ggplot2::geom_col(fill = figure_colours[["data"]], width = 0.9) +
    ggplot2::geom_hline(yintercept = uniform, colour = figure_colours[["surprise"]]) +
    ggplot2::facet_wrap(ggplot2::vars(.data$times), scales = "free_y",
                        labeller = ggplot2::labeller(.default = function(times) paste("repeats:", times))) +
    followed_words(object, "Where the card goes") +
    ggplot2::scale_x_continuous(breaks = place_breaks) +
    ggplot2::labs(x = "position from the top", y = "probability",
                  caption = "The line is what a uniform shuffle gives.") +
    figure_theme()
}

followed_words <- function(object, title) {
  ggplot2::labs(title = title, subtitle = followed_subtitle(object), x = "repeats",
                y = "position from the top")
}

followed_subtitle <- function(object) {
  sprintf("%s on %s", attr(object, "procedure"), count_of(attr(object, "deck_size"), "card"))
}

#' @rdname autoplot
#' @rawNamespace S3method(ggplot2::autoplot, habanera_periods)
autoplot.habanera_periods <- function(object, ...) {
  ggplot2::ggplot(object, ggplot2::aes(x = .data$deck_size, y = .data$period)) +
    ggplot2::geom_segment(ggplot2::aes(xend = .data$deck_size, yend = 0), colour = figure_colours[["band"]]) +
    ggplot2::geom_point(colour = figure_colours[["data"]], size = 2.2) +
    ggplot2::scale_x_continuous(breaks = whole_breaks) +
    ggplot2::scale_y_continuous(breaks = whole_breaks, labels = format_count) +
    ggplot2::labs(title = "After how many repeats the deck is back", subtitle = attr(object, "procedure"),
                  x = "cards in the deck", y = "repeats") +
    figure_theme()
}
