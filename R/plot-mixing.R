# Colours for several procedures (Okabe & Ito 2008), the ones that print well first.
procedure_colours <- c("#0072B2", "#D55E00", "#009E73", "#CC79A7", "#56B4E9", "#E69F00", "#5B6770", "#1F2933")

#' @rdname autoplot
#' @param by For `mixing()`: against `"repeats"` or against `"seconds"` spent.
#' @rawNamespace S3method(ggplot2::autoplot, habanera_mixing)
autoplot.habanera_mixing <- function(object, by = c("repeats", "seconds"), ...) {
  by <- check_choice(by, c("repeats", "seconds"))
  data <- mixing_panels(object, by)
  threshold <- data.frame(panel = in_order(levels(data$panel)), value = unname(attr(object, "threshold")))
  procedures <- unique(object$procedure)
  ggplot2::ggplot(data, ggplot2::aes(x = .data$at, y = .data$value, colour = .data$procedure)) +
    ggplot2::geom_hline(data = threshold, ggplot2::aes(yintercept = .data$value), colour = figure_colours[["line"]],
                        linetype = "dashed") +
    (if (length(unique(object$times)) > 1) ggplot2::geom_line()) +
    ggplot2::geom_linerange(ggplot2::aes(ymin = .data$low, ymax = .data$high), na.rm = TRUE) +
    ggplot2::geom_point(ggplot2::aes(shape = .data$known), size = 2.6, fill = "white") +
    ggplot2::facet_wrap(ggplot2::vars(.data$panel), scales = "free_y", ncol = 1) +
    ggplot2::scale_colour_manual(values = rep_len(procedure_colours, length(procedures)), breaks = procedures,
                                 name = "") +
    ggplot2::scale_shape_manual(values = c(exact = 19, simulated = 19, `lower bound` = 24),
                                breaks = intersect("lower bound", data$known), name = "") +
    ggplot2::scale_x_continuous(breaks = whole_breaks) +
    ggplot2::scale_y_log10(breaks = c(0.01, 0.1, 1, 10), labels = c("0.01 or less", "0.1", "1", "10")) +
    ggplot2::labs(title = "How many are enough?", x = if (by == "repeats") "repeats" else "seconds by hand", y = NULL,
                  subtitle = paste(passing_lines(object), collapse = "\n"),
                  caption = wrapped(sprintf(paste("%s; %s trials each. Dashed: the threshold. Lines: 95%% intervals;",
                                                  "it passes where all of the interval lies below."),
                                            sentence(attr(object, "deck")), format_count(attr(object, "nsim"))))) +
    figure_theme() +
    ggplot2::theme(legend.position = "top", legend.justification = "left")
}

# Both fall by about the same share with every repeat, so that they are drawn on a scale of powers, down to this.
lowest_drawn <- 0.01

# Two panels: the distance, and the guesser's gain.
mixing_panels <- function(x, by) {
  at <- if (by == "repeats") x$times else x$seconds
  panels <- c("distance from uniform (total variation)", "cards a deck that a guesser gains")
  data.frame(
    procedure = rep(x$procedure, 2), at = rep(at, 2), value = pmax(lowest_drawn, c(x$distance, x$gain)),
    low = pmax(lowest_drawn, c(x$distance, x$gain_low)), high = pmax(lowest_drawn, c(x$distance, x$gain_high)),
    known = c(ifelse(x$exact, "exact", "lower bound"), rep("simulated", nrow(x))),
    panel = factor(rep(panels, each = nrow(x)), levels = panels)
  )
}
