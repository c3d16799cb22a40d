# The page of a study.

#' @export
report.habanera_study_answers <- function(x, file, title = NULL) {
  check_string(file)
  title <- if (is.null(title)) x$study$title else check_string(title)
  shown <- Filter(function(part) is.null(part$run) || !is.null(x$values[[part$run]]), x$study$report)
  numbers <- cumsum(vapply(shown, function(part) !is.null(part$run), NA))
  parts <- lapply(shown, function(part) if (!is.null(part$run)) parts_of_run(x, part$run))
  entries <- unlist(lapply(seq_along(shown), function(i) {
    if (is.null(parts[[i]])) return(NULL)
    answer <- x$runs$words[x$runs$run == shown[[i]]$run]
    list(list(id = sprintf("answer-%d", numbers[i]), title = shown[[i]]$title, answer = answer))
  }), recursive = FALSE)
  bodies <- lapply(seq_along(shown), function(i) {
    if (is.null(parts[[i]])) return(htmltools::HTML(commonmark::markdown_html(shown[[i]]$words, smart = TRUE)))
    parts_body(parts[[i]], shown[[i]]$title, 2, sprintf("answer-%d", numbers[i]))
  })
  tags <- htmltools::tags
  page <- report_page(title, tags$h1(title), tags$p(class = "question", done_in_words(x)),
                      if (length(entries)) contents_list(entries), study_notes(x), bodies, study_again(x),
                      script = choosing_script(Filter(Negate(is.null), parts)))
  write_lines_whole(page, file, rlang::current_env())
  invisible(file)
}

# What was expected, what changed, what failed.
study_notes <- function(x) {
  tags <- htmltools::tags
  listed <- function(heading, lines, class = NULL) {
    if (length(lines)) htmltools::tagList(tags$h2(heading), tags$ul(class = class, lapply(lines, tags$li)))
  }
  failed <- x$runs[x$runs$state == "failed", , drop = FALSE]
  htmltools::tagList(
    listed("What was expected", if (NROW(x$expected)) expectations_in_words(x$expected)),
    listed("What changed", if (NROW(x$changes)) sprintf("%s: %s.", x$changes$run, sub("[.]$", "", x$changes$change))),
    listed("What failed", if (nrow(failed)) sprintf("%s: %s", failed$run, failed$problem))
  )
}

# The page of a run, with the code that makes it out of nothing.
parts_of_run <- function(x, run) {
  parts <- page_parts(x$values[[run]])
  entry <- Filter(function(entry) entry$name == run && entry$section == "runs", x$study$entries)[[1]]
  lines <- code_of_entries(x$study, entry$variable)
  parts$code <- list(r = c(lines[-length(lines)], paste("x <-", expression_text(entry$call))))
  parts
}

study_again <- function(x) {
  tags <- htmltools::tags
  tags$details(
    tags$summary("Do all of it again"),
    report_code("In the shell", sprintf("habanera study run %s --report report.html",
                                        shell_word(basename(x$study$file)))),
    report_code("In R", study_code(x$study))
  )
}
