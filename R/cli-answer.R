# How the shell answers a question or plays a game, writes what was found and judges what was expected.

# Answers, writes and judges: `given` is an expression or NULL.
write_answer <- function(question, options, command, given, expectation) {
  write_answered(shell_answer(question, options, command), options, given, expectation)
}

write_answered <- function(answer, options, given, expectation) {
  summary <- summary(answer, given = !!rlang::new_quosure(given, emptyenv()))
  lines <- switch(result_format(options), text = printed_lines(summary, options$out), csv = csv_lines(answer),
                  json = json_lines(answer))
  write_pictures(answer, options)
  emit_result(answer, lines, options)
  expected_status(expectation, expected_terms(answer, summary, expectation))
}

expected_terms <- function(answer, summary, expectation) {
  if (!is_game_result(answer) || is.null(expectation)) return(tidy(summary))
  endless_estimates(answer, all.vars(expectation$expr))
}

# A condition on outcome columns, its names checked before anything is played; NULL when none is given.
read_given <- function(text, known) {
  if (is.null(text)) return(NULL)
  checked_on_names(parse_expression(text, "--given", NULL), known, NULL, "the outcome columns are", NULL)
}

# A condition on estimates, checked before anything is played; NULL when none is given.
read_expectation <- function(text, known) {
  if (is.null(text)) return(NULL)
  expr <- checked_on_names(parse_expression(text, "--expect", NULL), known, NULL, "what can be expected of is", NULL)
  expectation <- list(text = text, expr = expr)
  expectation_holds(expectation, rlang::rep_named(known, list(0.5)))
  expectation
}

expectation_holds <- function(expectation, values) {
  holds <- interpret(expectation$expr, list(values = values, rows = 1), NULL)
  if (is.logical(holds) && length(holds) == 1 && !is.na(holds)) return(holds)
  refuse(sprintf("`--expect` must be a condition such as 'two_up < 0.05', not %s.", quoted(expectation$text)), "usage",
         call = NULL)
}

expected_status <- function(expectation, estimates) {
  if (is.null(expectation)) return(exit_status[["done"]])
  values <- as.list(rlang::set_names(estimates$estimate, estimates$term))
  lacking <- Filter(function(name) is.na(values[[name]]), intersect(all.vars(expectation$expr), names(values)))
  if (length(lacking)) refuse(sprintf("`%s` has no value here, so nothing can be expected of it.", lacking[1]), "value")
  if (expectation_holds(expectation, values)) return(exit_status[["done"]])
  used <- intersect(all.vars(expectation$expr), names(values))
  cat(sprintf("habanera: expected %s, but %s.\n", expectation$text,
              paste(used, "is", format_statistic(unlist(values[used])), collapse = ", ")), file = stderr())
  exit_status[["expectation_failed"]]
}

# The answer, exact or simulated.
shell_answer <- function(question, options, command) {
  if (!options$exact) return(simulate_for_shell(question, options, estimate_names(question)[1]))
  given <- c("checkpoint", "precision", "seed")
  given <- given[!vapply(options[given], is.null, TRUE)]
  if (length(given)) refuse_usage(command, sprintf("--exact plays no trials: no --%s.", given[1]))
  exact(question)
}

# A result of a game: its conditions may name quantiles.
is_game_result <- function(x) inherits(x, c("habanera_counts_game", "habanera_distribution_game"))
