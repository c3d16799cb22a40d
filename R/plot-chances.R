# How likely each move is, by what is seen.

most_views_drawn <- 40

#' @rdname autoplot.games
#' @rawNamespace S3method(ggplot2::autoplot, habanera_equilibrium)
autoplot.habanera_equilibrium <- function(object, ...) {
  grid <- class_grid(object$rows)
  if (!is.null(grid)) return(grid_figure(grid, in_words(object), object$game))
  # Of few hands each has a strip of its own.
  if (!is.null(object$categories) && length(unique(holding_parts(object$rows$sees)$holding)) > 26) {
    return(category_figure(object))
  }
  rows <- drawn_views(object$rows)
  data <- data.frame(seat = paste("seat", rows$seat), sees = factor(rows$sees, rev(unique(rows$sees))),
                     move = in_order(rows$move), chance = rows$chance)
  left_out <- nrow(unique(object$rows[c("seat", "sees")])) - nrow(unique(rows[c("seat", "sees")]))
  strips_figure(data) +
    ggplot2::labs(
      x = "chance of each move", y = NULL, title = wrapped(in_words(object), 90),
      caption = wrapped(paste0(object$game, if (left_out > 0) {
        sprintf("; %s that come least are left out", count_of(left_out, "view"))
      }, "."))
    )
}

move_colours <- function(moves) {
  if (moves > 8) ggplot2::scale_fill_viridis_d(name = "move") else
    ggplot2::scale_fill_manual(values = seat_colours(moves), name = "move")
}

#' @rdname autoplot.games
#' @rawNamespace S3method(ggplot2::autoplot, habanera_chance_table)
autoplot.habanera_chance_table <- function(object, ...) {
  grid <- class_grid(object$rows)
  if (!is.null(grid)) {
    return(grid_figure(grid, sprintf("How likely %s is to bet or call, hand by hand", object$label)))
  }
  rows <- object$rows
  if (is.null(rows$seat)) rows$seat <- 1
  rows$reached <- 1
  drawn <- drawn_views(rows)
  parts <- holding_parts(drawn$sees)
  told <- if (is.null(parts)) drawn$sees else {
    paste0(parts$holding, ifelse(nzchar(parts$actions), paste(", after", parts$actions), ""))
  }
  data <- data.frame(seat = if (length(unique(rows$seat)) > 1) paste("seat", drawn$seat) else "every seat",
                     sees = factor(told, rev(unique(told))), move = in_order(drawn$move), chance = drawn$chance)
  left_out <- nrow(unique(rows[c("seat", "sees")])) - nrow(unique(drawn[c("seat", "sees")]))
  strips_figure(data) +
    ggplot2::labs(x = "chance of each move", y = NULL, title = wrapped(sprintf("How %s plays", object$label), 90),
                  caption = if (left_out > 0) sprintf("%s are left out.", count_of(left_out, "row")))
}

strips_figure <- function(data) {
  ggplot2::ggplot(data, ggplot2::aes(x = .data$chance, y = .data$sees, fill = .data$move)) +
    ggplot2::geom_col(width = 0.7, position = ggplot2::position_stack(reverse = TRUE)) +
    ggplot2::facet_wrap(~seat, ncol = 2, scales = "free_y") +
    ggplot2::scale_x_continuous(labels = function(x) format_percent(x), expand = ggplot2::expansion(c(0, 0.02))) +
    move_colours(nlevels(data$move)) + figure_theme() + strips_theme()
}

strips_theme <- function() {
  ggplot2::theme(legend.position = "top", legend.justification = "left", panel.spacing.x = ggplot2::unit(2, "lines"),
                 panel.grid.major.y = ggplot2::element_blank())
}

# Hands of two cards of the standard deck before anything is turned: for each class how likely a seat is not to fold or
# check, by what was done before; NULL where a table tells of something else.
class_grid <- function(rows) {
  parts <- holding_parts(rows$sees)
  if (is.null(parts) || any(nzchar(parts$shared)) || length(unique(parts$actions)) > 4) return(NULL)
  classes <- lapply(unique(parts$holding), classes_of_text)
  if (any(vapply(classes, is.null, NA))) return(NULL)
  active <- ifelse(rows$move %in% c("fold", "check"), 0, rows$chance)
  seat <- if (is.null(rows$seat)) "" else paste0("seat ", rows$seat, ", ")
  where <- paste0(seat, ifelse(nzchar(parts$actions), paste("after", parts$actions), "first to speak"))
  sums <- stats::aggregate(list(chance = active), list(where = where, holding = parts$holding), sum)
  cells <- Map(function(row, class) cbind(where = sums$where[row], class, chance = sums$chance[row], row.names = NULL),
               seq_len(nrow(sums)), classes[match(sums$holding, unique(parts$holding))])
  cells <- do.call(rbind, cells)
  # Of rows that tell of the same hand, which no game takes, the first is drawn.
  cells[!duplicated(cells[c("where", "high", "low", "suited")]), , drop = FALSE]
}

