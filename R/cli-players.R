# Players in the shell: everyone against everyone, best play, and what the house keeps.

round_robin_command <- function() {
  new_command(
    "round-robin", "Plays everyone against everyone in every order of seats, all on the same deals.",
    "round-robin GAME --players PLAYERS [OPTIONS]",
    c(game_options(), list(
      cli_option("players", "Players, separated by commas, such as full_memory,forgetful:recall=0.7", "PLAYERS")
    ), study_options("Deals", "10000"), common_options()),
    game_examples("round_robin"),
    run_round_robin
  )
}

run_round_robin <- function(options, arguments) {
  command <- round_robin_command()
  if (is.null(options$players)) refuse_usage(command, "it needs --players, such as full_memory,careful,random.")
  game <- shell_game(options, arguments, command)
  found <- round_robin(game, paste(options$players, collapse = ","), option_number(options, "trials"),
                       option_number(options, "seed"), option_number(options, "threads"))
  write_found(found, options, table = as.data.frame(found))
}

edge_command <- function() {
  new_command(
    "edge", "What the house keeps of each bet of a game, exactly where that is in reach.", "edge GAME [OPTIONS]",
    c(game_options(), list(cli_option("trials", "Games, where it must be simulated [1000000]", "N", "1000000"),
                           seed_option(), threads_option()), common_options()),
    game_examples("edge"),
    function(options, arguments) {
      game <- shell_game(options, arguments, edge_command())
      found <- house_edge(game, nsim = option_number(options, "trials"), seed = option_number(options, "seed"),
                          threads = option_number(options, "threads"))
      write_found(found, options, table = tidy(found))
    }
  )
}

best_command <- function() {
  new_command(
    "best", "What best play of a seat is worth, the other seats being as they are.", "best GAME [OPTIONS]",
    c(game_options(), list(cli_option("seat", "The seat that plays best [1]", "N", "1")), common_options()),
    game_examples("best"),
    function(options, arguments) {
      game <- shell_game(options, arguments, best_command())
      found <- best_play(game, option_number(options, "seat"))
      write_found(found, options, table = data.frame(seat = found$seat, worth = found$worth, positions = found$positions))
    }
  )
}

judge_command <- function() {
  new_command(
    "judge", "Tells what each move that a person made was worth.", "judge FILE [OPTIONS]",
    c(list(cli_option("by", "Whose judgement: lookahead, with its settings, or solved", "PLAYER",
                      "lookahead:samples=200:playing=full_memory")), common_options()),
    c("habanera play pairs --person 1 --moves evening.json --seed 1", "habanera judge evening.json",
      "habanera judge evening.json --by solved"),
    function(options, arguments) {
      if (!length(arguments)) refuse_usage(judge_command(), "it needs the file that habanera play --moves wrote.")
      refuse_arguments(judge_command(), arguments[-1])
      write_found(judge_moves(arguments, options$by), options)
    }
  )
}

# habanera play --person: one game at the terminal, instead of many.
sit_person <- function(game, options, command) {
  many <- Filter(function(name) !is.null(options[[name]]), c("given", "expect", "precision", "report", "figure"))
  if (length(many)) refuse_usage(command, sprintf("--person plays one game: no --%s.", many[1]))
  sitting <- sit_in(game, option_number(options, "person"), option_number(options, "seed"), file = options$moves)
  emit_or_write(printed_lines(sitting, options$out), options$out)
  if (sitting$over) emit(printed_lines(sitting$trace, NULL))
  exit_status[["done"]]
}
