# The Lantern Hall demo: asks the hall's questions of the shipped data, answers each in a sentence
# with a figure, and writes one page that holds them all.

#' The demo data
#'
#' Files of Lantern Hall, a made-up community hall: `orchard.csv`, its own 44-card deck;
#' `windfall.yaml`, a 60-card deck with copies and costs; `stall.txt`, a plain list;
#' `tablet-draws.txt`, 4,000 draws of three cards as the hall's score-keeping tablet made them (cards
#' numbered from 0 in the order of the orchard deck); `tablet-draw.awk`, a small program that draws as
#' the tablet does; and a file with a fault of each kind, `dirty-*`.
#'
#' @param file Name of a file; `NULL` lists them all.
#' @return The path of the file, or the names of all.
#' @section Errors: `habanera_error_input` for a name that is none of them.
#' @examples
#' demo_file()
#' deck_from(demo_file("orchard.csv"))
#' @export
demo_file <- function(file = NULL) {
  folder <- system.file("lantern-hall", package = "habanera")
  if (is.null(file)) return(list.files(folder))
  check_choice(file, list.files(folder))
  file.path(folder, file)
}

# Writes the demo into a folder and returns a few lines that say what was found and where it is.
lantern_hall_demo <- function(folder, threads = NULL, call = rlang::caller_env()) {
  make_folder(folder, call)
  # The data lie beside the page, so that the commands on it work there as they stand.
  file.copy(vapply(demo_data, demo_file, ""), folder, overwrite = TRUE)
  answers <- list(tablet_question(folder, threads))
  page <- file.path(folder, "index.html")
  write_lines_whole(demo_page(answers), page)
  c("Lantern Hall, card night:",
    unlist(lapply(answers, function(answer) strwrap(answer$sentence, 78, indent = 2, exdent = 2))),
    sprintf("The page with all questions: %s", page),
    sprintf("Its reports and figures:     %s",
            paste(setdiff(list.files(folder), c("index.html", demo_data)), collapse = ", ")))
}

make_folder <- function(folder, call) {
  check_string(folder, "out", call)
  if (!dir.exists(folder) && !suppressWarnings(dir.create(folder, recursive = TRUE))) {
    refuse(sprintf("Cannot make the folder %s.", quoted(folder)), "file", call)
  }
}

demo_seed <- 44
demo_data <- c("orchard.csv", "tablet-draws.txt")

# Does the tablet draw as it should? Its recorded draws beside our own of the same deck.
tablet_question <- function(folder, threads) {
  orchard <- deck_from(file.path(folder, "orchard.csv"))
  ours <- simulate(draws(orchard, 3), nsim = 4000, seed = demo_seed, threads = threads)
  tablet <- draws_recorded(file.path(folder, "tablet-draws.txt"), orchard, numbering = list(first = 0))
  verdict <- compare(tablet, exact(draws(orchard, 3)))
  report(tablet, file.path(folder, "tablet.html"), "Does the tablet draw every card as often as it should?")
  report(ours, file.path(folder, "fair.html"), "The same draws, made by a fair shuffle")
  write_result(tablet, file.path(folder, "tablet.csv"))
  write_demo_figure(tablet, file.path(folder, "tablet.svg"))
  write_demo_figure(ours, file.path(folder, "fair.svg"))
  list(
    title = "The prize stall draws three cards with the tablet. Does every card come?",
    sentence = tablet_sentence(verdict, summary(ours)),
    counts = tablet, report = "tablet.html", other = "fair.html",
    command = paste("habanera draws --deck orchard.csv --file tablet-draws.txt",
                    "--first-number 0 --expect fair")
  )
}

tablet_sentence <- function(verdict, ours) {
  never <- verdict$unseen$card
  sprintf("%s %s A fair shuffle of the same deck, as often, shows %s (%s).",
          if (isTRUE(verdict$agree)) "The tablet's draws look fair." else "The tablet does not draw fairly.",
          if (length(never)) unseen_in_words(verdict$unseen) else
            sprintf("%s.", sentence(chi_square_in_words(verdict$test))),
          if (is_surprising(ours$test)) "a bias too" else "no bias", chi_square_in_words(ours$test))
}

write_demo_figure <- function(counts, file) {
  write_whole_file(file, function(path) draw_svg(ggplot2::autoplot(counts), path, 11.6, 7.3))
}

demo_page <- function(answers) {
  tags <- htmltools::tags
  report_page(
    "Lantern Hall: a card night in numbers",
    tags$h1("Lantern Hall: a card night in numbers"),
    tags$p(class = "question", "The hall holds a card night each month for its roof fund. Its analyst",
           "asks; each answer has its figure and the command to ask it otherwise."),
    lapply(answers, demo_answer)
  )
}

demo_answer <- function(answer) {
  tags <- htmltools::tags
  summary <- summary(answer$counts)
  htmltools::tagList(
    tags$h2(answer$title),
    tags$div(class = paste("verdict", if (is_surprising(summary$test)) "surprise"),
             tags$p(tags$strong(answer$sentence))),
    report_figure(bare_figure(answer$counts), draw_figure_alt(answer$counts, summary),
                  draw_figure_caption(answer$counts)),
    tags$p("The whole report: ", tags$a(href = answer$report, answer$report),
           ". The same with a fair shuffle: ", tags$a(href = answer$other, answer$other), "."),
    report_code("Ask it otherwise, in this folder", answer$command)
  )
}
