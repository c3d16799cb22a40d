# Pages of questions: what was asked of a draw or a game, beside what is known exactly.

#' @export
page_parts.habanera_counts_outcomes <- function(x) question_parts(x)

#' @export
page_parts.habanera_counts_kept <- function(x) question_parts(x)

#' @export
page_parts.habanera_distribution_outcomes <- function(x) question_parts(x)

question_parts <- function(x) answer_parts(x, summarise_outcomes(x, rlang::quo(NULL), NULL))

# `more` are further sections.
answer_parts <- function(x, summary, more = list()) {
  lines <- summary_lines(summary)
  head <- if (is.null(summary$head)) lines else summary$head
  numbers <- list(if (!is.null(summary$head)) lapply(setdiff(lines, head), htmltools::tags$p),
                  question_tables(summary))
  new_parts(
    about = paste0(sentence(in_words(x$provenance$experiment)), "."), answer = head, surprise = disagrees(summary),
    figures = list(report_figure(bare_figure(x), paste(c("Distribution of the outcomes.", lines), collapse = " "),
                                 figure_note(summary))),
    sections = c(list(`The numbers` = numbers), more), settings = result_settings(x),
    code = if (inherits(x, "habanera_counts")) code_of(x) else exact_code(x$provenance$experiment)
  )
}

figure_note <- function(summary) {
  if (summary$simulated) "Bars or bands: simulated, with 95% intervals. Points: exact, where known." else "Exact."
}

disagrees <- function(summary) summary$simulated && isFALSE(agrees(summary$estimates))

most_values_listed <- 120

question_tables <- function(summary) {
  tables <- list(printed_values(summary, most_values_listed))
  lapply(Filter(Negate(is.null), tables), function(table) {
    table[] <- lapply(table, as.character)
    report_table(table, if (summary$simulated) "Simulated, beside exact where known." else "Exact.")
  })
}

result_settings <- function(x) {
  from <- x$provenance
  deck <- if (is.null(from$experiment$whole)) from$experiment$deck else from$experiment$whole
  list(
    Deck = if (!is.null(deck)) sentence(deck_in_words(deck)), Seed = if (!is.null(from$seed)) whole_code(from$seed),
    Trials = if (!is.null(from$trials)) join_words(sprintf("%s to %s", format_count(from$trials$first),
                                                           format_count(from$trials$last))),
    Source = if (is.null(from$trials)) "exact answer" else from$source,
    Version = sprintf("habanera %s, %s", from$version, R.version.string)
  )
}

exact_code <- function(experiment) {
  code <- experiment_code(experiment)
  list(r = sprintf("x <- exact(%s)", code$r), shell = if (!is.null(code$shell)) paste(code$shell, "--exact"))
}
