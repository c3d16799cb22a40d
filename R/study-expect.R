# What a study expects of its runs, and whether it came so.

# Conditions by run, as a data frame of `run` and `condition`.
checked_expectations <- function(expect, study) {
  place <- list(study = study, path = "expect")
  if (is.null(expect)) return(data.frame(run = character(), condition = character()))
  if (!is.list(expect) || is.null(names(expect))) refuse_at(place, "it holds conditions by the names of runs")
  rows <- lapply(names(expect), function(run) {
    refuse_unknown_run(run, study, inside(place, run))
    conditions <- unlist(expect[[run]])
    if (!is.character(conditions)) {
      refuse_at(inside(place, run), "a condition is a text, such as \"estimate < 0.02\", or a list of them")
    }
    for (condition in conditions) question_code(condition, inside(place, run))
    data.frame(run = run, condition = unname(conditions))
  })
  do.call(rbind, rows)
}

refuse_unknown_run <- function(run, study, place) {
  runs <- run_names(study)
  if (rlang::is_string(run) && run %in% runs) return(invisible())
  refuse_at(place, sprintf("there is no run %s%s There are %s", said(run), did_you_mean(run, runs),
                           join_some(runs, 12)))
}

run_names <- function(study) study$names$name[study$names$section == "runs"]

# Each condition with whether it `holds` ("yes", "no", "open") and what was `found`.
judged_expectations <- function(study, answers) {
  expected <- study$expect
  judged <- lapply(seq_len(nrow(expected)), function(i) {
    # A slip in a condition loses no answer.
    tryCatch(judged_condition(expected$condition[i], answers[[expected$run[i]]]$value),
             habanera_error = function(cnd) list(holds = "no", found = sub("[.]$", "", rlang::cnd_message(cnd))))
  })
  expected$holds <- vapply(judged, `[[`, "", "holds")
  expected$found <- vapply(judged, `[[`, "", "found")
  expected
}

judged_condition <- function(condition, value) {
  if (is.null(value)) return(list(holds = "open", found = "it is not answered yet"))
  expr <- parse_expression(condition, "expect", NULL)
  if (inherits(value, "habanera_counts_game")) return(judged_on_game(expr, value))
  names <- all.vars(expr)
  told <- answer_table(value)
  if (all(names %in% told[["term"]])) {
    terms <- told[told[["term"]] %in% names, , drop = FALSE]
    if (!anyDuplicated(terms[["term"]])) return(judged_on_terms(expr, terms))
  }
  table <- as.data.frame(generics::tidy(value))
  if (all(names %in% names(table))) return(judged_on_rows(expr, table))
  known <- unique(c(told[["term"]], names(table)))
  unknown <- setdiff(names, known)[1]
  if (is.na(unknown)) refuse("it names what several rows tell; name columns", "study", NULL)
  refuse(sprintf("it names %s%s It may name %s", quoted(unknown), did_you_mean(unknown, known), join_some(known, 12)),
         "study", NULL)
}

judged_on_game <- function(expr, counts) {
  expr <- checked_on_names(expr, estimate_names(with_ending(counts$provenance$experiment)), NULL,
                           "what can be expected of is", NULL)
  terms <- wished_estimates(expr, counts)
  list(holds = meets_wish(expr, counts, NULL), found = told_terms(terms))
}

judged_on_terms <- function(expr, table) {
  terms <- table[match(all.vars(expr), table[["term"]]), , drop = FALSE]
  # What is exact has no interval.
  for (end in c("conf.low", "conf.high")) {
    if (is.null(terms[[end]])) terms[[end]] <- NA_real_
    terms[[end]] <- ifelse(is.na(terms[[end]]), terms$estimate, terms[[end]])
  }
  list(holds = holds_over(expr, terms, NULL), found = told_terms(terms))
}

told_terms <- function(terms) {
  ends <- if (is.null(terms[["conf.low"]])) terms$estimate else terms$conf.low
  sure <- is.na(ends) | ends == terms$estimate
  values <- ifelse(sure, format_statistic(terms$estimate),
                   sprintf("%s (95%% %s to %s)", format_statistic(terms$estimate), format_statistic(terms$conf.low),
                           format_statistic(terms$conf.high)))
  values[is.infinite(terms$estimate)] <- "without end"
  join_words(sprintf("%s is %s", terms[["term"]], values))
}

judged_on_rows <- function(expr, table) {
  values <- lapply(table, function(column) if (is.factor(column)) as.character(column) else column)
  holds <- interpret(expr, list(values = values, rows = nrow(table)), NULL)
  # What has no value decides nothing.
  if (!is.logical(holds)) refuse("A condition must be true or false, such as \"p.value > 0.01\".", "study", NULL)
  wrong <- which(!holds)
  row <- if (length(wrong)) wrong[1] else 1
  shown <- table[row, intersect(all.vars(expr), names(table)), drop = FALSE]
  found <- join_words(sprintf("%s is %s", names(shown), vapply(shown, function(value) {
    if (is.numeric(value)) format_statistic(value) else as.character(value)
  }, "")))
  if (length(wrong)) {
    found <- sprintf("in %s %s", if (nrow(table) == 1) "it" else sprintf("row %s of %s", format_count(row),
                                                                         format_count(nrow(table))), found)
  } else if (nrow(table) > 1) found <- sprintf("in all of %s", count_of(nrow(table), "row"))
  list(holds = if (length(wrong)) "no" else if (anyNA(holds)) "open" else "yes", found = found)
}
