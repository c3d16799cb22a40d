# Trials that are remembered: a game that stands beside many others on the same deals plays each of its trials once, and
# a game that is counted alone and beside another does, too. In the core a pointer in the game's spec keeps what was
# recorded; of a game that R plays an environment does.

# The most trials, and numbers of all trials, that a game remembers; others are played again.
most_remembered <- 2e6
most_numbers_remembered <- 2e7

# The game, its trials from 1 to `nsim` remembered from now on. Other processes do not share a memory.
remembering <- function(game, nsim) {
  if (future_workers()$count > 1) return(game)
  if (has_r_function(game)) {
    game$memory <- rlang::new_environment(list(each = numeric(), rows = rep(list(numeric()), length(game$record))))
  } else {
    game$spec$memory <- core_trial_memory(min(nsim, most_remembered), most_numbers_remembered)
  }
  game
}

forgetting <- function(game) {
  game$spec$memory <- NULL
  game$memory <- NULL
  game
}

# A game that records other columns has nothing to remember of what it recorded before.
with_record <- function(game, names) {
  if (!identical(game$record, names)) game <- forgetting(game)
  game$record <- names
  game$spec$record <- core_columns(game$columns, names)
  game
}

# What is recorded of single trials of a game that R plays, or in which R decides: columns `rows`, and how many rows
# `each` trial has.
trials_in_r <- function(game, seed, trials) {
  play <- function(trials) plays_of(game)$trials(game, seed, trials)
  memory <- game$memory
  if (is.null(memory) || max(trials) > most_remembered) return(play(trials))
  known <- length(memory$each)
  if (max(trials) > known) {
    # Laps follow each other: what is new begins where the memory ends.
    if (min(trials) > known + 1) return(play(trials))
    keep_trials(memory, play((known + 1):max(trials)))
  }
  recalled_trials(memory, trials)
}

keep_trials <- function(memory, played) {
  memory$rows <- Map(c, memory$rows, unname(played$rows))
  memory$each <- c(memory$each, played$each)
}

recalled_trials <- function(memory, trials) {
  each <- memory$each[trials]
  from <- cumsum(c(0, memory$each))[trials]
  rows <- rep(from, each) + sequence(each)
  list(rows = lapply(memory$rows, `[`, rows), each = each)
}
