# Two games on the same deals, and what a card is worth, in the shell.

compare_command <- function() {
  new_command(
    "compare", "Plays a game by two sets of rules on the same deals: how do they differ?",
    "compare GAME --other RULE=VALUE [OPTIONS]",
    c(game_options(), list(
      cli_option("other", "A rule by which the second game differs; may be given again", "RULE=VALUE")
    ), study_options("Games", "100000"), result_options()),
    game_examples("compare"),
    run_compare
  )
}

run_compare <- function(options, arguments) {
  command <- compare_command()
  if (is.null(options$other)) refuse_usage(command, "it needs --other with a rule and its value.")
  game <- shell_game(options, arguments, command)
  other <- change_rules(game, !!!typed_rules(options$other, "other", command, game))
  found <- compare(game, other, option_number(options, "trials"), option_number(options, "seed"),
                   option_number(options, "threads"))
  write_found(found, options, table = tidy(found))
}

impact_command <- function() {
  new_command(
    "impact", "What a card is worth: how much being dealt one more changes the chance to win.", "impact GAME [OPTIONS]",
    c(game_options(), list(
      cli_option("by", "card, or an attribute such as rank [card]", "WHAT", "card"),
      cli_option("outcome", "win, or an outcome that is a number [win]", "OUTCOME", "win"),
      cli_option("seat", "The seat that holds it [1]", "N", "1")
    ), study_options("Games", "100000"), result_options()),
    game_examples("impact"),
    run_impact
  )
}

run_impact <- function(options, arguments) {
  found <- card_impact(shell_game(options, arguments, impact_command()), options$by, options$outcome,
                       option_number(options, "seat"), option_number(options, "trials"), option_number(options, "seed"),
                       option_number(options, "threads"))
  write_found(found, options)
}
