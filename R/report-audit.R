#' @export
report.habanera_audit <- function(x, file, title = NULL) {
  write_report(audit_page, x, file, title, "Is this shuffle fair?")
}

audit_page <- function(x, title) {
  tags <- htmltools::tags
  broken <- !is.null(x$broken)
  more <- !broken && x$plan$identity && length(x$plan$deck) %in% 2:largest_exact_law
  report_page(
    title,
    tags$h1(title),
    tags$p(class = "question", paste0(sentence(sub("<audit> ", "", audit_header(x), fixed = TRUE)), ".")),
    tags$div(class = paste("verdict", if (verdict(x) != "no_bias_seen") "surprise"),
             lapply(verdict_lines(x), tags$p)),
    audit_figure(x, "positions", "Each card at each position: how far its count is from fair, in standard deviations."),
    tags$h2("Tests"),
    report_table(printed_tests(tidy.habanera_audit(x)), "p adjusted by Holm's method over all tests.", text = "effect"),
    lapply(tests_left_out(x), tags$p),
    if (more) htmltools::tagList(
      tags$h2("What arrangements look like"),
      audit_figure(x, "statistics", "Bars: this shuffle. Line: a uniform shuffle, exactly."),
      if (!is.null(x$counts$guessed)) audit_figure(x, "guesser", guesser_caption)
    ),
    tags$h2("What it could have seen"),
    report_table(could_see_table(x), "The smallest bias that each test would have found with 95% power.",
                 text = "would have found"),
    audit_code_section(x)
  )
}

guesser_caption <- "How many cards a guesser, taught by half of the trials, names rightly in the others."

could_see_table <- function(x) {
  table <- tidy.habanera_audit(x)
  table <- table[!is.na(table$could_see), ]
  data.frame(test = table$term, `would have found` = table$could_see, check.names = FALSE)
}

audit_figure <- function(x, show, caption) {
  plot <- ggplot2::autoplot(x, show = show) + ggplot2::labs(title = NULL, subtitle = NULL, caption = NULL)
  report_figure(plot, paste(caption, verdict_lines(x)[1]), caption)
}

audit_code_section <- function(x) {
  code <- audit_code(x)
  htmltools::tagList(
    htmltools::tags$h2("Do it again"),
    report_code("In R", c("library(habanera)", code$r, "report(x, \"report.html\")")),
    report_code("In the shell", if (!is.null(code$shell)) paste(code$shell, "--report report.html"))
  )
}

# The R code and the shell command that give an audit back.
audit_code <- function(x) {
  made <- x$made
  deck <- x$plan$deck
  if (!is.null(made$shuffles)) return(elsewhere_code(made$shuffles, x))
  settings <- c(sprintf("deck = %s", deck_code(deck)), sprintf("nsim = %s", whole_code(made$asked)),
                sprintf("seed = %s", whole_code(made$seed)), if (made$start == "continued") "start = \"continued\"",
                if (x$plan$level != 0.01) sprintf("level = %s", format(x$plan$level)),
                if (!is.null(x$plan$grid)) sprintf("grid = %s", as_code(x$plan$grid)))
  if (has_function(made$procedure)) return(list(r = sprintf("x <- audit(..., %s)", paste(settings, collapse = ", "))))
  text <- format(made$procedure)
  shell <- deck_option(deck)
  list(r = sprintf("x <- audit(procedure(%s), %s)", as_code(text), paste(settings, collapse = ", ")),
       shell = if (!is.null(shell) && made$start == "fresh" && is.null(x$plan$grid)) {
         sprintf("habanera audit %s%s --trials %s --seed %s", shQuote(text), shell, whole_code(made$asked),
                 whole_code(made$seed))
       })
}

elsewhere_code <- function(shuffles, x) {
  deck <- deck_code(x$plan$deck)
  shell <- deck_option(x$plan$deck)
  first <- shuffles$numbering$first
  numbering <- if (is.null(first)) list(r = "", shell = "") else {
    list(r = sprintf("numbering = list(first = %s), ", format(first)), shell = sprintf(" --first-number %s",
                                                                                       format(first)))
  }
  if (inherits(shuffles, "habanera_shuffles_recorded")) {
    return(list(r = sprintf("x <- audit(shuffle_recorded(%s, %sdeck = %s))", as_code(shuffles$file), numbering$r, deck),
                shell = if (!is.null(shell)) paste0("habanera audit --file ", shQuote(shuffles$file), shell,
                                                    numbering$shell)))
  }
  list(r = sprintf("x <- audit(shuffle_program(%s, %sdeck = %s), nsim = %s)", as_code(shuffles$command), numbering$r,
                   deck,
                   whole_code(x$made$asked)),
       shell = if (!is.null(shell)) sprintf("habanera audit --program %s%s%s --trials %s", shQuote(shuffles$command),
                                            shell,
                                            numbering$shell, whole_code(x$made$asked)))
}

#' @export
report.habanera_mixing <- function(x, file, title = NULL) {
  write_report(mixing_page, x, file, title, "How many are enough?")
}

mixing_page <- function(x, title) {
  tags <- htmltools::tags
  bare <- function(by) {
    ggplot2::autoplot(x, by = by) + ggplot2::labs(title = NULL, subtitle = NULL, caption = NULL)
  }
  lines <- passing_lines(x)
  report_page(
    title,
    tags$h1(title),
    tags$p(class = "question", sprintf("%s; %s trials for each number of repeats, seed %s.", sentence(attr(x, "deck")),
                                       format_count(attr(x, "nsim")), whole_code(attr(x, "seed")))),
    tags$div(class = "verdict", lapply(sprintf("%s.", lines), tags$p)),
    report_figure(bare("repeats"), paste(c("Distance and guesser's gain against repeats.", lines), collapse = " "),
                  "Against repeats. Dashed: the threshold."),
    if (any(x$seconds > 0)) report_figure(bare("seconds"), "The same against seconds spent.",
                                          "Against seconds by hand."),
    tags$h2("Numbers"),
    report_table(mixing_table(x), "Distances are exact, or proven lower bounds (\u2265); gains with 95% intervals."),
    report_code("Do it again", c("library(habanera)", mixing_code(x)))
  )
}

mixing_code <- function(x) {
  texts <- attr(x, "texts")
  named <- ifelse(names(texts) == texts, vapply(texts, as_code, ""), sprintf("%s = %s", vapply(names(texts), as_code,
                                                                                               ""), vapply(texts,
                                                                                                           as_code,
                                                                                                             "")))
  threshold <- attr(x, "threshold")
  sprintf("mixing(list(%s), times = %s, nsim = %s, seed = %s, distance = %s, gain = %s)", paste(named, collapse = ", "),
          as_code(unique(x$times)), whole_code(attr(x, "nsim")), whole_code(attr(x, "seed")),
            format(threshold[["distance"]]),
          format(threshold[["gain"]]))
}
