# A seat that counts, in the shell.

# The same for all commands in which it may play.
counter_options <- function() {
  list(
    cli_option("counting", "The last seat counts by this system: a file, or the name of a plain one", "SYSTEM"),
    cli_option("bets", "With --counting: bets by the count, a file (.csv) or such as \"0=1 1=2 2=4\" [1]", "BETS"),
    cli_option("deviations", "With --counting: where play goes by the count (.csv)", "FILE"),
    cli_option("insurance-at", "With --counting: the count from which on it is insured", "COUNT"),
    cli_option("leaves-below", "With --counting: the count below which the shoe is left", "COUNT"),
    cli_option("enters-at", "With --counting: the count from which on a shoe is joined", "COUNT")
  )
}

# The game with the player that these options tell of in its last seat; --player is then who decides for all.
with_typed_counter <- function(game, options, command) {
  given <- c("bets", "deviations", "insurance-at", "leaves-below", "enters-at")
  given <- given[!vapply(options[gsub("-", "_", given)], is.null, NA)]
  if (is.null(options$counting)) {
    if (length(given)) refuse_usage(command, sprintf("--%s goes with --counting.", given[1]))
    return(game)
  }
  seats <- game_seats(game)
  if (!"players" %in% names(game$rules)) {
    refuse_usage(command, sprintf("--counting is for games dealt from a shoe, not %s.", kind_of(game)$title))
  }
  decides <- seated_players(game$rules$players, seats)[[seats]]
  counter <- player_counting(if (decides$name != "flat") decides, options$counting,
                             bets = if (is.null(options$bets)) 1 else options$bets, deviations = options$deviations,
                             insurance_at = option_number(options, "insurance-at"),
                             leaves_below = option_number(options, "leaves-below"),
                             enters_at = option_number(options, "enters-at"))
  with_counter(game, counter, seats, NULL)
}

# Shoes played by one who counts, told by the count.
play_counted <- function(game, options, command) {
  for (name in c("given", "report", "moves")) {
    if (!is.null(options[[name]])) refuse_usage(command, sprintf("--%s does not go with --counting.", name))
  }
  if (options$exact) refuse_usage(command, "With --counting shoes are simulated: no --exact.")
  if (!holds_rounds(game)) refuse_usage(command, "--counting needs shoes of several rounds, as --set cut_after=0.75.")
  expectation <- read_expectation(options$expect, c("gain", "per_bet", "bet", "plays"))
  found <- by_true_count(simulate_for_shell(game, options, "net_per_bet"))
  write_found(found, options)
  expected_status(expectation, tidy(found))
}
