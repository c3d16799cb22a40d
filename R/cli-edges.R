# The tables of a house side by side.

edges_command <- function() {
  new_command(
    "edges", "Tables of a house side by side: what each bet keeps, earns in an hour and loses in a night.",
    "edges FILE... [OPTIONS]",
    c(list(
      cli_option("rounds-per-hour", "Rounds an hour has: a number, or one for each file, separated by commas [60]", "N",
                 "60"),
      cli_option("rounds", "Rounds of a night [300]", "N", "300"), figure_option()
    ), result_options()),
    c("habanera edges stall.yaml table.yaml machine.yaml --rounds-per-hour 90,70,400",
      "habanera edges table.yaml --figure edges.png"),
    function(options, arguments) {
      command <- edges_command()
      if (!length(arguments)) {
        refuse_usage(command, "it needs files: rules of games (with `game`), prizes of a draw, or results.")
      }
      per_hour <- written_numbers(strsplit(options$rounds_per_hour, ",", fixed = TRUE)[[1]])
      if (anyNA(per_hour)) refuse_usage(command, "--rounds-per-hour takes numbers, such as 60 or 90,70.")
      tables <- rlang::set_names(as.list(arguments), sub("[.][^.]*$", "", basename(arguments)))
      write_found(edge_table(!!!tables, rounds_per_hour = per_hour, rounds = option_number(options, "rounds")), options)
    }
  )
}
