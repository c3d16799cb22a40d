#' @rdname autoplot
#' @rawNamespace S3method(ggplot2::autoplot, habanera_payout)
autoplot.habanera_payout <- function(object, ...) {
  lines <- object$lines[object$lines$contribution > 0, , drop = FALSE]
  # What pays most stands above.
  lines <- lines[order(lines$pays), , drop = FALSE]
  lines$line <- in_order(pay_line_words(lines$line))
  widest <- max(lines$contribution, 0) / object$stake
  lines$note <- sprintf("%s of plays, pays %s", format_percent(lines$chance), vapply(lines$pays, format_money, ""))
  ggplot2::ggplot(lines, ggplot2::aes(x = .data$contribution / object$stake, y = .data$line)) +
    ggplot2::geom_col(fill = figure_colours[["data"]], width = 0.65) +
    ggplot2::geom_text(ggplot2::aes(label = .data$note), hjust = 0, nudge_x = widest * 0.01,
                       size = 3.8, colour = figure_colours[["text"]]) +
    ggplot2::scale_x_continuous(labels = function(p) format_percent(p), expand = ggplot2::expansion(c(0, 0.35))) +
    ggplot2::labs(title = "What each line hands back", x = "share of the stake", y = NULL,
                  subtitle = paste(strwrap(payout_sentences(object)[1], 100), collapse = "\n"),
                  caption = wrapped(sprintf("%s; %s.", sentence(object$question), object$words))) +
    figure_theme() + ggplot2::theme(panel.grid.major.y = ggplot2::element_blank())
}

# "alike = 3" as "three alike", "kind = flush" as "flush", "two_up = TRUE" as "two up".
pay_line_words <- function(lines) {
  word <- function(part) {
    sides <- strsplit(part, " = ", fixed = TRUE)[[1]]
    if (length(sides) != 2) return(part)
    name <- gsub("_", " ", sides[1])
    count <- written_numbers(sides[2])
    if (sides[2] == "TRUE") return(name)
    if (sides[2] == "FALSE") return(paste("not", name))
    if (is.na(count)) return(sides[2])
    paste(if (count %in% seq_along(number_words)) number_words[count] else sides[2], name)
  }
  make.unique(vapply(strsplit(lines, ", ", fixed = TRUE), function(parts) {
    paste(vapply(parts, word, ""), collapse = ", ")
  }, ""))
}

#' @rdname autoplot
#' @rawNamespace S3method(ggplot2::autoplot, habanera_copies)
autoplot.habanera_copies <- function(object, column = NULL, ...) {
  terms <- unique(object$term)
  if (!is.null(column)) terms <- check_choice(column, terms)
  data <- as.data.frame(object)[object$term %in% terms, , drop = FALSE]
  if (!is.null(data[["turn"]])) data <- last_turn(data)
  data$term <- factor(data$term, levels = terms)
  figure <- if ("copies_2" %in% names(data)) copies_tiles(data, object) else copies_lines(data, object)
  instead <- attr(object, "instead_of")
  figure + ggplot2::facet_wrap(ggplot2::vars(.data$term), scales = if (is.null(data$copies_2)) "free_y" else "fixed") +
    ggplot2::labs(
      title = "How many copies?", x = copies_axis(object, 1),
      subtitle = if (is.null(instead)) "The deck grows with every copy." else {
        sprintf("Every copy takes the place of a %s.", instead)
      },
      caption = wrapped(sprintf("%s; exact. %s", sentence(attr(object, "question")), "Marked: as the deck is now."))
    ) + figure_theme()
}

copies_axis <- function(x, i) {
  sprintf("copies of %s (now %s)", attr(x, "card")[i], format_count(attr(x, "deck_now")[i]))
}

copies_lines <- function(data, x) {
  now <- data[data[["copies"]] == attr(x, "deck_now")[1], , drop = FALSE]
  ggplot2::ggplot(data, ggplot2::aes(x = .data[["copies"]], y = .data$estimate)) +
    ggplot2::geom_line(colour = figure_colours[["data"]], linewidth = 0.8) +
    ggplot2::geom_point(colour = figure_colours[["data"]], size = 2.2) +
    ggplot2::geom_point(data = now, colour = figure_colours[["surprise"]], size = 3.6) +
    (if (length(unique(data[["copies"]])) <= 12) {
      ggplot2::geom_text(ggplot2::aes(label = format_number(.data$estimate, 3)), vjust = -1, size = 3.4,
                         colour = figure_colours[["text"]])
    }) +
    ggplot2::scale_x_continuous(breaks = whole_breaks) +
    ggplot2::scale_y_continuous(limits = c(0, NA), labels = function(y) format_number(y, 2),
                                expand = ggplot2::expansion(c(0.05, 0.1))) +
    ggplot2::labs(y = NULL)
}

copies_tiles <- function(data, x) {
  now <- data[data[["copies"]] == attr(x, "deck_now")[1] & data$copies_2 == attr(x, "deck_now")[2], , drop = FALSE]
  data$dark <- data$estimate > stats::weighted.mean(range(data$estimate), c(1, 2))
  ggplot2::ggplot(data, ggplot2::aes(x = factor(.data[["copies"]]), y = factor(.data$copies_2),
                                     fill = .data$estimate)) +
    ggplot2::geom_tile(colour = "white") +
    ggplot2::geom_tile(data = now, colour = figure_colours[["surprise"]], linewidth = 1.2) +
    ggplot2::geom_text(ggplot2::aes(label = format_number(.data$estimate, 2), colour = .data$dark), size = 3.6) +
    ggplot2::scale_fill_gradient(low = "#EAF2F8", high = figure_colours[["data"]], name = "") +
    ggplot2::scale_colour_manual(values = c(`FALSE` = figure_colours[["text"]], `TRUE` = "white"), guide = "none") +
    ggplot2::labs(y = copies_axis(x, 2))
}

#' @rdname autoplot
#' @rawNamespace S3method(ggplot2::autoplot, habanera_convergence)
autoplot.habanera_convergence <- function(object, ...) {
  exact <- object$exact[1]
  ggplot2::ggplot(plain_table(object), ggplot2::aes(x = .data$trials, y = .data$estimate)) +
    interval_band(object, fill = figure_colours[["band"]]) +
    (if (!is.na(exact)) ggplot2::geom_hline(yintercept = exact, colour = figure_colours[["surprise"]],
                                            linetype = "dashed")) +
    ggplot2::geom_line(colour = figure_colours[["data"]], linewidth = 0.8) +
    ggplot2::scale_x_log10(labels = format_count) +
    ggplot2::scale_y_continuous(labels = function(y) format_number(y, 3)) +
    ggplot2::labs(title = sprintf("How the estimate of %s settles", attr(object, "term")), x = "trials", y = NULL,
                  subtitle = settled_in_words(object), caption = wrapped(sprintf(
                    "%s; seed %s. Band: 95%%. Dashed: exact.", sentence(attr(object, "question")),
                      whole_code(attr(object, "seed"))))) +
    figure_theme()
}
