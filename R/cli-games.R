# Games in the shell.

games_command <- function() {
  new_command(
    "games", "Lists the games there are, and what each of their rules may be.", "games [GAME] [OPTIONS]",
    common_options(), c("habanera games", game_examples("games")),
    function(options, arguments) {
      if (length(arguments) > 1) refuse_arguments(games_command(), arguments[-1])
      listed <- games(if (length(arguments)) arguments)
      write_listed(listed, options)
      exit_status[["done"]]
    }
  )
}

# What says which game: the same for all commands that play one.
game_options <- function() {
  list(
    cli_option("set", "A rule and its value; may be given again", "RULE=VALUE"),
    cli_option("rules", "A file of rules (.yaml, .json), or rules by name; --set wins over it", "FILE"),
    cli_option("deck", "As in habanera draws [standard]", "DECK"),
    cli_option("shuffle", "How it is shuffled, such as \"riffle x3\" [uniform]", "PROCEDURE"),
    cli_option("piles", "Start from the piles in this file, or typed: \"AS KD | 2S 3H\"", "PILES"),
    cli_option("seat-names", "Names of the seats, separated by commas", "NAMES"),
    cli_option("record", "Outcomes to count, separated by commas [as the game has it]", "OUTCOMES"),
    cli_option("player", "Who decides: a player by name, a table (.csv), rules or lines of what is kept (.txt)",
               "PLAYER"),
    cli_option("pays", "A pay table (.yaml, .json, .csv), of a game that has one", "FILE")
  )
}

play_command <- function() {
  new_command(
    "play", "Plays a game many times: who wins, how long does it take, does it end?", "play GAME [OPTIONS]",
    c(game_options(), list(
      exact_option(),
      cli_option("given", "Look only at games whose outcomes meet this condition", "CONDITION"),
      cli_option("expect", "A condition on estimates, by name: exit with status 1 if it does not hold", "CONDITION"),
      cli_option("precision", "Stop once the 95% half-width of the first outcome recorded is this small", "W"),
      figure_option(),
      cli_option("person", "Play one game yourself, in this seat, at the terminal", "SEAT"),
      cli_option("moves", "With --person: keep your moves in this file, or go on with those in it", "FILE")
    ), counter_options(), run_options(), result_options()),
    game_examples("play"),
    run_play
  )
}

run_play <- function(options, arguments) {
  game <- with_typed_counter(shell_game(options, arguments, play_command()), options, play_command())
  if (!is.null(options$counting)) return(play_counted(game, options, play_command()))
  if (!is.null(options$person)) return(sit_person(game, options, play_command()))
  if (!is.null(options$moves)) refuse_usage(play_command(), "--moves goes with --person.")
  expectation <- read_expectation(options$expect, estimate_names(game))
  write_answer(game, options, play_command(), read_given(options$given, game$record), expectation)
}

# What the kinds of games show of a command.
game_examples <- function(command) unlist(lapply(unname(game_kinds()), function(kind) kind$examples[[command]]))

shell_game <- function(options, arguments, command) {
  if (!length(arguments)) refuse_usage(command, sprintf("it needs the name of a game, such as %s.", games()$game[1]))
  refuse_arguments(command, arguments[-1])
  own <- if (is_game_file(arguments)) game_from_file(arguments, NULL) else if (is_cpp_file(arguments)) {
    game_cpp(arguments, !!!shell_deck(options))
  }
  given <- typed_rules(options$set, "set", command, if (is.null(own)) arguments else own)
  twice <- intersect(names(given), c(if (!is.null(options$deck)) "deck", if (!is.null(options$player)) "players",
                                     if (!is.null(options$pays)) "pays"))
  if (length(twice)) {
    refuse_usage(command, sprintf("--set %s= and --%s say the same; one of them is enough.", twice[1],
                                  sub("players", "player", twice[1])))
  }
  if (!is.null(options$deck)) given$deck <- deck_from(options$deck)
  if (!is.null(options$player)) given$players <- options$player
  if (!is.null(options$pays)) given$pays <- options$pays
  if (!is.null(own)) return(own_shell_game(own, given, options, command))
  game(arguments, !!!given, rules = options$rules, shuffle = options$shuffle, piles = options$piles,
       seat_names = typed_words(options$seat_names), record = typed_words(options$record))
}

# The deck that is told, as an argument: a class in C++ may not be made with any other.
shell_deck <- function(options) {
  told <- c(options$deck, sub("^deck=", "", grep("^deck=", options$set, value = TRUE)))
  if (length(told)) list(deck = deck_from(told[1]))
}

