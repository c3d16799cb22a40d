# A self-contained page: no network, one file, readable without its script, on a phone, in the dark and on paper.

# `...` are tags: what the page says. `script`: names of scripts that it needs besides.
report_page <- function(title, ..., script = NULL) {
  part <- function(name) paste(readLines(system.file("report", name, package = "habanera")), collapse = "\n")
  tags <- htmltools::tags
  page <- tags$html(
    lang = "en",
    tags$head(
      tags$meta(charset = "utf-8"),
      tags$meta(name = "viewport", content = "width=device-width, initial-scale=1"),
      tags$meta(name = "color-scheme", content = "light dark"),
      tags$title(title),
      tags$style(htmltools::HTML(part("page.css")))
    ),
    tags$body(tags$main(...), lapply(c("page.js", script), function(name) tags$script(htmltools::HTML(part(name)))))
  )
  c("<!doctype html>", as.character(htmltools::doRenderTags(page)))
}

# What a page says of one result: `about` what was asked of, the `answer` (lines), whether it is a `surprise`, what a
# reader may try (`choices`), figures, `sections` by their headings, settings, and the code that gives it again.
new_parts <- function(answer, about = NULL, surprise = FALSE, choices = NULL, figures = list(), sections = list(),
                      settings = NULL, code = NULL) {
  list(about = about, answer = answer, surprise = surprise, choices = choices, figures = figures, sections = sections,
       settings = settings, code = code)
}

# The parts as they stand on a page, under a heading of this level.
parts_body <- function(parts, title, level = 1, id = NULL) {
  heading <- function(text, below = 0, id = NULL) htmltools::tag(paste0("h", level + below), list(id = id, text))
  tags <- htmltools::tags
  figures <- parts$figures
  htmltools::tagList(
    tags$div(
      class = "lead", heading(title, id = id),
      if (!is.null(parts$about)) tags$p(class = "question", parts$about),
      answer_box(parts$answer, parts$surprise), parts$choices, if (length(figures)) figures[[1]]
    ),
    figures[-1],
    Map(function(text, content) if (length(content)) htmltools::tagList(heading(text, 1), content),
        names(parts$sections), unname(parts$sections)),
    if (length(parts$settings)) htmltools::tagList(heading("Settings", 1), do.call(report_settings, parts$settings)),
    again_section(parts$code)
  )
}

answer_box <- function(lines, surprise = FALSE) {
  tags <- htmltools::tags
  tags$div(class = paste("verdict", if (surprise) "surprise"), tags$p(tags$strong(lines[1])), lapply(lines[-1], tags$p))
}

# Answers with anchors: a list of `id`, `title` and `answer`.
contents_list <- function(entries) {
  tags <- htmltools::tags
  tags$nav(`aria-label` = "Contents", tags$ol(lapply(entries, function(entry) {
    tags$li(tags$a(href = paste0("#", entry$id), entry$title), tags$br(), tags$span(entry$answer))
  })))
}

# The figure without the words that the page says itself.
bare_figure <- function(x, ...) {
  ggplot2::autoplot(x, ...) + ggplot2::labs(title = NULL, subtitle = NULL, caption = NULL)
}

# A figure drawn twice, for wide screens and paper and for phones, with its alternative text.
report_figure <- function(plot, alt, caption = NULL) {
  tags <- htmltools::tags
  tags$figure(
    tags$picture(
      tags$source(media = "screen and (max-width: 600px)", srcset = svg_uri(plot, 4.6, 6.4)),
      tags$img(src = svg_uri(plot, 9.6, 5.8), alt = alt)
    ),
    if (!is.null(caption)) tags$figcaption(caption)
  )
}

svg_uri <- function(plot, width, height) {
  paste0("data:image/svg+xml;base64,", gsub("\n", "", jsonlite::base64_enc(svg_bytes(plot, width, height))))
}

rows_in_report <- 1000

# A data frame; columns of numbers are set flush right, but for the first. What the page's script sorts and filters
# reads as it stands.
report_table <- function(table, caption = NULL) {
  tags <- htmltools::tags
  more <- nrow(table) - rows_in_report
  if (more > 0) {
    table <- utils::head(table, rows_in_report)
    caption <- paste(c(caption, sprintf("The first %s rows; %s more are not shown.", format_count(rows_in_report),
                                        format_count(more))), collapse = " ")
  }
  text <- !vapply(table, looks_numeric, NA)
  flush <- function(name) if (text[[name]]) "text"
  cells <- lapply(table, function(column) ifelse(is.na(column), "", as.character(column)))
  tags$div(class = "wide", tabindex = "0", tags$table(
    if (!is.null(caption)) tags$caption(caption),
    tags$thead(tags$tr(lapply(names(table), function(name) tags$th(scope = "col", class = flush(name), name)))),
    tags$tbody(lapply(seq_len(nrow(table)), function(row) {
      values <- vapply(cells, `[[`, "", row)
      tags$tr(class = if (values[1] == "total") "total", tags$th(scope = "row", values[1]),
              Map(function(value, name) tags$td(class = flush(name), value), unname(values[-1]), names(table)[-1]))
    }))
  ))
}

# Whether a column of text is of numbers, with whatever stands around them: such are flush right.
looks_numeric <- function(column) {
  values <- trimws(as.character(column))
  values <- values[!is.na(values) & nzchar(values)]
  length(values) > 0 && mean(grepl("^[-+(*\u2265\u2264<>]*[ ]*[0-9.,]+", values)) > 0.5 && mean(nchar(values)) < 30
}

# Terms and what they are, as a list; a NULL is left out.
report_settings <- function(...) {
  settings <- Filter(Negate(is.null), list(...))
  tags <- htmltools::tags
  tags$dl(lapply(names(settings), function(name) {
    tags$div(tags$dt(name), tags$dd(settings[[name]]))
  }))
}

# How to have it again, folded away: `r` and `shell`, either of which may be NULL.
again_section <- function(code) {
  if (is.null(code$r) && is.null(code$shell)) return(NULL)
  htmltools::tags$details(
    htmltools::tags$summary("Do it again"),
    report_code("In R", if (!is.null(code$r)) c("library(habanera)", code$r, "report(x, \"report.html\")")),
    report_code("In the shell", if (!is.null(code$shell)) paste(code$shell, "--report report.html"))
  )
}

report_code <- function(heading, code) {
  if (is.null(code)) return(NULL)
  # Without .noWS the page's own indentation would show inside the code.
  text <- htmltools::tags$code(paste(code, collapse = "\n"), .noWS = c("outside", "inside"))
  htmltools::tagList(htmltools::tags$p(class = "code", heading), htmltools::tags$pre(text, .noWS = "inside"))
}
