# The answers of a study: a result of many results.

study_answers <- function(job) {
  plan <- job$plan
  answers <- rlang::set_names(lapply(plan$variable, function(variable) {
    answer <- job$answers[[variable]]
    if (is.null(answer)) list(state = "left") else answer
  }), plan$name)
  field <- function(name) {
    vapply(answers, function(answer) if (is.null(answer[[name]])) "" else answer[[name]], "", USE.NAMES = FALSE)
  }
  values <- lapply(answers, `[[`, "value")
  runs <- data.frame(run = plan$name, state = field("state"), key = plan$key, problem = field("problem"),
                     words = vapply(values, function(value) if (is.null(value)) "" else answer_in_words(value), "",
                                    USE.NAMES = FALSE))
  structure(list(study = job$study, folder = job$folder, part = job$part, runs = runs, values = values,
                 expected = if (is.null(job$part)) judged_expectations(job$study, answers),
                 changes = NULL), class = result_class("habanera_study_answers"))
}

answer_in_words <- function(value) {
  if (inherits(value, "habanera_result")) answer_alone(value) else sprintf("%s, as a table.", sentence(value$label))
}

#' @export
tell.habanera_study_answers <- function(x, ...) {
  cat_wrapped(sprintf("%s: %s", x$study$title, done_in_words(x)))
  width <- getOption("width")
  for (i in seq_len(nrow(x$runs))) {
    run <- x$runs[i, ]
    said <- switch(run$state, done = run$words, failed = paste("failed:", run$problem),
                   part = "its part is played", left = "left")
    writeLines(strwrap(gsub("[[:space:]]+", " ", sprintf("%s: %s", run$run, said)), width, exdent = 2))
  }
  if (NROW(x$expected)) writeLines(c("", strwrap(expectations_in_words(x$expected), width, exdent = 2)))
  if (NROW(x$changes)) writeLines(c("", strwrap(changed_answers_in_words(x$changes), width, exdent = 2)))
  writeLines(c("", strwrap(sprintf("Kept in %s.", x$folder), width, exdent = 2)))
  invisible(x)
}

done_in_words <- function(x) {
  states <- table(factor(x$runs$state, c("done", "failed", "part", "left")))
  part <- if (!is.null(x$part)) sprintf("part %s of %s; ", whole_text(x$part$k), whole_text(x$part$n))
  told <- c(sprintf("%s of %s answered", format_count(states[["done"]]), count_of(nrow(x$runs), "run")),
            if (states[["part"]]) sprintf("%s played in part", format_count(states[["part"]])),
            if (states[["failed"]]) sprintf("%s failed", format_count(states[["failed"]])),
            if (states[["left"]]) sprintf("%s left", format_count(states[["left"]])),
            if (any(x$expected$holds == "no")) sprintf("%s not met", count_of(sum(x$expected$holds == "no"),
                                                                              "expectation")))
  paste0(part, paste(told, collapse = ", "), ".")
}

expectations_in_words <- function(expected) {
  met <- c(yes = "holds", no = "does not hold", open = "is open")
  sprintf("Expected of %s, %s: it %s; %s.", expected$run, expected$condition, met[expected$holds], expected$found)
}

#' @rawNamespace S3method(generics::tidy, habanera_study_answers)
tidy.habanera_study_answers <- function(x, ...) joined_tables(lapply(x$values, answer_table))

# What tidy() tells of an answer, in the one shape that all answers have: a row for each number, with what tells its row
# apart (`what`), what number it is (`term`), and its error and interval, where it has them.
answer_table <- function(value) {
  if (is.null(value)) return(NULL)
  table <- plain_table(as.data.frame(generics::tidy(value)))
  table <- table[vapply(table, function(column) is.atomic(column) || is.factor(column), NA)]
  # Its rows are bets.
  if (inherits(value, "habanera_edge")) table <- cbind(bet = table[["term"]], within(table, term <- "edge"))
  keys <- telling_columns(table)
  estimates <- all(c("term", "estimate") %in% names(table)) && is.numeric(table$estimate)
  what <- rows_in_words(table[setdiff(keys, if (estimates) "term")])
  if (estimates) {
    rest <- intersect(setdiff(estimate_columns, "term"), names(table))
    return(data.frame(what = what, term = as.character(table[["term"]]), lapply(table[rest], as.double)))
  }
  numbers <- setdiff(names(table)[vapply(table, function(column) is.numeric(column) || is.logical(column), NA)], keys)
  do.call(rbind, lapply(numbers, function(name) {
    data.frame(what = what, term = name, estimate = as.double(table[[name]]))
  }))
}

# What tells rows apart: what stands before an estimate, or as many columns as make them different.
telling_columns <- function(table) {
  first <- intersect(estimate_columns, names(table))
  if (all(c("term", "estimate") %in% first)) return(names(table)[seq_len(match("estimate", names(table)) - 1)])
  for (count in seq_along(table)) {
    if (!anyDuplicated(table[seq_len(count)]) && !is.double(table[[1]])) return(names(table)[seq_len(count)])
  }
  names(table)[vapply(table, is.character, NA)]
}