# A game in a file, by these rules and settings.
own_shell_game <- function(game, given, options, command) {
  if (!is.null(options$piles)) refuse_usage(command, "a game in a file lays its piles itself: no --piles.")
  if (!is.null(options$rules)) given <- utils::modifyList(rules_from_file(options$rules, kind_of(game), NULL), given)
  settings <- game$settings
  if (!is.null(options$shuffle)) settings$shuffle <- options$shuffle
  if (!is.null(options$seat_names)) settings$seat_names <- typed_words(options$seat_names)
  if (!is.null(options$record)) settings$record <- typed_words(options$record)
  refuse_unknown_rules(kind_of(game), given, NULL)
  new_game(kind_of(game), utils::modifyList(game$given, given), settings, NULL)
}

# "RULE=VALUE" texts as a list of rules; a text may hold several of the game's rules, and values by name.
typed_rules <- function(texts, name, command, game) {
  if (is.null(texts)) return(list())
  known <- if (inherits(game, "habanera_game")) rule_names(kind_of(game)) else games(game)$rule
  parts <- unlist(lapply(texts, split_rules, known))
  bad <- parts[!grepl("^[a-z_0-9]+=.", parts)]
  if (length(bad)) {
    refuse_usage(command, sprintf("--%s takes a rule and its value, as in RULE=VALUE, not %s.", name, quoted(bad[1])))
  }
  rlang::set_names(lapply(sub("^[^=]*=", "", parts), typed_value), sub("=.*$", "", parts))
}

# Divided before each name of a rule; before any other name, too, unless the value before is one by names.
split_rules <- function(text, rules) {
  parts <- trimws(strsplit(text, ",[[:space:]]*(?=[a-z][a-z_0-9]*=)", perl = TRUE)[[1]])
  Reduce(function(done, part) {
    last <- done[length(done)]
    if (sub("=.*$", "", part) %in% rules || !grepl("=.*=", last)) return(c(done, part))
    c(done[-length(done)], paste(last, part, sep = ","))
  }, parts[-1], parts[1])
}

typed_value <- function(text) {
  text <- trimws(text)
  number <- written_numbers(text)
  if (!is.na(number)) return(number)
  if (text %in% c("NULL", "null")) return(NULL)
  if (tolower(text) %in% c("true", "false")) return(tolower(text) == "true")
  text
}

vary_command <- function() {
  new_command(
    "vary", "Plays a game by every combination of some rules, all on the same deals.", "vary GAME --over RULE=VALUES",
    c(game_options(), list(
      cli_option("over", "A rule and its values: RULE=0:3, RULE=ONE,OTHER, or apart by ; may be given again",
                 "RULE=VALUES"),
      cli_option("want", "Mark the combinations that surely meet this condition on estimates", "CONDITION"),
      cli_option("of", paste("outcomes: each is played; edge: the house's edge, exact; value: what sound play brings",
                             "seat 1 where seats hide cards [outcomes]"), "WORD", "outcomes"),
      cli_option("outcome", "What the figure shows: an outcome, a percentile such as NAME_p90, or \"NAME=VALUE\"",
                 "TERM"),
      cli_option("seconds-per-round", "Show the figure in minutes, a round taking so many seconds", "S"),
      cli_option("within", "Mark so many minutes in the figure", "MINUTES")
    ), checkpoint_options(), study_options("Games for each combination", "10000"), result_options()),
    game_examples("vary"),
    run_vary
  )
}

run_vary <- function(options, arguments) {
  command <- vary_command()
  if (is.null(options$over)) refuse_usage(command, "it needs --over with a rule and its values.")
  game <- shell_game(options, arguments, command)
  over <- lapply(typed_rules(options$over, "over", command, game), typed_values)
  if (!is.null(options$outcome) && !recorded_of_term(options$outcome) %in% c(game$record, names(game$columns))) {
    refuse_usage(command, sprintf("--outcome names %s, which is not recorded; recorded are %s.",
                                  quoted(options$outcome),
                                  join_words(game$record)))
  }
  found <- do.call(vary_rules, c(list(game), over,
                                 list(nsim = option_number(options, "trials"), seed = option_number(options, "seed"),
                                      threads = option_number(options, "threads"), want = options$want,
                                      of = options$of, checkpoint = options$checkpoint, anew = options$anew)))
  if (inherits(found, c("habanera_varied_edges", "habanera_varied_values"))) return(write_found(found, options))
  write_found(found, options, outcome = options$outcome,
              seconds_per_round = option_number(options, "seconds-per-round"),
              within = option_number(options, "within"))
}

# "0:3", "6,13,26" or "one,other" as the values to try; with a ";" anywhere that alone divides them, so that a value may
# hold commas.
typed_values <- function(text) {
  if (!is.character(text)) return(if (is.null(text)) list(NULL) else text)
  if (grepl("^[0-9]+:[0-9]+$", text)) return(option_range(text, "over", "0:3"))
  mark <- if (grepl(";", text, fixed = TRUE)) ";" else ","
  lapply(strsplit(text, mark, fixed = TRUE)[[1]], typed_value)
}
