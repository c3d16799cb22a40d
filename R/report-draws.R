#' Reports
#'
#' Writes one self-contained HTML page (no network needed): the question in words, the verdict, figures,
#' the table, the settings, and the R and shell commands that reproduce it.
#'
#' @param x A result of any kind.
#' @param file Path of the page; written whole or not at all.
#' @param title Title of the page; `NULL`: the question.
#' @return `file`, invisibly.
#' @examples
#' x <- simulate(draws(deck_standard(), 5), nsim = 1e4, seed = 1)
#' report(x, tempfile(fileext = ".html"))
#' @export
report <- function(x, file, title = NULL) {
  check_given()
  UseMethod("report")
}

#' @export
report.default <- function(x, file, title = NULL) {
  refuse(sprintf("`x` must be a result, such as counts, a comparison, varied rules or an audit, not %s.", said(x)))
}

#' @export
report.habanera_comparison <- function(x, file, title = NULL) report(x$counts, file, title)

#' @export
report.habanera_counts <- function(x, file, title = NULL) {
  write_report(draw_report_page, x, file, title, "Does each card come up as often as it should?")
}

# page(x, title) makes the lines of a page.
write_report <- function(page, x, file, title, usual_title, call = rlang::caller_env()) {
  check_string(file, "file", call)
  title <- if (is.null(title)) usual_title else check_string(title, "title", call)
  write_lines_whole(page(x, title), file, call)
}

draw_report_page <- function(x, title) {
  tags <- htmltools::tags
  summary <- summarise_draws(x, NULL)
  report_page(
    title,
    tags$h1(title),
    tags$p(class = "question", paste0(sentence(summary$question), ".")),
    draw_report_verdict(x, summary),
    report_figure(bare_figure(x), draw_figure_alt(x, summary), draw_figure_caption(x)),
    if (!is.null(summary$hands)) list(
      tags$h2("Hands"),
      report_table(printed_hand_tests(summary$hands$tests), "What hands are, beside what fair ones would be.")
    ),
    tags$h2("Counts"),
    draw_report_table(x, summary),
    tags$h2("How it was judged"),
    tags$p(judged_in_words(x)),
    tags$h2("Settings"),
    draw_report_settings(x),
    draw_report_code(x)
  )
}

draw_report_verdict <- function(x, summary) {
  htmltools::tags$div(
    class = paste("verdict", if (verdict(summary) == "biased") "surprise"),
    htmltools::tags$p(htmltools::tags$strong(verdict_in_words(summary))),
    lapply(hands_notes(summary), htmltools::tags$p),
    htmltools::tags$p(range_line(summary$table)),
    lapply(unseen_in_words(summary$unseen), htmltools::tags$p)
  )
}

rows_in_report <- 120

# The whole table, or its worst rows when it is long.
draw_report_table <- function(x, summary) {
  table <- summary$table
  body <- table[-nrow(table), , drop = FALSE]
  if (nrow(body) <= rows_in_report) {
    return(report_table(printed_table(table), "Each row beside what a fair draw gives."))
  }
  worst <- worst_cells(body, 30)
  report_table(printed_table(worst), sprintf("The %d rows furthest from what is expected, of %s.",
                                             nrow(worst), format_count(nrow(body))))
}

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
  report_settings(
    Deck = sentence(deck_in_words(from$experiment$deck)),
    Seed = if (!is.null(from$seed)) whole_code(from$seed),
    Trials = join_words(ranges),
    `Cards a trial` = format_count(from$entries),
    Source = from$source,
    Version = sprintf("habanera %s, %s", from$version, R.version.string)
  )
}

draw_report_code <- function(x) {
  code <- code_of(x)
  if (is.null(code$r) && is.null(code$shell)) return(NULL)
  htmltools::tagList(
    htmltools::tags$h2("Do it again"),
    report_code("In R", if (!is.null(code$r)) c("library(habanera)", code$r,
                                                "report(x, \"report.html\")")),
    report_code("In the shell", if (!is.null(code$shell)) paste(code$shell, "--report report.html"))
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
