replay_command <- function() {
  new_command(
    "replay", "Shows one game step by step, as a simulation with this seed plays it.", "replay GAME --seed S [OPTIONS]",
    c(game_options(), list(
      cli_option("seed", "The seed of the simulation", "S"),
      cli_option("trial", "The number of the game [1]", "T"),
      cli_option("longest", "Play --trials games and show the one in which this outcome was largest", "OUTCOME"),
      cli_option("shortest", "The same for the smallest", "OUTCOME"),
      cli_option("where", "The same for the first whose outcomes meet this condition", "CONDITION"),
      cli_option("trials", "Games to look through [10000]", "N", "10000"),
      cli_option("from", "The first step shown [1]", "STEP", "1"),
      cli_option("steps", "How many steps are shown [all]", "N"),
      cli_option("pause", "Wait for Enter after each step"),
      cli_option("figure", "Also write the course of the piles (.png, .svg or .pdf)", "FILE")
    ), counter_options(), result_options()),
    game_examples("replay"),
    run_replay
  )
}

run_replay <- function(options, arguments) {
  command <- replay_command()
  game <- with_typed_counter(shell_game(options, arguments, command), options, command)
  # Given piles are played as they lie, the same under every seed.
  if (is.null(options$seed) && !is.null(options$piles)) options$seed <- "1"
  if (is.null(options$seed)) refuse_usage(command, "it needs --seed, that of the simulation.")
  format <- result_format(options)
  if (options$pause && (format != "text" || !is.null(options$out))) {
    refuse_usage(command, "--pause shows steps in the terminal: no --format, no --out.")
  }
  trace <- shell_trace(game, options, command)
  from <- check_whole(option_number(options, "from"), 1, nrow(trace), "--from", NULL)
  steps <- option_number(options, "steps")
  steps <- if (is.null(steps)) nrow(trace) else check_whole(steps, 1, name = "--steps", call = NULL)
  write_pictures(trace, options)
  if (options$pause) return(show_slowly(trace, from, steps))
  if (format == "text") {
    emit_or_write(printed_lines(trace, options$out, from = from, most = steps), options$out)
  } else {
    emit_table(shown_steps(trace, from, steps), options, trace)
  }
  exit_status[["done"]]
}

shown_steps <- function(trace, from, steps) {
  plain <- plain_table(trace)
  plain[plain$step >= from & plain$step < from + steps, , drop = FALSE]
}

shell_trace <- function(game, options, command) {
  seed <- option_number(options, "seed")
  searches <- Filter(function(name) !is.null(options[[name]]), c("longest", "shortest", "where"))
  if (length(searches) > 1 || (length(searches) && !is.null(options[["trial"]]))) {
    refuse_usage(command, "--trial, --longest, --shortest and --where exclude each other.")
  }
  if (!length(searches)) {
    trial <- option_number(options, "trial")
    return(replay(game, seed, if (is.null(trial)) 1 else trial))
  }
  counts <- simulate(game, option_number(options, "trials"), seed)
  if (searches == "where") {
    return(replay(counts, where = !!typed_question(parse_expression(options$where, "--where", NULL))))
  }
  replay(counts, longest = options$longest, shortest = options$shortest)
}

# A step at a time; Enter goes on, the end of the input stops.
show_slowly <- function(trace, from, steps) {
  lines <- trace_lines(trace)
  emit(c(trace_heading(trace), lines[c(1, from + 1)]))
  keys <- file("stdin")
  open(keys)
  on.exit(close(keys))
  for (step in seq(from + 1, length.out = min(steps - 1, nrow(trace) - from))) {
    if (!length(readLines(keys, 1))) break
    emit(lines[step + 1])
  }
  exit_status[["done"]]
}
