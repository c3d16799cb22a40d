# Players in the shell: everyone against everyone, and best play.

round_robin_command <- function() {
  new_command(
    "round-robin", "Plays everyone against everyone in every order of seats, all on the same deals.",
    "round-robin GAME --players PLAYERS [OPTIONS]",
    c(game_options(), list(
      cli_option("players", "Players, separated by commas, such as full_memory,forgetful:recall=0.7", "PLAYERS"),
      cli_option("mixture", "Which mixture of them none of them beats, at a game of two seats, instead", NULL, FALSE)
    ), study_options("Deals", "10000"), result_options()),
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
  if (isTRUE(options$mixture)) found <- equilibrium(found)
  write_found(found, options, table = as.data.frame(found))
}

best_command <- function() {
  new_command(
    "best", "What best play of a seat is worth, the other seats being as they are.", "best GAME [OPTIONS]",
    c(game_options(), list(
      cli_option("seat", "The seat that plays best [1]", "N", "1"),
      cli_option("against", "Who plays in the other seats, separated by commas; a CSV file is a table", "PLAYERS")
    ), result_options()),
    game_examples("best"),
    function(options, arguments) {
      game <- shell_game(options, arguments, best_command())
      found <- best_play(game, option_number(options, "seat"), typed_players(options$against))
      write_found(found, options, table = if (is.null(found$rows)) {
        as.data.frame(found[c("seat", "worth", "positions")])
      } else {
        as.data.frame(found)
      })
    }
  )
}

# Players as they are typed, a list; NULL where none are.
typed_players <- function(texts) {
  if (is.null(texts)) return(NULL)
  as.list(trimws(split_outside(paste(texts, collapse = ","), ",")))
}

equilibrium_command <- function() {
  new_command(
    "equilibrium", "Sound play of two seats that hide their cards, and how far from it at most.",
    "equilibrium GAME [OPTIONS]",
    c(game_options(), list(
      cli_option("gap", "What best answers may gain together [0.001]", "X", "0.001"),
      cli_option("seconds", "When to stop, whatever the gap is by then [60]", "X", "60"),
      figure_option()
    ), result_options()),
    c(game_examples("equilibrium"), "habanera equilibrium lanterns.cpp --deck 'numbered 3' --out sound.csv"),
    function(options, arguments) {
      game <- shell_game(options, arguments, equilibrium_command())
      found <- equilibrium(game, option_number(options, "gap"), option_number(options, "seconds"))
      write_found(found, options, table = as.data.frame(found))
    }
  )
}
