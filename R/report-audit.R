#' @export
page_parts.habanera_audit <- function(x) {
  more <- is.null(x$broken) && x$plan$identity && length(x$plan$deck) %in% 2:largest_exact_law
  figures <- list(audit_figure(x, "positions",
                               "Each card at each position: how far its count is from fair, in standard deviations."))
  arrangements <- if (more) list(
    audit_figure(x, "statistics", "Bars: this shuffle. Line: a uniform shuffle, exactly."),
    if (!is.null(x$counts$guessed)) audit_figure(x, "guesser", guesser_caption)
  )
  new_parts(
    about = paste0(sub("<audit> ", "", audit_header(x), fixed = TRUE), "."), answer = verdict_lines(x),
    surprise = verdict(x) != "no_bias_seen", figures = figures,
    sections = list(
      Tests = list(report_table(printed_tests(tidy.habanera_audit(x)), "p adjusted by Holm's method over all tests."),
                   lapply(tests_left_out(x), htmltools::tags$p)),
      `What arrangements look like` = arrangements,
      `What it could have seen` = report_table(could_see_table(x),
                                            "The smallest bias that each test would have found with 95% power.")
    ),
    settings = found_settings(x), code = audit_code(x)
  )
}

guesser_caption <- "How many cards a guesser, taught by half of the trials, names rightly in the others."

could_see_table <- function(x) {
  table <- tidy.habanera_audit(x)
  table <- table[!is.na(table[["could_see"]]), ]
  data.frame(test = table[["term"]], `would have found` = table[["could_see"]], check.names = FALSE)
}

audit_figure <- function(x, show, caption) {
  report_figure(bare_figure(x, show = show), paste(caption, verdict_lines(x)[1]), caption)
}

# The R code and the shell command that give an audit back; the latter NULL where the shell cannot say it.
audit_code <- function(x) {
  source <- if (is.null(x$made$shuffles)) procedure_source(x) else elsewhere_source(x$made$shuffles, x)
  settings <- audit_settings_code(x)
  list(r = sprintf("x <- audit(%s)", paste(c(source$r, settings$r), collapse = ", ")),
       shell = if (!is.null(source$shell) && !is.null(settings$shell)) {
         paste0("habanera audit ", source$shell, settings$shell)
       })
}

procedure_source <- function(x) {
  made <- x$made
  text <- format(made$procedure)
  deck <- deck_option(x$plan$deck)
  # The function itself is not kept: `f` stands for it.
  own <- if (has_function(made$procedure)) "shuffle_with(f)" else sprintf("procedure(%s)", as_code(text))
  list(r = c(own, sprintf("deck = %s", deck_code(x$plan$deck)), sprintf("nsim = %s", whole_code(made$asked)),
             sprintf("seed = %s", whole_code(made$seed)), if (made$each != "fresh") sprintf("each = %s",
                                                                                            quoted(made$each))),
       shell = if (!is.null(deck) && !has_function(made$procedure)) {
         paste0(shQuote(text), deck, " --trials ", whole_code(made$asked), " --seed ", whole_code(made$seed),
                if (made$each != "fresh") paste(" --each", made$each))
       })
}

elsewhere_source <- function(shuffles, x) {
  recorded <- inherits(shuffles, "habanera_shuffles_recorded")
  numbering <- numbering_code(shuffles$numbering)
  # Of a table there is no name to read it by.
  if (recorded && is.null(shuffles$file)) return(list(r = "shuffle_recorded(table)", shell = NULL))
  given <- as_code(if (recorded) shuffles$file else shuffles$command)
  columns <- if (!is.null(shuffles$columns)) paste("columns =", as_code(shuffles$columns))
  inner <- paste(c(given, numbering$r, columns, sprintf("deck = %s", deck_code(x$plan$deck))), collapse = ", ")
  fewer <- !recorded || x$made$asked < nrow(shuffles$rows)
  deck <- deck_option(x$plan$deck)
  said <- is.null(shuffles$numbering) || !is.null(numbering$shell)
  list(r = c(sprintf("%s(%s)", if (recorded) "shuffle_recorded" else "shuffle_program", inner),
             if (fewer) sprintf("nsim = %s", whole_code(x$made$asked))),
       shell = if (!is.null(deck) && said) {
         paste0(if (recorded) "--file " else "--program ", shQuote(if (recorded) shuffles$file else shuffles$command),
                deck, numbering$shell, if (fewer) paste(" --trials", whole_code(x$made$asked)))
       })
}

# What is not as usual.
audit_settings_code <- function(x) {
  plan <- x$plan
  own_alike <- !identical(plan$alike, check_alike(NULL, plan$deck))
  list(r = c(if (plan$level != 0.01) sprintf("level = %s", format(plan$level)),
             if (!is.null(plan$grid)) sprintf("grid = %s", as_code(plan$grid)),
             if (own_alike) sprintf("alike = %s", as_code(plan$alike))),
       shell = if (!own_alike) {
         paste0(if (plan$level != 0.01) paste(" --level", format(plan$level)),
                if (!is.null(plan$grid)) paste0(" --grid ", plan$grid[1], "x", plan$grid[2]))
       })
}

#' @export
page_parts.habanera_mixing <- function(x) {
  lines <- sprintf("%s.", passing_lines(x))
  by_seconds <- if (any(x$seconds > 0)) {
    report_figure(bare_figure(x, by = "seconds"), "The same against seconds spent.", "Against seconds by hand.")
  }
  new_parts(
    about = sprintf("%s; %s trials for each number of repeats.", sentence(attr(x, "deck")),
                    format_count(attr(x, "nsim"))),
    answer = lines,
    figures = Filter(Negate(is.null), list(
      report_figure(bare_figure(x, by = "repeats"),
                    paste(c("Distance and guesser's gain against repeats.", lines), collapse = " "),
                    "Against repeats. Dashed: the threshold."), by_seconds
    )),
    sections = list(`The numbers` = report_table(mixing_table(x), sprintf(
      "Distances are exact, or proven lower bounds (%s); gains with 95%% intervals.", at_least_sign()))),
    settings = c(list(Seed = whole_code(attr(x, "seed"))), found_settings(x)["Version"]),
    code = list(r = mixing_code(x), shell = how_made(x)$shell)
  )
}

mixing_code <- function(x) {
  texts <- attr(x, "texts")
  procedures <- if (identical(names(texts), unname(texts))) unname(texts) else texts
  threshold <- attr(x, "threshold")
  sprintf("x <- mixing(%s, times = %s, deck = %s, nsim = %s, seed = %s, distance = %s, gain = %s)", as_code(procedures),
          as_code(unique(x$times)), attr(x, "deck_code"), whole_code(attr(x, "nsim")), whole_code(attr(x, "seed")),
          format(threshold[["distance"]]), format(threshold[["gain"]]))
}
