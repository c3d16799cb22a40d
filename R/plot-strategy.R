#' The figure of a strategy
#'
#' The grid of a [strategy_table()], coloured by what is done first, to be pinned to a wall.
#'
#' @param object A strategy.
#' @param ... Not used.
#' @return A ggplot object.
#' @examples
#' autoplot(player_basic())
#' @rawNamespace S3method(ggplot2::autoplot, habanera_strategy)
autoplot.habanera_strategy <- function(object, ...) {
  by_cards <- is_card_row(rownames(object$cells))
  cells <- object$cells[!by_cards, , drop = FALSE]
  table <- data.frame(hand = rep(rownames(cells), times = ncol(cells)), up = rep(colnames(cells), each = nrow(cells)),
                      entry = as.vector(cells))
  table <- table[!is.na(table[["entry"]]), ]
  table[["kind"]] <- factor(sub(" .*$", "", table[["hand"]]), c("hard", "soft", "pair"))
  table[["hand"]] <- factor(sub("^[a-z]+ ", "", table[["hand"]]), rev(unique(c(as.character(2:40), "A"))))
  table[["up"]] <- factor(table[["up"]], colnames(cells))
  table[["does"]] <- factor(strategy_moves[substr(table[["entry"]], 1, 1)], strategy_moves)
  ggplot2::ggplot(table, ggplot2::aes(x = .data$up, y = .data$hand)) +
    ggplot2::geom_tile(ggplot2::aes(fill = .data$does), colour = "white", linewidth = 0.8) +
    ggplot2::geom_text(ggplot2::aes(label = .data$entry), size = 3) +
    ggplot2::facet_wrap(ggplot2::vars(.data$kind), scales = "free_y") +
    ggplot2::scale_fill_manual(values = strategy_colours, name = "", drop = TRUE) +
    ggplot2::scale_x_discrete(position = "top") +
    ggplot2::labs(x = "the dealer's up card", y = NULL, title = sprintf("Strategy: %s", object$label),
                  subtitle = strategy_subtitle(object),
                  caption = strategy_caption(sum(by_cards))) +
    figure_theme() +
    ggplot2::theme(panel.grid = ggplot2::element_blank(), legend.position = "bottom", strip.placement = "outside")
}

strategy_caption <- function(rows_of_cards) {
  rest <- if (rows_of_cards > 0) sprintf(" Not drawn: %s of single hands.", count_of(rows_of_cards, "row"))
  paste0("After the stroke: what is done where the first is not allowed. A dash: by the total.", rest)
}

# What it keeps the house's edge to, where that is known.
strategy_subtitle <- function(object) {
  if (is.null(object$edge)) return(NULL)
  wrapped(sprintf("%s; %s.", sentence(edge_in_words(object$edge)), in_words(object$game)))
}

strategy_moves <- c(H = "hit", S = "stand", D = "double", P = "split", R = "surrender", "-" = "by the total")

strategy_colours <- c(hit = "#f2c9a8", stand = "#f3e7ae", double = "#a9cbe8", split = "#a8d8bd", surrender = "#d9c3dc",
                      `by the total` = "#ececec")
