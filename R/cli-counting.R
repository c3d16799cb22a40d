# Counting in the shell.

removal_command <- function() {
  new_command(
    "removal", "What a card that is gone from the shoe is worth to the player, exactly.", "removal GAME [OPTIONS]",
    c(game_options(), list(
      cli_option("of", "Bets, separated by commas, such as main,insurance [the main bet]", "BETS"), figure_option()
    ), result_options()),
    game_examples("removal"),
    function(options, arguments) {
      game <- shell_game(options, arguments, removal_command())
      of <- typed_words(options$of)
      write_found(removal_effects(game, of = of), options)
    }
  )
}

counting_command <- function() {
  new_command(
    "counting", "A counting system, and how well its tags go with what missing cards are worth.",
    "counting SYSTEM [OPTIONS]",
    c(list(cli_option("game", "The game that is counted [blackjack]", "GAME", "blackjack")), game_options(),
      result_options()),
    c("habanera counting \"level one balanced\"", "habanera counting level-one.yaml --set packs=1"),
    function(options, arguments) {
      command <- counting_command()
      if (length(arguments) != 1) {
        refuse_usage(command, "it needs a counting system: a file, or the name of a plain one.")
      }
      write_found(judge_count(shell_game(options, options$game, command), arguments), options)
    }
  )
}

bets_follow_command <- function() {
  new_command(
    "bets-follow", "Recorded bets with the cards seen: do they rise with the count?", "bets-follow FILE [OPTIONS]",
    c(list(
      cli_option("counting", "The counting system: a file, or the name of a plain one [level one balanced]", "SYSTEM",
                 "level one balanced"),
      cli_option("game", "The game that was dealt [blackjack]", "GAME", "blackjack"),
      cli_option("rise", "The rise to be seen, as a share of the mean bet for each count [0.2]", "SHARE", "0.2"),
      figure_option()
    ), game_options(), result_options()),
    c("habanera bets-follow bets-at-the-window.csv", "habanera bets-follow bets-by-the-door.csv --figure bets.png"),
    function(options, arguments) {
      command <- bets_follow_command()
      if (length(arguments) != 1) refuse_usage(command, "it needs a file of bets.")
      found <- bets_follow(shell_game(options, options$game, command), arguments, options$counting,
                           option_number(options, "rise"))
      write_found(found, options, table = tidy(found))
    }
  )
}
