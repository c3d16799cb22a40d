# Whether a game is sound, in the shell.

check_command <- function() {
  new_command(
    "check", "Whether a game is sound: it ends, repeats, keeps its cards and what is hidden.", "check GAME [OPTIONS]",
    c(game_options(), list(cli_option("trials", "Games that are played [200]", "N", "200"),
                           cli_option("seed", "The seed of the trials [1]", "S", "1"),
                           cli_option("seats-alike", "Also whether all seats win as often", NULL, FALSE)),
      result_options()),
    c("habanera check clock.R", "habanera check lift.cpp --seats-alike", "habanera check pairs --trials 50"),
    function(options, arguments) {
      game <- shell_game(options, arguments, check_command())
      found <- check_game(game, option_number(options, "trials"), option_number(options, "seed"),
                          seats_alike = options$seats_alike)
      write_found(found, options)
      exit_status[[if (all(found$passed)) "done" else "expectation_failed"]]
    }
  )
}
