#' Reports
#'
#' Writes one self-contained HTML page (no network needed): the question, the answer in words with how sure it is, the
#' figure, the tables, the settings, and the R code and shell command that give it again. Tables sort and filter in the
#' browser, and read without that; the page is fit for phones, dark screens and paper. Of a list of results the page has
#' them all, with a line of contents for each.
#'
#' @param x A result of any kind, or a list of them, by name.
#' @param file Path of the page; written whole or not at all.
#' @param title Title of the page; `NULL`: the question.
#' @return `file`, invisibly.
#' @section Errors: `habanera_error_input` for what is no result, `habanera_error_file` where no page can be written.
#' @examples
#' x <- simulate(draws(deck_standard(), 5), nsim = 1e4, seed = 1)
#' report(x, tempfile(fileext = ".html"))
#' report(list(`Two tables` = edge_table(game_high_card(), game_baccarat()), `The draws` = x),
#'        tempfile(fileext = ".html"))
#' @export
report <- function(x, file, title = NULL) {
  check_given()
  UseMethod("report")
}

#' @export
report.default <- function(x, file, title = NULL) {
  refuse(sprintf("`x` must be a result, such as counts, a comparison, varied rules or an audit, not %s.", said(x)))
}

#' @export
report.habanera_result <- function(x, file, title = NULL) write_report(x, file, title)

# One that was made, not found, is no result, and has a page all the same.
#' @export
report.habanera_strategy <- function(x, file, title = NULL) write_report(x, file, title)

#' @export
report.list <- function(x, file, title = NULL) {
  check_string(file)
  if (!is.null(title)) check_string(title)
  are_results <- length(x) > 0 && all(vapply(x, inherits, NA, c("habanera_result", "habanera_strategy")))
  if (!are_results) refuse("`x` must be a result, or a list of results.")
  names <- rlang::names2(x)
  names[!nzchar(names)] <- vapply(x[!nzchar(names)], page_question, "")
  parts <- lapply(unname(x), page_parts)
  write_lines_whole(several_page(if (is.null(title)) "What was found?" else title, names, parts), file,
                    rlang::current_env())
}

several_page <- function(title, names, parts) {
  ids <- sprintf("answer-%d", seq_along(parts))
  entries <- Map(function(id, name, part) list(id = id, title = name, answer = part$answer[1]), ids, names, parts)
  report_page(title, htmltools::tags$h1(title), contents_list(unname(entries)),
              Map(function(id, name, part) parts_body(part, name, 2, id), ids, names, parts) |> unname(),
              script = choosing_script(parts))
}

# `back`: words that lead back to another page, by its file.
write_report <- function(x, file, title, back = NULL, call = rlang::caller_env()) {
  check_string(file, "file", call)
  title <- if (is.null(title)) page_question(x) else check_string(title, "title", call)
  parts <- page_parts(x)
  link <- if (!is.null(back)) {
    htmltools::tags$p(class = "back", htmltools::tags$a(href = unname(back), paste("\u2190", names(back))))
  }
  write_lines_whole(report_page(title, link, parts_body(parts, title), script = choosing_script(list(parts))), file,
                    call)
}

choosing_script <- function(parts) {
  if (any(!vapply(parts, function(part) is.null(part$choices), NA))) "choices.js"
}
