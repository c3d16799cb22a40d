# The page of a study, and the script that does the same.

# What the page shows: a list of `run` with `title`, and `words`, in Markdown.
checked_layout <- function(report, study) {
  place <- list(study = study, path = "report")
  if (is.null(report)) return(lapply(run_names(study), function(run) list(run = run, title = sentence(run))))
  if (!is.list(report) || !is.null(names(report))) {
    refuse_at(place, "it is a list, each with \"run:\" or \"words:\", as in \"- run: how long\"")
  }
  lapply(report, function(part) {
    if (rlang::is_string(part)) part <- list(run = part)
    if (!is.list(part) || is.null(names(part))) refuse_at(place, "each is \"run:\" or \"words:\"")
    refuse_keys(names(part), c("run", "title", "words"), "what a report shows", place)
    if (!is.null(part$words)) return(list(words = checked_markdown(part$words, inside(place, "words"))))
    refuse_unknown_run(part$run, study, inside(place, "run"))
    if (!is.null(part$title) && !rlang::is_string(part$title)) refuse_at(inside(place, "title"), "it must be a text")
    list(run = part$run, title = if (is.null(part$title)) sentence(part$run) else part$title)
  })
}

# The page is to be whole without a network, and to run no script but its own.
checked_markdown <- function(words, place) {
  if (!rlang::is_string(words)) refuse_at(place, sprintf("it must be a text in Markdown, not %s", said(words)))
  tree <- commonmark::markdown_xml(words)
  if (grepl("<html_(block|inline)", tree)) refuse_at(place, "HTML is not taken in it; write Markdown, and &lt; for <")
  if (grepl("<image ", tree)) refuse_at(place, "pictures are not taken in it")
  words
}

#' @export
report.habanera_study_answers <- function(x, file, title = NULL) {
  check_string(file)
  title <- if (is.null(title)) x$study$title else check_string(title)
  shown <- Filter(function(part) is.null(part$run) || !is.null(x$values[[part$run]]), x$study$report)
  numbers <- cumsum(vapply(shown, function(part) !is.null(part$run), NA))
  parts <- lapply(shown, function(part) if (!is.null(part$run)) parts_of_run(x, part$run))
  entries <- unlist(lapply(seq_along(shown), function(i) {
    if (is.null(parts[[i]])) return(NULL)
    list(list(id = sprintf("answer-%d", numbers[i]), title = shown[[i]]$title, answer = x$runs$words[x$runs$run == shown[[i]]$run]))
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

#' @rdname read_study
#' @export
study_code <- function(study) {
  check_given()
  study <- as_study(study)
  runs <- Filter(function(entry) entry$section == "runs", study$entries)
  named <- vapply(runs, function(entry) sprintf("`%s` = %s", gsub("`", "'", entry$name), entry$variable), "")
  c(sprintf("# %s: what `habanera study run %s` does.", study$title, basename(study$file)), "library(habanera)", "",
    code_of_entries(study, names(study$entries)), "",
    paste0("answers <- list(", paste(named, collapse = ",\n                "), ")"),
    sprintf("report(answers, \"report.html\", title = %s)", as_code(study$title)))
}

# The code of these entries and of all that they need, what is needed first.
code_of_entries <- function(study, variables) {
  order <- character()
  follow <- function(variable) {
    if (variable %in% order) return(invisible())
    for (needed in study$entries[[variable]]$needs) follow(needed)
    order <<- c(order, variable)
  }
  for (variable in variables) follow(variable)
  unlist(lapply(study$entries[order], function(entry) {
    lines <- deparse(entry$call, width.cutoff = 100L)
    c(paste(entry$variable, "<-", lines[1]), lines[-1])
  }), use.names = FALSE)
}
