#' @rdname autoplot
#' @param show Of recorded hands: "cards", how often each came, or "hands", of what category they were; `NULL`: what is
#'   off, and else the hands.
#' @rawNamespace S3method(ggplot2::autoplot, habanera_counts_draws)
autoplot.habanera_counts_draws <- function(object, show = NULL, ...) {
  if (!is.null(show)) check_choice(show, c("cards", "hands"))
  summary <- summarise_draws(object, NULL)
  wants_hands <- if (is.null(show)) !is.null(summary$hands) && !is_off_by_cards(summary) else show == "hands"
  categories <- if (wants_hands && !is.null(object$hands)) category_counts(object)
  if (!is.null(categories)) return(hands_figure(object, categories, summary))
  data <- draw_figure_data(object)
  # Kinds with several copies have an axis of their own.
  alike <- max(data$expected) < 2 * min(data$expected) || nlevels(data$panel) == 1
  counts <- ggplot2::ggplot(data, ggplot2::aes(x = .data$label)) +
    ggplot2::scale_x_discrete(drop = !alike) +
    band_layers(data) +
    ggplot2::geom_point(ggplot2::aes(y = .data$count, colour = .data$outside), size = 2.4) +
    outside_labels(data) +
    ggplot2::scale_colour_manual(values = c(`FALSE` = figure_colours[["data"]],
                                            `TRUE` = figure_colours[["surprise"]]), guide = "none") +
    ggplot2::scale_y_continuous(breaks = whole_breaks, labels = format_count) +
    draw_figure_words(object, summary) +
    ggplot2::coord_cartesian(clip = "off") +  # a label at the edge stays whole
    figure_theme()
  if (nlevels(data$panel) > 1) {
    counts <- counts + ggplot2::facet_wrap(ggplot2::vars(.data$panel), scales = if (alike) "fixed" else "free",
                                           ncol = if (nlevels(data$panel) > 2) 2 else 1)
  }
  counts + crowded_axis(nlevels(data$label))
}

# One row per kind: its count, what is expected, and the two bands.
draw_figure_data <- function(x) {
  experiment <- x$provenance$experiment
  law <- fair_law(experiment, kinds_of(experiment$deck)$copies)
  trials <- trial_count(x)
  data <- card_layout(experiment$deck)
  data$panel <- factor(data$panel, levels = unique(data$panel))
  sd <- sqrt(trials * law$variance)
  data$count <- x$n
  data$expected <- trials * law$expected
  wide <- stats::qnorm(1 - 0.025 / max(1, nrow(data)))
  data$low <- pmax(0, data$expected - stats::qnorm(0.975) * sd)
  data$high <- data$expected + stats::qnorm(0.975) * sd
  data$lowest <- pmax(0, data$expected - wide * sd)
  data$highest <- data$expected + wide * sd
  # What comes seldom may well come once: the tail of rare counts is longer than the normal one (Poisson).
  tail <- 0.025 / max(1, nrow(data))
  data$highest <- pmax(data$highest, stats::qpois(1 - tail, data$expected) * (data$expected < 5))
  data$outside <- data$count < data$lowest - 1e-9 * data$expected | data$count > data$highest + 1e-9 * data$expected
  data
}

band_layers <- function(data) {
  strip <- function(low, high, colour) {
    ggplot2::geom_tile(ggplot2::aes(y = (.data[[low]] + .data[[high]]) / 2, height = .data[[high]] - .data[[low]]),
                       width = 1, fill = colour)
  }
  list(
    strip("lowest", "highest", "#EDF0F3"), strip("low", "high", figure_colours[["band"]]),
    ggplot2::geom_errorbar(ggplot2::aes(ymin = .data$expected, ymax = .data$expected), width = 1,
                           colour = figure_colours[["line"]])
  )
}

# The cards outside the light band are named where there are few.
outside_labels <- function(data) {
  named <- data[data$outside, , drop = FALSE]
  if (!nrow(named) || nrow(named) > 12) return(NULL)
  ggplot2::geom_text(data = named, ggplot2::aes(y = .data$count, label = .data$card),
                     colour = figure_colours[["surprise"]], vjust = -0.9, size = 3.8)
}

draw_figure_words <- function(x, summary) {
  ggplot2::labs(
    title = "How often each card came", subtitle = wrapped(verdict_in_words(summary), 95),
    x = NULL, y = "times drawn", caption = wrapped(draw_figure_caption(x))
  )
}

draw_figure_caption <- function(x) {
  about <- sprintf("%s; %s.", sentence(in_words(x$provenance$experiment)), run_in_words(x))
  if (inherits(x, "habanera_counts_positions")) return(about)
  paste(about, "Line: expected. Dark band: 95% of fair counts, card by card. Light band: all of them,",
        "95% of the time.")
}

# Names that would run into each other are turned, and left out when there are too many.
crowded_axis <- function(labels) {
  if (labels > 120) return(ggplot2::theme(axis.text.x = ggplot2::element_blank()))
  if (labels <= 14) return(NULL)
  ggplot2::theme(axis.text.x = ggplot2::element_text(angle = 90, hjust = 1, vjust = 0.5,
                                                     size = if (labels > 60) 6 else 9))
}

#' @rdname autoplot
#' @rawNamespace S3method(ggplot2::autoplot, habanera_counts_positions)
autoplot.habanera_counts_positions <- function(object, ...) {
  summary <- summarise_draws(object, NULL)
  cells <- summary$table[-nrow(summary$table), , drop = FALSE]
  cells$z[is.na(cells$z)] <- 0
  place_tiles(cells) +
    ggplot2::labs(title = "Where each card came", subtitle = wrapped(verdict_in_words(summary), 95),
                  caption = wrapped(draw_figure_caption(object)))
}

# Cards by position, each cell coloured by how many standard deviations it is off.
place_tiles <- function(cells) {
  cells$card <- factor(cells$card, levels = rev(unique(cells$card)))
  # A cell far out does not make all others pale.
  furthest <- max(abs(cells$z))
  limit <- max(4, min(furthest, 3 * stats::quantile(abs(cells$z), 0.99)))
  ggplot2::ggplot(cells, ggplot2::aes(x = .data$position, y = .data$card, fill = .data$z)) +
    ggplot2::geom_raster() +
    ggplot2::scale_fill_gradient2(
      low = figure_colours[["data"]], mid = "#F7F7F7", high = figure_colours[["surprise"]],
      limits = c(-limit, limit), oob = scales::squish,
      name = paste0("standard\ndeviations", if (furthest > limit * 1.001) sprintf("\n(the furthest:\n%.1f)", furthest))
    ) +
    ggplot2::scale_x_continuous(breaks = place_breaks) +
    ggplot2::labs(x = "position from the top", y = "card") +
    figure_theme() +
    ggplot2::theme(panel.grid = ggplot2::element_blank()) +
    crowded_rows(levels(cells$card))
}

# Where there are many rows, the names of so many as can be read.
crowded_rows <- function(names) {
  if (length(names) <= 30) return(NULL)
  shown <- rev(rev(names)[seq(1, length(names), by = ceiling(length(names) / 60))])
  list(ggplot2::scale_y_discrete(breaks = shown, labels = shortened(shown, 24)),
       ggplot2::theme(axis.text.y = ggplot2::element_text(size = 7)))
}

#' @rdname autoplot
#' @rawNamespace S3method(ggplot2::autoplot, habanera_comparison)
autoplot.habanera_comparison <- function(object, ...) ggplot2::autoplot(object$counts, ...)
