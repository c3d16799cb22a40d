# Rules tuned in the shell.

tune_command <- function() {
  new_command(
    "tune", "Finds the rules that surely meet wishes, and how near the others come.",
    "tune GAME --over RULE=VALUES --want CONDITION",
    c(game_options(), list(
      cli_option("over", paste("A rule, or a line of the pay table, and its values: RULE=0:3, RULE=ONE;OTHER; may be",
                               "given again"), "RULE=VALUES"),
      cli_option("copies", "How many of some cards: \"0:4 of rank == 'A'\"; may be given again", "COPIES"),
      cli_option("want", "What is to hold of estimates and rules; may be given again", "CONDITION"),
      cli_option("least", "What is to be least among the rules that meet the wishes", "NUMBER"),
      cli_option("most", "What is to be most among them", "NUMBER"),
      cli_option("wishes", "A file (.yaml, .json) with over, copies, want, least, most, changes, line_ups", "FILE"),
      cli_option("changes", "At most so many rules are other than now", "N"),
      cli_option("line-ups", "Players, apart by ; the wishes must hold with each of them", "PLAYERS"),
      cli_option("seconds", "After so long it ends, and says what is open [120]", "S", "120"),
      cli_option("level", "The chance that anything at all is wrongly called sure [0.05]", "P", "0.05"),
      cli_option("seconds-per-round", "What a round takes at the table, for wishes on minutes", "S")
    ), checkpoint_options(), study_options("The most trials of a candidate", "1000000"), result_options()),
    game_examples("tune"),
    run_tune
  )
}

run_tune <- function(options, arguments) {
  command <- tune_command()
  game <- shell_game(options, arguments, command)
  wished <- if (is.null(options$wishes)) list() else wishes_from_file(options$wishes, NULL)
  over <- c(typed_over(options$over, game, command), typed_copies(options$copies, command))
  if (length(over)) wished$over <- replaced_by_name(wished$over, over)
  for (name in c("want", "least", "most")) if (!is.null(options[[name]])) wished[[name]] <- options[[name]]
  if (!is.null(options$changes)) wished$changes <- option_number(options, "changes")
  if (!is.null(options$line_ups)) wished$line_ups <- as.list(trimws(strsplit(options$line_ups, ";")[[1]]))
  if (is.null(wished$over)) refuse_usage(command, "it needs --over with a rule and its values.")
  settings <- lapply(rlang::set_names(c("seconds", "level", "seed", "threads", "seconds_per_round")),
                     function(name) option_number(options, gsub("_", "-", name)))
  found <- do.call(tune_rules, c(list(game, nsim = option_number(options, "trials")), wished, settings,
                               list(checkpoint = options$checkpoint, anew = options$anew)))
  write_found(found, options)
}

# "RULE=VALUES" texts, rules and lines of a pay table, as lists of values by name.
typed_over <- function(texts, game, command) {
  lines <- able(game, "pays_by_lines")
  lines <- if (!is.null(lines)) names(lines$lines(game, NULL)$now)
  of_line <- vapply(texts, function(text) sub("=.*$", "", text) %in% lines, NA)
  typed <- lapply(typed_rules(unlist(texts[!of_line]), "over", command, game), typed_values)
  c(typed, rlang::set_names(lapply(sub("^[^=]*=", "", texts[of_line]), typed_values), sub("=.*$", "", texts[of_line])))
}

# "0:4 of CONDITION".
typed_copies <- function(texts, command) {
  if (is.null(texts)) return(NULL)
  bad <- texts[!grepl("^[0-9:,]+ of .", texts)]
  if (length(bad)) {
    refuse_usage(command, sprintf("--copies takes numbers and which cards, as in \"0:4 of rank == 'A'\", not %s.",
                                  quoted(bad[1])))
  }
  list(copies = rlang::set_names(lapply(sub(" of .*$", "", texts), typed_values), sub("^[^ ]* of ", "", texts)))
}
