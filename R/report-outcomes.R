#' @export
report.habanera_counts_outcomes <- function(x, file, title = NULL) {
  write_report(question_page, x, file, title, "What comes off the top?")
}

#' @export
report.habanera_counts_kept <- function(x, file, title = NULL) {
  write_report(question_page, x, file, title, "What came of it?")
}

#' @export
report.habanera_distribution_outcomes <- function(x, file, title = NULL) {
  write_report(question_page, x, file, title, "What comes off the top?")
}

question_page <- function(x, title) answer_page(x, title, summarise_outcomes(x, rlang::quo(NULL), NULL))

# `...` are further sections.
answer_page <- function(x, title, summary, ...) {
  tags <- htmltools::tags
  lines <- summary_lines(summary)
  report_page(
    title,
    tags$h1(title),
    tags$p(class = "question", paste0(sentence(in_words(x$provenance$experiment)), ".")),
    tags$div(class = paste("verdict", if (disagrees(summary)) "surprise"),
             lapply(if (is.null(summary$head)) lines else summary$head, tags$p)),
    report_figure(bare_figure(x), paste(c("Distribution of the outcomes.", lines), collapse = " "),
                  figure_note(summary)),
    tags$h2("The numbers"),
    if (!is.null(summary$head)) lapply(setdiff(lines, summary$head), tags$p),
    question_tables(summary),
    ...,
    tags$h2("Settings"),
    result_settings(x),
    question_code_section(x)
  )
}

figure_note <- function(summary) {
  if (summary$simulated) "Bars or bands: simulated, with 95% intervals. Points: exact, where known." else "Exact."
}

disagrees <- function(summary) summary$simulated && isFALSE(agrees(summary$estimates))

question_tables <- function(summary) {
  tables <- list(printed_values(summary, rows_in_report))
  lapply(Filter(Negate(is.null), tables), function(table) {
    table[] <- lapply(table, as.character)
    report_table(table, if (summary$simulated) "Simulated, beside exact where known." else "Exact.", text = "value")
  })
}

result_settings <- function(x) {
  from <- x$provenance
  deck <- if (is.null(from$experiment$whole)) from$experiment$deck else from$experiment$whole
  report_settings(
    Deck = if (!is.null(deck)) sentence(deck_in_words(deck)), Seed = if (!is.null(from$seed)) whole_code(from$seed),
    Trials = if (!is.null(from$trials)) join_words(sprintf("%s to %s", format_count(from$trials$first),
                                                           format_count(from$trials$last))),
    Source = if (is.null(from$trials)) "exact answer" else from$source,
    Version = sprintf("habanera %s, %s", from$version, R.version.string)
  )
}

question_code_section <- function(x) {
  code <- if (inherits(x, "habanera_counts")) code_of(x) else exact_code(x$provenance$experiment)
  # Of code of one's own that no file brought back there is none.
  if (is.null(code$r)) return(NULL)
  htmltools::tagList(
    htmltools::tags$h2("Do it again"),
    report_code("In R", c("library(habanera)", code$r, "report(x, \"report.html\")")),
    report_code("In the shell", if (!is.null(code$shell)) paste(code$shell, "--report report.html"))
  )
}

exact_code <- function(experiment) {
  code <- experiment_code(experiment)
  list(r = sprintf("x <- exact(%s)", code$r), shell = if (!is.null(code$shell)) paste(code$shell, "--exact"))
}
