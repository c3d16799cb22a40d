# How a game whose rules the core has is played: trial by trial where R functions decide, step by step, and along every
# course. See game-plays.R.

# One trial after the other, each with R's generator set from its address.
trials_in_core <- function(game, seed, trials) {
  machine <- game_machine(game)
  played <- lapply(trials, function(trial) {
    deck <- matrix(game_deck(game, seed, trial), nrow = 1)
    in_trial(game, seed, trial, core_trial_game_on(machine, game$spec, seed, trial, deck))
  })
  list(rows = lapply(seq_along(game$record), function(column) {
    unlist(lapply(played, function(trial) trial$rows[[column]]))
  }), each = vapply(played, `[[`, 0, "each"))
}

replay_in_core <- function(game, deck, seed, trial, kept) {
  in_trial(game, seed, trial, core_replay_game(game_machine(game, whole = TRUE), deck, seed, trial, kept))
}

walk_in_core <- function(x, most, call) {
  machine <- game_machine(x, whole = TRUE)
  deals <- if (core_walks_by_memory(machine, x$spec)) 0 else count_of_deals(x)
  if (deals > most) refuse_deals(x, deals, most, call)
  told_of_own_code(x, tryCatch(core_walk_game(machine, x$spec, most), `std::length_error` = function(cnd) {
    refuse_deals(x, NULL, most, call)
  }, `habanera::StockRanOut` = function(cnd) refuse_small_pack(call), `habanera::OutOfReach` = refuse_unsolved,
  `habanera::EndlessGame` = function(cnd) {
    refuse("By these players some courses of the game never end; simulate().", "work", call)
  }))
}

refuse_small_pack <- function(call) {
  refuse("Some courses of the game need more cards than the pack has; take a larger one.", "rules", call)
}

outcome_in_core <- function(game, kinds, names, seed) {
  game$spec$record <- core_columns(game$columns, names)
  played <- in_trial(game, seed, 1, core_trial_game_on(game_machine(game), game$spec, seed, 1, t(kinds)))
  game_outcomes(game, recorded_rows(played$rows, names))
}

refuse_deals <- function(game, deals, most, call) {
  count <- if (is.null(deals)) "more" else if (deals < 1e15) format_count(round(deals)) else format_number(deals, 3)
  refuse(sprintf("There are %s deals (with what is left to chance after them) to play; at most %s are. %s", count,
                 format_count(most), sprintf("Take %s, or simulate().", kind_of(game)$fewer_deals)), "work", call)
}

# Of a uniform shuffle: arrangements of the dealt cards by likeness; otherwise the paths of the shuffle.
count_of_deals <- function(game) {
  if (!is.null(game$piles)) return(1)
  n <- length(game$deck)
  if (!is_uniform(game$shuffle)) return(prod(core_step_paths(core_steps(game$shuffle), n)))
  copies <- rowsum(kinds_of(game$deck)$copies, kind_of(game)$likeness(game))[, 1]
  arrangements_of(copies, game$spec$draw$size)
}

# How many different rows of `size` cards there are: the coefficient of an exponential generating function (Riordan
# 1958, An Introduction to Combinatorial Analysis, ch. 1).
arrangements_of <- function(copies, size) {
  ways <- 1
  for (most in copies) {
    taken <- 1 / factorial(0:most)
    longer <- numeric(length(ways) + most)
    for (i in seq_along(taken)) {
      at <- seq_along(ways) + i - 1
      longer[at] <- longer[at] + ways * taken[i]
    }
    ways <- utils::head(longer, size + 1)
  }
  if (length(ways) <= size) 0 else ways[size + 1] * factorial(size)
}
