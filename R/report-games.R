#' @export
report.habanera_counts_game <- function(x, file, title = NULL) {
  write_report(game_page, x, file, title, "How does the game go?")
}

#' @export
report.habanera_distribution_game <- function(x, file, title = NULL) {
  write_report(game_page, x, file, title, "How does the game go?")
}

#' @export
report.habanera_varied <- function(x, file, title = NULL) write_report(varied_page, x, file, title, "Which rules?")

game_page <- function(x, title) {
  summary <- summarise_game(x, rlang::quo(NULL), NULL)
  answer_page(x, title, summary, quantile_table(summary), htmltools::tags$h2("The rules"),
              rules_table(x$provenance$experiment))
}

quantile_table <- function(summary) {
  quantiles <- summary$quantiles
  if (is.null(quantiles)) return(NULL)
  interval <- sub("^95%: ", "", interval_in_words(quantiles$conf.low, quantiles$conf.high, format_statistic))
  interval[is.na(interval)] <- ""
  table <- data.frame(outcome = quantiles$column, `share of games` = format_percent(quantiles$p),
                      `up to` = format_statistic(quantiles$estimate), check.names = FALSE)
  if (summary$simulated) table[["95%"]] <- interval
  report_table(table, "Quantiles.")
}

rules_table <- function(game) {
  kind <- kind_of(game)
  values <- vapply(unclass(game$rules)[rule_names(kind)], rule_text, "")
  meaning <- vapply(kind$rules, `[[`, "", "meaning")
  report_table(data.frame(rule = names(values), value = unname(values), meaning = meaning),
               sprintf("The rules of %s as played.", kind$title), text = c("value", "meaning"))
}

varied_page <- function(x, title) {
  tags <- htmltools::tags
  game <- attr(x, "game")
  table <- varied_table(x)
  table[] <- lapply(table, as.character)
  code <- sprintf("x <- vary_rules(%s, %s, nsim = %s, seed = %s)", experiment_code(game)$r,
                  values_code(attr(x, "values")), whole_code(trial_count(attr(x, "counts")[[1]])),
                  whole_code(attr(x, "seed")))
  report_page(
    title,
    tags$h1(title),
    tags$p(class = "question", sprintf("%s, by other rules on the same deals.",
                                       sentence(game_in_words(game, attr(x, "rules"))))),
    report_figure(bare_figure(x), "The outcome against the rules.", "Lines: 95% intervals."),
    tags$h2("The numbers"),
    report_table(table, "A row for each combination of rules.", text = attr(x, "rules")),
    tags$h2("Do it again"),
    report_code("In R", c("library(habanera)", code, "report(x, \"report.html\")"))
  )
}

values_code <- function(values) {
  code <- vapply(values, function(each) {
    single <- all(vapply(each, function(value) is.atomic(value) && length(value) == 1, TRUE))
    if (single) rule_code(unlist(each)) else sprintf("list(%s)", paste(vapply(each, rule_code, ""), collapse = ", "))
  }, "")
  paste(names(values), "=", code, collapse = ", ")
}
