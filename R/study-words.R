# What may stand in a study: its keys, the functions that may be called, what their arguments are.

study_sections <- c("decks", "shuffles", "draws", "games", "players", "counts")
study_keys <- c("title", "seed", study_sections, "runs", "expect", "report")

# What a section defines, for errors, and the classes that it may be of.
section_things <- list(
  decks = list(noun = "a deck", classes = c("cards", "habanera_sampling")),
  shuffles = list(noun = "a shuffle", classes = "habanera_procedure"),
  draws = list(noun = "a draw", classes = c("habanera_experiment", "habanera_result")),
  games = list(noun = "a game", classes = "habanera_game"),
  players = list(noun = "a player", classes = c("habanera_player", "habanera_line_player", "habanera_strategy",
                                                "character", "habanera_result")),
  counts = list(noun = "a count", classes = c("habanera_count_system", "habanera_bet_ramp", "habanera_bet_plan",
                                              "habanera_result"))
)

# What takes R functions, starts programs, writes, draws, or asks a person.
not_in_studies <- c(
  "autoplot", "card_attributes", "demo_file", "draws_program", "draws_with", "game_custom", "install_command",
  "player_with", "player_person", "read_result", "report", "shuffle_program", "shuffle_with", "sit_in",
  "write_deviations", "write_game_template", "write_result", "write_rules", "write_strategy", "show_working",
  "run_study", "read_study", "study_code", "study_results", "merge_studies"
)

study_functions <- function() setdiff(c(getNamespaceExports(topenv()), "simulate", "summary"), not_in_studies)

# Whose `...` take what has no name beforehand: rules of games, questions, tables, lines.
takes_any_name <- c("change_rules", "draws", "draws_recorded", "edge_table", "game", "game_baccarat", "game_betting",
                    "game_blackjack", "game_cpp", "game_high_card", "game_narrows", "game_pairs", "game_video_poker",
                    "game_war", "keep_rules", "player_by_rules", "vary_rules")

# Which arguments name what the study defines: the sections that they look in. All of them, and the runs: "any".
naming_arguments <- list(
  deck = "decks", catalogue = "decks", like = "decks", procedure = "shuffles", procedures = "shuffles",
  shuffle = "shuffles", candidates = "shuffles", game = "games", player = "players", players = "players",
  strategy = "players", against = "players", line_ups = "players", playing = "players", system = "counts",
  bets = "counts", x = "any", y = "any", object = "any", question = "any", audit = "any", trace = "any"
)

# Those of which a text that names nothing is a slip; of others it may be told in words.
only_naming <- c("game", "x", "y", "object", "question", "audit", "trace")

# Arguments that are expressions in the language of questions; "..." stands for all that have names of one's own.
expression_arguments <- list(
  draws = "...", draws_recorded = "...", redraw_if = c("condition", "under"), draw_until = "condition",
  keep_where = "condition", payout = "pays", price_for = "pays", best_exchange = "value", hand_rules = "wild",
  summary = "given", replay = "where"
)

# Settings of how a run is made, which the study minds itself.
minded_by_the_study <- c("threads", "progress", "checkpoint", "anew", "part_seconds")

# The names of the arguments of a function, with those of its methods.
argument_names <- function(name) {
  # To sort all names, as ls() does, takes longer than most answers.
  methods <- names(topenv())
  methods <- sort(methods[startsWith(methods, paste0(name, "."))])
  methods <- methods[grepl("[.](habanera_[a-z_]+|default|list|data[.]frame|cards)$", methods)]
  functions <- c(list(study_function(name)), lapply(methods, get, topenv()))
  setdiff(unique(unlist(lapply(functions, function(f) names(formals(f))))), "...")
}

study_function <- function(name) switch(name, simulate = stats::simulate, summary = summary, get(name, topenv()))
