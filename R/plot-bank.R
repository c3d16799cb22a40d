# Figures of money: the course of a bankroll, the law of a season, takings night by night.

#' @rdname bankroll
#' @param object What `bankroll()` gave, over so many rounds.
#' @param courses How many single courses are drawn beside the bands: trials 1, 2, ... of `seed`, the same each time.
#' @param seed Their seed.
#' @param ... Not used.
#' @rawNamespace S3method(ggplot2::autoplot, habanera_bankroll)
autoplot.habanera_bankroll <- function(object, courses = 5, seed = 1, ...) {
  if (is.null(object$course)) refuse("Only a walk of so many rounds has bands to draw; give fewer `rounds`.")
  bands <- rlang::set_names(object$course$bands, c("round", "p05", "p25", "p50", "p75", "p95"))
  bands <- rbind(data.frame(round = 0, p05 = object$start, p25 = object$start, p50 = object$start, p75 = object$start,
                            p95 = object$start), bands)
  rounds <- object$course$bands$round
  single <- do.call(rbind, lapply(seq_len(courses), function(trial) {
    heights <- single_course(object, seed, trial)[rounds]
    data.frame(trial = trial, round = c(0, rounds), bankroll = c(object$start, heights))
  }))
  figure <- ggplot2::ggplot(bands, ggplot2::aes(x = .data$round)) +
    ggplot2::geom_ribbon(ggplot2::aes(ymin = .data$p05, ymax = .data$p95), fill = figure_colours[["band"]]) +
    ggplot2::geom_ribbon(ggplot2::aes(ymin = .data$p25, ymax = .data$p75), fill = "#B5C2CC") +
    ggplot2::geom_line(ggplot2::aes(y = .data$p50), colour = figure_colours[["text"]], linewidth = 0.8)
  if (courses > 0) {
    figure <- figure + ggplot2::geom_line(ggplot2::aes(y = .data$bankroll, group = .data$trial), data = single,
                                          colour = figure_colours[["data"]], linewidth = 0.3, alpha = 0.7)
  }
  lines <- sprintf("Dark: the middle half of courses, light: nine in ten, line: half; thin: %s of seed %s.",
                   count_of(courses, "course"), whole_code(seed))
  if (!is.null(object$goal)) {
    figure <- figure + ggplot2::geom_hline(yintercept = object$goal, colour = figure_colours[["surprise"]],
                                           linetype = "dashed")
    lines <- paste(lines, "Dashed: the goal.")
  }
  plan <- if (inherits(object$bets, "habanera_bet_plan")) sprintf("Bets: %s.", format(object$bets))
  figure + ggplot2::labs(x = "rounds", y = "bankroll, in stakes", title = "The course of a bankroll",
                         subtitle = wrapped(bankroll_sentence(object)),
                         caption = wrapped(paste(c(paste0(sentence(object$law$words), "."), plan, lines),
                                                 collapse = " "))) +
    figure_theme()
}

#' @rdname sessions
#' @param object What `sessions()` gave.
#' @param ... Not used.
#' @rawNamespace S3method(ggplot2::autoplot, habanera_sessions)
autoplot.habanera_sessions <- function(object, ...) {
  data <- as.data.frame(object)
  # Some hundred bars, each of as many coins.
  coin <- min(diff(data$result), 1e9)
  width <- coin * max(1, ceiling(diff(range(data$result)) / 120 / coin))
  place <- floor(data$result / width + 1e-9) + 0.5
  bars <- data.frame(result = sort(unique(place)) * width,
                     probability = as.vector(tapply(data$probability, place, sum)))
  bars$side <- ifelse(bars$result < 0, "the season loses", "the season wins")
  ggplot2::ggplot(bars[bars$probability > 1e-6, ], ggplot2::aes(.data$result, .data$probability, fill = .data$side)) +
    ggplot2::geom_col(width = width) + ggplot2::geom_vline(xintercept = 0, colour = "grey40") +
    ggplot2::scale_fill_manual(values = c(`the season loses` = figure_colours[["surprise"]],
                                          `the season wins` = figure_colours[["data"]]), name = "") +
    ggplot2::scale_y_continuous(labels = NULL) +
    ggplot2::labs(x = "what the season brings", y = NULL, title = "What a season brings the house",
                  subtitle = wrapped(sessions_sentence(object)), caption = wrapped(sentence(object$law$words))) +
    figure_theme()
}

#' @rdname takings
#' @param object What `takings()` gave.
#' @param ... Not used.
#' @rawNamespace S3method(ggplot2::autoplot, habanera_takings)
autoplot.habanera_takings <- function(object, ...) {
  rows <- object$rows
  spread <- (rows$result - rows$expected) / rows$z
  data <- data.frame(row = seq_len(nrow(rows)), taken = cumsum(rows$result), expected = cumsum(rows$expected),
                     spread = stats::qnorm(0.975) * sqrt(cumsum(spread^2)))
  ggplot2::ggplot(data, ggplot2::aes(.data$row)) +
    ggplot2::geom_ribbon(ggplot2::aes(ymin = .data$expected - .data$spread, ymax = .data$expected + .data$spread),
                         fill = figure_colours[["band"]]) +
    ggplot2::geom_line(ggplot2::aes(y = .data$expected), colour = figure_colours[["line"]]) +
    ggplot2::geom_line(ggplot2::aes(y = .data$taken), colour = figure_colours[["data"]], linewidth = 0.9) +
    ggplot2::labs(x = "rows of the record, one after the other", y = "taken so far",
                  title = "What was taken, beside what the rules should bring",
                  subtitle = wrapped(takings_sentence(object)),
                  caption = "Band: where 95% of honest records lie at each row. Blue: what was taken.") +
    figure_theme()
}
