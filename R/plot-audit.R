#' @rdname autoplot
#' @param show For an audit: `"positions"` (which card comes where, in standard deviations), `"statistics"` (each
#'   statistic's counts beside its exact law), `"guesser"` (right guesses in a deck) or `"staying"` (the chance to
#'   stay, place by place).
#' @rawNamespace S3method(ggplot2::autoplot, habanera_audit)
autoplot.habanera_audit <- function(object, show = c("positions", "statistics", "guesser", "staying"), ...) {
  show <- check_choice(show, c("positions", "statistics", "guesser", "staying"))
  if (!is.null(object$broken)) return(broken_bars(object))
  if (show != "positions" && !object$plan$identity) {
    refuse("Where copies of a card cannot be told apart there is only `show = \"positions\"`.")
  }
  plot <- switch(show, positions = place_tiles(place_table(object$counts$all, object$plan)),
                 statistics = statistic_panels(object), guesser = guesser_bars(object), staying = staying_dots(object))
  titles <- c(positions = "Where each card comes, against fair",
              statistics = "What arrangements look like, against fair",
              guesser = "What a sharp player gains", staying = "The chance to stay where one was")
  plot + ggplot2::labs(title = titles[[show]], subtitle = wrapped(verdict_lines(object)[1]),
                       caption = audit_caption(object))
}

audit_caption <- function(x) wrapped(sub("<audit> ", "", audit_header(x), fixed = TRUE))

# Of a broken shuffle: which cards it lost and doubled.
broken_bars <- function(x) {
  cards <- card_labels(x$plan)
  data <- x$broken
  data$card <- factor(data$card, levels = cards)
  data$share <- data$trials / x$trials
  ggplot2::ggplot(data, ggplot2::aes(x = .data$card, y = .data$share)) +
    ggplot2::geom_col(fill = figure_colours[["surprise"]], width = 0.8) +
    ggplot2::facet_wrap(ggplot2::vars(.data$problem), ncol = 1) +
    ggplot2::scale_x_discrete(drop = FALSE) +
    ggplot2::scale_y_continuous(labels = format_percent) +
    ggplot2::labs(title = "Which cards it doubles and loses", subtitle = wrapped(verdict_lines(x)[1]), x = NULL,
                  y = "share of trials", caption = audit_caption(x)) +
    figure_theme() +
    crowded_axis(length(cards))
}

statistic_titles <- c(
  stayed_put = "cards that stayed put", still_together = "neighbours still together",
  rising_sequences = "rising sequences", inversions = "pairs turned round", cycles = "cycles",
  total_distance = "total distance travelled"
)

statistic_panels <- function(x) {
  n <- x$plan$spec$cards
  if (n < 2 || n > largest_exact_law) refuse(sprintf("Laws are drawn for 2 to %s cards.",
                                                     format_count(largest_exact_law)))
  laws <- uniform_laws(n)
  data <- do.call(rbind, lapply(names(statistic_titles), function(term) {
    histogram_beside_law(x$counts$all$n[[term]], laws[[term]], statistic_titles[[term]])
  }))
  data$panel <- in_order(data$panel)
  law_panels(data) + ggplot2::facet_wrap(ggplot2::vars(.data$panel), scales = "free",
                                         ncol = 2) + ggplot2::labs(x = NULL)
}

# Values with their observed share and fair chance; many values are put together, in at most 60 steps over
# where either has something to show.
histogram_beside_law <- function(counts, law, panel, steps = 60) {
  value <- seq_along(law) - 1
  total <- sum(counts)
  shown <- range(value[law > 1e-5 | counts > total * 1e-5])
  # A distance is always even: a step never holds an odd number of values, unless it holds one.
  width <- max(1, ceiling(diff(shown) / steps))
  if (width > 1 && width %% 2 == 1) width <- width + 1
  step <- floor((value - shown[1]) / width)
  inside <- value >= shown[1] & value <= shown[2]
  add <- function(x) rowsum(x[inside], step[inside])[, 1]
  middle <- shown[1] + sort(unique(step[inside])) * width + (width - 1) / 2
  data <- data.frame(panel = panel, value = middle, observed = add(counts) / total, fair = add(law), width = width)
  data[data$fair > 0 | data$observed > 0, ]
}

# Legends are named "", not NULL: ggplot2 3.4 then looks for a `title` that only an R session with graphics has.
law_panels <- function(data) {
  ggplot2::ggplot(data, ggplot2::aes(x = .data$value)) +
    ggplot2::geom_rect(ggplot2::aes(xmin = .data$value - 0.45 * .data$width, xmax = .data$value + 0.45 * .data$width,
                                    ymin = 0, ymax = .data$observed, fill = "this shuffle")) +
    ggplot2::geom_line(ggplot2::aes(y = .data$fair, colour = "uniform, exactly")) +
    ggplot2::geom_point(ggplot2::aes(y = .data$fair, colour = "uniform, exactly"), size = 1) +
    ggplot2::scale_fill_manual(values = figure_colours[["data"]], name = "") +
    ggplot2::scale_colour_manual(values = figure_colours[["surprise"]], name = "") +
    ggplot2::scale_y_continuous(labels = format_percent) +
    ggplot2::labs(y = "share of trials") +
    figure_theme() +
    ggplot2::theme(legend.position = "top", legend.justification = "left")
}

# Under a uniform shuffle right guesses are independent with chances 1/n, ..., 1/2, 1: their number has the law
# of the number of cycles.
guesser_bars <- function(x) {
  if (is.null(x$counts$guessed)) refuse("There were too few trials to teach a guesser.")
  n <- x$plan$spec$cards
  law_panels(histogram_beside_law(x$counts$guessed$n$right_guesses, cycle_law(n), "")) +
    ggplot2::labs(x = "cards of the deck that the guesser names rightly")
}

staying_dots <- function(x) {
  data <- staying_chances(x)
  ggplot2::ggplot(data, ggplot2::aes(x = .data$position, y = .data$share)) +
    ggplot2::geom_hline(yintercept = data$expected[1], colour = figure_colours[["surprise"]]) +
    ggplot2::geom_linerange(ggplot2::aes(ymin = .data$low, ymax = .data$high), colour = figure_colours[["line"]]) +
    ggplot2::geom_point(colour = figure_colours[["data"]], size = 2) +
    ggplot2::scale_y_continuous(labels = format_percent) +
    ggplot2::labs(x = "position from the top", y = "chance to stay (95% intervals; the line is fair)") +
    figure_theme()
}
