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
  # Beside the study its folder has a short name.
  folder <- sub(paste0(x$study$folder, "/"), "", x$folder, fixed = TRUE)
  writeLines(c("", strwrap(sprintf("Kept in %s.", folder), width, exdent = 2)))
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
    # What is exact needs none.
    shown[["95%"]] <- ifelse(is.na(x$conf.low) | x$conf.low == x$conf.high, "", interval)
  }
  print_head(shown, rows)
}
