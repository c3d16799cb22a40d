# Pages of counted cards.

#' @export
page_parts.habanera_comparison <- function(x) page_parts(x$counts)

# Counts of no cards: what a retry loop costs.
#' @export
page_parts.habanera_counts_retry_cost <- function(x) parts_told(x)

#' @export
page_parts.habanera_counts <- function(x) {
  summary <- summarise_draws(x, NULL)
  hands <- if (!is.null(summary$hands)) {
    report_table(printed_hand_tests(summary$hands$tests), "What hands are, beside what fair ones would be.")
  }
  new_parts(
    about = paste0(sentence(summary$question), "."),
    answer = c(verdict_in_words(summary), hands_notes(summary), range_line(summary$table),
               unseen_in_words(summary$unseen)),
    surprise = verdict(summary) == "biased",
    figures = list(report_figure(bare_figure(x), draw_figure_alt(x, summary), draw_figure_caption(x))),
    sections = list(Hands = hands, Counts = draw_report_table(summary),
                    `How it was judged` = htmltools::tags$p(judged_in_words(x))),
    settings = draw_report_settings(x), code = code_of(x)
  )
}

# The whole table, or its worst rows when it is long.
draw_report_table <- function(summary) {
  table <- summary$table
  body <- table[-nrow(table), , drop = FALSE]
  if (nrow(body) <= most_cards_listed) {
    return(report_table(printed_table(table), "Each row beside what a fair draw gives."))
  }
  worst <- worst_cells(body, 30)
  report_table(printed_table(worst), sprintf("The %d rows furthest from what is expected, of %s.",
                                             nrow(worst), format_count(nrow(body))))
}

most_cards_listed <- 120

judged_in_words <- function(x) {
  law <- fair_law(x$provenance$experiment, kinds_of(x$provenance$experiment$deck)$copies)
  paste(
    "With O the count and E what is expected, the statistic is the sum of (O - E)\u00b2/E times",
    sprintf("%s, because the cards of one trial exclude each other;", format_number(law$factor, 4)),
    sprintf("for fair draws it has the chi-square law on %s degrees of freedom.", format_count(law$df)),
    "z is the deviation in standard deviations of the exact law. A p-value below 0.01 is called a",
    "bias: of a hundred fair runs one is called so by chance."
  )
}

draw_report_settings <- function(x) {
  from <- x$provenance
  ranges <- sprintf("%s to %s", format_count(from$trials$first), format_count(from$trials$last))
  list(
    Deck = sentence(deck_in_words(from$experiment$deck)),
    Seed = if (!is.null(from$seed)) whole_code(from$seed),
    Trials = join_words(ranges),
    `Cards a trial` = format_count(from$entries),
    Source = from$source,
    Version = sprintf("habanera %s, %s", from$version, R.version.string)
  )
}

draw_figure_alt <- function(x, summary) {
  if (inherits(x, "habanera_counts_positions")) {
    return(paste("Heat map of how far each card at each position is from what is expected, in",
                 "standard deviations.", range_line(summary$table)))
  }
  outside <- draw_figure_data(x)
  outside <- outside$card[outside$outside]
  paste(
    "Dot plot of how often each card came, on bands of fair counts.", range_line(summary$table),
    if (length(outside)) sprintf("Outside the bands: %s.", join_some(outside, 8)) else
      "None lies outside the wider band."
  )
}