# The classes of two cards that a text stands for, as `high` and `low` ranks and whether they are `suited`.
classes_of_text <- function(text) {
  ranked <- ranked_cards(deck_standard(), hand_rules(), NULL)
  cards <- strsplit(text, " ", fixed = TRUE)[[1]]
  codes <- match(cards, catalogue_of(deck_standard())$data$card)
  hands <- if (length(cards) == 2 && !anyNA(codes)) list(codes) else hands_of_class(text, ranked, 2)
  if (!length(hands)) return(NULL)
  at <- vapply(hands, function(hand) match(hand, ranked$codes), numeric(2))
  ranks <- matrix(ranked$rank[at], 2)
  suits <- matrix(ranked$suit[at], 2)
  unique(data.frame(high = pmax(ranks[1, ], ranks[2, ]), low = pmin(ranks[1, ], ranks[2, ]),
                    suited = suits[1, ] == suits[2, ]))
}

# Suited hands lie above the pairs, others below.
grid_figure <- function(grid, title, game = NULL) {
  names <- ranked_cards(deck_standard(), hand_rules(), NULL)$ranks
  place <- function(rank) factor(names[rank], rev(names))
  data <- data.frame(where = grid$where, column = place(ifelse(grid$suited, grid$low, grid$high)),
                     row = factor(names[ifelse(grid$suited, grid$high, grid$low)], names), chance = grid$chance)
  ggplot2::ggplot(data, ggplot2::aes(x = .data$column, y = .data$row, fill = .data$chance)) +
    ggplot2::geom_tile(colour = "white", linewidth = 0.6) +
    ggplot2::geom_text(ggplot2::aes(label = grid_text(.data$chance)), size = 2.8) +
    ggplot2::facet_wrap(~where) + ggplot2::coord_fixed() +
    ggplot2::scale_fill_gradient(low = "#f6f4ef", high = "#8fb5d6", limits = c(0, 1), name = "chance",
                                 labels = function(x) format_percent(x)) +
    ggplot2::scale_x_discrete(position = "top", drop = FALSE) + ggplot2::scale_y_discrete(drop = FALSE) +
    ggplot2::labs(x = NULL, y = NULL, title = wrapped(title, 90), subtitle = if (!is.null(game)) wrapped(game),
                  caption = "Above the pairs hands of one suit, below them of two; the rest is folded or checked.") +
    figure_theme() + ggplot2::theme(panel.grid = ggplot2::element_blank())
}

# What a seat does with hands of each category, a strip for each; as wide as its chances, as strong as it comes often.
category_figure <- function(object) {
  shares <- as.data.frame(summary(object, "category"))
  moves <- setdiff(names(shares), c("seat", "actions", "category", "share"))
  where <- sprintf("seat %s, %s", format_count(shares$seat),
                   ifelse(nzchar(shares$actions), paste("after", shares$actions), "first to speak"))
  come <- tapply(shares$share, where, sum)
  drawn <- names(utils::head(sort(come, decreasing = TRUE), most_courses_drawn))
  data <- do.call(rbind, lapply(moves, function(move) {
    data.frame(where = where, category = shares$category, share = shares$share, move = move, chance = shares[[move]])
  }))
  data <- data[!is.na(data$chance) & data$where %in% drawn, ]
  data$move <- in_order(data$move)
  data$category <- factor(data$category, levels(shares$category)[levels(shares$category) %in% data$category])
  data$where <- factor(data$where, unique(where))
  left_out <- length(come) - length(drawn)
  ggplot2::ggplot(data, ggplot2::aes(x = .data$chance, y = .data$category, fill = .data$move)) +
    ggplot2::geom_col(width = 0.75, position = ggplot2::position_stack(reverse = TRUE)) +
    ggplot2::facet_wrap(~where, ncol = 2) + ggplot2::scale_y_discrete(limits = rev) +
    ggplot2::scale_x_continuous(labels = function(x) format_percent(x), expand = ggplot2::expansion(c(0, 0.02))) +
    move_colours(nlevels(data$move)) + figure_theme() + strips_theme() +
    ggplot2::labs(x = "chance of each move", y = NULL, title = wrapped(in_words(object), 70),
                  caption = wrapped(paste0(object$game, if (left_out > 0) {
                    sprintf("; %s that come least are left out",
                            count_of(left_out, "course of moves", "courses of moves"))
                  }, ".")))
}
most_courses_drawn <- 8

grid_text <- function(chance) {
  ifelse(chance < 0.005, "", ifelse(chance > 0.995, "all", sprintf("%.0f%%", 100 * chance)))
}

# Those that come most, in their order.
drawn_views <- function(rows) {
  keys <- paste(rows$seat, rows$sees, sep = "\r")
  seen <- tapply(rows$reached, keys, max)
  kept <- names(utils::head(sort(seen, decreasing = TRUE), most_views_drawn))
  rows[keys %in% kept, ]
}
