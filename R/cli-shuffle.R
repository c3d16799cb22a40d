procedures_command <- function() {
  new_command(
    "procedures", "Lists the steps that shuffling procedures are made of.", "procedures [OPTIONS]",
    common_options(), c("habanera procedures", "habanera procedures --format csv"), run_procedures
  )
}

run_procedures <- function(options, arguments) {
  refuse_arguments(procedures_command(), arguments)
  write_listed(shuffle_steps(), options)
  exit_status[["done"]]
}

size_option <- function(default) {
  cli_option("deck-size", sprintf("Number of cards [%s]", default), "N", as.character(default))
}

# The procedure that a command is about, from its words.
procedure_argument <- function(command, arguments) {
  if (!length(arguments)) refuse_usage(command, "say a procedure, such as \"riffle x3, cut\".")
  procedure(paste(arguments, collapse = " "))
}

shuffle_command <- function() {
  new_command(
    "shuffle", "Shuffles a deck once, and with --show tells every move.", "shuffle PROCEDURE [OPTIONS]",
    c(list(
      cli_option("deck", "As in habanera draws [standard]", "DECK", "standard"),
      seed_option(), cli_option("trial", "Trial of the seed [1]", "K", "1"),
      cli_option("show", "Tell every move, and what is left in place")
    ), common_options()),
    c("habanera shuffle \"riffle x3\" --show --seed 1", "habanera shuffle \"piles piles=7\" --deck \"numbered 20\""),
    run_shuffle
  )
}

run_shuffle <- function(options, arguments) {
  shuffling <- procedure_argument(shuffle_command(), arguments)
  deck <- deck_from(options$deck)
  seed <- resolve_seed(option_number(options, "seed"))
  trial <- option_number(options, "trial")
  inform_user(sprintf("Shuffled with seed %s, trial %s.", whole_code(seed), format_count(trial)))
  format <- result_format(options)
  shown <- if (options$show) replay(shuffling, seed, trial, deck = deck) else {
    shuffle(deck, shuffling, seed, trial)
  }
  if (format == "text") emit_or_write(printed_lines(shown, options$out), options$out) else {
    emit_table(if (options$show) shown$moves else card_attributes(shown), options, if (options$show) shown)
  }
  exit_status[["done"]]
}

follow_command <- function() {
  new_command(
    "follow", "Follows a card, or the whole deck, through repeats of a procedure.",
    "follow PROCEDURE [OPTIONS]",
    c(list(
      cli_option("position", "The card's place at the start [the whole deck]", "P"),
      cli_option("where-from", "Instead: where must the card start that ends at this place", "P"),
      cli_option("times", "Number of repeats [1]", "N", "1"), size_option(52),
      cli_option("deck", "Instead of --deck-size: a deck, as in habanera draws", "DECK"),
      cli_option("trials", "Trials, where it is simulated [100000]", "N", "100000"), seed_option(),
      figure_option()
    ), result_options()),
    c("habanera follow \"faro\" --position 2 --times 14 --deck-size 44",
      "habanera follow \"riffle\" --position 1 --deck-size 5"),
    run_follow
  )
}

run_follow <- function(options, arguments) {
  shuffling <- procedure_argument(follow_command(), arguments)
  cards <- if (is.null(options$deck)) option_number(options, "deck-size") else length(deck_from(options$deck))
  found <- follow(shuffling, option_number(options, "position"), option_number(options, "times"),
                  cards, option_number(options, "where-from"),
                  option_number(options, "trials"), option_number(options, "seed"))
  write_found(found, options)
}

period_command <- function() {
  new_command(
    "period", "After how many repeats a deterministic procedure has the deck back.",
    "period PROCEDURE [OPTIONS]",
    c(list(cli_option("deck-size", "Number of cards, or a range such as 2:60 [44]", "N", "44"),
           figure_option()), result_options()),
    c("habanera period faro --deck-size 44", "habanera period \"faro side=in\" --deck-size 2:60 --figure periods.png"),
    run_period
  )
}

run_period <- function(options, arguments) {
  shuffling <- procedure_argument(period_command(), arguments)
  write_found(restore_period(shuffling, option_range(options$deck_size, "deck-size", "2:60")), options)
}

exact_command <- function() {
  new_command(
    "exact", "The exact distribution of the arrangement that a procedure leaves on a small deck.",
    "exact PROCEDURE [OPTIONS]",
    c(list(size_option(4), figure_option()), result_options()),
    c("habanera exact naive_swap --deck-size 3", "habanera exact \"riffle x2\" --deck-size 5 --format csv"),
    run_exact
  )
}

run_exact <- function(options, arguments) {
  shuffling <- procedure_argument(exact_command(), arguments)
  law <- exact(shuffling, deck_numbered(option_number(options, "deck-size")))
  lines <- switch(result_format(options), csv = csv_lines(law), json = json_lines(law),
                  text = c(printed_lines(summary(law), options$out), printed_lines(law, options$out)))
  write_pictures(law, options)
  emit_result(law, lines, options)
  exit_status[["done"]]
}
