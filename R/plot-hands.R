# The figure of recorded hands: how often each category came, beside what fair hands give.

hands_figure <- function(x, data, summary) {
  data$category <- factor(data$category, rev(data$category))
  # What 95% of fair records hold, category by category, and all of them together.
  tails <- c(0.025, 0.025 / nrow(data))
  for (i in 1:2) {
    data[[c("low", "lowest")[i]]] <- stats::qbinom(tails[i], sum(data$n), data$chance) / data$expected
    data[[c("high", "highest")[i]]] <- stats::qbinom(1 - tails[i], sum(data$n), data$chance) / data$expected
  }
  data$ratio <- data$n / data$expected
  data$outside <- data$ratio < data$lowest | data$ratio > data$highest
  data$label <- sprintf("%s came, %s expected", format_count(data$n), format_count(round(data$expected)))
  right <- max(data$ratio, data$highest)
  ggplot2::ggplot(data, ggplot2::aes(y = .data$category)) +
    ggplot2::geom_linerange(ggplot2::aes(xmin = .data$lowest, xmax = .data$highest), linewidth = 6,
                            colour = "#EDF0F3") +
    ggplot2::geom_linerange(ggplot2::aes(xmin = .data$low, xmax = .data$high), linewidth = 6,
                            colour = figure_colours[["band"]]) +
    ggplot2::geom_vline(xintercept = 1, colour = figure_colours[["line"]]) +
    ggplot2::geom_point(ggplot2::aes(x = .data$ratio, colour = .data$outside), size = 3) +
    ggplot2::geom_text(ggplot2::aes(label = .data$label), x = right * 1.05, hjust = 0, size = 3.6,
                       colour = figure_colours[["text"]]) +
    ggplot2::scale_colour_manual(values = c(`FALSE` = figure_colours[["data"]], `TRUE` = figure_colours[["surprise"]]),
                                 guide = "none") +
    ggplot2::scale_x_continuous(limits = c(0, right * 1.5), labels = function(x) format_percent(x, 3),
                                breaks = function(range) Filter(function(at) at <= right, pretty(range))) +
    ggplot2::labs(title = "What the hands were", subtitle = wrapped(verdict_in_words(summary), 95),
                  x = "how often, as a share of what fair hands give", y = NULL,
                  caption = wrapped(sprintf(paste("%s; %s. Dark band: 95%% of fair records, category by category.",
                                                  "Light band: all of them, 95%% of the time."),
                                            sentence(in_words(x$provenance$experiment)), run_in_words(x)))) +
    figure_theme() + ggplot2::theme(panel.grid.major.y = ggplot2::element_blank())
}

# Where single cards, ranks or suits are what is most off, the figure is of these.
is_off_by_cards <- function(summary) {
  tests <- summary$hands$tests
  off <- tests[tests$p.adjusted < verdict_level, ]
  nrow(off) > 0 && off$term[which.min(off$p.value)] %in% c("single cards", "ranks", "suits")
}

# A row for each category of which a hand or more is expected: `category`, `n`, `expected`, `chance`; NULL where hands
# have none, or none can be judged.
category_counts <- function(x) {
  plan <- hand_plan(x)
  trait <- if (!plan$experiment$replace && nrow(plan$fair) >= fewest_hands) category_trait(plan)
  if (is.null(trait)) return(NULL)
  n <- as.double(tabulate(trait$of(plan$fair), length(trait$law)))
  found <- data.frame(category = names(trait$law), n = n, expected = sum(n) * trait$law, chance = trait$law,
                      row.names = NULL)
  found <- found[found$expected >= 1, ]
  if (nrow(found) > 1) found
}
