# Two games on the same deals, and what a card is worth, in the shell.

compare_command <- function() {
  new_command(
    "compare", "Plays a game by two sets of rules on the same deals: how do they differ?",
    "compare GAME --other RULE=VALUE [OPTIONS]",
    c(game_options(), list(
      cli_option("other", "A rule by which the second game differs; may be given again", "RULE=VALUE"),
      cli_option("trials", "Games [100000]", "N", "100000"), seed_option(),
      cli_option("threads", "Number of threads [all cores]", "T"),
      cli_option("report", "Also write a page with figure and numbers", "FILE"), figure_option()
    ), common_options()),
    c("habanera compare war --other face_down=1 --seed 1",
      "habanera compare war --rules quick-game.yaml --other collect=winner_first --report compare.html"),
    run_compare
  )
}

run_compare <- function(options, arguments) {
  command <- compare_command()
  if (is.null(options$other)) refuse_usage(command, "it needs --other with a rule and its value, such as face_down=1.")
  game <- shell_game(options, arguments, command)
  other <- change_game(game, typed_rules(options$other, "other", command), NULL)
  found <- compare(game, other, option_number(options, "trials"), option_number(options, "seed"),
                   option_number(options, "threads"))
  write_told(found, tidy(found), options)
}

impact_command <- function() {
  new_command(
    "impact", "What a card is worth: how much being dealt one more changes the chance to win.", "impact GAME [OPTIONS]",
    c(game_options(), list(
      cli_option("by", "card, or an attribute such as rank [card]", "WHAT", "card"),
      cli_option("outcome", "win, or an outcome that is a number, such as rounds [win]", "OUTCOME", "win"),
      cli_option("seat", "The seat that holds it [1]", "N", "1"),
      cli_option("trials", "Games [100000]", "N", "100000"), seed_option(),
      cli_option("threads", "Number of threads [all cores]", "T"),
      cli_option("report", "Also write a page with figure and numbers", "FILE"), figure_option()
    ), common_options()),
    c("habanera impact war --by rank --seed 1",
      "habanera impact war --deck orchard.csv --set rank_by=rank --outcome rounds"),
    run_impact
  )
}

run_impact <- function(options, arguments) {
  found <- card_impact(shell_game(options, arguments, impact_command()), options$by, options$outcome,
                       option_number(options, "seat"), option_number(options, "trials"), option_number(options, "seed"),
                       option_number(options, "threads"))
  write_told(found, as.data.frame(unclass(found)[names(found)]), options)
}

needed_command <- function() {
  new_command(
    "needed", "How many draws it takes to see that a card comes up too often.", "needed [OPTIONS]",
    c(list(
      cli_option("deck", "As in habanera draws [standard]", "DECK", "standard"),
      cli_option("size", "Cards in a draw [5]", "K", "5"),
      cli_option("replace", "Put each card back before the next"),
      cli_option("card", "The card [the first]", "CARD"),
      cli_option("off-by", "How much too often, as a share: 0.1 is a tenth more [0.1]", "SHARE", "0.1"),
      cli_option("level", "Chance of calling fair draws biased [0.05]", "P", "0.05"),
      cli_option("power", "Chance of finding it [0.95]", "P", "0.95")
    ), common_options()),
    c("habanera needed --off-by 0.05", "habanera needed --deck orchard.csv --size 3 --card 11P"),
    run_needed
  )
}

run_needed <- function(options, arguments) {
  refuse_arguments(needed_command(), arguments)
  found <- draws_needed(option_deck(options$deck), option_number(options, "size"), option_number(options, "off-by"),
                        options$card, options$replace, option_number(options, "level"), option_number(options, "power"))
  lines <- if (result_format(options) == "text") aligned_lines(data.frame(test = found$test,
                                                                          draws = format_count(found$trials))) else
    table_lines(found, result_format(options))
  emit_or_write(lines, options$out)
  exit_status[["done"]]
}

# A result that prints, with the table that it is in other formats.
write_told <- function(found, table, options) {
  lines <- if (result_format(options) == "text") printed_lines(found, options$out) else
    table_lines(table, result_format(options))
  if (!is.null(options$report)) report(found, options$report)
  if (!is.null(options$figure)) write_figure(ggplot2::autoplot(found), options$figure)
  emit_or_write(lines, options$out)
  exit_status[["done"]]
}
