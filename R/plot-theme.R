# The look of every figure: quiet ground, direct labels, colours that differ in lightness as well as
# in hue (Okabe & Ito 2008, "Color universal design").

figure_colours <- c(data = "#0072B2", surprise = "#D55E00", band = "#D9DEE3", line = "#5B6770",
                    text = "#1F2933")

figure_theme <- function(base_size = 13) {
  ggplot2::theme_minimal(base_size = base_size) +
    ggplot2::theme(
      plot.title.position = "plot", plot.caption.position = "plot",
      plot.title = ggplot2::element_text(face = "bold", size = base_size * 1.2),
      plot.subtitle = ggplot2::element_text(colour = figure_colours[["line"]]),
      plot.caption = ggplot2::element_text(colour = figure_colours[["line"]], hjust = 0),
      text = ggplot2::element_text(colour = figure_colours[["text"]]),
      strip.text = ggplot2::element_text(hjust = 0, face = "bold"),
      plot.margin = ggplot2::margin(8, 16, 8, 8),
      panel.grid.minor = ggplot2::element_blank(),
      plot.background = ggplot2::element_rect(fill = "white", colour = NA)
    )
}

#' Figures
#'
#' `autoplot()` methods return a ggplot and never simulate. For counts of [draws()]: each card's count
#' against the band in which 95% of fair counts lie (dark) and the band in which all of them lie 95%
#' of the time (light, by Bonferroni); what falls outside the light band is marked. For
#' [positions()]: the deviation of every card at every position, in standard deviations. A comparison
#' is drawn as its counts are. For a question: bars of each column's values, with 95% intervals and the exact
#' values where they can be had at once; with turns, the course of each chance or mean. For [payout()], what each
#' line hands back; for [copies_curve()] a curve or a grid; for [convergence()] the estimate on its way.
#'
#' @param object Counts, a distribution, a comparison, or what another function here returned.
#' @param ... Not used.
#' @return A ggplot object.
#' @examples
#' autoplot(simulate(draws(deck_standard(), 5), nsim = 1e4, seed = 1))
#' @export
autoplot <- function(object, ...) ggplot2::autoplot(object, ...)

# Cards in the order of their catalogue, laid out by suit and rank where the deck has both and every
# pair of them is one kind.
card_layout <- function(deck) {
  kinds <- kinds_of(deck)
  data <- catalogue_of(deck)$data[kinds$codes, , drop = FALSE]
  crossed <- all(c("suit", "rank") %in% names(data)) && !anyDuplicated(data[c("suit", "rank")]) &&
    length(unique(data$suit)) > 1 && length(unique(data$rank)) > 1
  if (!crossed) {
    return(data.frame(card = kinds$cards, label = in_order(kinds$cards), panel = ""))
  }
  suit <- ifelse(is.na(data$suit), "no suit", data$suit)
  data.frame(card = kinds$cards, label = in_order(data$rank), panel = in_order(suit))
}

in_order <- function(x) factor(x, levels = unique(x))

# Where cards, rounds or turns are counted, there is nothing between whole numbers; places count from 1.
whole_breaks <- function(ends) {
  ends <- range(ends)
  if (diff(ends) <= 15) seq(ceiling(ends[1]), floor(ends[2])) else unique(round(pretty(ends)))
}
place_breaks <- function(ends) {
  breaks <- whole_breaks(c(1, ends))
  unique(c(1, breaks[breaks > max(1, max(ends) / 12)]))
}

# A band between the ends of intervals, where there are any.
interval_band <- function(data, ...) {
  known <- plain_table(data)[!is.na(data$conf.low), , drop = FALSE]
  if (!nrow(known)) return(NULL)
  ggplot2::geom_ribbon(ggplot2::aes(ymin = .data$conf.low, ymax = .data$conf.high), data = known, ...)
}

wrapped <- function(text, width = 115) paste(strwrap(text, width), collapse = "\n")
