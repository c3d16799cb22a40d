# Pages of results that need no page of their own: what they say, the figure, the table, and how they were made.

#' @export
report.habanera_result <- function(x, file, title = NULL) {
  write_report(found_page, x, file, title, "What was found?")
}

#' @export
report.habanera_counts_pairs <- function(x, file, title = NULL) {
  from <- x$provenance
  code <- sprintf("x <- compare(%s, nsim = %s, seed = %s)", experiment_code(from$experiment)$r,
                  whole_code(trial_count(x)), whole_code(from$seed))
  write_report(function(x, title) found_page(x, title, code), x, file, title, "What do the other rules change?")
}

#' @export
report.habanera_impact <- function(x, file, title = NULL) {
  counts <- attr(x, "counts")
  from <- counts$provenance$experiment
  code <- sprintf("x <- card_impact(%s, %s, %s, seat = %s, nsim = %s, seed = %s)", experiment_code(from$game)$r,
                  as_code(from$attribute), as_code(from$outcome), whole_code(from$seat),
                  whole_code(trial_count(counts)), whole_code(counts$provenance$seed))
  write_report(function(x, title) found_page(x, title, code), x, file, title, "What is a card worth?")
}

#' @export
report.habanera_counts_meeting <- function(x, file, title = NULL) {
  from <- x$provenance
  code <- sprintf("x <- round_robin(%s, nsim = %s, seed = %s)", experiment_code(from$experiment)$r,
                  whole_code(trial_count(x)), whole_code(from$seed))
  write_report(function(x, title) found_page(x, title, code), x, file, title, "Who beats whom?")
}

#' @export
report.habanera_equilibrium <- function(x, file, title = NULL) {
  write_report(found_page, x, file, title, "What is sound play?")
}

#' @export
report.habanera_payout <- function(x, file, title = NULL) {
  write_report(found_page, x, file, title, "What does it pay?")
}

#' @export
report.habanera_convergence <- function(x, file, title = NULL) {
  write_report(found_page, x, file, title, "Has it settled?")
}

#' @export
report.habanera_copies <- function(x, file, title = NULL) {
  write_report(found_page, x, file, title, "How many copies?")
}

#' @export
report.habanera_counts_retry_cost <- function(x, file, title = NULL) {
  write_report(found_page, x, file, title, "What does a retry loop cost?")
}

found_page <- function(x, title, code = NULL) {
  tags <- htmltools::tags
  report_page(
    title,
    tags$h1(title),
    tags$div(class = "verdict", tags$p(in_words(x))),
    if (has_figure(x)) report_figure(bare_figure(x), paste("The same as a figure:", title)),
    tags$h2("The numbers"),
    found_table(x),
    report_code("Do it again", if (!is.null(code)) c("library(habanera)", code, "report(x, \"report.html\")"))
  )
}

found_table <- function(x) {
  moves <- inherits(x, c("habanera_equilibrium", "habanera_best_play")) && !is.null(x[["rows"]])
  if (moves) return(report_table(chances_by_move(x[["rows"]]), "The chance of each move, by what is seen.", "sees"))
  table <- tidy(x)
  text <- names(table)[!vapply(table, is.numeric, NA)]
  table[] <- lapply(table, function(column) {
    ifelse(is.na(column), "", if (is.numeric(column)) format_statistic(column) else as.character(column))
  })
  if (nrow(table)) report_table(table, "What tidy() gives.", text = text)
}
