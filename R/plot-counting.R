# Figures of counts: results by the true count, a counter's gain by the cut, bets by the count.

#' @rdname by_true_count
#' @param object What `by_true_count()` gave.
#' @param ... Not used.
#' @rawNamespace S3method(ggplot2::autoplot, habanera_by_true_count)
autoplot.habanera_by_true_count <- function(object, ...) {
  kept <- attr(object, "kept")
  # What hardly came tells nothing.
  shown <- plain_table(object)[object$share >= 1e-4 & !is.na(object$std.error), ]
  data <- data.frame(true_count = shown$true_count, mean = shown$mean, low = shown$conf.low, high = shown$conf.high,
                     share = shown$share)
  ggplot2::ggplot(data, ggplot2::aes(.data$true_count, .data$mean)) +
    ggplot2::geom_hline(yintercept = 0, colour = "grey40") +
    ggplot2::geom_linerange(ggplot2::aes(ymin = .data$low, ymax = .data$high), colour = figure_colours[["data"]]) +
    ggplot2::geom_point(ggplot2::aes(size = .data$share), colour = figure_colours[["data"]]) +
    ggplot2::scale_size_area(name = "share of the rounds", labels = function(x) format_percent(x, 2), max_size = 6) +
    ggplot2::scale_y_continuous(labels = function(y) format_percent(y, 3)) +
    ggplot2::labs(x = "true count", y = "result for each stake bet",
                  title = "What a stake brings, by the true count before the round",
                  subtitle = wrapped(gain_in_words(tidy(object))),
                  caption = wrapped(paste0(in_words(kept$game), "; ", kept$run, ". Lines: 95% intervals by shoe."))) +
    figure_theme()
}

#' @rdname counter_gain
#' @param object What `counter_gain()` gave.
#' @param ... Not used.
#' @rawNamespace S3method(ggplot2::autoplot, habanera_counter_gain)
autoplot.habanera_counter_gain <- function(object, ...) {
  data <- plain_table(object)
  data$series <- in_order(paste0(vapply(data$packs, count_of, "", "pack"), ", bets up to ", data$most_bet))
  colours <- seat_colours(nlevels(data$series))
  figure <- ggplot2::ggplot(data, ggplot2::aes(.data$cut_after, .data$gain, colour = .data$series,
                                               fill = .data$series)) +
    ggplot2::geom_hline(yintercept = 0, colour = "grey40") +
    interval_band(data, alpha = 0.2, colour = NA) +
    ggplot2::geom_line() +
    ggplot2::geom_point(ggplot2::aes(shape = .data$verdict), size = 2.6, stroke = 1) +
    ggplot2::scale_shape_manual(values = c(gains = 19, open = 1, loses = 4), name = "who counts") +
    ggplot2::scale_colour_manual(values = colours, name = "") +
    ggplot2::scale_fill_manual(values = colours, name = "") +
    ggplot2::scale_x_continuous(labels = function(x) format_percent(x, 3)) +
    ggplot2::labs(x = "cut after this share of the shoe", y = "stakes gained in 100 rounds",
                  title = "What a counter gains, by how deep the shoe is dealt",
                  subtitle = wrapped(stops_in_short(object)),
                  caption = wrapped(paste0(gain_game_in_words(object), "; ", attr(object, "run"),
                                           ". Bands: 95% intervals by shoe."))) +
    figure_theme()
  if (nlevels(data$series) > 1) figure else figure + ggplot2::guides(colour = "none", fill = "none")
}

# Of many lines the figure itself tells.
stops_in_short <- function(x) {
  sentences <- stop_sentences(x)
  if (length(sentences) > 1) {
    return("Where a band lies above nothing who counts gains; where it holds nothing, it is open.")
  }
  paste(sentences, collapse = " ")
}

#' @rdname bets_follow
#' @param object What `bets_follow()` gave.
#' @param ... Not used.
#' @rawNamespace S3method(ggplot2::autoplot, habanera_bets_follow)
autoplot.habanera_bets_follow <- function(object, ...) {
  rounds <- object$rounds
  rounds$count <- floor(rounds$true_count)
  bets <- stats::aggregate(bet ~ count, rounds, mean)
  bets$rounds <- stats::aggregate(bet ~ count, rounds, length)$bet
  ggplot2::ggplot(bets, ggplot2::aes(.data$count, .data$bet)) +
    ggplot2::geom_line(colour = "grey60") +
    ggplot2::geom_point(ggplot2::aes(size = .data$rounds), colour = figure_colours[["data"]]) +
    ggplot2::scale_size_area(name = "rounds seen", max_size = 6) +
    ggplot2::expand_limits(y = 0) +
    ggplot2::labs(x = "true count", y = "mean bet", title = "Mean bet by the true count before the round",
                  subtitle = wrapped(follow_sentence(object$found)),
                  caption = sprintf("%s in %s; counted %s.", count_of(nrow(rounds), "round"),
                                    count_of(object$shoes, "shoe"), object$system$name)) +
    figure_theme()
}
