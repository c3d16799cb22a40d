#' @rdname autoplot.games
#' @rawNamespace S3method(ggplot2::autoplot, habanera_counts_meeting)
autoplot.habanera_counts_meeting <- function(object, ...) {
  pairs <- as.data.frame(object)
  found <- tidy(object)
  players <- found[found$part == "player", ]
  order <- players$term[order(players$estimate)]
  # What is lost is won: rounding leaves a trace of it.
  even <- round(mean(players$estimate), 12)
  score_of <- scored_in(object$provenance$experiment$game)
  pairs$player <- factor(pairs$player, order)
  pairs$against <- factor(pairs$against, rev(order))
  pairs$text <- sprintf("%s\n%s to %s", format_percent(pairs$score), format_percent(pairs$conf.low),
                        format_percent(pairs$conf.high))
  farthest <- max(abs(pairs$score - even), 0.01)
  ggplot2::ggplot(pairs, ggplot2::aes(x = .data$against, y = .data$player)) +
    ggplot2::geom_tile(ggplot2::aes(fill = .data$score), colour = "white", linewidth = 1) +
    ggplot2::geom_text(ggplot2::aes(label = .data$text), size = 3.6, lineheight = 1.1) +
    ggplot2::scale_fill_gradient2(low = "#e0a080", mid = "#f6f4ef", high = "#8fb5d6", midpoint = even,
                                  limits = even + c(-1, 1) * farthest, oob = scales::squish, guide = "none") +
    ggplot2::scale_x_discrete(position = "top", drop = FALSE) + ggplot2::scale_y_discrete(drop = FALSE) +
    ggplot2::labs(
      x = "against", y = NULL, title = meeting_title(players, score_of),
      subtitle = sprintf("What the player of a row has of %s at tables with that of a column; on average it is %s",
                         score_of, format_percent(even)),
      caption = wrapped(sprintf("%s; %s. Small: 95%% intervals.", sentence(in_words(object$provenance$experiment)),
                                run_in_words(object)))
    ) + figure_theme() + ggplot2::theme(panel.grid = ggplot2::element_blank())
}

meeting_title <- function(players, score_of) {
  best <- players[order(-players$estimate), ]
  sprintf("%s comes first with %s of %s", sentence(best$term[1]), format_percent(best$estimate[1]), score_of)
}
