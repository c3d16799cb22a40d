# A self-contained page: no network, one file, readable on a phone and on paper.

report_page <- function(title, ...) {
  css <- paste(readLines(system.file("report", "page.css", package = "habanera")), collapse = "\n")
  tags <- htmltools::tags
  page <- tags$html(
    lang = "en",
    tags$head(
      tags$meta(charset = "utf-8"),
      tags$meta(name = "viewport", content = "width=device-width, initial-scale=1"),
      tags$title(title),
      tags$style(htmltools::HTML(css))
    ),
    tags$body(tags$main(...))
  )
  c("<!doctype html>", as.character(htmltools::doRenderTags(page)))
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
      tags$source(media = "(max-width: 600px)", srcset = svg_uri(plot, 4.6, 6.4)),
      tags$img(src = svg_uri(plot, 9.6, 5.8), alt = alt)
    ),
    if (!is.null(caption)) tags$figcaption(caption)
  )
}

svg_uri <- function(plot, width, height) {
  paste0("data:image/svg+xml;base64,", gsub("\n", "", jsonlite::base64_enc(svg_bytes(plot, width, height))))
}

# A data frame of text; columns are set flush right, but for the first and those named in `text`.
report_table <- function(table, caption, text = character()) {
  tags <- htmltools::tags
  tags$div(class = "wide", tags$table(
    tags$caption(caption),
    tags$thead(tags$tr(lapply(names(table), function(name) tags$th(scope = "col", class = if (name %in% text) "text",
                                                                   name)))),
    tags$tbody(lapply(seq_len(nrow(table)), function(row) {
      cells <- unlist(table[row, ], use.names = FALSE)
      tags$tr(class = if (cells[1] == "total") "total",
              tags$th(scope = "row", cells[1]), Map(function(cell, name) {
                tags$td(class = if (name %in% text) "text", cell)
              }, cells[-1], names(table)[-1]))
    }))
  ))
}

# Terms and what they are, as a list; a NULL is left out.
report_settings <- function(...) {
  settings <- Filter(Negate(is.null), list(...))
  tags <- htmltools::tags
  tags$dl(lapply(names(settings), function(name) {
    tags$div(tags$dt(name), tags$dd(settings[[name]]))
  }))
}

report_code <- function(heading, code) {
  if (is.null(code)) return(NULL)
  # Without .noWS the page's own indentation would show inside the code.
  text <- htmltools::tags$code(paste(code, collapse = "\n"), .noWS = c("outside", "inside"))
  htmltools::tagList(htmltools::tags$h3(heading), htmltools::tags$pre(text, .noWS = "inside"))
}