rows_in_words <- function(keys) {
  if (!length(keys)) return("")
  told <- Map(function(values, name) {
    if (is.numeric(values) || is.logical(values)) ifelse(is.na(values), "", paste(name, "=", format_all(values))) else
      ifelse(is.na(values), "", as.character(values))
  }, keys, names(keys))
  trimws(do.call(paste, unname(told)))
}

format_all <- function(values) vapply(values, function(value) as_code(unname(value)), "")

# One table of all, the run first.
joined_tables <- function(tables) {
  tables <- Filter(function(table) !is.null(table) && nrow(table), tables)
  columns <- c("run", "what", estimate_columns)
  if (!length(tables)) tables <- list(data.frame(what = character(), term = character(), estimate = numeric()))
  joined <- as.data.frame(data.table::rbindlist(tables, fill = TRUE, idcol = "run"))
  joined[intersect(columns, names(joined))]
}

#' @rdname run_study
#' @export
study_results <- function(folder) {
  check_given()
  call <- rlang::current_env()
  check_string(folder)
  if (is.null(folder_title(folder, call))) refuse(sprintf("%s is no folder of a study.", quoted(folder)), "study")
  kept <- kept_answers(folder)
  tables <- rlang::set_names(lapply(kept$runs, `[[`, "table"), vapply(kept$runs, `[[`, "", "run"))
  structure(joined_tables(tables), class = table_class("habanera_study_table"))
}

#' @export
in_words.habanera_study_table <- function(x, ...) {
  sprintf("%s of %s.", count_of(nrow(x), "number"), count_of(length(unique(x$run)), "run"))
}

#' @export
tell.habanera_study_table <- function(x, rows = 1000, ...) {
  if (!all(c("run", "what", "term", "estimate") %in% names(x))) return(NextMethod())
  cat_wrapped(in_words(x))
  shown <- plain_table(x)[c("run", "what", "term")]
  shown$estimate <- format_statistic(x$estimate)
  if (!is.null(x[["conf.low"]])) {
    interval <- sprintf("%s to %s", format_statistic(x$conf.low), format_statistic(x$conf.high))
    shown[["95%"]] <- ifelse(is.na(x$conf.low), "", interval)
  }
  print_head(shown, rows)
}

# The runs of a study as a folder has them: what is done, what is begun, what is to do.
study_status <- function(study, folder, call = rlang::caller_env()) {
  title <- folder_title(folder, call)
  if (!is.null(title) && !identical(title, study$title)) open_folder(folder, study$title, call)
  plan <- new_job(study, folder)$plan
  states <- lapply(seq_len(nrow(plan)), function(i) run_state(plan[i, ], study, folder))
  structure(data.frame(run = plan$name, state = vapply(states, `[[`, "", 1), detail = vapply(states, `[[`, "", 2)),
            class = table_class("habanera_study_status"))
}

run_state <- function(row, study, folder) {
  if (file.exists(kept_file(folder, row$key))) return(c("done", ""))
  if (!row$cut) return(c("to do", ""))
  wanted <- wanted_trials(study$entries[[row$variable]])
  there <- ranges_there(folder, row$key)
  there <- there[there$first >= wanted[1] & there$last <= wanted[2], , drop = FALSE]
  trials <- sum(there$last - there$first + 1)
  asked <- count_of(diff(wanted) + 1, "trial")
  if (trials >= diff(wanted) + 1) return(c("done", asked))
  going <- length(list.files(file.path(folder, "runs"), sprintf("^%s-.*[.]going$", row$key))) > 0
  if (!trials && !going) return(c("to do", asked))
  c("begun", if (trials) sprintf("%s of %s", format_count(trials), asked) else paste("some of", asked))
}

#' @export
in_words.habanera_study_status <- function(x, ...) {
  states <- table(factor(x$state, c("done", "begun", "to do")))
  sprintf("%s of %s done, %s begun, %s to do.", format_count(states[["done"]]), count_of(nrow(x), "run"),
          format_count(states[["begun"]]), format_count(states[["to do"]]))
}

#' @export
tell.habanera_study_status <- function(x, rows = 1000, ...) {
  cat_wrapped(in_words(x))
  print_head(plain_table(x), rows)
}

#' @export
print.habanera_study <- function(x, ...) {
  cat_wrapped(sprintf("<study> %s: %s.", x$title, what_it_holds(x)))
  writeLines(run_lines(x))
  invisible(x)
}

run_lines <- function(study) {
  runs <- Filter(function(entry) entry$section == "runs", study$entries)
  told <- vapply(runs, function(entry) sprintf("%s: %s", entry$name, expression_text(entry$call)), "")
  strwrap(told, getOption("width"), indent = 2, exdent = 4)
}

# "12 runs on 1 deck and 3 games".
what_it_holds <- function(study) {
  sections <- table(factor(study$names$section, c("runs", study_sections)))
  sections <- sections[sections > 0]
  told <- sprintf("%d %s", sections, ifelse(sections == 1, sub("s$", "", names(sections)), names(sections)))
  if (length(told) == 1) told else paste(told[1], "on", join_words(told[-1]))
}
