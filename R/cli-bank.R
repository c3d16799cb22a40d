# Money in the shell: bankrolls, seasons, takings.

bankroll_command <- function() {
  new_command(
    "bankroll", "How likely ruin is, or a goal, by how much a bankroll falls.", "bankroll GAME --start S [OPTIONS]",
    c(game_options(), list(
      cli_option("start", "The bankroll, in stakes", "STAKES"),
      cli_option("rounds", "How many rounds, or Inf [1000]", "N", "1000"),
      cli_option("goal", "The bankroll at which one stops", "STAKES"),
      cli_option("after-loss", "What the bet is multiplied by after a loss [1]", "TIMES"),
      cli_option("after-win", "What it is multiplied by after a win; first: the first bet again [first]", "TIMES"),
      cli_option("limit", "The most that the table takes, in first bets [100]", "BETS"),
      expect_found_option(),
      figure_option()
    ), result_options()),
    c("habanera bankroll high_card --start 50 --rounds 500 --goal 100",
      "habanera bankroll high_card --start 100 --rounds 300 --after-loss 2 --limit 64 --figure doubling.png"),
    function(options, arguments) {
      command <- bankroll_command()
      game <- shell_game(options, arguments, command)
      if (is.null(options$start)) refuse_usage(command, "it needs --start, the bankroll.")
      plan <- typed_plan(options, command)
      found <- bankroll(game, option_number(options, "start"), option_number(options, "rounds"),
                        option_number(options, "goal"), plan)
      tell_found(found, options)
    }
  )
}

expect_found_option <- function() {
  cli_option("expect", "A condition on what is found, by term: exit with status 1 if it does not hold", "CONDITION")
}

typed_plan <- function(options, command) {
  times <- function(text, usual) {
    if (is.null(text)) return(usual)
    number <- written_numbers(text)
    if (is.na(number)) text else number
  }
  if (is.null(options$after_loss) && is.null(options$after_win)) {
    if (!is.null(options$limit)) refuse_usage(command, "--limit goes with --after-loss or --after-win.")
    return(NULL)
  }
  limit <- option_number(options, "limit")
  bet_progression(times(options$after_loss, 1), times(options$after_win, "first"),
                  if (is.null(limit)) 100 else limit)
}

# What was found with its terms as a table, and whether it is as expected.
tell_found <- function(found, options) {
  rows <- tidy(found)
  expectation <- read_expectation(options$expect, rows$term)
  write_found(found, options, table = rows)
  expected_status(expectation, rows)
}

sessions_command <- function() {
  new_command(
    "sessions", "What a table brings the house in a night and a season, and the reserve that it needs.",
    "sessions GAME --rounds N [OPTIONS]",
    c(game_options(), list(
      cli_option("rounds", "How many rounds a night has", "N"),
      cli_option("sessions", "How many nights a season has [12]", "N", "12"),
      cli_option("reserve", "What the house has at hand, in money", "MONEY"),
      cli_option("costs", "What a night costs besides, in stakes [0]", "STAKES", "0"),
      cli_option("stake", "What a stake is worth, in money [1]", "MONEY", "1"),
      expect_found_option(),
      figure_option()
    ), result_options()),
    c("habanera sessions high_card --rounds 300 --reserve 100",
      "habanera sessions blackjack --rounds 2000 --player regular:name=baker --stake 0.5 --figure season.png"),
    function(options, arguments) {
      command <- sessions_command()
      game <- shell_game(options, arguments, command)
      if (is.null(options$rounds)) refuse_usage(command, "it needs --rounds, those of a night.")
      found <- sessions(game, option_number(options, "rounds"), option_number(options, "sessions"),
                        option_number(options, "reserve"), option_number(options, "costs"),
                        option_number(options, "stake"))
      tell_found(found, options)
    }
  )
}

takings_command <- function() {
  new_command(
    "takings", "What was taken, night by night, against what the rules should bring: was it luck?",
    "takings FILE [OPTIONS]",
    c(list(
      cli_option("game", "The game that was played [blackjack]", "GAME", "blackjack"), figure_option()
    ), game_options(), result_options()),
    c("habanera takings takings-front.csv --player basic",
      "habanera takings takings-back.csv --player basic --figure takings.png"),
    function(options, arguments) {
      command <- takings_command()
      if (length(arguments) != 1) refuse_usage(command, "it needs a file of takings.")
      found <- takings(shell_game(options, options$game, command), arguments)
      write_found(found, options, table = tidy(found))
    }
  )
}
