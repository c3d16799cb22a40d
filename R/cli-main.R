# The habanera command. run_command() is given the words after "habanera", writes results to
# standard output and everything else to standard error, and returns the exit status.

run_command <- function(words) {
  # What was typed is told by results of how they were made, and by errors.
  rlang::local_options(habanera.words = words, habanera.options = NULL)
  ended <- NULL
  note_end <- function(how) function(cnd) ended <<- how
  status <- tryCatch(
    withCallingHandlers(dispatch_when_heard(words), habanera_warning_interrupted = note_end("interrupted"),
                        habanera_warning_unwritten = note_end("failed"), message = note_to_stderr,
                        warning = note_to_stderr),
    habanera_pipe_closed = function(cnd) exit_status[["done"]],
    habanera_error = function(cnd) report_error(cnd),
    interrupt = function(cnd) report_interrupt(),
    error = function(cnd) report_error(cnd)
  )
  if (is.null(ended)) status else exit_status[[ended]]
}

note_to_stderr <- function(cnd) {
  if (inherits(cnd, "cli_message")) return(invisible())  # the progress bar draws itself
  cat(trimws(in_shell_words(conditionMessage(cnd))), "\n", sep = "", file = stderr())
  rlang::cnd_muffle(cnd)
}

# Who makes each command, in the groups of the help: to make all of them would take longer than most answers.
command_makers <- function() {
  list(
    demo = demo_command, study = study_command,
    deck = deck_command, procedures = procedures_command, shuffle = shuffle_command, follow = follow_command,
    period = period_command, exact = exact_command, audit = audit_command, mixing = mixing_command,
    draws = draws_command, until = until_command, payout = payout_command, needed = needed_command,
    hands = hands_command, `category-odds` = category_odds_command, showdown = showdown_command,
    games = games_command, play = play_command, replay = replay_command, vary = vary_command, tune = tune_command,
    compare = compare_command, impact = impact_command, check = check_command,
    `round-robin` = round_robin_command, best = best_command, equilibrium = equilibrium_command,
    judge = judge_command, advise = advise_command, strategy = strategy_command, mistakes = mistakes_command,
    edge = edge_command, price = price_command, edges = edges_command, `rule-effects` = rule_effects_command,
    dealer = dealer_command, bankroll = bankroll_command, sessions = sessions_command, takings = takings_command,
    counting = counting_command, removal = removal_command, `bets-follow` = bets_follow_command
  )
}
commands <- function() lapply(command_makers(), function(make) make())

dispatch_when_heard <- function(words) {
  core_hear_interrupts()
  dispatch_command(words)
}

dispatch_command <- function(words) {
  check_utf8(words, "the words", NULL)
  if (!length(words) || words[1] %in% c("--help", "-h", "help")) {
    emit(general_help())
    return(exit_status[["done"]])
  }
  if (words[1] == "--version") {
    emit(paste("habanera", package_version_text()))
    return(exit_status[["done"]])
  }
  if (words[1] == "--completion") {
    emit(completion_script(words[-1], commands()))
    return(exit_status[["done"]])
  }
  known <- command_makers()
  if (!words[1] %in% names(known)) refuse_command(words[1], names(known))
  run_one_command(known[[words[1]]](), words[-1])
}

refuse_command <- function(word, known) {
  refuse(sprintf("There is no command %s%s Commands: %s; habanera --help tells more.", quoted(word),
                 did_you_mean(word, c(known, "--help", "--version", "--completion")), join_words(known)),
         "usage", call = NULL)
}

run_one_command <- function(command, words) {
  if (any(words %in% c("--help", "-h"))) {
    emit(command_help(command))
    return(exit_status[["done"]])
  }
  # Until run_command() ends, so that what it reports knows them.
  options(habanera.options = option_names(command))
  parsed <- parse_words(command, words)
  rlang::local_options(habanera.progress = isatty(stderr()) && !isTRUE(parsed$options$quiet))
  if (isTRUE(parsed$options$quiet)) {
    return(withCallingHandlers(command$run(parsed$options, parsed$arguments),
                               message = function(cnd) rlang::cnd_muffle(cnd)))
  }
  command$run(parsed$options, parsed$arguments)
}

# Kept as a file, so that the launcher can show it without starting R.
general_help <- function() readLines(system.file("cli", "help.txt", package = "habanera"))
