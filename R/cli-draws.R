draws_command <- function() {
  new_command(
    "draws", "Draws cards many times: does each card come as often as it should, and what is in the hand?",
    "draws [OPTIONS]",
    c(list(
      cli_option("deck", "A catalogue file, or \"standard packs=2 jokers=1\", \"numbered 44\" [standard]",
                 "DECK", "standard"),
      cli_option("size", "Cards in a draw [5; of a file or program: as its first line]", "K"),
      cli_option("shuffle", "How it is shuffled, such as \"riffle x3, cut\" [uniform]", "PROCEDURE",
                 "uniform"),
      cli_option("replace", "Put each card back before the next"),
      cli_option("positions", "Count which card comes at which position of the whole deck"),
      cli_option("file", "Judge draws recorded in this file, one a line (- is standard input)", "FILE"),
      cli_option("program", "Judge the draws of this program: a deck a line in, a draw a line out",
                 "COMMAND"),
      each_trial_option(), first_number_option(), notation_option(), columns_option(),
      cli_option("all", "Print the whole table, not only what is furthest off"),
      cli_option("group", "Add up by an attribute, such as suit, in the text", "NAME"),
      cli_option("precision", "Stop once every card's (or the first question's) 95% half-width is this small", "W"),
      exact_option(),
      cli_option("given", "With --ask: look only at trials for which this holds, such as 'aces >= 1'", "CONDITION"),
      cli_option("expect", "fair, or with --ask 'two_up < 0.05': exit with status 1 if it does not hold", "WHAT"),
      cli_option("figure", "Also write the figure (.png, .svg or .pdf)", "FILE")
    ), question_options(), run_options(), result_options()),
    c("habanera draws --size 5 --trials 1e6 --seed 1",
      "habanera draws --size 5 --ask 'two_up = count(rank == \"A\") >= 2' --exact",
      "habanera draws --deck orchard.csv --size 3 --group suit --report draws.html",
      "habanera draws --deck orchard.csv --file tablet-draws.txt --first-number 0 --expect fair",
      "habanera draws --file hands.csv --columns 2-6 --ask 'pair = category() >= \"one pair\"'",
      "habanera draws --format csv --out draws.csv"),
    run_draws
  )
}

run_draws <- function(options, arguments) {
  refuse_arguments(draws_command(), arguments)
  if (!is.null(options$columns) && is.null(options$file)) refuse_usage(draws_command(), "--columns goes with --file.")
  if (!is.null(options$ask) && !is.null(options$file)) return(run_records_asked(options))
  if (!is.null(options$ask)) return(run_question(options, draws_command()))
  refuse_without_ask(options)
  option_word(options, "expect", "fair")
  format <- result_format(options)
  deck <- sampled_for_shell(deck_from(options$deck), options, draws_command())
  counts <- counts_for_shell(options, deck)
  summary <- summary(counts, group = options$group)
  lines <- switch(format, text = printed_lines(summary, options$out, rows = if (options$all) Inf else 6),
                  csv = csv_lines(counts),
                  json = json_lines(counts))
  write_pictures(counts, options)
  emit_result(counts, lines, options)
  draws_status(counts, options)
}

# Questions of recorded hands.
run_records_asked <- function(options) {
  of_shuffles <- c("exact", "held", "dead", "redraw_if", "keep", "turns", "sampled_anew", "group", "positions",
                   "program",
                   "precision")
  for (name in of_shuffles) {
    if (!is.null(options[[name]]) && !isFALSE(options[[name]])) {
      refuse_usage(draws_command(), sprintf("--%s is not for hands that were recorded.", gsub("_", "-", name)))
    }
  }
  asked <- named_questions(options, draws_command())
  first <- option_number(options, "first-number")
  expectation <- read_expectation(options$expect, names(asked))
  given <- read_given(options$given, names(asked))
  records <- draws_recorded(options$file, deck_from(options$deck), option_number(options, "size"), options$replace,
                            if (!is.null(first)) list(first = first), option_notation(options), option_columns(options),
                            !!!lapply(asked, typed_question))
  write_answered(records, options, given, expectation)
}

refuse_without_ask <- function(options) {
  for (name in c("given", "exact", "held", "dead", "redraw_if", "keep", "turns", "sampled_anew")) {
    if (!is.null(options[[name]]) && !isFALSE(options[[name]])) {
      refuse_usage(draws_command(), sprintf("--%s goes with --ask.", gsub("_", "-", name)))
    }
  }
}

draws_status <- function(counts, options) {
  if (is.null(options$expect)) return(exit_status[["done"]])
  # The expectation is about the draws themselves, not about the grouping shown.
  found <- verdict(counts)
  if (found == "too_few") refuse("There are too few draws to tell whether they are fair.", "value", call = NULL)
  if (found != "biased") return(exit_status[["done"]])
  cat("habanera: expected fair draws, but a bias is seen.\n", file = stderr())
  exit_status[["expectation_failed"]]
}

counts_for_shell <- function(options, deck) {
  sources <- c(file = !is.null(options$file), program = !is.null(options$program),
               positions = options$positions)
  if (sum(sources) > 1) {
    refuse_usage(draws_command(), sprintf("--%s and --%s exclude each other.",
                                          names(which(sources))[1], names(which(sources))[2]))
  }
  size <- option_number(options, "size")
  if (options$positions && (!is.null(size) || options$replace)) {
    refuse_usage(draws_command(), "--positions looks at the whole deck: no --size, no --replace.")
  }
  first <- option_number(options, "first-number")
  numbering <- if (!is.null(first)) list(first = first)
  if (sources[["file"]]) {
    return(draws_recorded(options$file, deck, size, options$replace, numbering, option_notation(options),
                          option_columns(options)))
  }
  simulate_for_shell(shell_experiment(options, deck, size, numbering), options, "card")
}

shell_experiment <- function(options, deck, size, numbering) {
  shuffle <- procedure(options$shuffle)
  if (options$positions) return(positions(deck, shuffle))
  if (!is.null(options$program)) {
    return(draws_program(options$program, deck, size, options$replace, numbering, each_trial = options$each_trial))
  }
  draws(deck, if (is.null(size)) 5 else size, replace = options$replace, shuffle = shuffle)
}
