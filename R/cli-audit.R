audit_command <- function() {
  new_command(
    "audit", "Tests whether a shuffle is fair: a procedure, arrangements in a file, or somebody's program.",
    "audit [PROCEDURE] [OPTIONS]",
    c(list(
      cli_option("deck", "As in habanera draws [standard]", "DECK", "standard"),
      cli_option("file", "Judge the arrangements in this file, one a row (- is standard input)", "FILE"),
      cli_option("program", "Judge this program: a deck a line in, an arrangement a line out", "COMMAND"),
      each_trial_option(), first_number_option(), notation_option(), columns_option(),
      cli_option("trials", "Number of trials, such as 1e6 [100000; of a file: all its rows]", "N"),
      cli_option("each", "fresh: each trial from the deck in order; continued: from the last [fresh]", "HOW", "fresh"),
      cli_option("alike", "Attributes whose likes are looked for side by side, separated by commas [suit,rank]",
                 "NAMES"),
      cli_option("grid", "The cards lie in rows and columns, such as 5x6", "RxC"),
      cli_option("sizes", "Audit on decks of these sizes instead, such as 0:10", "RANGE"),
      cli_option("diagnose", "Also tell which known slip it behaves like"),
      cli_option("places", "Also tell the worst places, and what each test would have found"),
      cli_option("level", "Chance of calling a fair shuffle biased [0.01]", "P", "0.01"),
      cli_option("expect", "fair: exit with status 1 if it is not", "WORD"),
      figure_option(), seed_option(), threads_option()
    ), result_options()),
    c("habanera audit \"riffle x4, cut\" --expect fair",
      "habanera audit --deck orchard.csv --file volunteer-shuffles.csv --diagnose",
      "habanera audit --deck orchard.csv --program \"python3 shuffle-wrong.py\" --report audit.html",
      "habanera audit naive_swap --sizes 0:10"),
    run_audit
  )
}

run_audit <- function(options, arguments) {
  option_word(options, "expect", "fair")
  option_word(options, "each", c("fresh", "continued"))
  format <- result_format(options)
  shuffling <- audited_for_shell(options, arguments)
  if (format != "text" && (options$diagnose || options$places)) {
    refuse_usage(audit_command(), "--diagnose and --places are told in text only.")
  }
  if (!is.null(options$sizes)) return(run_audit_sizes(shuffling, options))
  failure <- NULL
  found <- tryCatch(audit_for_shell(shuffling, options), habanera_error_program = function(cnd) {
    failure <<- cnd
    cnd$audit
  })
  if (!is.null(found)) write_audit(found, options, format)
  if (!is.null(failure)) return(report_error(failure))
  fair_status(verdict(found) == "no_bias_seen", options)
}

audited_for_shell <- function(options, arguments) {
  given <- c(procedure = length(arguments) > 0, `--file` = !is.null(options$file),
             `--program` = !is.null(options$program))
  if (!any(given)) refuse_usage(audit_command(), "say a procedure, such as \"riffle x3\", or --file or --program.")
  if (sum(given) > 1) {
    refuse_usage(audit_command(), sprintf("%s and %s exclude each other.", names(which(given))[1],
                                          names(which(given))[2]))
  }
  if (given[["procedure"]]) return(procedure_argument(audit_command(), arguments))
  refuse_beside(if (given[["--file"]]) "file" else "program", c("sizes", "seed"), options)
  first <- option_number(options, "first-number")
  numbering <- if (!is.null(first)) list(first = first)
  deck <- deck_from(options$deck)
  if (given[["--file"]]) shuffle_recorded(options$file, deck, numbering, option_notation(options),
                                                    option_columns(options)) else
    shuffle_program(options$program, deck, numbering, each_trial = options$each_trial)
}

# An option that would be passed over beside another is refused.
refuse_beside <- function(name, others, options) {
  given <- Filter(function(other) !is.null(options[[other]]) && !isFALSE(options[[other]]), others)
  if (length(given)) refuse_usage(audit_command(), sprintf("--%s and --%s exclude each other.", name, given[1]))
}

audit_for_shell <- function(shuffling, options) {
  settings <- list(shuffling, level = option_number(options, "level"), threads = option_number(options, "threads"),
                   grid = option_grid(options$grid), each = options$each)
  settings$alike <- typed_words(options$alike)
  if (!is.null(options$trials)) settings$nsim <- option_number(options, "trials")
  if (inherits(shuffling, "habanera_procedure")) {
    settings$deck <- deck_from(options$deck)
    settings$seed <- option_number(options, "seed")
  }
  do.call(audit, settings)
}

write_audit <- function(found, options, format) {
  write_pictures(found, options)
  if (format == "text") {
    lines <- printed_lines(if (options$places) summary(found) else found, options$out)
    if (options$diagnose) lines <- c(lines, "", printed_lines(diagnose(found), options$out))
    emit_or_write(lines, options$out)
  } else {
    emit_table(tidy(found), options, found)
  }
}

run_audit_sizes <- function(shuffling, options) {
  refuse_beside("sizes", c("grid", "alike", "diagnose", "places", "report", "figure"), options)
  if (options$deck != "standard") refuse_usage(audit_command(), "--sizes audits numbered decks: no --deck.")
  sizes <- option_range(options$sizes, "sizes", "0:10")
  trials <- option_number(options, "trials")
  found <- audit(shuffling, nsim = if (is.null(trials)) 1e5 else trials, seed = option_number(options, "seed"),
                 each = options$each, level = option_number(options, "level"), sizes = sizes,
                 threads = option_number(options, "threads"))
  write_found(found, options)
  fair_status(all(found$verdict == "no_bias_seen"), options)
}

fair_status <- function(is_fair, options) {
  if (is.null(options$expect) || is_fair) return(exit_status[["done"]])
  cat("habanera: expected a fair shuffle, but it is not.\n", file = stderr())
  exit_status[["expectation_failed"]]
}

mixing_command <- function() {
  new_command(
    "mixing", "Tells how many repeats are enough: distance from uniform and a guesser's gain, repeat by repeat.",
    "mixing PROCEDURE... [OPTIONS]",
    c(list(
      cli_option("times", "Numbers of repeats [0:12]", "RANGE", "0:12"),
      cli_option("deck", "As in habanera draws [standard]", "DECK", "standard"),
      cli_option("distance", "Passing: a distance below this [0.1]", "D", "0.1"),
      cli_option("gain", "Passing: a guesser's gain below this, in cards a deck [0.1]", "G", "0.1"),
      cli_option("by", "The figure's axis: repeats or seconds [repeats]", "WHAT", "repeats")
    ), study_options("Trials for each number of repeats", "100000"), result_options()),
    c("habanera mixing riffle overhand --times 0:10",
      "habanera mixing \"wash, riffle x2\" \"piles, riffle\" --by seconds --figure mixing.png"),
    run_mixing
  )
}

run_mixing <- function(options, arguments) {
  if (!length(arguments)) refuse_usage(mixing_command(), "say one procedure or several, such as riffle \"strip, cut\".")
  by <- option_word(options, "by", c("repeats", "seconds"))
  found <- mixing(as.list(arguments), option_range(options$times, "times", "0:12"), deck_from(options$deck),
                  option_number(options, "trials"), option_number(options, "seed"), option_number(options, "threads"),
                  option_number(options, "distance"), option_number(options, "gain"))
  write_found(found, options, by = by)
}
