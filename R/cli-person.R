# A person at the terminal, and what the moves were worth.

judge_command <- function() {
  new_command(
    "judge", "Tells what each move that a person made was worth.", "judge FILE [OPTIONS]",
    c(list(cli_option("by", "Whose judgement: lookahead, with its settings, or solved", "PLAYER",
                      "lookahead:samples=200:playing=full_memory")), result_options()),
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
